import { DateTime } from 'luxon'
import type { Meeting, Section } from '@ridgeway/core/catalog'

/** `570` → `9:30`. */
export function clockTime(minutes: number): string {
  return `${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, '0')}`
}

/** "Sat 20 Feb 8:00–17:00" for what happens once, else "M W 9:30–10:45". */
function sayMeeting({ days, start, end, first, last }: Meeting): string {
  const when = first === last
    ? new Date(`${first}T12:00:00Z`).toLocaleDateString('en-GB', { weekday: 'short', day: 'numeric', month: 'short', timeZone: 'UTC' })
    : days.join(' ')
  return `${when} ${clockTime(start)}–${clockTime(end)}`
}

/** Meetings with their rooms: "M W 9:30–10:45 in Cairn 101". */
export const sayMeetings = (meetings: readonly Meeting[]): string =>
  meetings.map(meeting => `${sayMeeting(meeting)} in ${meeting.room}`).join(' and ') || 'at no set time'

/** "M W 9:30–10:45 · lab F 13:00–15:50", or "any time" without meetings; what happens once is left to the section's sheet. */
export function describeTimes(sections: readonly Section[]): string {
  const parts = sections.flatMap(section => section.meetings.filter(meeting => meeting.first !== meeting.last).map(meeting =>
    `${section.part === 'lecture' ? '' : `${section.part} `}${sayMeeting(meeting)}`))
  return parts.length === 0 ? 'any time' : parts.join(' · ')
}

/** An instant as the college's clocks show it: `Tue 17 Nov, 10:15`. */
export const sayMoment = (instant: string, zone: string): string => DateTime.fromISO(instant, { zone }).toFormat('ccc d LLL, HH:mm')
