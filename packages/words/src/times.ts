import type { Section } from '@ridgeway/core/catalog'

/** `570` → `9:30`. */
export function clockTime(minutes: number): string {
  return `${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, '0')}`
}

/** "M W 9:30–10:45 · lab F 13:00–15:50", or "any time" without meetings. */
export function describeTimes(sections: readonly Section[]): string {
  const parts = sections.flatMap(section => section.meetings.map((meeting) => {
    const part = section.part === 'lecture' ? '' : `${section.part} `
    return `${part}${meeting.days.join(' ')} ${clockTime(meeting.start)}–${clockTime(meeting.end)}`
  }))
  return parts.length === 0 ? 'any time' : parts.join(' · ')
}
