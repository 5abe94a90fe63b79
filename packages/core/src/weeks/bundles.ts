import type { Course, Meeting, Part, Section, TravelTime } from '../catalog/types'
import { type Clash, DAY_MINUTES, dayNumber, endOf, expandMeeting, firstOfSpans, type Found, isBefore, longestOf, type Span, spansOf,
  type TermCalendar } from './meetings'

/** A lecture with the lab or tutorial that goes with it; chosen as one. */
export interface Bundle {
  /** Section ids in the order of the course's parts, joined by `+`. */
  id: string
  course: string
  sections: Section[]
}

/** Every complete bundle of a course: one section of each part that shares a link. Cancelled sections make none. */
export function bundlesOf(course: Pick<Course, 'code' | 'parts'>, sections: readonly Section[]): Bundle[] {
  const byLink = new Map<string, Section[]>()
  for (const section of sections) {
    if (section.course !== course.code || section.cancelled) continue
    const linked = byLink.get(section.link)
    if (linked) linked.push(section)
    else byLink.set(section.link, [section])
  }
  const bundles: Bundle[] = []
  const [only] = course.parts
  if (course.parts.length === 1) {
    for (const link of [...byLink.keys()].sort())
      for (const section of inLabels(byLink.get(link)!.filter(one => one.part === only)))
        bundles.push({ id: String(section.id), course: course.code, sections: [section] })
    return bundles
  }
  for (const link of [...byLink.keys()].sort()) {
    let partial: Section[][] = [[]]
    for (const part of course.parts) {
      const choices = inLabels(byLink.get(link)!.filter(section => section.part === part))
      partial = partial.flatMap(chosen => choices.map(choice => [...chosen, choice]))
    }
    for (const chosen of partial) if (chosen.length > 0) bundles.push({ id: bundleId(chosen), course: course.code, sections: chosen })
  }
  return bundles
}

const inLabels = (sections: Section[]) => sections.length < 2 ? sections : sections.sort((a, b) => a.label < b.label ? -1 : 1)
function bundleId(sections: readonly Pick<Section, 'id'>[]): string {
  return sections.map(section => section.id).join('+')
}

/** Parts of the course that a choice of sections lacks, or has too often. */
export function missingParts(course: Pick<Course, 'parts'>, sections: readonly Section[]): Part[] {
  return course.parts.filter(part => sections.filter(section => section.part === part).length !== 1)
}

/** One meeting or exam of a section: its time of day, the days between which it lies, and its real dates. */
interface Slot {
  start: number
  /** After minute 1440 where it runs into the next day. */
  end: number
  firstDay: number
  lastDay: number
  spans: readonly Span[]
}

/** The slots of a section, remembered with its meetings; an exam is held where the first meeting is. */
const remembered = new WeakMap<readonly Meeting[], { term: TermCalendar, exam: Section['exam'], slots: readonly Slot[] }>()

function slotsOf({ meetings, exam }: Section, term: TermCalendar): readonly Slot[] {
  const before = remembered.get(meetings)
  if (before?.term === term && before.exam === exam) return before.slots
  const slots = meetings.map((meeting): Slot => ({ start: meeting.start, end: endOf(meeting), firstDay: dayNumber(meeting.first),
    lastDay: dayNumber(meeting.last), spans: spansOf(expandMeeting(meeting, term)) }))
  if (exam) {
    const day = dayNumber(exam.date)
    slots.push({ start: exam.start, end: endOf(exam), firstDay: day, lastDay: day,
      spans: spansOf([{ ...exam, site: meetings[0]?.site ?? '' }]) })
  }
  remembered.set(meetings, { term, exam, slots })
  return slots
}

/** Whether two slots come so near each other in days and in the time of day that they could clash; a class runs for two nights at most. */
function couldClash(a: Slot, b: Slot, way: number): boolean {
  if (a.firstDay > b.lastDay + NIGHTS || b.firstDay > a.lastDay + NIGHTS) return false
  // What ends, with the way, before midnight meets only what begins on the same day.
  const nights = Math.max(a.end, b.end) + way <= DAY_MINUTES ? 0 : NIGHTS
  for (let shift = -nights * DAY_MINUTES; shift <= nights * DAY_MINUTES; shift += DAY_MINUTES)
    if (a.start < b.end + shift + way && b.start + shift < a.end + way) return true
  return false
}
const NIGHTS = 2

/** The first clash between two choices of sections on their real dates, exams included. */
export function clashBetween(a: readonly Section[], b: readonly Section[], term: TermCalendar, travel: readonly TravelTime[]): Clash
  | null {
  const way = longestOf(travel)
  let first: Found | null = null
  for (const section of a)
    for (const mine of slotsOf(section, term))
      for (const other of b)
        for (const theirs of slotsOf(other, term)) {
          const found = couldClash(mine, theirs, way) ? firstOfSpans(mine.spans, theirs.spans, travel) : null
          if (found && (!first || isBefore(found, first))) first = found
        }
  return first?.clash ?? null
}

/** Minutes of class a week in the typical week of a bundle. */
export function weeklyMinutes(sections: readonly Section[]): number {
  return sections.reduce(
    (sum, section) => sum + section.meetings.reduce((m, meeting) => m + meeting.days.length * (meeting.end - meeting.start), 0),
    0,
  )
}

/** The first clash between two parts of one choice of sections: a lab that overlaps its own lecture. */
export function clashWithin(sections: readonly Section[], term: TermCalendar, travel: readonly TravelTime[]): {
  parts: [Part, Part]
  clash: Clash
} | null {
  for (const [i, section] of sections.entries()) {
    for (const other of sections.slice(i + 1)) {
      const clash = clashBetween([section], [other], term, travel)
      if (clash) return { parts: [section.part, other.part], clash }
    }
  }
  return null
}
