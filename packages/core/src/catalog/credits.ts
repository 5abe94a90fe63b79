import type { Credits } from './types'

/**
 * What a missing course without credit counts for where open credits are summed: the smallest amount there is. So it is open until it is
 * taken, and adds nothing to the credits that are shown.
 */
export const WITHOUT_CREDIT: Credits = 1

/**
 * Hours of work a week that a load asks for: each credit is one hour in class and about two outside it,
 * the credit hour of 34 CFR 600.2 for a term of about fifteen weeks; a shorter term concentrates the same work.
 */
export function weeklyHours(credits: Credits, weeks: number): number {
  return Math.round(credits / 100 * 3 * 15 / Math.max(1, Math.min(15, weeks)))
}
