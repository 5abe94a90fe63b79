import { seatsOf } from '@ridgeway/core/demand'
import type { SeatRow } from '#shared/contract/views/college'
import type { Looking } from '../college/asked'
import { findTerm } from '../college/college'
import { plannedOf } from '../college/planned'

/** Seats of a term as they stand, with how many students plan each course; what needs doing first. */
export async function readSeatsView({ db, college, input }: Looking<{ term: string }>): Promise<SeatRow[]> {
  findTerm(college, input.term)
  const sections = await college.sections.now(db, input.term)
  const planned = await plannedOf(db, college, input.term)
  const offered = seatsOf(sections)
  return sections.map(({ id, course, label, part, waiting, cancelled, pools }) => {
    const sum = (pick: (pool: typeof pools[number]) => number) => pools.reduce((total, pool) => total + pick(pool), 0)
    const row = { id, pools: pools.map(pool => pool.id), course, label, part, waiting, cancelled, capacity: sum(pool => pool.capacity),
      taken: sum(pool => pool.taken),
      held: sum(pool => pool.held), planned: planned.get(course) ?? 0 }
    return { ...row, ...needOf(row, offered.get(course)?.seats ?? 0) }
  }).sort((a, b) => b.urgency - a.urgency || byText(a.course, b.course) || byText(a.label, b.label))
}

/** What a section needs of the office, in words, and how urgent it is. */
function needOf(row: Omit<SeatRow, 'need' | 'urgency'>, offered: number): Pick<SeatRow, 'need' | 'urgency'> {
  const needs: [boolean, number, string][] = [
    [row.cancelled && row.taken > 0, 1000, `cancelled with ${row.taken} registered`],
    [row.waiting > 0, 100 + row.waiting, `${row.waiting} on the waitlist`],
    [!row.cancelled && row.planned > offered, 10, `${row.planned} plan the course, ${offered} seats`],
    [!row.cancelled && row.capacity <= row.taken + row.held, 1, 'full'],
  ]
  const mine = needs.filter(([applies]) => applies)
  return { need: mine.map(([, , words]) => words).join(' · '), urgency: mine.reduce((sum, [, weight]) => sum + weight, 0) }
}

/** In the order of the characters themselves: codes are no words, and there are thousands of them. */
const byText = (one: string, other: string) => one < other ? -1 : one > other ? 1 : 0
