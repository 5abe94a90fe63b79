import { shiftDate } from '../catalog/terms'
import type { Section, TravelTime } from '../catalog/types'
import { expandSection, type TermCalendar } from './meetings'

/**
 * Minutes of travel between sites in a week, on the average of the weeks in which there are classes: on every real date from each class to
 * the next at another site. Ways from and to where somebody lives are not known, and not in it.
 */
export function travelPerWeek(sections: readonly Section[], term: TermCalendar, travel: readonly TravelTime[]): number {
  const minutes = new Map(travel.flatMap(way => [[`${way.from} ${way.to}`, way.minutes], [`${way.to} ${way.from}`, way.minutes]]))
  const byDate = new Map<string, { start: number, site: string }[]>()
  for (const section of sections)
    for (const { date, start, site } of expandSection(section, term)) byDate.set(date, [...byDate.get(date) ?? [], { start, site }])
  if (byDate.size === 0) return 0
  let sum = 0
  for (const list of byDate.values()) {
    const sites = list.sort((a, b) => a.start - b.start).map(one => one.site)
    sites.slice(1).forEach((site, i) => sum += minutes.get(`${sites[i]} ${site}`) ?? 0)
  }
  const weeks = new Set([...byDate.keys()].map(mondayOf))
  return sum / weeks.size
}

/** The Monday of the week of a date. */
export function mondayOf(date: string): string {
  return shiftDate(date, -((new Date(`${date}T00:00:00Z`).getUTCDay() + 6) % 7))
}
