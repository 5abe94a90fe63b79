import type { Instant, LocalDate, Weekday } from '../catalog/types'
import { shiftDate } from '../catalog/terms'
import { toInstant, weekdayOf } from '../weeks/meetings'

/** When an advisor can be met: every week on a day, in slots of so many minutes. Times are minutes since local midnight. */
export interface OfficeHours { day: Weekday, start: number, end: number, length: number, place: string }
/** One time at which somebody can be met. */
export interface Slot { start: Instant, minutes: number, place: string }

const endOf = ({ start, minutes }: Pick<Slot, 'start' | 'minutes'>) => Date.parse(start) + minutes * 60_000
const overlaps = (one: Pick<Slot, 'start' | 'minutes'>, other: Pick<Slot, 'start' | 'minutes'>) =>
  Date.parse(one.start) < endOf(other) && Date.parse(other.start) < endOf(one)

/**
 * The free slots between two dates (both included) in a zone: those of the office hours that have not begun and are not taken, earliest
 * first. `closed` are dates on which the college has no classes, and nobody is met.
 */
export function freeSlots(hours: readonly OfficeHours[], given: {
  from: LocalDate
  until: LocalDate
  zone: string
  now: Instant
  /** Meetings that are booked. */
  taken: readonly Pick<Slot, 'start' | 'minutes'>[]
  closed: ReadonlySet<LocalDate>
}): Slot[] {
  const slots = new Map<Instant, Slot>()
  for (let date = given.from; date <= given.until; date = shiftDate(date, 1)) {
    if (given.closed.has(date)) continue
    for (const { start, end, length, place } of hours.filter(one => one.day === weekdayOf(date))) {
      for (let at = start; at + length <= end; at += length) {
        const slot = { start: toInstant(date, at, given.zone), minutes: length, place }
        if (slot.start > given.now && !given.taken.some(other => overlaps(other, slot))) slots.set(slot.start, slot)
      }
    }
  }
  return [...slots.values()].sort((a, b) => a.start < b.start ? -1 : 1)
}
