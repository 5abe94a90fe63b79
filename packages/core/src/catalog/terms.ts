import type { Course, LocalDate, Season, Term, TermCode } from './types'

const SEASON_RANK: Record<Season, number> = { spring: 1, summer: 2, fall: 3 }
const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']
const SEASON_CODE: Record<string, Season> = { SP: 'spring', SU: 'summer', FA: 'fall' }

/**
 * Position of a term in time, from its code alone (`2027SP` → 20271), so that two terms compare as numbers.
 * @throws RangeError when the code is not four digits followed by SP, SU or FA.
 */
export function termOrder(code: TermCode): number {
  const season = SEASON_CODE[code.slice(4)]
  const year = Number(code.slice(0, 4))
  if (!season || !Number.isInteger(year)) throw new RangeError(`"${code}" is not a term code such as 2027SP`)
  return year * 10 + SEASON_RANK[season]
}

/** `2027-01-15` → `15 Jan 2027`. */
export function sayDate(date: LocalDate): string {
  const [year, month, day] = date.split('-').map(Number) as [number, number, number]
  return `${day} ${MONTHS[month - 1]} ${year}`
}

/** Short name for narrow places: `S 27`, `Su 27`, `F 27`. */
export function shortTermName(term: Pick<Term, 'season' | 'year'>): string {
  const letter = { spring: 'S', summer: 'Su', fall: 'F' }[term.season]
  return `${letter} ${String(term.year).slice(2)}`
}

export type TermPhase = 'past' | 'under way' | 'future'

/** Where a local date stands in relation to a term. */
export function termPhase(term: Pick<Term, 'start' | 'end'>, today: LocalDate): TermPhase {
  if (term.end < today) return 'past'
  return term.start <= today ? 'under way' : 'future'
}

/** Part of the term that has gone by, 0 to 1, by calendar days. */
export function termProgress(term: Pick<Term, 'start' | 'end'>, today: LocalDate): number {
  const day = (date: string) => Date.parse(`${date}T00:00:00Z`) / 86_400_000
  const share = (day(today) - day(term.start)) / (day(term.end) - day(term.start))
  return Math.min(1, Math.max(0, share))
}

/** Whether the catalog's offering pattern includes this term. */
export function isOffered(course: Pick<Course, 'offered'>, term: Pick<Term, 'season' | 'year'>): boolean {
  const { seasons, years } = course.offered
  if (!seasons.includes(term.season)) return false
  return !years || (years === 'odd') === (term.year % 2 === 1)
}

/** "fall and spring", "spring, odd years": the pattern as people say it. */
export function describeOffering(course: Pick<Course, 'offered'>): string {
  const { seasons, years } = course.offered
  if (seasons.length === 0) return 'offering not announced'
  const order: Season[] = ['fall', 'spring', 'summer']
  const named = order.filter(season => seasons.includes(season))
  const list = named.length === 3 ? 'every term' : named.join(' and ')
  return years ? `${list}, ${years} years` : list
}
