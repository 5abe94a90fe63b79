import { and, eq, sql } from 'drizzle-orm'
import type { Executor } from '../database'
import { planEntries, plans } from '../schema'

/** How many students have each course in their current plan for a term. */
export async function demandOf(db: Executor, term: string): Promise<Map<string, number>> {
  const rows = await db.select({ course: planEntries.course, students: sql<number>`count(distinct ${planEntries.plan})` })
    .from(planEntries).innerJoin(plans, eq(plans.id, planEntries.plan)).where(and(eq(planEntries.term, term), eq(plans.current, true)))
    .groupBy(planEntries.course)
  return new Map(rows.map(row => [row.course, Number(row.students)]))
}
