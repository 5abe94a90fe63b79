import ICAL from 'ical.js'
import { describe, expect, it } from 'vitest'
import type { Meeting, Weekday } from '@ridgeway/core/catalog'
import { expandMeeting, findClash } from '@ridgeway/core/weeks'
import { Random } from '../../demo/random'
import { TERMS } from '../../demo/calendar'

/**
 * Our expansion of meetings against that of an iCalendar library (RFC 5545, sections 3.3.10 RRULE and 3.8.5.1 EXDATE).
 * Moved days have no counterpart in a recurrence rule; they are written as RDATE and EXDATE, as a calendar would receive them.
 */
const ICAL_DAYS: Record<Weekday, string> = { M: 'MO', T: 'TU', W: 'WE', R: 'TH', F: 'FR', S: 'SA', U: 'SU' }
const ORDER: Weekday[] = ['M', 'T', 'W', 'R', 'F', 'S', 'U']
const compact = (date: string) => date.replaceAll('-', '')
const time = (minutes: number) => `${String(Math.floor(minutes / 60)).padStart(2, '0')}${String(minutes % 60).padStart(2, '0')}00`
const weekday = (date: string): Weekday => ORDER[(new Date(`${date}T00:00:00Z`).getUTCDay() + 6) % 7]!

function expandByCalendar(meeting: Meeting, term: (typeof TERMS)[number]): string[] {
  const within = (date: string) => date >= meeting.first && date <= meeting.last
  const first = Array.from({ length: 7 },
    (_, i) => new Date(Date.parse(`${meeting.first}T00:00:00Z`) + i * 86_400_000).toISOString().slice(0, 10)).find(date =>
    meeting.days.includes(weekday(date)),
  )!
  const free = new Set(term.noClass.map(day => day.date))
  const gone = [...free, ...term.movedDays.filter(day => !meeting.days.includes(day.follows)).map(day => day.date)].filter(date =>
    within(date) && meeting.days.includes(weekday(date)),
  )
  const extra = term.movedDays.filter(day =>
    meeting.days.includes(day.follows) && !meeting.days.includes(weekday(day.date)) && within(day.date) && !free.has(day.date),
  ).map(day => day.date)
  const lines = ['BEGIN:VEVENT', 'UID:1', `DTSTART:${compact(first)}T${time(meeting.start)}`,
    `DTEND:${compact(first)}T${time(meeting.end)}`,
    `RRULE:FREQ=WEEKLY;BYDAY=${meeting.days.map(day => ICAL_DAYS[day]).join(',')};UNTIL=${compact(meeting.last)}T235959`,
    ...gone.map(date => `EXDATE:${compact(date)}T${time(meeting.start)}`),
    ...extra.map(date => `RDATE:${compact(date)}T${time(meeting.start)}`), 'END:VEVENT']
  const event = new ICAL.Event(new ICAL.Component(ICAL.parse(lines.join('\r\n'))))
  const iterator = event.iterator()
  const dates: string[] = []
  for (let next = iterator.next(); next; next = iterator.next()) {
    const details = event.getOccurrenceDetails(next)
    dates.push(`${details.startDate.toString()}/${details.endDate.toString()}`)
  }
  return dates.filter(text => text.slice(0, 10) <= meeting.last).sort()
}

const random = new Random(5545)
const terms = TERMS.filter(term => term.season !== 'summer')
const cases = Array.from({ length: 300 }, () => {
  const term = random.pick(terms)
  const session = random.pick(term.sessions)
  const start = random.between(96, 220) * 5
  const meeting: Meeting = { days: random.shuffle(ORDER).slice(0, random.between(1, 4)).sort((a, b) => ORDER.indexOf(a) - ORDER.indexOf(b)),
    start, end: start + random.between(10, 35) * 5, first: session.start, last: session.end, site: 'larkmoor', room: '1' }
  return { term, meeting }
})
const stamp = (date: string, minutes: number) => `${date}T${time(minutes).replace(/(..)(..)(..)/, '$1:$2:$3')}`

describe('meetings against an iCalendar library', () => {
  it('expands 300 generated meetings to the same dates and times', () => {
    for (const { term, meeting } of cases) {
      const own = expandMeeting(meeting, term).map(o => `${stamp(o.date, o.start)}/${stamp(o.date, o.end)}`).sort()
      expect(own).toEqual(expandByCalendar(meeting, term))
    }
  })

  it('finds a clash exactly where two expansions overlap', () => {
    let clashes = 0
    for (let i = 0; i + 1 < cases.length; i++) {
      const a = cases[i]!
      const b = { term: a.term, meeting: { ...cases[i + 1]!.meeting, first: a.term.start, last: a.term.end } }
      const spans = expandByCalendar(b.meeting, b.term).map(text => text.split('/') as [string, string])
      const expected = expandByCalendar(a.meeting, a.term).some((text) => {
        const [start, end] = text.split('/') as [string, string]
        return spans.some(([from, to]) => start < to && from < end)
      })
      if (expected) clashes++
      expect(findClash(expandMeeting(a.meeting, a.term), expandMeeting(b.meeting, b.term), []) !== null).toBe(expected)
    }
    expect(clashes).toBeGreaterThan(30)
  })
})
