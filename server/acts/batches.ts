import { setTimeout as wait } from 'node:timers/promises'
import type { College } from '../college/college'
import type { Database, Executor } from '../db/database'
import { OutcomeUnknown } from '../db/failures'
import { type Answer, type Press, registerTogether } from './register'

/** Pauses before the same keys are sent again, in milliseconds, when the answer to keeping them was lost. */
const AGAIN = [20, 250, 1000]

/** What became of the presses of a batch, in their order: null where somebody holds the student's row; and how long it took. */
export interface Batch { answers: (Answer | null)[], milliseconds: number }

/**
 * Registers a batch of presses of different students in one transaction; see `registerTogether` for `skip`. Throws as `Database.write` what
 * could not be decided; when it is not known whether it was kept, the same keys have been asked before it says so.
 */
export type Batches = (presses: readonly Press[], skip: boolean) => Promise<Batch>

/** Batches through connections of this thread. */
export function batchesOn(database: Pick<Database, 'write'>, collegeAt: (db: Executor, stamp: number) => Promise<College>): Batches {
  return async (presses, skip) => {
    const began = performance.now()
    const answers = await known(() => database.write(tx => registerTogether(tx, presses, collegeAt, skip), { begins: true }))
    return { answers: presses.map(press => answers.get(press) ?? null), milliseconds: performance.now() - began }
  }
}

async function known(once: () => Promise<Map<Press, Answer>>): Promise<Map<Press, Answer>> {
  try {
    return await once()
  }
  catch (problem) {
    if (!(problem instanceof OutcomeUnknown)) throw problem
    for (const pause of AGAIN) {
      await wait(pause)
      const answers = await once().catch(() => null)
      // It is the first answer to these presses, whichever of the two kept them.
      if (answers) return new Map([...answers].map(([press, answer]) =>
        [press, answer instanceof Error ? answer : { ...answer, repeated: false }]))
    }
    throw problem
  }
}
