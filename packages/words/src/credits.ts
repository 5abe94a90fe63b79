import type { Course, Credits } from '@ridgeway/core/catalog'

/** `350` → `3.5`, `300` → `3`. A few hundredths stand for courses without credit that are open: they are no credits to be shown. */
export function formatCredits(credits: Credits): string {
  const rest = credits % 100
  return String((rest > 0 && rest < 10 ? credits - rest : credits) / 100)
}

/** What is open: "6 cr open", or "a course open" where only courses without credit are. */
export const sayOpen = (open: Credits): string => open < 10 ? 'a course open' : `${formatCredits(open)} cr open`

/** "1 credit", "3 credits". */
export const sayCredits = (credits: Credits): string => `${formatCredits(credits)} ${credits === 100 ? 'credit' : 'credits'}`

/** "3 cr" or "1–3 cr" as printed beside a course. */
export function creditRange(course: Pick<Course, 'credits' | 'creditsMax'>): string {
  return course.creditsMax > course.credits
    ? `${formatCredits(course.credits)}–${formatCredits(course.creditsMax)} cr`
    : `${formatCredits(course.credits)} cr`
}
