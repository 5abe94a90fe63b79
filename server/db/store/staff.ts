import { and, eq, sql } from 'drizzle-orm'
import type { Executor } from '../database'
import { planEntries, plans, students } from '../schema'
import { plain } from './plain'

export async function adviseesOf(db: Executor, advisor: number): Promise<number[]> {
  return (await db.select({ id: students.person }).from(students).where(eq(students.advisor, advisor))).map(row => row.id)
}
/** Of these students, those whose wish to change program waits for an answer. */
export async function wishing(db: Executor, ids: readonly number[]): Promise<Set<number>> {
  if (ids.length === 0) return new Set()
  const rows = await plain<{ waiting_of: number }>(db, 'SELECT waiting_of FROM program_requests WHERE waiting_of IN (?)', [[...ids]])
  return new Set(rows.map(row => row.waiting_of))
}
/** How many students have each course in their current plan for a term. */
export async function demandOf(db: Executor, term: string): Promise<Map<string, number>> {
  const rows = await db.select({ course: planEntries.course, students: sql<number>`count(distinct ${planEntries.plan})` })
    .from(planEntries).innerJoin(plans, eq(plans.id, planEntries.plan)).where(and(eq(planEntries.term, term), eq(plans.current, true)))
    .groupBy(planEntries.course)
  return new Map(rows.map(row => [row.course, Number(row.students)]))
}
