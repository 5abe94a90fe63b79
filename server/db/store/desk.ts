import type { Executor } from '../database'
import { fromInstantText, plain } from './plain'

/** The stand-in for the payment desk keeps here what it still has to answer; its clock is the machine's. */
export const keepOrder = (tx: Executor, order: { payment: string, accepted: boolean, answerAt: string, answers: number }) => plain(tx,
  'INSERT INTO desk_orders (payment, accepted, answer_at, answers) VALUES (?, ?, ?, ?)',
  [order.payment, order.accepted, fromInstantText(order.answerAt), order.answers])

/** The next answer that is due and that no other server is giving. */
export async function claimOrder(tx: Executor, now: string): Promise<{ id: number, payment: string, accepted: number } | undefined> {
  const [row] = await plain<{ id: number, payment: string, accepted: number }>(tx, `SELECT id, payment, accepted FROM desk_orders
    WHERE answers > 0 AND answer_at <= ? ORDER BY answer_at LIMIT 1 FOR UPDATE SKIP LOCKED`, [fromInstantText(now)])
  return row
}
export const countAnswer = (tx: Executor, id: number) => plain(tx, 'UPDATE desk_orders SET answers = answers - 1 WHERE id = ?', [id])
export const anyOrderDue = async (db: Executor, now: string) =>
  (await plain(db, 'SELECT 1 FROM desk_orders WHERE answers > 0 AND answer_at <= ? LIMIT 1', [fromInstantText(now)])).length > 0
