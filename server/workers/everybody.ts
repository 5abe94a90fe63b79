import { availableParallelism } from 'node:os'
import { dirname, join } from 'node:path'
import { Worker } from 'node:worker_threads'
import type { StudentProgress } from '@ridgeway/core/office'
import type { Step } from '../college/long-work'
import type { MarkedStudent } from '../db/store/people'

/** What a thread is started with. */
export interface ProgressTask {
  url: string
  /** The college's stamp, and the date in its zone. */
  stamp: number
  date: string
}

/** Files that a thread takes at a time. */
const AT_ONCE = 40
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
  // It stands beside the server's own file; see the build.
  const file = join(dirname(process.argv[1]!), 'progress-worker.mjs')
  const workers = Array.from({ length: THREADS }, () =>
    new Worker(file, { workerData: task, resourceLimits: { maxOldGenerationSizeMb: 256 } }))
  try {
    await Promise.all(workers.map(worker => new Promise<void>((done, fail) => {
      worker.once('error', fail)
      worker.once('exit', () => done())
      worker.on('message', (made: StudentProgress[]) => {
        keep(made)
        count += made.length
        const mine = students.slice(next, next + AT_ONCE)
        next += mine.length
        worker.postMessage(mine.length > 0 ? mine : null)
        step('reading files', count, students.length).catch(fail)
        if (mine.length === 0) done()
      })
    })))
  }
  finally {
    await Promise.all(workers.map(worker => worker.terminate()))
  }
}
