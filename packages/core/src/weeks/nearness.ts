import type { Meeting } from '../catalog/types'

/** What another weekday costs, in minutes of begin: as much as to begin two hours earlier or later (our own choice, no source). */
const DAY_COSTS = 120
/** How far a bundle without hours is from one that has some: farther than any other. */
const APART = 10_000

/**
 * How far a bundle's hours are from those that somebody had, in minutes: for each of its meetings the nearest begin, and for each weekday
 * on which nothing met before two hours more. 0 where both have no hours.
 */
export function distanceInWeek(meetings: readonly Pick<Meeting, 'days' | 'start'>[],
  before: readonly Pick<Meeting, 'days' | 'start'>[]): number {
  if (meetings.length === 0 || before.length === 0) return meetings.length === before.length ? 0 : APART
  const days = new Set(before.flatMap(one => one.days))
  const starts = before.map(one => one.start)
  return meetings.reduce((sum, { start, days: mine }) => sum + Math.min(...starts.map(other => Math.abs(start - other)))
    + mine.filter(day => !days.has(day)).length * DAY_COSTS, 0)
}
