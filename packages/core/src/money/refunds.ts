import { deadlinesOf, sessionOf } from '../catalog/terms'
import type { CourseCode, LocalDate, Term } from '../catalog/types'
import { percentOf } from './price'
import type { Cents, MoneyPolicy, Price } from './types'

/** Breaks of so many days in a row or more are no part of a session's length (34 CFR 668.22(f)(2)(i)). */
const LONG_BREAK = 5
const DAY_MS = 86_400_000
const dayOf = (date: LocalDate) => Date.parse(`${date}T00:00:00Z`) / DAY_MS
const dateOf = (day: number) => new Date(day * DAY_MS).toISOString().slice(0, 10)

/** When courses of a session are given, and when they can be dropped at no cost. */
export interface RefundSpan {
  start: LocalDate
  end: LocalDate
  dropBy: LocalDate
  noClass: Term['noClass']
}

/** Days of a session, first and last included, without its long breaks; the weekend beside a break counts as part of it. */
function countedDays({ start, end, noClass }: RefundSpan): number[] {
  const free = new Set(noClass.map(({ date }) => dayOf(date)))
  const isFree = (day: number) => free.has(day) || [0, 6].includes(new Date(day * DAY_MS).getUTCDay())
  const days = Array.from({ length: dayOf(end) - dayOf(start) + 1 }, (_, i) => dayOf(start) + i)
  const long = new Set<number>()
  for (let i = 0; i < days.length;) {
    let j = i
    while (j < days.length && isFree(days[j]!)) j++
    // A weekend alone is no break.
    const run = days.slice(i, j)
    if (run.length >= LONG_BREAK && run.some(day => free.has(day))) run.forEach(day => long.add(day))
    i = Math.max(j, i + 1)
  }
  return days.filter(day => !long.has(day))
}

/**
 * The refund schedule of a session as it is printed: until which date how many percent come back. All of it until the last day to drop;
 * then by the share of the session that has gone by, the day itself counted. Nothing after the last of the dates.
 */
export function refundSchedule(span: RefundSpan, { refunds }: Pick<MoneyPolicy, 'refunds'>): { until: LocalDate, percent: number }[] {
  const days = countedDays(span)
  const steps = refunds.map(({ share, percent }) => {
    const last = days[Math.floor(days.length * share / 100) - 1]
    return { until: last === undefined ? '' : dateOf(last), percent }
  })
  return [{ until: span.dropBy, percent: 100 }, ...steps.filter(step => step.until > span.dropBy)]
}

/** How many percent of what a course cost come back when it is given up on a date. */
export function refundPercent(span: RefundSpan, policy: Pick<MoneyPolicy, 'refunds'>, date: LocalDate): number {
  return refundSchedule(span, policy).find(step => date <= step.until)?.percent ?? 0
}

/** When the courses of a session of a term are given; of a session that the term does not name, the whole term. */
export function spanOf(term: Term, session: string): RefundSpan {
  const { start, end } = sessionOf(term, session) ?? term
  return { start, end, dropBy: deadlinesOf(term, session).dropBy, noClass: term.noClass }
}

/** What comes back of a price: tuition by the schedule, fees only while all of it comes back (common practice, no source). */
const backOf = ({ tuition, fees }: Price, percent: number): Cents => percentOf(tuition, percent) + (percent === 100 ? fees : 0)

/** What comes back for registered sections that are given up on a date, course by course, with the share of the tuition in percent. */
export function moneyBack(rows: readonly (Price & { course: CourseCode, session: string })[], term: Term,
  policy: Pick<MoneyPolicy, 'refunds'>, date: LocalDate): { course: CourseCode, cents: Cents, percent: number }[] {
  const back = new Map<CourseCode, { course: CourseCode, cents: Cents, percent: number }>()
  for (const row of rows) {
    const percent = refundPercent(spanOf(term, row.session), policy, date)
    const before = back.get(row.course)
    back.set(row.course, { course: row.course, cents: (before?.cents ?? 0) + backOf(row, percent),
      percent: Math.min(before?.percent ?? percent, percent) })
  }
  return [...back.values()]
}

/**
 * What comes back for courses that are exchanged for something else in one move: as much of them as the other costs comes back in full,
 * whatever the date, so that an even exchange costs nothing; only what goes beyond that follows the schedule.
 */
export function exchangedBack(rows: readonly (Price & { course: CourseCode, session: string })[], taken: Price, term: Term,
  policy: Pick<MoneyPolicy, 'refunds'>, date: LocalDate): { course: CourseCode, cents: Cents, percent: number }[] {
  let even = { ...taken }
  const back = new Map<CourseCode, { course: CourseCode, cents: Cents, percent: number }>()
  for (const row of rows) {
    const percent = refundPercent(spanOf(term, row.session), policy, date)
    const same = { tuition: Math.min(row.tuition, even.tuition), fees: Math.min(row.fees, even.fees) }
    even = { tuition: even.tuition - same.tuition, fees: even.fees - same.fees }
    const beyond = backOf({ tuition: row.tuition - same.tuition, fees: row.fees - same.fees }, percent)
    const before = back.get(row.course)
    back.set(row.course, { course: row.course, cents: (before?.cents ?? 0) + same.tuition + same.fees + beyond,
      percent: Math.min(before?.percent ?? 100, percent) })
  }
  return [...back.values()]
}
