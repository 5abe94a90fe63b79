import { and, asc, count, eq, inArray } from 'drizzle-orm'
import type { Meeting, SeatPool, Section } from '@ridgeway/core/catalog'
import type { Executor } from '../connect'
import { meetings, seatPools, sections, waitlistEntries } from '../schema'

export interface SectionFilter { term: string, courses?: readonly string[], ids?: readonly number[] }

/** Sections of a term with meetings, seats and waitlist lengths. With `lock`, their seat rows are locked in order of id. */
export async function findSections(db: Executor, filter: SectionFilter, lock = false): Promise<Section[]> {
  if (filter.courses?.length === 0 || filter.ids?.length === 0) return []
  const rows = await db.select().from(sections).where(and(
    eq(sections.term, filter.term),
    filter.courses ? inArray(sections.course, [...filter.courses]) : undefined,
    filter.ids ? inArray(sections.id, [...filter.ids]) : undefined,
  )).orderBy(asc(sections.course), asc(sections.label))
  const ids = rows.map(row => row.id)
  if (ids.length === 0) return []
  const meetingRows = await db.select().from(meetings).where(inArray(meetings.section, ids)).orderBy(asc(meetings.id))
  const waiting = await db.select({ section: waitlistEntries.section, waiting: count() }).from(waitlistEntries)
    .where(inArray(waitlistEntries.section, ids)).groupBy(waitlistEntries.section)
  const pools = await findPools(db, ids, lock)
  const meetingsBy = groupBy(meetingRows, row => row.section)
  const poolsBy = groupBy(pools, row => row.section)
  const waitingBy = new Map(waiting.map(row => [row.section, row.waiting]))
  return rows.map(row => ({
    ...row,
    meetings: (meetingsBy.get(row.id) ?? []).map(({ id: _, section: __, ...meeting }): Meeting => meeting),
    pools: (poolsBy.get(row.id) ?? []).map(({ section: _, ...pool }): SeatPool => pool),
    waiting: waitingBy.get(row.id) ?? 0,
  }))
}

async function findPools(db: Executor, sectionIds: number[], lock: boolean) {
  const query = db.select().from(seatPools).where(inArray(seatPools.section, sectionIds)).orderBy(asc(seatPools.id))
  return lock ? query.for('update') : query
}

function groupBy<T, K>(rows: readonly T[], key: (row: T) => K): Map<K, T[]> {
  const groups = new Map<K, T[]>()
  for (const row of rows) {
    const group = groups.get(key(row))
    if (group) group.push(row)
    else groups.set(key(row), [row])
  }
  return groups
}
