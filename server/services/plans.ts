import { and, eq } from 'drizzle-orm'
import { applyOperation, type PlanEntry, type PlanOperation } from '@ridgeway/core'
import type { Database } from '../db/connect'
import { inTransaction } from '../db/retry'
import { planEntries, planOperations, plans } from '../db/schema'
import { loadCollege } from './catalog'
import { currentInstant } from './clock'
import { Refusal } from './errors'
import { findTerm, readPlan } from './students'

export interface PlanEdit { version: number, entries: PlanEntry[], skipped: { operation: PlanOperation, why: string }[] }

/**
 * Applies operations to the student's current plan in one transaction. The plan may have moved on since `baseVersion`:
 * operations are merged onto it as it is, and those that no longer make sense are skipped and named.
 */
export async function editPlan(db: Database, edit: { student: number, actor: number, baseVersion: number, operations: readonly PlanOperation[] }): Promise<PlanEdit> {
  const college = await loadCollege(db)
  for (const operation of edit.operations) {
    if (operation.kind === 'place' && !college.catalog.courses.has(operation.course)) throw new Refusal(422, 'course-unknown', `There is no course ${operation.course}.`, 'Search the catalog for its code.')
    if (operation.kind === 'place' || operation.kind === 'move') findTerm(college, operation.term)
  }
  return inTransaction(db, async (tx) => {
    const { plan: { id } } = await readPlan(tx, edit.student)
    const [plan] = await tx.select().from(plans).where(eq(plans.id, id)).for('update')
    if (plan!.version < edit.baseVersion) throw new Refusal(409, 'plan-version', 'This plan is older than the one on your screen.', 'Reload the page.')
    let { entries } = await readPlan(tx, edit.student)
    let version = plan!.version
    const skipped: PlanEdit['skipped'] = []
    const at = await currentInstant(tx)
    for (const operation of edit.operations) {
      const next = applyOperation(entries, operation)
      if (typeof next === 'string') {
        skipped.push({ operation, why: next })
        continue
      }
      await write(tx, id, operation, next)
      entries = next
      version++
      await tx.insert(planOperations).values({ plan: id, version, by: edit.actor, at, operation })
    }
    await tx.update(plans).set({ version }).where(eq(plans.id, id))
    return { version, entries, skipped }
  })
}

async function write(tx: Parameters<Parameters<Database['transaction']>[0]>[0], plan: number, operation: PlanOperation, entries: readonly PlanEntry[]) {
  const here = and(eq(planEntries.plan, plan), eq(planEntries.id, operation.entry))
  if (operation.kind === 'remove') return tx.delete(planEntries).where(here)
  const entry = entries.find(candidate => candidate.id === operation.entry)!
  return operation.kind === 'place' ? tx.insert(planEntries).values({ plan, ...entry }) : tx.update(planEntries).set(entry).where(here)
}
