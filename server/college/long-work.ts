import type { Database } from '../db/database'
import { beginWork, endWork, noteWork, type Progress } from '../db/store/long-works'
import { Refusal } from './refusal'

/** Says how far a piece of work is; throws where it is to be given up. */
export type Step = Progress

/** Milliseconds between two notes of the same stage. */
const BETWEEN = 250

/**
 * Does something that takes its time under a name that its asker chose. How far it is stands in the database outside the work's own
 * transaction, so that any server can tell it, and take the word that it be given up; what was begun is then taken back by whoever began.
 */
export async function longWork<T>(database: Database, id: string | undefined, at: string, work: (step: Step) => Promise<T>): Promise<T> {
  if (id === undefined) return work(async () => {})
  if (!await database.write(tx => beginWork(tx, id, at)))
    throw new Refusal(409, 'work-known', 'This is being done already.', 'Wait for it, or begin it anew.')
  let last = 0
  let before = ''
  const step: Step = async (stage, done, total) => {
    const now = performance.now()
    if (stage === before && now - last < BETWEEN) return
    before = stage
    last = now
    if (await database.write(tx => noteWork(tx, id, { stage, done, total })))
      throw new Refusal(409, 'work-cancelled', 'It was cancelled; nothing was changed.', 'Begin it again whenever you like.')
  }
  try {
    return await work(step)
  }
  finally {
    await database.write(tx => endWork(tx, id))
  }
}
