import type { ClassStanding, Credits } from '../catalog/types'

export type EnrolmentStatus = 'full-time' | 'three-quarter-time' | 'half-time' | 'less than half-time' | 'not enrolled'

/**
 * Enrolment status of an undergraduate from the term's credits and its full-time threshold.
 * 34 CFR 668.2 sets at least 12 semester hours for full time, three quarters of that for three-quarter time
 * and half of it for half time.
 */
export function enrolmentStatus(credits: Credits, fullTime: Credits): EnrolmentStatus {
  if (credits <= 0) return 'not enrolled'
  if (credits >= fullTime) return 'full-time'
  if (credits * 4 >= fullTime * 3) return 'three-quarter-time'
  if (credits * 2 >= fullTime) return 'half-time'
  return 'less than half-time'
}

export type { ClassStanding }
export const STANDING_CREDITS: Record<ClassStanding, Credits> = { freshman: 0, sophomore: 3000, junior: 6000, senior: 9000 }

export const CLASS_STANDINGS = Object.keys(STANDING_CREDITS) as readonly ClassStanding[]

/** The credits with which a class standing is outgrown; null for the last one. */
export function creditsToOutgrow(standing: ClassStanding): Credits | null {
  const next = CLASS_STANDINGS[CLASS_STANDINGS.indexOf(standing) + 1]
  return next ? STANDING_CREDITS[next] : null
}

/** Class standing by credits earned, in steps of thirty (common practice, no source). */
export function classStanding(earned: Credits): ClassStanding {
  if (earned >= STANDING_CREDITS.senior) return 'senior'
  if (earned >= STANDING_CREDITS.junior) return 'junior'
  return earned >= STANDING_CREDITS.sophomore ? 'sophomore' : 'freshman'
}
