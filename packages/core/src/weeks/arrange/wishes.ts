import type { Delivery, Section, Weekday } from '../../catalog/types'

/** How much a wish weighs: `hard` must hold, 1 to 5 counts for more or less beside the others. */
export type Weight = 'hard' | 1 | 2 | 3 | 4 | 5

/** What somebody wishes for a week. Times are minutes since midnight. */
export type Wish = { id: string, weight: Weight } & (
  | { kind: 'earliest', at: number }
  | { kind: 'latest', at: number }
  | { kind: 'day off', day: Weekday }
  | { kind: 'keep free', days: readonly Weekday[], start: number, end: number, name?: string | undefined }
  | { kind: 'avoid site', site: string }
  | { kind: 'avoid delivery', delivery: Delivery }
  | { kind: 'instructor', name: string }
  /** Sections of one group, where a course has some. */
  | { kind: 'group', group: string }
  /** At least so many seats left in every part. */
  | { kind: 'seats left', least: number }
  /** Weighted only: they are matters of more and less. */
  | { kind: 'fewer days' }
  | { kind: 'fewer gaps', pass: number }
  | { kind: 'less travel' })

/** Prices of what is not counted in minutes, each once for what it is beside: a date, a meeting, a week. */
export const PRICE = { dayOff: 120, campusDay: 120, avoidedSite: 30, delivery: 60, instructor: 60, group: 60, seat: 10 } as const

/** One bundle that could be taken for a course, with the seats that are left in it for this student. */
export interface Choice {
  id: string
  sections: readonly Section[]
  seats: number
}

/**
 * Whether a bundle breaks a wish by itself; what only a whole week can break never is. `others` are all bundles of the course: a group
 * is wished for only where the course has it.
 */
export function breaksWish(wish: Wish, { sections, seats }: Choice, others: readonly Choice[] = []): boolean {
  switch (wish.kind) {
    case 'earliest':
      return sections.some(section => section.meetings.some(meeting => meeting.start < wish.at))
    case 'latest':
      return sections.some(section => section.meetings.some(meeting => endOfDay(meeting) > wish.at))
    case 'day off':
      return sections.some(section => section.meetings.some(meeting => meeting.days.includes(wish.day)))
    case 'keep free':
      return sections.some(section => section.meetings.some(meeting =>
        meeting.start < wish.end && wish.start < endOfDay(meeting) && meeting.days.some(day => wish.days.includes(day))))
    case 'avoid site':
      return sections.some(section => section.meetings.some(meeting => meeting.site === wish.site))
    case 'avoid delivery':
      return sections.some(section => section.delivery === wish.delivery)
    case 'instructor':
      return !sections.some(section => section.instructors.includes(wish.name))
    case 'group':
      return !inGroup(sections, wish.group) && others.some(other => inGroup(other.sections, wish.group))
    case 'seats left':
      return seats < wish.least
    default:
      return false
  }
}

const inGroup = (sections: readonly Section[], group: string) => sections.some(section => section.group === group)

/** The end of a meeting, in minutes of the day on which it begins. */
export const endOfDay = ({ start, end }: { start: number, end: number }) => end <= start ? end + 1440 : end
