import { availableParallelism } from 'node:os'
import { dirname, join } from 'node:path'
import { Worker } from 'node:worker_threads'
import type { StudentProgress } from '@ridgeway/core/office'
import type { Step } from '../college/long-work'

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

/**
 * Works out the files of many students in threads of their own, so that others are served as before. `step` hears how far it is; where it
 * throws, everything is given up at once. Throws what went wrong in a thread.
 */
export async function progressOfEverybody(students: readonly number[], task: ProgressTask, step: Step): Promise<StudentProgress[]> {
  const rows: StudentProgress[] = []
  let next = 0
  // It stands beside the server's own file; see the build.
  const file = join(dirname(process.argv[1]!), 'progress-worker.mjs')
  const workers = Array.from({ length: THREADS }, () =>
    new Worker(file, { workerData: task, resourceLimits: { maxOldGenerationSizeMb: 256 } }))
  try {
    await step('reading files', 0, students.length)
    await Promise.all(workers.map(worker => new Promise<void>((done, fail) => {
      worker.once('error', fail)
      worker.once('exit', () => done())
      worker.on('message', (made: StudentProgress[]) => {
        rows.push(...made)
        const mine = students.slice(next, next + AT_ONCE)
        next += mine.length
        worker.postMessage(mine.length > 0 ? mine : null)
        step('reading files', rows.length, students.length).catch(fail)
        if (mine.length === 0) done()
      })
    })))
    return rows.sort((a, b) => a.id - b.id)
  }
  finally {
    await Promise.all(workers.map(worker => worker.terminate()))
  }
}
