import { plain } from '../db/store/plain'

/** Whether the server runs and its database answers. */
export default answering(async () => {
  await useDatabase().read(db => plain(db, 'SELECT 1'))
  return { ok: true }
})
