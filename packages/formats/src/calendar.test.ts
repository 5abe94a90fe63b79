import { ICalCalendar, ICalEventRepeatingFreq } from 'ical-generator'
import ICAL from 'ical.js'
import { describe, expect, it } from 'vitest'
import { course, courseMap, meeting, section, term } from '../../../tests/builders'
import { expandSection, toInstant } from '@ridgeway/core/weeks'
import { readBusy, readWholeDays, writeCalendar } from './calendar'

const zone = 'America/Denver'
const spring = term('2027SP', { name: 'Spring 2027', noClass: [{ date: '2027-01-18', name: 'Winter holiday' }],
  movedDays: [{ date: '2027-01-20', follows: 'M' }] })
const one = section(1, 'HYD 230', { number: '20034', meetings: [meeting(570)], exam: { date: '2027-05-10', start: 480, end: 600 } })
const given = (sections = [one]) => ({ name: 'Tamsin', zone, sites: [{ code: 'main', name: 'Main', online: false }],
  courses: courseMap(course('HYD 230', { title: 'Groundwater, and wells' })), at: '2026-11-09T15:00:00.000Z',
  terms: [{ term: spring, sections: sections.map(each => ({ section: each, state: 'registered' as const })) }] })
const eventsOf = (text: string) => new ICAL.Component(ICAL.parse(text)).getAllSubcomponents('vevent').map(each => new ICAL.Event(each))

describe('writeCalendar', () => {
  it('has every class at its instant, as a calendar library reads it, through the change of the clock', () => {
    const classes = eventsOf(writeCalendar(given())).filter(event => !event.startDate.isDate && !event.summary.includes('exam'))
    expect(classes.map(event => `${event.startDate.toJSDate().toISOString()} ${event.endDate.toJSDate().toISOString()}`).sort())
      .toEqual(expandSection(one, spring).map(({ date, start, end }) =>
        `${new Date(toInstant(date, start, zone)).toISOString()} ${new Date(toInstant(date, end, zone)).toISOString()}`).sort())
    expect(classes[0]!.summary).toBe('HYD 230-01 Groundwater, and wells')
    expect(classes[0]!.location).toBe('1, Main')
  })
  it('tells the deadlines as whole days, and the exam', () => {
    const events = eventsOf(writeCalendar(given()))
    expect(events.filter(event => event.startDate.isDate).map(event => event.summary)).toContain('Spring 2027: fees due')
    expect(events.find(event => event.summary.includes('exam'))!.startDate.toJSDate().toISOString()).toBe('2027-05-10T14:00:00.000Z')
  })
  it('keeps the ids of what stays, and leaves out what is cancelled', () => {
    const ids = (text: string) => eventsOf(text).map(event => event.uid)
    expect(new Set(ids(writeCalendar(given()))).size).toBe(ids(writeCalendar(given())).length)
    const moved = { ...one, meetings: [meeting(570, { room: '2' })] }
    expect(ids(writeCalendar(given([moved])))).toEqual(ids(writeCalendar(given())))
    expect(ids(writeCalendar(given([{ ...one, cancelled: true }]))).some(id => id.startsWith('20034'))).toBe(false)
  })
  it('folds no line over 75 octets and ends lines as RFC 5545 asks', () => {
    const text = writeCalendar(given())
    expect(text.split('\r\n').every(line => new TextEncoder().encode(line).length <= 75)).toBe(true)
    expect(text.replaceAll('\r\n', '')).not.toContain('\n')
  })
})

const event = (lines: string[]) => ['BEGIN:VCALENDAR', 'VERSION:2.0', 'BEGIN:VEVENT', 'UID:1', ...lines, 'END:VEVENT',
  'END:VCALENDAR'].join('\r\n')
describe('readBusy', () => {
  it('takes what comes back as blocks, in the college\'s time', () => {
    const text = event(['SUMMARY:Shift', 'DTSTART:20270112T200000Z', 'DTEND:20270112T233000Z', 'RRULE:FREQ=WEEKLY;BYDAY=TU,TH;COUNT=8'])
    expect(readBusy(text, spring, zone)).toEqual({ blocks: [{ days: ['T', 'R'], start: 780, end: 990, name: 'Shift' }], once: 0,
      wholeDays: 0 })
  })
  it('takes a floating time as it stands', () => {
    const text = event(['SUMMARY:Choir', 'DTSTART:20270113T183000', 'DTEND:20270113T200000', 'RRULE:FREQ=WEEKLY;UNTIL=20270401T000000'])
    expect(readBusy(text, spring, zone).blocks).toEqual([{ days: ['W'], start: 1110, end: 1200, name: 'Choir' }])
  })
  it('counts what it leaves out: once, whole days, other terms', () => {
    const once = event(['SUMMARY:Dentist', 'DTSTART:20270113T183000', 'DTEND:20270113T190000'])
    expect(readBusy(once, spring, zone)).toEqual({ blocks: [], once: 1, wholeDays: 0 })
    expect(readBusy(event(['SUMMARY:Trip', 'DTSTART;VALUE=DATE:20270113', 'DTEND;VALUE=DATE:20270115']), spring, zone).wholeDays).toBe(1)
    expect(readBusy(event(['SUMMARY:Old', 'DTSTART:20250113T183000', 'DTEND:20250113T190000', 'RRULE:FREQ=WEEKLY;COUNT=4']), spring,
      zone).blocks).toEqual([])
  })
  it('says in words that a file is no calendar', () => {
    expect(() => readBusy('name,grade', spring, zone)).toThrow('This is no calendar file.')
  })
})

describe('whole days of an academic calendar', () => {
  const file = () => new ICalCalendar({ name: 'College' })
  const day = (text: string) => new Date(`${text}T00:00:00`)
  it('are every day of an event within the term, in order and each once; what has hours is none', () => {
    const calendar = file()
    calendar.createEvent({ start: day('2027-03-08'), end: day('2027-03-13'), allDay: true, summary: 'Spring break' })
    calendar.createEvent({ start: day('2027-01-18'), end: day('2027-01-19'), allDay: true, summary: 'Winter holiday' })
    calendar.createEvent({ start: day('2027-03-09'), end: day('2027-03-10'), allDay: true, summary: 'The same day again' })
    calendar.createEvent({ start: day('2026-12-25'), end: day('2026-12-26'), allDay: true, summary: 'Before the term' })
    calendar.createEvent({ start: new Date('2027-02-01T15:00:00Z'), end: new Date('2027-02-01T16:00:00Z'), summary: 'A concert' })
    expect(readWholeDays(calendar.toString(), spring)).toEqual([{ date: '2027-01-18', name: 'Winter holiday' },
      ...['08', '09', '10', '11', '12'].map(date => ({ date: `2027-03-${date}`, name: 'Spring break' }))])
  })
  it('come back as often as the event does, a day where no end is said, and never more than a month of one event', () => {
    const calendar = file()
    calendar.createEvent({ start: day('2027-02-05'), end: day('2027-02-06'), allDay: true, summary: 'Fridays off',
      repeating: { freq: ICalEventRepeatingFreq.WEEKLY, count: 3 } })
    expect(readWholeDays(calendar.toString(), spring).map(one => one.date)).toEqual(['2027-02-05', '2027-02-12', '2027-02-19'])
    const bare = (lines: string) => `BEGIN:VCALENDAR\r\nVERSION:2.0\r\nBEGIN:VEVENT\r\nUID:x\r\n${lines}END:VEVENT\r\nEND:VCALENDAR\r\n`
    expect(readWholeDays(bare('DTSTART;VALUE=DATE:20270301\r\n'), spring)).toEqual([{ date: '2027-03-01', name: 'No class' }])
    expect(readWholeDays(bare('DTSTART;VALUE=DATE:20270111\r\nDTEND;VALUE=DATE:20370111\r\n'), spring)).toHaveLength(31)
    expect(() => readWholeDays('no calendar', spring)).toThrow('This is no calendar file')
  })
})
