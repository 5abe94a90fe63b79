import type { Leaving } from '@ridgeway/core/next'
import { formatCredits } from './credits'
import { joinWords } from './lists'
import { sayDate } from './terms'

/** What giving up courses comes to, a sentence each, the most binding first. */
export function sayLeaving(leaving: Leaving, courses: readonly string[], term: string): string[] {
  const { kind, until, credits, fullTime, alone, planned, signedOff } = leaving
  const names = joinWords(courses, 'and')
  const said: string[] = []
  if (kind === 'closed') said.push(`The last day to withdraw from a course of ${term} is over. Ask the registrar's office.`)
  else if (kind === 'withdraw')
    said.push(`The last day to drop is over: ${names} stays on the record with a W, until ${sayDate(until!)}.`)
  else said.push(`Until ${sayDate(until!)} it leaves no trace on the record.`)
  if (alone.length > 0) said.push(`${joinWords(alone, 'and')} goes with it and cannot stay registered alone.`)
  said.push(`${formatCredits(credits.after)} of ${formatCredits(credits.before)} credits are left${
    fullTime.before && !fullTime.after ? ', which is no full-time load any more' : ''}.`)
  if (planned.length > 0) said.push(`Planned for later and asking for it: ${joinWords(planned, 'and')}.`)
  if (signedOff) said.push('Your advisor signed it off; the difference is shown to both of you.')
  said.push('Whoever waits for the seat is offered it; to come back you would need another.')
  return said
}
