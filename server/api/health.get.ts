import { plain } from '../db/store/plain'

/** Whether the server runs and its database answers, within two seconds. */
export default answering(async () => {
  await readOnce('health', 2000, db => plain(db, 'SELECT 1'))
  return { ok: true }
})
