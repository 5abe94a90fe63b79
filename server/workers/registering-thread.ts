import { Worker } from 'node:worker_threads'
import type { Batch, Batches } from '../acts/batches'
import type { Answer } from '../acts/register'
import { OutcomeUnknown } from '../db/failures'
import { type BatchAsked, type BatchTold, heardOf, type RegisteringTask } from './registering-words'

/** Megabytes that the thread's own objects may take: a large college and its sections need a tenth of it; and the young ones among them. */
const MOST = { maxOldGenerationSizeMb: 512, maxYoungGenerationSizeMb: 8 }

/**
 * While batches are out the thread is asked every so many milliseconds whether it still turns; after so many questions without a word it
 * is ended. What the database is waited for has limits of its own and keeps no thread from turning.
 */
const TURNS = { askedEach: 5000, unheard: 6 }

/**
 * Batches in a thread of their own: in the rush of an opening a turn of the server's loop is long, and a transaction that waited for such a
 * turn at each of its statements would hold its seats all that while. A thread that ends, or is ended as it no longer turns, leaves its
 * batches undecided (`OutcomeUnknown`, the same keys tell), and the next batch begins another thread.
 */
export class RegisteringThread {
  private worker: Worker | null = null
  private readonly waiting = new Map<number, { done: (batch: Batch) => void, fail: (problem: Error) => void }>()
  private last = 0

  /** `file` is what the thread runs, as the build wrote it; `tell` hears what a thread has ended of. */
  constructor(private readonly file: string, private readonly task: RegisteringTask,
    private readonly tell: (problem: Error) => void = () => {}, private readonly turns = TURNS) {}

  /** As `batchesOn`; what the thread could not do by itself is thrown as it was thrown there. */
  readonly batches: Batches = (presses, skip) => new Promise((done, fail) => {
    const asked: BatchAsked = { id: ++this.last, presses, skip }
    this.waiting.set(asked.id, { done, fail })
    this.thread().postMessage(asked)
  })

  /** Begins the thread, if there is none, and lets it read what the first batch would wait for. */
  warm(): void {
    this.thread().postMessage('warm')
  }

  /** Ends it when all that it was given is told of. */
  async close(): Promise<void> {
    const worker = this.worker
    if (!worker) return
    const ended = new Promise<void>(done => worker.once('exit', () => done()))
    worker.postMessage('end')
    await ended
  }

  private thread(): Worker {
    if (this.worker) return this.worker
    const worker = new Worker(this.file, { workerData: this.task, resourceLimits: MOST })
    let unheard = 0
    const asking = setInterval(() => {
      if (this.waiting.size === 0) return void (unheard = 0)
      if (++unheard <= this.turns.unheard) return worker.postMessage('turning')
      this.tell(new Error('the thread that registers no longer turned'))
      void worker.terminate()
    }, this.turns.askedEach)
    asking.unref()
    worker.on('message', (told: BatchTold | 'turning') => {
      unheard = 0
      if (told !== 'turning') this.hear(told)
    })
    worker.on('error', problem => this.tell(problem))
    worker.on('exit', () => {
      clearInterval(asking)
      if (this.worker === worker) this.worker = null
      const undecided = [...this.waiting.values()]
      this.waiting.clear()
      for (const { fail } of undecided) fail(new OutcomeUnknown('the thread that registers has ended'))
    })
    this.worker = worker
    return worker
  }

  private hear(told: BatchTold) {
    const asked = this.waiting.get(told.id)
    this.waiting.delete(told.id)
    if ('problem' in told) asked?.fail(heardOf(told.problem) as Error)
    else asked?.done({ answers: told.answers.map(said => said && heardOf(said) as Answer), milliseconds: told.milliseconds })
  }
}
