import type { Section } from '@ridgeway/core/catalog'
import { seatsOf } from '@ridgeway/core/demand'
import type { SeatList, SeatOrder, SeatRow } from '#shared/contract/views/college'
import type { Looking } from '../college/asked'
import { findTerm } from '../college/college'
import { plannedOf } from '../college/planned'

interface SeatsAsked { term: string, text: string, by: SeatOrder, down?: '0' | '1' | undefined, from: number, most: number }

/** A part of a term's sections, with their seats as they were at most a second ago and how many students plan each course. */
export async function readSeatsView({ db, college, input }: Looking<SeatsAsked>): Promise<SeatList> {
  findTerm(college, input.term)
  const { sections } = await college.sections.withChanges(db, input.term)
  const { rows, ...sums } = rowsOf(sections, await plannedOf(db, college, input.term))
  const words = input.text.toLowerCase().split(/\s+/).filter(Boolean)
  const found = words.length === 0 ? rows : rows.filter(({ text }) => words.every(word => text.includes(word)))
  return { rows: ordered(found, input).slice(input.from, input.from + input.most).map(({ row }) => row), found: found.length, ...sums }
}

interface Rows extends Omit<SeatList, 'rows' | 'found'> { rows: { row: SeatRow, text: string }[] }
const made = new WeakMap<readonly Section[], { planned: ReadonlyMap<string, number>, rows: Rows }>()

/** All rows of a term, what needs doing first; made once for each reading of the seats. */
function rowsOf(sections: readonly Section[], planned: ReadonlyMap<string, number>): Rows {
  const before = made.get(sections)
  if (before?.planned === planned) return before.rows
  const offered = seatsOf(sections)
  const rows = sections.map(({ id, course, label, part, waiting, cancelled, pools }) => {
    const sum = (pick: (pool: typeof pools[number]) => number) => pools.reduce((total, pool) => total + pick(pool), 0)
    const bare = { id, pools: pools.map(pool => pool.id), course, label, part, waiting, cancelled, capacity: sum(pool => pool.capacity),
      taken: sum(pool => pool.taken), held: sum(pool => pool.held), planned: planned.get(course) ?? 0 }
    const row = { ...bare, ...needOf(bare, offered.get(course)?.seats ?? 0) }
    return { row, text: `${course}-${label} ${part} ${row.need}`.toLowerCase() }
  }).sort(({ row: a }, { row: b }) => b.urgency - a.urgency || byPlace(a, b))
  const pools = new Map(sections.flatMap(one => one.cancelled ? [] : one.pools.map(pool => [pool.id, pool] as const)))
  const total = (pick: (pool: Section['pools'][number]) => number) => [...pools.values()].reduce((sum, pool) => sum + pick(pool), 0)
  const all = { rows, sections: rows.length, needing: rows.filter(({ row }) => row.urgency > 9).length,
    capacity: total(pool => pool.capacity), taken: total(pool => pool.taken) }
  made.set(sections, { planned, rows: all })
  return all
}

/** The rows by another column; what is equal there stays in the order of what needs doing. */
function ordered(rows: Rows['rows'], { by, down }: Pick<SeatsAsked, 'by' | 'down'>): Rows['rows'] {
  if (by === 'need') return down === '1' ? rows.toReversed() : rows
  const valueOf = by === 'left' ? (row: SeatRow) => row.capacity - row.taken - row.held : (row: SeatRow) => row[by]
  const sign = down === '1' ? -1 : 1
  return rows.toSorted(({ row: a }, { row: b }) => {
    const [one, other] = [valueOf(a), valueOf(b)]
    return one < other ? -sign : one > other ? sign : 0
  })
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
const byPlace = (a: SeatRow, b: SeatRow) => byText(a.course, b.course) || byText(a.label, b.label)
