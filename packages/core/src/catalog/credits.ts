import type { Course, Credits } from './types'

/** `350` → `3.5`, `300` → `3`. */
export function formatCredits(credits: Credits): string {
  return String(credits / 100)
}

/** "3 cr" or "1–3 cr" as printed beside a course. */
export function creditRange(course: Pick<Course, 'credits' | 'creditsMax'>): string {
  return course.creditsMax > course.credits
    ? `${formatCredits(course.credits)}–${formatCredits(course.creditsMax)} cr`
    : `${formatCredits(course.credits)} cr`
}

/**
 * Hours of work a week that a load asks for: each credit is one hour in class and about two outside it,
 * the credit hour of 34 CFR 600.2 for a term of about fifteen weeks; a shorter term concentrates the same work.
 */
export function weeklyHours(credits: Credits, weeks: number): number {
  return Math.round(credits / 100 * 3 * 15 / Math.max(1, Math.min(15, weeks)))
}
