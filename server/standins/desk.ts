import type { z } from 'zod'
import type { giveCard as Declared } from '#shared/contract/acts/student'
import { DONE } from '#shared/contract/define'
import { settlePayment } from '../acts/money'
import type { Doing } from '../college/asked'
import type { KeptCollege } from '../college/college'
import { Refusal } from '../college/refusal'
import type { Database } from '../db/database'
import { anyOrderDue, claimOrder, countAnswer, keepOrder } from '../db/store/desk'
import { findPayment, markPayment } from '../db/store/money'

/** How the desk's card company takes a card, by its last four digits; any other is accepted. */
const CARDS: Record<string, { accepted: boolean, afterMs: number, answers: number }> = {
  '0002': { accepted: false, afterMs: 0, answers: 1 },
  '0003': { accepted: true, afterMs: 8000, answers: 1 },
  '0004': { accepted: true, afterMs: 0, answers: 2 },
}
const FINE = { accepted: true, afterMs: 0, answers: 1 }

/** The stand-in takes a card for a payment that was begun; what comes of it is told by its answer. */
export async function giveCard({ tx, student, input }: Doing<z.output<typeof Declared['input']>>) {
  const payment = await findPayment(tx, input.payment)
  if (!payment || payment.student !== student)
    throw new Refusal(404, 'payment-unknown', 'There is no such payment.', 'Begin one from the account.')
  if (payment.state !== 'started') return DONE
  const digits = input.card.replaceAll(' ', '')
  const { accepted, afterMs, answers } = CARDS[digits.slice(-4)] ?? FINE
  await markPayment(tx, payment.id, 'sent', null)
  await keepOrder(tx, { payment: payment.id, accepted, answers, answerAt: new Date(Date.now() + afterMs).toISOString() })
  return DONE
}

/** Gives the answers that are due, each as often as the desk gives it; any server may. Tells whose files changed. */
export async function answerAtDesk(database: Database, kept: KeptCollege): Promise<number[]> {
  const changed: number[] = []
  const now = new Date().toISOString()
  while (await database.read(db => anyOrderDue(db, now))) {
    const student = await database.write(async (tx) => {
      const order = await claimOrder(tx, now)
      if (!order) return undefined
      await countAnswer(tx, order.id)
      return settlePayment(tx, kept, order.payment, order.accepted === 1)
    })
    if (student === undefined) break
    if (student !== null) changed.push(student)
  }
  return changed
}
