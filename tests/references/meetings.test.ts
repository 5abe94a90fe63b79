import ICAL from 'ical.js'
import { describe, expect, it } from 'vitest'
import type { Meeting, Weekday } from '@ridgeway/core/catalog'
import { clashBetween, expandMeeting, expandSection, findClash, toInstant } from '@ridgeway/core/weeks'
import { Random } from '../../demo/random'
import { INSTITUTION, TERMS } from '../../demo/calendar'
import { COURSES } from '../../demo/courses'
import { demoSections } from '../../demo/load'

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

/** What Intl (the Unicode consortium's time zone data) shows on a clock on the wall. */
const wall = (instant: string, zone: string) => {
  const parts = Object.fromEntries(new Intl.DateTimeFormat('en-CA', { timeZone: zone, hourCycle: 'h23', year: 'numeric', month: '2-digit',
    day: '2-digit', hour: '2-digit', minute: '2-digit' }).formatToParts(new Date(instant)).map(part => [part.type, part.value]))
  return `${parts.year}-${parts.month}-${parts.day} ${parts.hour}:${parts.minute}`
}

describe('the sections of the demonstration against an iCalendar library', () => {
  const { spring, summer } = demoSections(new Random(20270111))
  const termOf = (code: string) => TERMS.find(term => term.code === code)!
  it('meet on the same dates and at the same times, every one of them', () => {
    expect(spring.length + summer.length).toBeGreaterThan(500)
    for (const section of [...spring, ...summer]) {
      const term = termOf(section.term)
      const expected = section.meetings.flatMap(meeting => expandByCalendar(meeting, term)).sort()
      expect(expandSection(section, term).map(one => `${stamp(one.date, one.start)}/${stamp(one.date, one.end)}`).sort()).toEqual(expected)
    }
  })

  it('clash where those dates overlap, half terms, trips and exams included', () => {
    const random = new Random(77)
    const term = termOf('2027SP')
    const spans = (section: (typeof spring)[number]) => [...section.meetings.flatMap(meeting => expandByCalendar(meeting, term)),
      ...section.exam ? [`${stamp(section.exam.date, section.exam.start)}/${stamp(section.exam.date, section.exam.end)}`] : []]
      .map(text => text.split('/') as [string, string])
    let clashes = 0
    for (let i = 0; i < 600; i++) {
      const [a, b] = [random.pick(spring), random.pick(spring)]
      if (a === b) continue
      const others = spans(b)
      const expected = spans(a).some(([start, end]) => others.some(([from, to]) => start < to && from < end))
      if (expected) clashes++
      expect(clashBetween([a], [b], term, []) !== null).toBe(expected)
    }
    expect(clashes).toBeGreaterThan(15)
  })

  it('keep their hour on the wall through both changes of the clock', () => {
    const zone = INSTITUTION.zone
    for (const [before, after, shifted] of [['2027-03-10', '2027-03-17', -1], ['2026-10-28', '2026-11-04', 1]] as const) {
      expect(wall(toInstant(before, 570, zone), zone)).toBe(`${before} 09:30`)
      expect(wall(toInstant(after, 570, zone), zone)).toBe(`${after} 09:30`)
      const hours = (Date.parse(toInstant(after, 570, zone)) - Date.parse(toInstant(before, 570, zone))) / 3_600_000
      expect(hours).toBe(7 * 24 + shifted)
    }
  })
})

describe('the timetable of the demonstration', () => {
  const { spring, summer } = demoSections(new Random(20270111))
  it.each([['rooms', spring], ['rooms', summer]])('has no room in which two classes meet at once', (_, sections) => {
    expect(doubleBooked(sections, (section, meeting) => meeting.site === 'online' || meeting.room === 'Field trip'
      ? []
      : [`${meeting.site} ${meeting.room}`])).toEqual([])
  })
  it.each([['teachers', spring], ['teachers', summer]])('has nobody who teaches two at once', (_, sections) => {
    expect(doubleBooked(sections, section => section.instructors)).toEqual([])
  })
  it('has minutes of class that agree with the credits', () => {
    // 50 minutes a credit and week for lectures and tutorials, 170 for a lab, twice that in half a term or in summer (common practice, no
    // source).
    const courses = new Map(COURSES.map(one => [one.code, one]))
    for (const section of [...spring, ...summer].filter(one => one.meetings.length > 0)) {
      const course = courses.get(section.course)!
      const credits = section.part !== 'lecture' ? 1 : Math.max(1, course.credits / 100 - (course.parts.length > 1 ? 1 : 0))
      const asked = (section.part === 'lab' ? 170 : credits * 50) * (section.session === 'full' && section.term === '2027SP' ? 1 : 2)
      const weekly = section.meetings.filter(one => one.first !== one.last)
        .reduce((sum, one) => sum + one.days.length * (one.end - one.start), 0)
      expect(Math.abs(weekly - asked), `${section.course}-${section.label}`).toBeLessThanOrEqual(4)
    }
  })
})

/** Two classes that use the same thing at once; what goes under two names is one class. */
function doubleBooked(sections: ReturnType<typeof demoSections>['spring'],
  uses: (section: ReturnType<typeof demoSections>['spring'][number], meeting: Meeting) => readonly string[]): string[] {
  const used = new Map<string, { from: number, to: number, who: string }[]>()
  const found: string[] = []
  for (const section of sections.filter(one => one.seatsWith === null && !one.cancelled)) {
    const term = TERMS.find(one => one.code === section.term)!
    for (const meeting of section.meetings) {
      for (const { date, start, end } of expandMeeting(meeting, term)) {
        for (const thing of uses(section, meeting)) {
          const list = used.get(`${thing} ${date}`) ?? []
          const who = `${section.course}-${section.label}`
          found.push(...list.filter(one => one.who !== who && one.from < end && start < one.to).map(one =>
            `${thing} ${date}: ${one.who}, ${who}`))
          used.set(`${thing} ${date}`, [...list, { from: start, to: end, who }])
        }
      }
    }
  }
  return found.slice(0, 5)
}
