import { and, asc, count, desc, eq, gt, inArray, isNotNull, isNull } from 'drizzle-orm'
import type { Plan, PlanOperation } from '@ridgeway/core/planning'
import type { Executor } from '../database'
import { comments, people, planEntries, planOperations, plans, suggestions } from '../schema'

export type PlanRow = typeof plans.$inferSelect
type Head = Pick<PlanRow, 'id' | 'name' | 'version' | 'current'>
export const headOf = ({ id, name, version, current }: Head): Head => ({ id, name, version, current })

/** A student's plans that are not deleted, oldest first. */
export const listPlans = (db: Executor, student: number): Promise<PlanRow[]> =>
  db.select().from(plans).where(and(eq(plans.student, student), isNull(plans.deletedAt))).orderBy(asc(plans.id))

/** One of a student's plans, deleted or not. */
export async function findPlan(db: Executor, student: number, id: number): Promise<PlanRow | undefined> {
  return (await db.select().from(plans).where(and(eq(plans.student, student), eq(plans.id, id))))[0]
}

export async function planOf(db: Executor, row: PlanRow): Promise<Plan> {
  const entries = await db.select().from(planEntries).where(eq(planEntries.plan, row.id)).orderBy(asc(planEntries.term),
    asc(planEntries.course), asc(planEntries.id))
  return { ...row.details, entries: entries.map(({ plan: _, ...entry }) => entry) }
}

/** What was done to a plan after a version, and by whom; the last fifty. */
export const changesSince = (db: Executor, plan: number, since: number) =>
  db.select({ by: people.name, person: people.id, operation: planOperations.operation }).from(planOperations)
    .innerJoin(people, eq(people.id, planOperations.by)).where(and(eq(planOperations.plan, plan), gt(planOperations.version, since)))
    .orderBy(asc(planOperations.version)).limit(50)

export async function batchIsKnown(db: Executor, plan: number, batch: string): Promise<boolean> {
  const found = await db.select({ version: planOperations.version }).from(planOperations).where(
    and(eq(planOperations.plan, plan), eq(planOperations.batch, batch))).limit(1)
  return found.length > 0
}

/** Writes what became of a plan: its operations, its removed, changed and new entries, and what it holds besides. */
export async function writePlan(tx: Executor, id: number, before: Plan, after: Plan, version: number,
  done: { by: number, at: string, batch: string | null, operations: { version: number, operation: PlanOperation }[] }) {
  const { operations, ...by } = done
  if (operations.length > 0) await tx.insert(planOperations).values(operations.map(one => ({ plan: id, ...by, ...one })))
  const old = new Map(before.entries.map(entry => [entry.id, entry]))
  const kept = new Set(after.entries.map(entry => entry.id))
  const changed = after.entries.filter(entry => old.has(entry.id) && old.get(entry.id) !== entry)
  // A changed row is taken out and put in again: two courses may change places, which no order of updates allows.
  const gone = [...before.entries.filter(entry => !kept.has(entry.id)), ...changed].map(entry => entry.id)
  if (gone.length > 0) await tx.delete(planEntries).where(and(eq(planEntries.plan, id), inArray(planEntries.id, gone)))
  const fresh = [...changed, ...after.entries.filter(entry => !old.has(entry.id))]
  if (fresh.length > 0) await tx.insert(planEntries).values(fresh.map(entry => ({ plan: id, ...entry })))
  const { entries: _, ...details } = after
  await tx.update(plans).set({ version, details }).where(eq(plans.id, id))
}

export async function addPlan(tx: Executor, made: { student: number, name: string, plan: Plan }): Promise<number> {
  const { entries, ...details } = made.plan
  const [row] = await tx.insert(plans).values({ student: made.student, name: made.name, current: false, version: 0, details,
    deletedAt: null }).$returningId()
  if (entries.length > 0) await tx.insert(planEntries).values(entries.map(entry => ({ plan: row!.id, ...entry })))
  return row!.id
}

export const renamePlan = (tx: Executor, id: number, name: string) => tx.update(plans).set({ name }).where(eq(plans.id, id))

export async function makeCurrent(tx: Executor, student: number, id: number) {
  await tx.update(plans).set({ current: false }).where(and(eq(plans.student, student), eq(plans.current, true)))
  await tx.update(plans).set({ current: true }).where(eq(plans.id, id))
}

/** Deletes a plan, or brings it back with null; of deleted ones the newest are kept, so that deleting can be undone. */
export async function markDeleted(tx: Executor, plan: PlanRow, deletedAt: string | null, most: number) {
  await tx.update(plans).set({ deletedAt }).where(eq(plans.id, plan.id))
  const deleted = await tx.select({ id: plans.id }).from(plans).where(and(eq(plans.student, plan.student), isNotNull(plans.deletedAt)))
    .orderBy(desc(plans.deletedAt), desc(plans.id))
  const old = deleted.slice(most).map(row => row.id)
  if (old.length === 0) return
  for (const table of [planEntries, planOperations, suggestions]) await tx.delete(table).where(inArray(table.plan, old))
  await tx.delete(plans).where(inArray(plans.id, old))
}

export async function countComments(db: Executor, student: number): Promise<number> {
  return (await db.select({ n: count() }).from(comments).where(eq(comments.student, student)))[0]!.n
}
export const addComment = (tx: Executor, comment: typeof comments.$inferInsert) => tx.insert(comments).values(comment)
