import { freeSlots, type Slot } from '@ridgeway/core/advising'
import { shiftDate } from '@ridgeway/core/catalog'
import type { Executor } from '../db/database'
import { deputiesNamed, hoursOf, slotsTaken } from '../db/store/advisors'
import type { College } from './college'

/** Days ahead for which meetings are booked. */
const DAYS_AHEAD = 21

interface Moment { at: string, date: string }
/** Free slots of an advisor from now on. */
export async function slotsOf(db: Executor, college: College, advisor: number, { at, date }: Moment): Promise<Slot[]> {
  const until = shiftDate(date, DAYS_AHEAD)
  const closed = new Set(college.catalog.terms.flatMap(term => term.noClass.map(day => day.date)))
  // Who has named a deputy is away.
  for (const away of await deputiesNamed(db, advisor, date)) {
    const last = away.until < until ? away.until : until
    for (let day = away.from > date ? away.from : date; day <= last; day = shiftDate(day, 1)) closed.add(day)
  }
  return freeSlots(await hoursOf(db, advisor), { from: date, until, zone: college.zone, now: at, closed,
    taken: await slotsTaken(db, advisor, at) })
}
