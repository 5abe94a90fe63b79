import type { Course, LocalDate, Season, Term, TermCode, TermName } from './types'

const SEASON_RANK: Record<Season, number> = { spring: 1, summer: 2, fall: 3 }
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

/**
 * The terms that lie ahead of a date, followed by so many years of terms that nobody has announced yet:
 * the same seasons with the same caps, so that a chain of courses can be followed past the end of the calendar.
 */
export function termsAhead(terms: readonly Term[], today: LocalDate, years = 6): Term[] {
  const known = terms.filter(term => termPhase(term, today) === 'future').sort((a, b) => termOrder(a.code) - termOrder(b.code))
  const ahead = [...known]
  for (let year = 1; year <= years; year++) {
    for (const term of known.slice(-3)) {
      const later = { ...term, year: term.year + year, scheduled: false }
      const code = `${later.year}${term.code.slice(4)}`
      if (!ahead.some(other => other.code === code)) ahead.push({ ...later, code, name: '' })
    }
  }
  return ahead.sort((a, b) => termOrder(a.code) - termOrder(b.code))
}

export const nameOf = ({ code, name }: TermName): TermName => ({ code, name })

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
  const { seasons, years, until } = course.offered
  if (!seasons.includes(term.season)) return false
  if (until && term.year * 10 + SEASON_RANK[term.season] > termOrder(until)) return false
  return !years || (years === 'odd') === (term.year % 2 === 1)
}
