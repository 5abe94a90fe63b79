import type { Meeting, Section } from '../catalog/types'

/** Hours of a week, without dates. */
export type Hours = Pick<Meeting, 'days' | 'start' | 'end'>

/** Times at which a class could meet, and how many of those who need it are free then. */
export interface FreeTime extends Hours { free: number, of: number }

/** Minutes between two classes that nobody needs to be told apart by. */
const PASSING = 10

const meet = (a: Hours, b: Hours) => a.days.some(day => b.days.includes(day)) && a.start < b.end + PASSING && b.start < a.end + PASSING

/** The different weekly times at which these sections meet, the most usual first. */
export function usualTimes(sections: readonly Pick<Section, 'meetings' | 'cancelled'>[]): Hours[] {
  const times = new Map<string, { hours: Hours, count: number }>()
  for (const { meetings, cancelled } of sections) {
    const [first, ...more] = meetings
    if (cancelled || !first || more.some(one => one.start !== first.start || one.days.join() !== first.days.join())) continue
    const key = `${first.days.join('')} ${first.start} ${first.end}`
    const found = times.get(key) ?? { hours: { days: first.days, start: first.start, end: first.end }, count: 0 }
    times.set(key, { ...found, count: found.count + 1 })
  }
  return [...times.values()].sort((a, b) => b.count - a.count || a.hours.start - b.hours.start).map(one => one.hours)
}

/** Which of these times most of the students are free at, the best first; each student is told by the hours that are taken. */
export function bestTimes(times: readonly Hours[], busy: readonly (readonly Hours[])[], most = 3): FreeTime[] {
  return times.map((hours): FreeTime => ({ ...hours, of: busy.length,
    free: busy.filter(taken => !taken.some(one => meet(one, hours))).length }))
    .sort((a, b) => b.free - a.free).slice(0, most)
}

/** Parts of the day in which classes begin: minutes since midnight, local. */
const BANDS = [{ name: 'morning', from: 0, to: 720 }, { name: 'afternoon', from: 720, to: 1020 },
  { name: 'evening', from: 1020, to: 1440 }] as const
type DayPart = typeof BANDS[number]['name'] | 'no set time'

/** Seats of a part of the day: offered, taken or held, and how many have picked a class there without a seat yet. */
export interface DayPartDemand { part: DayPart, sections: number, seats: number, taken: number, picked: number, waiting: number }

/** When the first class of a section's week begins. */
const partOfDay = ({ meetings }: Pick<Section, 'meetings'>): DayPart => {
  const start = Math.min(...meetings.map(one => one.start))
  return BANDS.find(band => start >= band.from && start < band.to)?.name ?? 'no set time'
}

/** Seats and wishes by the time of day at which classes begin; `picked` tells how many have picked a section and are not in it. */
export function demandByDayPart(sections: readonly Section[], picked: ReadonlyMap<number, number>): DayPartDemand[] {
  const parts: DayPart[] = [...BANDS.map(band => band.name), 'no set time']
  return parts.map((part) => {
    const mine = sections.filter(one => !one.cancelled && one.seatsWith === null && partOfDay(one) === part)
    const sum = (of: (one: Section) => number) => mine.reduce((total, one) => total + of(one), 0)
    return { part, sections: mine.length, seats: sum(one => one.pools.reduce((total, pool) => total + pool.capacity, 0)),
      taken: sum(one => one.pools.reduce((total, pool) => total + pool.taken + pool.held, 0)),
      picked: sum(one => picked.get(one.id) ?? 0), waiting: sum(one => one.waiting) }
  }).filter(one => one.sections > 0)
}
