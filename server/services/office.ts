import { and, eq, sql } from 'drizzle-orm'
import type { Database } from '../db/connect'
import { findSections } from '../db/repositories/sections'
import * as s from '../db/schema'
import { findTerm, loadCollege } from './catalog'

export interface SeatRow {
  id: number
  course: string
  label: string
  part: string
  capacity: number
  taken: number
  held: number
  waiting: number
  cancelled: boolean
  planned: number
}

/** Seats of a term as they stand, with how many students plan each course. */
export async function readSeats(db: Database, termCode: string): Promise<SeatRow[]> {
  findTerm(await loadCollege(db), termCode)
  const sections = await findSections(db, { term: termCode })
  const demand = await db.select({ course: s.planEntries.course, students: sql<number>`count(distinct ${s.planEntries.plan})` })
    .from(s.planEntries).innerJoin(s.plans, eq(s.plans.id, s.planEntries.plan)).where(
      and(eq(s.planEntries.term, termCode), eq(s.plans.current, true)),
    ).groupBy(s.planEntries.course)
  const planned = new Map(demand.map(row => [row.course, Number(row.students)]))
  return sections.map(section => ({
    id: section.id,
    course: section.course,
    label: section.label,
    part: section.part,
    waiting: section.waiting,
    cancelled: section.cancelled,
    capacity: section.pools.reduce((sum, pool) => sum + pool.capacity, 0),
    taken: section.pools.reduce((sum, pool) => sum + pool.taken, 0),
    held: section.pools.reduce((sum, pool) => sum + pool.held, 0),
    planned: planned.get(section.course) ?? 0,
  }))
}
