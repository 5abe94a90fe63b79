import { plain } from '../db/store/plain'

/** Whether the server runs and its database answers, within two seconds. */
export default answering(async () => {
  await useDoorDatabase().read(db => plain(db, 'SELECT 1'), 2000)
  return { ok: true }
})
