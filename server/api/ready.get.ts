import { Refusal } from '../college/refusal'
import { readStamp } from '../db/store/college'

/** Whether people should be sent here: the database answers and holds a college, and the server has warmed up and is not about to stop. */
export default answering(async () => {
  if (isStopping())
    throw new Refusal(503, 'stopping', 'This server is about to stop.', 'Ask again: another one answers.')
  await warmedUp()
  const college = await readOnce('ready', 4000, async db => useKeptCollege().at(db, (await readStamp(db)).catalog))
  return { ready: true, college: college.name }
})
