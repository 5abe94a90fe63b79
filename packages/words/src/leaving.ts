import type { Leaving } from '@ridgeway/core/next'
import { formatCredits, sayCredits } from './credits'
import { count, joinWords } from './lists'
import { sayMoney } from './money'
import { sayDate } from './terms'

/** What giving up courses comes to, a sentence each, the most binding first; `waiting` is how many wait for a seat in them. */
export function sayLeaving(leaving: Leaving, term: string,
  { back = [], waiting }: { back?: readonly Back[], waiting?: number } = {}): string[] {
  const { kind, until, credits, fullTime, alone, planned, signedOff, withdrawn, everything } = leaving
  const said: string[] = []
  if (kind === 'closed') said.push(`The last day to withdraw from a course of ${term} is over. Ask the registrar's office.`)
  else if (kind === 'withdraw')
    said.push(`The last day to drop is over: ${joinWords(withdrawn, 'and')} ${withdrawn.length > 1 ? 'stay' : 'stays'
    } on the record with a W, until ${sayDate(until!)}.`)
  else said.push(`Until ${sayDate(until!)} it leaves no trace on the record.`)
  if (alone.length > 0) said.push(`${joinWords(alone, 'and')} goes with it and cannot stay registered alone.`)
  said.push(`${formatCredits(credits.after)} of ${sayCredits(credits.before)} are left${
    fullTime.before && !fullTime.after ? ', which is no full-time load any more' : ''}.`)
  if (everything) said.push(`Nothing of ${term} stays registered: you leave the term.`)
  if (back.length > 0) said.push(sayBack(back))
  if (planned.length > 0) said.push(`Planned for later and asking for it: ${joinWords(planned, 'and')}.`)
  if (signedOff) said.push('Your advisor signed it off; the difference is shown to both of you.')
  said.push(waiting
    ? `${count(waiting, 'person').replace('persons', 'people')} ${waiting === 1 ? 'waits' : 'wait'} for a seat: the first is offered yours.`
    : waiting === 0
      ? 'Nobody waits for the seat: it is free for everybody at once.'
      : 'Whoever waits for the seat is offered it; to come back you would need another.')
  return said
}

/** What comes back for a course, and how many percent of its tuition that is. */
interface Back { course: string, cents: number, percent: number }
function sayBack(back: readonly Back[]): string {
  const sum = back.reduce((total, one) => total + one.cents, 0)
  if (sum === 0) return 'No money comes back any more.'
  const parts = back.every(one => one.percent === 100)
    ? 'all that it cost'
    : joinWords(back.map(one => `${one.percent} % of the tuition of ${one.course}`), 'and')
  return `${sayMoney(sum)} comes off your account: ${parts}.`
}
