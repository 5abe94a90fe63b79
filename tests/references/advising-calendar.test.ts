import ICAL from 'ical.js'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { writeMeetings } from '../../packages/formats/src/calendar'

/**
 * Meetings in iCalendar (RFC 5545), read back by an independent parser (ical.js): times, places and words are equal, and updates are
 * known.
 */
const meeting = fc.record({ id: fc.integer({ min: 1, max: 9999 }),
  start: fc.date({ min: new Date('2026-09-01'), max: new Date('2027-06-30'), noInvalidDate: true }).map(date =>
    new Date(Math.floor(date.getTime() / 300_000) * 300_000).toISOString()),
  minutes: fc.constantFrom(10, 15, 30, 45), sequence: fc.nat(20),
  place: fc.constantFrom('Fell Hall 4', 'Weir House, room 2; upstairs', 'Raum „Süd“'),
  about: fc.constantFrom('', 'Evenings in spring', 'Line one\nline two, with commas; and a \\ backslash', '統計'),
  with: fc.constantFrom('Hollis Brandt', 'Zoë O’Hara, PhD') })

describe('meetings as a calendar file', () => {
  it('are read back as they are', () => {
    fc.assert(fc.property(fc.uniqueArray(meeting, { selector: one => one.id, maxLength: 8 }), (meetings) => {
      const text = writeMeetings('Advising', meetings, '2026-11-09T15:00:00.000Z')
      expect(text.split('\r\n').every(line => Buffer.byteLength(line) <= 75)).toBe(true)
      const events = new ICAL.Component(ICAL.parse(text)).getAllSubcomponents('vevent').map(one => new ICAL.Event(one))
      expect(events.map(event => ({ uid: event.uid, start: event.startDate.toJSDate().toISOString(),
        end: event.endDate.toJSDate().toISOString(), sequence: Number(event.sequence ?? 0), place: event.location,
        about: event.description ?? '',
        summary: event.summary }))).toEqual(meetings.map(one => ({ uid: `meeting-${one.id}@ridgeway`, start: one.start,
        end: new Date(Date.parse(one.start) + one.minutes * 60_000).toISOString(), sequence: one.sequence, place: one.place,
        about: one.about, summary: `Advising: ${one.with}` })))
    }))
  })

  it('a meeting that is moved keeps its id and counts on, so that calendars replace it', () => {
    const one = { id: 7, start: '2026-11-10T17:00:00.000Z', minutes: 15, place: 'Fell Hall 4', about: '', with: 'Yara Quill' }
    const read = (text: string) => new ICAL.Event(new ICAL.Component(ICAL.parse(text)).getFirstSubcomponent('vevent')!)
    const [before, after] = [read(writeMeetings('A', [{ ...one, sequence: 0 }], '2026-11-09T15:00:00.000Z')),
      read(writeMeetings('A', [{ ...one, sequence: 1, start: '2026-11-10T18:00:00.000Z' }], '2026-11-09T16:00:00.000Z'))]
    expect(after.uid).toBe(before.uid)
    expect(Number(after.sequence)).toBeGreaterThan(Number(before.sequence))
  })
})
