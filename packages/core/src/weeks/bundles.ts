import type { Course, Part, Section, Term, TravelTime } from '../catalog/types'
import { type Clash, expandSection, findClash, type Occurrence } from './meetings'

/** A lecture with the lab or tutorial that goes with it; chosen as one. */
export interface Bundle {
  /** Section ids in the order of the course's parts, joined by `+`. */
  id: string
  course: string
  sections: Section[]
}

/** Every complete bundle of a course: one section of each part that shares a link. Cancelled sections make none. */
export function bundlesOf(course: Pick<Course, 'code' | 'parts'>, sections: readonly Section[]): Bundle[] {
  const open = sections.filter(section => section.course === course.code && !section.cancelled)
  const links = [...new Set(open.map(section => section.link))].sort()
  return links.flatMap((link) => {
    let partial: Section[][] = [[]]
    for (const part of course.parts) {
      const choices = open.filter(section => section.link === link && section.part === part).sort((a, b) => a.label.localeCompare(b.label))
      partial = partial.flatMap(chosen => choices.map(choice => [...chosen, choice]))
    }
    return partial.filter(chosen => chosen.length > 0).map(chosen => ({ id: bundleId(chosen), course: course.code, sections: chosen }))
  })
}

function bundleId(sections: readonly Pick<Section, 'id'>[]): string {
  return sections.map(section => section.id).join('+')
}

/** Parts of the course that a choice of sections lacks, or has too often. */
export function missingParts(course: Pick<Course, 'parts'>, sections: readonly Section[]): Part[] {
  return course.parts.filter(part => sections.filter(section => section.part === part).length !== 1)
}

export type TermCalendar = Pick<Term, 'noClass' | 'movedDays'>

/** Real dates of all the parts of a bundle, exams included. */
function occurrencesOf(sections: readonly Section[], term: TermCalendar): Occurrence[] {
  return sections.flatMap(section => occurrencesOfSection(section, term))
}

const expanded = new WeakMap<Section, { term: TermCalendar, dates: Occurrence[] }>()

/** A section's dates are the same whatever it is held against: remembered with the section. */
function occurrencesOfSection(section: Section, term: TermCalendar): Occurrence[] {
  const before = expanded.get(section)
  if (before?.term === term) return before.dates
  const dates = [...expandSection(section, term), ...section.exam ? [{ ...section.exam, site: section.meetings[0]?.site ?? '' }] : []]
  expanded.set(section, { term, dates })
  return dates
}

/** The first clash between two choices of sections on their real dates. */
export function clashBetween(a: readonly Section[], b: readonly Section[], term: TermCalendar, travel: readonly TravelTime[]): Clash
  | null {
  return findClash(occurrencesOf(a, term), occurrencesOf(b, term), travel)
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
