import type { Executor } from '../database'
import { change, fromInstantText, plain } from './plain'

/** How far a piece of work is. */
export interface WorkState { stage: string, done: number, total: number }

/** Hears how far a long piece of writing is. */
export type Progress = (stage: string, done: number, total: number) => Promise<void>

/** Notes that work begins; false where work of this name goes on already. What a stopped server left behind for a day goes. */
export async function beginWork(tx: Executor, id: string, at: string): Promise<boolean> {
  const now = fromInstantText(at)
  await change(tx, 'DELETE FROM long_works WHERE begun_at < ? - INTERVAL 1 DAY', [now])
  return await change(tx, 'INSERT IGNORE INTO long_works (id, stage, done, total, cancelled, begun_at) VALUES (?, ?, 0, 0, 0, ?)',
    [id, 'reading', now]) === 1
}

/** Notes how far it is; true where it is to be given up. */
export async function noteWork(tx: Executor, id: string, { stage, done, total }: WorkState): Promise<boolean> {
  await change(tx, 'UPDATE long_works SET stage = ?, done = ?, total = ? WHERE id = ?', [stage, done, total, id])
  return (await plain<{ cancelled: number }>(tx, 'SELECT cancelled FROM long_works WHERE id = ?', [id]))[0]?.cancelled === 1
}

export const endWork = (tx: Executor, id: string) => change(tx, 'DELETE FROM long_works WHERE id = ?', [id])
export const cancelWork = (tx: Executor, id: string) => change(tx, 'UPDATE long_works SET cancelled = 1 WHERE id = ?', [id])

export async function readWork(db: Executor, id: string): Promise<WorkState | null> {
  return (await plain<WorkState>(db, 'SELECT stage, done, total FROM long_works WHERE id = ?', [id]))[0] ?? null
}

/** Marks of what was kept an hour ago: nobody waits for an answer so long. */
export const forgetMarks = (tx: Executor) => change(tx,
  'DELETE FROM write_marks WHERE kept_at < UTC_TIMESTAMP(3) - INTERVAL 1 HOUR LIMIT 20000')
