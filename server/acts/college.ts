import type { z } from 'zod'
import type * as contract from '#shared/contract/acts/college'
import { DONE } from '#shared/contract/define'
import type { Doing } from '../college/asked'
import { findTerm } from '../college/college'
import { Refusal } from '../college/refusal'
import { keepAdvising, keepClock, keepClosing } from '../db/store/college'

type Input<Act extends { input: z.ZodType }> = z.output<Act['input']>

/** The office closes registration of a term for everybody, with what is told, or opens it again. */
export async function setRegistration({ tx, college, input, ledger }: Doing<Input<typeof contract.setRegistration>>) {
  const term = findTerm(college, input.term)
  await keepClosing(tx, term.code, input.because)
  await ledger(input.because === null ? 'open registration' : 'close registration', { term: term.code,
    ...input.because === null ? {} : { because: input.because } })
  return DONE
}

/** The office says how sign-off and exceptions are handled; every server follows from the next request on. */
export async function setAdvising({ tx, input, ledger }: Doing<Input<typeof contract.setAdvising>>) {
  await keepAdvising(tx, input)
  await ledger('set advising', input)
  return DONE
}

const YEAR_MS = 365 * 86_400_000

/** Demonstration only: moves the clock, from a year before the calendar begins to a year after it ends. */
export async function setClock({ tx, college, input }: Doing<Input<typeof contract.setClock>>) {
  const { terms } = college.catalog
  const first = Date.parse(terms[0]!.start) - YEAR_MS
  const last = Math.max(...terms.map(term => Date.parse(term.end))) + YEAR_MS
  const wanted = Date.parse(input.now)
  if (!(wanted >= first && wanted <= last)) {
    const year = (moment: number) => new Date(moment).toISOString().slice(0, 10)
    throw new Refusal(422, 'clock-range', 'The college has no calendar for that time.',
      `Choose a moment between ${year(first)} and ${year(last)}.`)
  }
  const now = new Date(wanted).toISOString()
  await keepClock(tx, now)
  return { now }
}
