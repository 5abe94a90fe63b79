import ICAL from 'ical.js'
import { ICalCalendar, ICalEventBusyStatus, ICalEventStatus } from 'ical-generator'
import { type Course, type Instant, type LocalDate, type Section, shiftDate, type Site, type Term, type Weekday }
  from '@ridgeway/core/catalog'
import { DAY_MINUTES, endOf, expandMeeting, toInstant, weekdayOf } from '@ridgeway/core/weeks'

/** What stands in a student's calendar: classes with how firmly they are chosen, exams, and the dates of the term. */
export interface CalendarGiven {
  name: string
  zone: string
  sites: readonly Site[]
  courses: ReadonlyMap<string, Course>
  terms: readonly { term: Term, sections: readonly { section: Section, state: 'picked' | 'registered' }[] }[]
  /** When it was made: every event carries it. */
  at: Instant
}

/**
 * A calendar in iCalendar (RFC 5545): an event for every class on its real date, in UTC, so that no reader has to know the college's zone,
 * its days without classes or those that follow another weekday; whole-day events for the term's deadlines. Ids stay the same from one
 * writing to the next: who reads it again sees what moved, and what is gone is gone.
 */
export function writeCalendar({ name, zone, sites, courses, terms, at }: CalendarGiven): string {
  const calendar = new ICalCalendar({ name, prodId: { company: 'Ridgeway', product: 'Ridgeway', language: 'EN' }, ttl: 3600 })
  const siteName = (code: string) => sites.find(site => site.code === code)?.name ?? code
  for (const { term, sections } of terms) {
    for (const { section, state } of sections.filter(one => !one.section.cancelled)) {
      const title = `${section.course}-${section.label} ${courses.get(section.course)?.title ?? ''}`.trim()
      const part = section.part === 'lecture' ? '' : ` (${section.part})`
      const add = (date: LocalDate, start: number, end: number, place: string, what: string, id: string) => calendar.createEvent({
        id: `${section.number}-${id}-${date}-${start}@ridgeway`, stamp: at, summary: `${title}${what}`, location: place,
        start: new Date(toInstant(date, start, zone)), end: new Date(instantAfter(date, end, zone)),
        status: state === 'registered' ? ICalEventStatus.CONFIRMED : ICalEventStatus.TENTATIVE,
        busystatus: state === 'registered' ? ICalEventBusyStatus.BUSY : ICalEventBusyStatus.TENTATIVE,
        description: [`Section ${section.number}, ${state}`, section.instructors.join(', '), section.topic,
          section.notes].filter(Boolean).join('\n'),
      })
      section.meetings.forEach((meeting, n) => {
        for (const { date, start, end } of expandMeeting(meeting, term))
          add(date, start, endOf({ start, end }), `${meeting.room}, ${siteName(meeting.site)}`, part, `m${n}`)
      })
      const { exam } = section
      if (exam) add(exam.date, exam.start, endOf(exam), siteName(section.meetings[0]?.site ?? ''), ' – exam', 'exam')
    }
    for (const [id, date, what] of deadlinesOf(term))
      calendar.createEvent({ id: `${term.code}-${id}@ridgeway`, stamp: at, start: date, end: shiftDate(date, 1), allDay: true,
        summary: `${term.name}: ${what}`,
        busystatus: ICalEventBusyStatus.FREE })
  }
  return calendar.toString()
}

/** A meeting of a student with an advisor. `sequence` counts its changes, so that a calendar program takes the newest. */
export interface MeetingGiven { id: number, start: Instant, minutes: number, place: string, about: string, sequence: number, with: string }

/** Meetings in iCalendar (RFC 5545): ids stay the same when one is moved, and its sequence grows (RFC 5546, 2.1.4). */
export function writeMeetings(name: string, meetings: readonly MeetingGiven[], at: Instant): string {
  const calendar = new ICalCalendar({ name, prodId: { company: 'Ridgeway', product: 'Ridgeway', language: 'EN' } })
  for (const { id, start, minutes, place, about, sequence, with: whom } of meetings) calendar.createEvent({
    id: `meeting-${id}@ridgeway`, stamp: at, sequence, summary: `Advising: ${whom}`, location: place, description: about,
    start: new Date(start), end: new Date(Date.parse(start) + minutes * 60_000), status: ICalEventStatus.CONFIRMED,
    busystatus: ICalEventBusyStatus.BUSY })
  return calendar.toString()
}

/** The days that decide something, as the academic calendar has them. */
const deadlinesOf = (term: Term): [id: string, date: LocalDate, what: string][] => [
  ['fees', term.feesDue, 'fees due'], ['start', term.start, 'classes begin'], ['add', term.addBy, 'last day to add'],
  ['drop', term.dropBy, 'last day to drop without a record'], ['withdraw', term.withdrawBy, 'last day to withdraw'], ['end', term.end,
    'classes end'],
]
/** A time of day that may lie after midnight. */
const instantAfter = (date: LocalDate, minutes: number, zone: string) =>
  toInstant(shiftDate(date, Math.floor(minutes / DAY_MINUTES)), minutes % DAY_MINUTES, zone)

/** Hours that somebody is busy in every week of a term. */
interface BusyBlock { days: Weekday[], start: number, end: number, name: string }
/** What a calendar file says about a term: blocks that come back, and how much of it was left out and why. */
export interface BusyRead { blocks: BusyBlock[], once: number, wholeDays: number }

const MOST_EVENTS = 2000
const MOST_TIMES = 400

/**
 * Reads when somebody is busy from an .ics file: what comes back in a term, by weekday and hours, as blocks to keep free. What happens only
 * once or lasts whole days is counted and left out. Throws `Error` with words where the file is no calendar.
 */
export function readBusy(text: string, term: Pick<Term, 'start' | 'end'>, zone: string): BusyRead {
  const events = eventsOf(text)
  const times = new Map<string, { days: Set<Weekday>, count: number, start: number, end: number, name: string }>()
  let wholeDays = 0
  for (const event of events) {
    if (event.startDate.isDate) {
      wholeDays++
      continue
    }
    for (const { start, end } of occurrencesOf(event, term)) {
      const from = local(start, zone)
      const length = Math.round((end.toJSDate().getTime() - start.toJSDate().getTime()) / 60_000)
      if (from.date < term.start || from.date > term.end || length <= 0) continue
      const key = `${event.summary ?? ''}|${from.minutes}|${length}`
      const known = times.get(key) ?? { days: new Set(), count: 0, start: from.minutes, end: Math.min(DAY_MINUTES, from.minutes + length),
        name: (event.summary ?? '').slice(0, 40) }
      known.days.add(weekdayOf(from.date))
      known.count++
      times.set(key, known)
    }
  }
  const all = [...times.values()]
  const back = all.filter(one => one.count > 1)
  return { blocks: back.map(({ days, start, end, name }) => ({ days: ORDER.filter(day => days.has(day)), start, end, name }))
    .sort((a, b) => a.start - b.start), once: all.filter(one => !back.includes(one)).reduce((sum, one) => sum + one.count, 0), wholeDays }
}

/** The events of a calendar file; throws `Error` with words where it is none, or far too long. */
function eventsOf(text: string): ICAL.Event[] {
  let events
  try {
    const calendar = new ICAL.Component(ICAL.parse(text))
    events = calendar.getAllSubcomponents('vevent').map(one => new ICAL.Event(one))
    for (const one of calendar.getAllSubcomponents('vtimezone')) ICAL.TimezoneService.register(one)
  }
  catch {
    throw new Error('This is no calendar file. Export it as .ics from your calendar program and choose it again.')
  }
  if (events.length > MOST_EVENTS) throw new Error(`The file holds more than ${MOST_EVENTS} events. Export a shorter time.`)
  return events
}

/** Most days of one event: a break, not a year. */
const MOST_DAYS = 31

/**
 * The whole days that an .ics file names within a term, each day of an event by itself, in order and each once: holidays and breaks of an
 * academic calendar. Throws as `readBusy` does.
 */
export function readWholeDays(text: string, term: Pick<Term, 'start' | 'end'>): { date: LocalDate, name: string }[] {
  const found = new Map<LocalDate, string>()
  for (const event of eventsOf(text)) {
    if (!event.startDate.isDate) continue
    for (const { start, end } of occurrencesOf(event, term)) {
      const day = start.clone()
      // The end of a whole-day event is the day after it (RFC 5545, 3.6.1); without one it lasts a day.
      for (let n = 0; n < MOST_DAYS && (n === 0 || day.compare(end) < 0); n++, day.adjust(1, 0, 0, 0)) {
        const date = day.toString().slice(0, 10)
        if (date >= term.start && date <= term.end && !found.has(date)) found.set(date, (event.summary ?? '').trim().slice(0,
          60) || 'No class')
      }
    }
  }
  return [...found].sort(([a], [b]) => a < b ? -1 : 1).map(([date, name]) => ({ date, name }))
}

const ORDER: Weekday[] = ['M', 'T', 'W', 'R', 'F', 'S', 'U']

/** Every time of an event up to the end of the term, bounded. */
function* occurrencesOf(event: ICAL.Event, { end }: Pick<Term, 'end'>): Generator<{ start: ICAL.Time, end: ICAL.Time }> {
  if (!event.isRecurring()) {
    yield { start: event.startDate, end: event.endDate }
    return
  }
  const iterator = event.iterator()
  for (let n = 0; n < MOST_TIMES; n++) {
    const next = iterator.next()
    if (!next || next.toString().slice(0, 10) > end) return
    const { startDate, endDate } = event.getOccurrenceDetails(next)
    yield { start: startDate, end: endDate }
  }
}

/** The local date and minute of a calendar's time; a floating time is taken as it stands. */
function local(time: ICAL.Time, zone: string): { date: LocalDate, minutes: number } {
  if (time.zone === ICAL.Timezone.localTimezone)
    return { date: time.toString().slice(0, 10), minutes: time.hour * 60 + time.minute }
  const parts = Object.fromEntries(new Intl.DateTimeFormat('en-CA', { timeZone: zone, hourCycle: 'h23', year: 'numeric', month: '2-digit',
    day: '2-digit', hour: '2-digit', minute: '2-digit' }).formatToParts(time.toJSDate()).map(part => [part.type, part.value]))
  return { date: `${parts.year}-${parts.month}-${parts.day}`, minutes: Number(parts.hour) * 60 + Number(parts.minute) }
}
