import type { Course, LocalDate, OfferingPattern, Season, Term, TermCode, TermName } from '@ridgeway/core/catalog'

const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']
const SEASONS: Record<string, string> = { SP: 'Spring', SU: 'Summer', FA: 'Fall' }

/** `2027-01-15` → `15 Jan 2027`. */
export function sayDate(date: LocalDate): string {
  const [year, month, day] = date.split('-').map(Number) as [number, number, number]
  return `${day} ${MONTHS[month - 1]} ${year}`
}

/** `2027SP` → `Spring 2027`. */
export function sayTerm(code: TermCode): string {
  return `${SEASONS[code.slice(4)] ?? ''} ${code.slice(0, 4)}`
}

/** The term's own name; for one that nobody has announced, season and year. */
export const termName = ({ code, name }: TermName): string => name || sayTerm(code)

/** Short name for narrow places: `S 27`, `Su 27`, `F 27`. */
export function shortTermName(term: Pick<Term, 'season' | 'year'>): string {
  const letter = { spring: 'S', summer: 'Su', fall: 'F' }[term.season]
  return `${letter} ${String(term.year).slice(2)}`
}

/** "fall and spring", "spring, odd years": the pattern as people say it. */
export function describeOffering({ offered: { seasons, years, until } }: { offered: OfferingPattern } | Pick<Course, 'offered'>): string {
  if (seasons.length === 0) return 'offering not announced'
  const order: Season[] = ['fall', 'spring', 'summer']
  const named = order.filter(season => seasons.includes(season))
  const list = named.length === 3 ? 'every term' : named.join(' and ')
  return [list, years ? `${years} years` : '', until ? `until ${sayTerm(until)}` : ''].filter(Boolean).join(', ')
}
