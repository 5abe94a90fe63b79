import type { MoneyEntry } from '@ridgeway/core/money'
import type { LocalDate } from '@ridgeway/core/catalog'
import { sayDate } from './terms'

/** `335500` cents → `3,355.00`. */
export const sayMoney = (cents: number): string =>
  (cents / 100).toLocaleString('en-US', { minimumFractionDigits: 2, maximumFractionDigits: 2 })

/** When something is due, and what happens when it is not paid. */
export function sayDue({ by, overdue, voidAfter }: { by: LocalDate, overdue: boolean, voidAfter: LocalDate | null }): string {
  const when = overdue ? `It was due by ${sayDate(by)}` : `Due by ${sayDate(by)}`
  if (voidAfter === null) return overdue ? `${when}; a hold stands until it is paid.` : `${when}.`
  return overdue
    ? `${when}: pay by ${sayDate(voidAfter)}, or the registration is voided and the seats go to those who wait.`
    : `${when}; a registration that is unpaid after ${sayDate(voidAfter)} is voided.`
}

const KINDS: Record<MoneyEntry['kind'], string> = { charge: 'Charged', refund: 'Came back', void: 'Taken back, registration voided',
  payment: 'Paid', payback: 'Sent back to you' }
/** What happened on an account, in a few words. */
export const sayMoneyKind = (kind: MoneyEntry['kind']): string => KINDS[kind]

/** What became of a payment. */
export const PAYMENT_WORDS: Record<'started' | 'sent' | 'accepted' | 'refused', string> = {
  started: 'begun, nothing paid yet', sent: 'on its way: the desk has not answered yet', accepted: 'paid',
  refused: 'refused by the card; nothing was taken',
}
