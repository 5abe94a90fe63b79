import type { Course, Deadlines, LocalDate, Season, Session, Term, TermCode, TermName } from './types'

const SEASON_RANK: Record<Season, number> = { spring: 1, summer: 2, fall: 3 }
const SEASON_CODE: Record<string, Season> = { SP: 'spring', SU: 'summer', FA: 'fall' }

/**
 * Position of a term in time, from its code alone (`2027SP` → 20271), so that two terms compare as numbers.
 * @throws RangeError when the code is not four digits followed by SP, SU or FA.
 */
export function termOrder(code: TermCode): number {
  const known = orders.get(code)
  if (known !== undefined) return known
  const season = SEASON_CODE[code.slice(4)]
  const year = Number(code.slice(0, 4))
  if (!season || !Number.isInteger(year)) throw new RangeError(`"${code}" is not a term code such as 2027SP`)
  const order = year * 10 + SEASON_RANK[season]
  orders.set(code, order)
  return order
}

const orders = new Map<TermCode, number>()

/** The season in a term's code; null when it is none. */
export const seasonOf = (code: TermCode): Season | null => SEASON_CODE[code.slice(4)] ?? null

/**
 * The terms that lie ahead of a date, followed by so many years of terms that nobody has announced yet: every season that the calendar
 * knows comes again each year with the caps and days of its latest term, so that an offering can be followed past the end of the calendar.
 */
export function termsAhead(terms: readonly Term[], today: LocalDate, years = 6): Term[] {
  const inOrder = [...terms].sort((a, b) => termOrder(a.code) - termOrder(b.code))
  const last = inOrder.at(-1)
  if (!last) return []
  const ahead = inOrder.filter(term => termPhase(term, today) === 'future')
  const patterns = new Map(inOrder.map(term => [term.season, term]))
  const begin = ahead.length > 0 ? last.year : Math.max(last.year, Number(today.slice(0, 4)) - 1)
  for (let year = begin; year <= begin + years; year++) {
    for (const pattern of patterns.values()) {
      const later = inLaterYear(pattern, year - pattern.year)
      if (termOrder(later.code) > termOrder(last.code) && termPhase(later, today) === 'future') ahead.push(later)
    }
  }
  return ahead.sort((a, b) => termOrder(a.code) - termOrder(b.code))
}

/** A term like this one so many years later, that nobody has announced: without a name, sessions and sections. */
function inLaterYear(term: Term, years: number): Term {
  const move = (date: LocalDate) => `${Number(date.slice(0, 4)) + years}${date.slice(4)}`
  return {
    ...term,
    code: `${term.year + years}${term.code.slice(4)}`,
    name: '',
    year: term.year + years,
    scheduled: false,
    sessions: [],
    noClass: [],
    movedDays: [],
    start: move(term.start),
    end: move(term.end),
    addBy: move(term.addBy),
    dropBy: move(term.dropBy),
    withdrawBy: move(term.withdrawBy),
    feesDue: move(term.feesDue),
    closedBecause: null,
  }
}

export const nameOf = ({ code, name }: TermName): TermName => ({ code, name })

export type TermPhase = 'past' | 'under way' | 'future'

/** Where a local date stands in relation to a term. */
export function termPhase(term: Pick<Term, 'start' | 'end'>, today: LocalDate): TermPhase {
  if (term.end < today) return 'past'
  return term.start <= today ? 'under way' : 'future'
}

/** The session of a term by its code; undefined where the term has no such one. */
export const sessionOf = ({ sessions }: Pick<Term, 'sessions'>, code: string): Session | undefined =>
  sessions.find(session => session.code === code)

/** The last days for courses of a session: its own, or those of the term. */
export function deadlinesOf(term: Deadlines & Pick<Term, 'sessions'>, session: string | undefined): Deadlines {
  const own = session === undefined ? null : sessionOf(term, session)?.deadlines
  return own ?? { addBy: term.addBy, dropBy: term.dropBy, withdrawBy: term.withdrawBy }
}

/** The last day on which anything of a term can still be added: that of its latest session. */
export const lastToAdd = (term: Deadlines & Pick<Term, 'sessions'>): LocalDate =>
  term.sessions.reduce((last, { deadlines }) => deadlines && deadlines.addBy > last ? deadlines.addBy : last, term.addBy)

/** Part of the term that has gone by, 0 to 1, by calendar days. */
export function termProgress(term: Pick<Term, 'start' | 'end'>, today: LocalDate): number {
  const day = (date: string) => Date.parse(`${date}T00:00:00Z`) / 86_400_000
  const share = (day(today) - day(term.start)) / (day(term.end) - day(term.start))
  return Math.min(1, Math.max(0, share))
}

/** Whether it is known in which terms a course is given. */
export const isAnnounced = ({ offered }: Pick<Course, 'offered'>): boolean => offered.seasons.length > 0

/**
 * Whether a course may be planned for a term: its offering pattern includes the term, or nothing is announced, and it has not been given
 * up before.
 */
export function isOffered(course: Pick<Course, 'offered'>, term: Pick<Term, 'season' | 'year'>): boolean {
  const { seasons, years, until } = course.offered
  if (until && term.year * 10 + SEASON_RANK[term.season] > termOrder(until)) return false
  if (!isAnnounced(course)) return true
  return seasons.includes(term.season) && (!years || (years === 'odd') === (term.year % 2 === 1))
}

const DAY_MS = 86_400_000
/** The date so many days later; earlier where they are negative. */
export const shiftDate = (date: LocalDate, days: number): LocalDate =>
  new Date(Date.parse(`${date}T00:00:00Z`) + days * DAY_MS).toISOString().slice(0, 10)
