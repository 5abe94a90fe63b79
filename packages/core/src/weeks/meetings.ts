import { DateTime } from 'luxon'
import type { Instant, LocalDate, Meeting, Section, Term, TravelTime, Weekday } from '../catalog/types'

/** One class on one day, local time. */
export interface Occurrence {
  date: LocalDate
  start: number
  end: number
  site: string
}

const WEEKDAYS: readonly Weekday[] = ['M', 'T', 'W', 'R', 'F', 'S', 'U']
const DAY_MS = 86_400_000
export const DAY_MINUTES = 1440
/** No class is longer than a day and a half. */
const MOST_MINUTES = 2160

/** Days since 1 January 1970. */
export const dayNumber = (date: LocalDate) => Date.parse(`${date}T00:00:00Z`) / DAY_MS
const dateOf = (day: number): LocalDate => new Date(day * DAY_MS).toISOString().slice(0, 10)

/** 1 January 1970 was a Thursday. */
export function weekdayOf(date: LocalDate): Weekday {
  return WEEKDAYS[(dayNumber(date) + 3) % 7]!
}

export type TermCalendar = Pick<Term, 'noClass' | 'movedDays'>
type Timetable = Pick<Meeting, 'days' | 'first' | 'last'>

const remembered = new WeakMap<TermCalendar, Map<string, readonly LocalDate[]>>()

/**
 * The real dates on which a meeting takes place: every listed weekday from first to last date,
 * without the days on which there are no classes, and with the days that follow another weekday's timetable.
 * A calendar is not changed in place, so that its dates are worked out once for each set of weekdays between two dates.
 */
function datesOf(meeting: Timetable, term: TermCalendar): readonly LocalDate[] {
  const known = remembered.get(term) ?? new Map<string, readonly LocalDate[]>()
  remembered.set(term, known)
  const key = `${meeting.days.join('')} ${meeting.first} ${meeting.last}`
  const before = known.get(key)
  if (before) return before
  const dates = workOutDates(meeting, term)
  known.set(key, dates)
  return dates
}

function workOutDates(meeting: Timetable, term: TermCalendar): LocalDate[] {
  const free = new Set(term.noClass.map(day => day.date))
  const moved = new Map(term.movedDays.map(day => [day.date, day.follows]))
  const days = new Set(meeting.days)
  const found: LocalDate[] = []
  for (let day = dayNumber(meeting.first); day <= dayNumber(meeting.last); day++) {
    const date = dateOf(day)
    if (!free.has(date) && days.has(moved.get(date) ?? weekdayOf(date))) found.push(date)
  }
  return found
}

/** A meeting on each of its real dates. */
export function expandMeeting(meeting: Meeting, term: TermCalendar): Occurrence[] {
  const { start, end, site } = meeting
  return datesOf(meeting, term).map(date => ({ date, start, end, site }))
}

/** All occurrences of a section, in order of time. */
export function expandSection(section: Pick<Section, 'meetings'>, term: TermCalendar): Occurrence[] {
  return section.meetings.flatMap(meeting => expandMeeting(meeting, term)).sort(byTime)
}

function byTime(a: Occurrence, b: Occurrence): number {
  return a.date < b.date ? -1 : a.date > b.date ? 1 : a.start - b.start || a.end - b.end
}

/** The instant at which a local time of day falls on a date in a zone; daylight saving is the zone's own. */
export function toInstant(date: LocalDate, minutes: number, zone: string): Instant {
  return DateTime.fromISO(date, { zone }).set({ hour: Math.floor(minutes / 60), minute: minutes % 60 }).toUTC().toISO()!
}

/** The local date and minute of the day of an instant in a zone. */
export function fromInstant(instant: Instant, zone: string): { date: LocalDate, minutes: number } {
  const local = DateTime.fromISO(instant, { zone })
  return { date: local.toISODate()!, minutes: local.hour * 60 + local.minute }
}

export interface Clash {
  /** The first date on which the two meet: that on which the later of them begins. */
  date: LocalDate
  /** `overlap`: both at the same time; `travel`: not enough time between two sites. */
  kind: 'overlap' | 'travel'
  /** Minutes that are missing for the way; 0 for an overlap. */
  shortBy: number
}

/** An occurrence on one line of minutes, so that what ends after midnight runs into the next day. */
export interface Span { from: number, to: number, site: string, date: LocalDate }

/** A class that ends at or before the minute it starts at ends on the next day, like one that ends after minute 1440. */
export const endOf = ({ start, end }: Pick<Occurrence, 'start' | 'end'>) => end <= start ? end + DAY_MINUTES : end

/** Occurrences as spans, in order of time. */
export function spansOf(occurrences: readonly Occurrence[]): Span[] {
  return occurrences.map((one): Span => {
    const day = dayNumber(one.date) * DAY_MINUTES
    return { from: day + one.start, to: day + endOf(one), site: one.site, date: one.date }
  }).sort(bySpan)
}
const bySpan = (a: Span, b: Span) => a.from - b.from || a.to - b.to

/**
 * The first clash in time between two lists of occurrences, or null.
 * Classes that touch (one ends as the other begins) do not clash at one site.
 */
export function findClash(a: readonly Occurrence[], b: readonly Occurrence[], travel: readonly TravelTime[]): Clash | null {
  return firstOfSpans(spansOf(a), spansOf(b), travel)?.clash ?? null
}

/** The longest way between two sites, in minutes. */
export const longestOf = (travel: readonly TravelTime[]) => travel.reduce((most, way) => Math.max(most, way.minutes), 0)

/** Two spans that clash, and the minute at which the later of them begins. */
export interface Found { at: number, one: Span, other: Span, clash: Clash }

/** The first two spans of two lists in order of time that clash, those of the first list before those of the second. */
export function firstOfSpans(mine: readonly Span[], theirs: readonly Span[], travel: readonly TravelTime[]): Found | null {
  const longestWay = longestOf(travel)
  let first: Found | null = null
  let begin = 0
  for (const one of mine) {
    if (first && one.from > first.at) break
    // What ended long before this one began ended before all that follows.
    while (begin < theirs.length && theirs[begin]!.from + MOST_MINUTES + longestWay < one.from) begin++
    for (let i = begin; i < theirs.length && theirs[i]!.from < one.to + longestWay; i++) {
      const other = theirs[i]!
      const clash = clashOf(one, other, travel)
      const at = Math.max(one.from, other.from)
      if (clash && (!first || at < first.at)) first = { at, one, other, clash }
    }
  }
  return first
}

/** Which of two was found first, were all spans in two lists. */
export const isBefore = (a: Found, b: Found): boolean => (a.at - b.at || bySpan(a.one, b.one) || bySpan(a.other, b.other)) < 0

function clashOf(one: Span, other: Span, travel: readonly TravelTime[]): Clash | null {
  const later = one.from > other.from ? one : other
  if (one.from < other.to && other.from < one.to) return { date: later.date, kind: 'overlap', shortBy: 0 }
  const gap = later.from - Math.min(one.to, other.to)
  const needed = travelMinutes(one.site, other.site, travel)
  return gap < needed ? { date: later.date, kind: 'travel', shortBy: needed - gap } : null
}

/** Minutes from one site to another, the same both ways; 0 where none is given (online, or the same site). */
function travelMinutes(from: string, to: string, travel: readonly TravelTime[]): number {
  if (from === to) return 0
  return travel.find(way => (way.from === from && way.to === to) || (way.from === to && way.to === from))?.minutes ?? 0
}
