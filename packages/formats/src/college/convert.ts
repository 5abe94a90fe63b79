import type { Course, Season, Section, Term } from '@ridgeway/core/catalog'
import type { CollegeRows } from './tables'

export type CourseRow = CollegeRows['courses'][number]
export type TermRow = CollegeRows['terms'][number]
export type SectionRow = CollegeRows['sections'][number]

/** A course as the core has it. */
export function toCourse({ seasons, years, until, creditsMax, ...row }: CourseRow): Course {
  const [subject, number] = row.code.split(' ') as [string, string]
  return { ...row, subject, number: Number.parseInt(number, 10), creditsMax: creditsMax ?? row.credits,
    offered: { seasons, ...years ? { years } : {}, ...until ? { until } : {} } }
}

export function fromCourse({ subject: _, number: __, offered, creditsMax, repeatCredits, ...course }: Course): CourseRow {
  return { ...course, creditsMax: creditsMax === course.credits ? null : creditsMax, repeatCredits: repeatCredits ?? null,
    seasons: offered.seasons, years: offered.years ?? null, until: offered.until ?? null }
}

const SEASON_OF: Record<string, Season> = { SP: 'spring', SU: 'summer', FA: 'fall' }
/** What a term's code says besides. */
export const seasonAndYear = (code: string): Pick<Term, 'season' | 'year'> =>
  ({ season: SEASON_OF[code.slice(4)]!, year: Number(code.slice(0, 4)) })

export const fromTerm = ({ sessions: _, season: __, year: ___, closedBecause: ____, ...term }: Term): TermRow => term

/** A section with its meetings and categories of seats in one row; `nameOf` tells what another section is called. */
export function fromSection(section: Section, nameOf: (id: number) => string | null): SectionRow {
  const { term, course, label, number, session, part, link, exam, delivery, instructors, topic, notes, fee, gradingModes, group,
    onlyPrograms, onlyStandings, onlyCohorts, cancelled } = section
  return { term, course, label, number, session, part, link, exam, delivery: delivery as SectionRow['delivery'], instructors, topic, notes,
    fee, gradingModes, group, onlyPrograms, onlyStandings, onlyCohorts, cancelled,
    seats: section.pools.find(pool => pool.forGroup === null)?.capacity ?? 0,
    reserved: section.pools.flatMap(pool => pool.forGroup === null || pool.capacity === 0
      ? []
      : [{ for: pool.forGroup,
          seats: pool.capacity }])
      .sort((a, b) => a.for < b.for ? -1 : 1),
    sharesWith: section.seatsWith === null ? null : nameOf(section.seatsWith),
    waitlist: section.waitlistCapacity,
    meets: [...section.meetings].map(({ days, start, end, first, last, site, room }) => ({ days, start, end, first, last, site, room }))
      .sort((a, b) => a.first.localeCompare(b.first) || a.start - b.start || a.days.join('').localeCompare(b.days.join(''))) }
}
