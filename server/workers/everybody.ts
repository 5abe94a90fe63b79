import { availableParallelism } from 'node:os'
import { Worker } from 'node:worker_threads'
import type { StudentProgress } from '@ridgeway/core/office'
import type { Step } from '../college/long-work'
import type { MarkedStudent } from '../db/store/people'
import { threadFile } from './thread-file'

/** What a thread is started with. */
export interface ProgressTask {
  url: string
  /** The college's stamp, and the date in its zone. */
  stamp: number
  date: string
}

/** Files that a thread takes at a time, and how often it takes some ahead: while it works out one lot, the next is read. */
const AT_ONCE = 40
const AHEAD = 2
/** Threads: more would only take the machine from those who are served meanwhile. */
const THREADS = Math.min(2, availableParallelism())

/** What was worked out, by student, with what it was made of: this server's, and as good as new while that stands. */
const kept = new Map<number, { made: string, row: StudentProgress }>()

/**
 * The progress of many students: of those whose file, catalog and date are as they were when it was worked out here, what was found then;
 * the others' files are worked out, see `workOut`. Gives all in the order of the students, and how many were worked out now.
 */
export async function progressOfEverybody(students: readonly MarkedStudent[], task: ProgressTask, step: Step):
Promise<{ rows: StudentProgress[], fresh: number }> {
  const madeOf = new Map(students.map(({ id, mark }) => [id, `${mark} ${task.stamp} ${task.date}`]))
  for (const id of kept.keys()) if (!madeOf.has(id)) kept.delete(id)
  const stale = students.filter(({ id }) => kept.get(id)?.made !== madeOf.get(id)).map(({ id }) => id)
  const there = students.length - stale.length
  // Of a file that changed while it was read the mark is the older one: it is read again the next time.
  await workOut(stale, task, (stage, done, total) => step(stage, there + done, there + total), (made) => {
    for (const row of made) kept.set(row.id, { made: madeOf.get(row.id)!, row })
  })
  return { fresh: stale.length, rows: students.flatMap(({ id, name }) => {
    const found = kept.get(id)
    return found ? [{ ...found.row, name }] : []
  }) }
}

/**
 * Works out the files of many students in threads of their own, so that others are served as before. `step` hears how far it is; where it
 * throws, everything else is given up at once. Throws what went wrong in a thread.
 */
async function workOut(students: readonly number[], task: ProgressTask, step: Step, keep: (made: readonly StudentProgress[]) => void) {
  await step('reading files', 0, students.length)
  if (students.length === 0) return
  let next = 0
  let count = 0
  const workers = Array.from({ length: THREADS }, () =>
    new Worker(threadFile('progress'), { workerData: task, resourceLimits: { maxOldGenerationSizeMb: 256 } }))
  try {
    await Promise.all(workers.map(worker => new Promise<void>((done, fail) => {
      worker.once('error', fail)
      worker.once('exit', () => done())
      let under = 0
      const give = () => {
        const mine = students.slice(next, next + AT_ONCE)
        next += mine.length
        if (mine.length === 0) return
        under++
        worker.postMessage(mine)
      }
      const end = () => {
        if (under > 0) return
        worker.postMessage(null)
        done()
      }
      // Its first word is that it is ready; each further one is a lot that is done.
      worker.once('message', () => {
        worker.on('message', (made: StudentProgress[]) => {
          keep(made)
          count += made.length
          under--
          give()
          step('reading files', count, students.length).catch(fail)
          end()
        })
        for (let lot = 0; lot < AHEAD; lot++) give()
        end()
      })
    })))
  }
  finally {
    await Promise.all(workers.map(worker => worker.terminate()))
  }
}
