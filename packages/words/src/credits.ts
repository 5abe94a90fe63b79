import type { Course, Credits } from '@ridgeway/core/catalog'

/** `350` → `3.5`, `300` → `3`. */
export function formatCredits(credits: Credits): string {
  return String(credits / 100)
}

/** "1 credit", "3 credits". */
export const sayCredits = (credits: Credits): string => `${formatCredits(credits)} ${credits === 100 ? 'credit' : 'credits'}`

/** "3 cr" or "1–3 cr" as printed beside a course. */
export function creditRange(course: Pick<Course, 'credits' | 'creditsMax'>): string {
  return course.creditsMax > course.credits
    ? `${formatCredits(course.credits)}–${formatCredits(course.creditsMax)} cr`
    : `${formatCredits(course.credits)} cr`
}
