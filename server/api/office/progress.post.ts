import { progressByProgram } from '@ridgeway/core/office'
import { workOutProgress } from '#shared/contract/acts/office'
import { longWork } from '../../college/long-work'
import { Refusal } from '../../college/refusal'
import { markedStudents } from '../../db/store/people'
import { progressOfEverybody } from '../../workers/everybody'

let running = false

/** One at a time on a server: it takes the machine's cores for a while. */
export default serveOwn(workOutProgress, async ({ input, at, college, date }) => {
  if (running)
    throw new Refusal(409, 'work-under-way', 'Somebody is having this worked out at this moment.', 'Ask again in a minute.')
  running = true
  try {
    const students = await useDatabase().read(markedStudents)
    const began = performance.now()
    const { rows, fresh } = await longWork(useDatabase(), input.work, at, step =>
      progressOfEverybody(students, { url: databaseAddress(), stamp: college.stamp, date }, step))
    return { at, seconds: (performance.now() - began) / 1000, fresh, programs: progressByProgram(rows), students: rows }
  }
  finally {
    running = false
  }
})
