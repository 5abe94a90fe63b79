import { readStamp } from '../db/store/college'

/** Whether requests can be served: the database answers and holds a college. */
export default answering(async () => {
  const college = await useDatabase().read(async db => useKeptCollege().at(db, (await readStamp(db)).catalog), 4000)
  return { ready: true, college: college.name }
})
