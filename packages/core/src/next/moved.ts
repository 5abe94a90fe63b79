import type { CourseCode, Meeting, Section } from '../catalog/types'

/** A pick whose classes are not when or where they were when it was picked. */
export interface MovedPick { course: CourseCode, label: string, before: Meeting[], now: Meeting[] }

/** The picks of a line-up that were moved since; what is cancelled or gone is refused, and not moved. */
export function movedPicks(rows: readonly { course: CourseCode, sectionIds: readonly number[], seen: readonly Meeting[] | null }[],
  sections: readonly Section[]): MovedPick[] {
  return rows.flatMap(({ course, sectionIds, seen }) => {
    const mine = sections.filter(section => sectionIds.includes(section.id) && !section.cancelled)
    const now = mine.flatMap(section => section.meetings)
    if (seen === null || mine.length < sectionIds.length || asText(seen) === asText(now)) return []
    return [{ course, label: mine[0]!.label, before: [...seen], now }]
  })
}

const asText = (meetings: readonly Meeting[]) => meetings.map(({ days, start, end, first, last, site, room }) =>
  [days.join(''), start, end, first, last, site, room].join(' ')).sort().join('; ')
