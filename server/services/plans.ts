import { and, asc, eq, gt, isNull } from 'drizzle-orm'
import type { Course } from '@ridgeway/core/catalog'
import { applyAll, applyToPlan, EMPTY_PLAN, type Plan, type PlanOperation } from '@ridgeway/core/planning'
import { creditRange, formatCredits } from '@ridgeway/words'
import type { Database, Executor } from '../db/connect'
import { inTransaction } from '../db/retry'
import { comments, people, planEntries, planOperations, plans } from '../db/schema'
import { findTerm, loadCollege, type College } from './catalog'
import { currentInstant } from './clock'
import { Refusal } from './errors'
import { announcePlans } from './plan-watch'

/** How many plans a student may keep (common practice, no source). */
export const MOST_PLANS = 5

export interface PlanHead {
  id: number
  name: string
  version: number
  current: boolean
}
export interface PlanEdit {
  version: number
  plan: Plan
  skipped: { operation: PlanOperation, why: string }[]
}

/** A student's plans that are not deleted, oldest first. */
export async function listPlans(tx: Executor, student: number): Promise<PlanHead[]> {
  const rows = await tx.select().from(plans).where(and(eq(plans.student, student), isNull(plans.deletedAt))).orderBy(asc(plans.id))
  return rows.map(({ id, name, version, current }) => ({ id, name, version, current }))
}

/** One of a student's plans, or the current one when none is named. */
export async function readPlan(tx: Executor, student: number, id?: number): Promise<{ head: PlanHead, plan: Plan }> {
  const rows = await tx.select().from(plans).where(
    and(eq(plans.student, student), isNull(plans.deletedAt), id === undefined ? eq(plans.current, true) : eq(plans.id, id)),
  ).limit(1)
  const row = rows[0]
  if (!row && id !== undefined)
    throw new Refusal(404, 'plan-unknown', 'There is no such plan; it may have been deleted.', 'Go back to your current plan.')
  if (!row) throw new Error(`student ${student} has no current plan`)
  return { head: { id: row.id, name: row.name, version: row.version, current: row.current },
    plan: { ...row.details, entries: await readEntries(tx, row.id) } }
}

/** As `readPlan`, with what was done to it after a version, and by whom. */
export async function readPlanSince(tx: Executor, student: number, id: number, since: number) {
  const read = await readPlan(tx, student, id)
  const changes = await tx.select({ by: people.name, person: people.id, operation: planOperations.operation }).from(planOperations)
    .innerJoin(people, eq(people.id, planOperations.by))
    .where(and(eq(planOperations.plan, id), gt(planOperations.version, since))).orderBy(asc(planOperations.version)).limit(50)
  return { ...read, changes }
}

async function readEntries(tx: Executor, plan: number) {
  const rows = await tx.select().from(planEntries).where(eq(planEntries.plan, plan)).orderBy(asc(planEntries.term), asc(planEntries.course),
    asc(planEntries.id))
  return rows.map(({ plan: _, ...entry }) => entry)
}

interface EditRequest {
  student: number
  actor: number
  plan?: number | undefined
  baseVersion: number
  batch?: string | undefined
  operations: readonly PlanOperation[]
}

/**
 * Applies operations to one of the student's plans in one transaction. The plan may have moved on since `baseVersion`:
 * operations are merged onto it as it is, and those that no longer make sense are skipped and named. A batch that was
 * done before is not done again.
 */
export async function editPlan(db: Database, edit: EditRequest): Promise<PlanEdit> {
  const college = await loadCollege(db)
  checkOperations(college, edit.operations)
  const result = await inTransaction(db, async (tx) => {
    const { head: { id } } = await readPlan(tx, edit.student, edit.plan)
    const [row] = await tx.select().from(plans).where(eq(plans.id, id)).for('update')
    if (row!.version < edit.baseVersion)
      throw new Refusal(409, 'plan-version', 'This plan is older than the one on your screen.', 'Reload the page.')
    let plan: Plan = { ...row!.details, entries: await readEntries(tx, id) }
    let version = row!.version
    const skipped: PlanEdit['skipped'] = []
    if (
      edit.batch
      && (await tx.select().from(planOperations).where(and(eq(planOperations.plan, id), eq(planOperations.batch, edit.batch))).limit(1))
        .length > 0
    ) return { version, plan, skipped }
    const at = await currentInstant(tx)
    const before = plan
    for (const operation of edit.operations) {
      const changing = operation.kind === 'credits' ? plan.entries.find(entry => entry.id === operation.entry) : undefined
      if (changing && operation.kind === 'credits') checkCredits(college.catalog.courses.get(changing.course)!, operation.credits)
      const next = applyToPlan(plan, operation)
      if (typeof next === 'string') {
        skipped.push({ operation, why: next })
        continue
      }
      plan = next
      version++
      await tx.insert(planOperations).values({ plan: id, version, by: edit.actor, at, operation, batch: edit.batch ?? null })
    }
    await writePlan(tx, id, before, plan, version)
    return { version, plan, skipped }
  })
  announcePlans(edit.student)
  return result
}

function checkOperations(college: College, operations: readonly PlanOperation[]) {
  for (const operation of operations) {
    if (operation.kind === 'place') {
      const course = college.catalog.courses.get(operation.course)
      if (!course) throw new Refusal(422, 'course-unknown', `There is no course ${operation.course}.`, 'Search the catalog for its code.')
      checkCredits(course, operation.credits)
    }
    if ('term' in operation) findTerm(college, operation.term)
    if (operation.kind === 'wishes')
      [...operation.wishes.termsOff, operation.wishes.latestFinish].forEach(term => term && findTerm(college, term))
  }
}

function checkCredits(course: Course, credits: number) {
  if (credits >= course.credits && credits <= course.creditsMax) return
  throw new Refusal(422, 'credits-range', `${course.code} has ${creditRange(course)}, not ${formatCredits(credits)}.`,
    'Choose credits within the course\'s range.')
}

type Transaction = Parameters<Parameters<Database['transaction']>[0]>[0]

/** Writes what became of the plan: removed and changed rows, then new ones, and what it holds besides. */
async function writePlan(tx: Transaction, id: number, before: Plan, after: Plan, version: number) {
  const old = new Map(before.entries.map(entry => [entry.id, entry]))
  const kept = new Map(after.entries.map(entry => [entry.id, entry]))
  const changed = [...kept.values()].filter(entry => old.has(entry.id) && old.get(entry.id) !== entry)
  // A changed row is taken out and put in again: two courses may change places, which no order of updates allows.
  for (const entry of [...[...old.values()].filter(one => !kept.has(one.id)), ...changed])
    await tx.delete(planEntries).where(and(eq(planEntries.plan, id), eq(planEntries.id, entry.id)))
  const fresh = [...changed, ...after.entries.filter(entry => !old.has(entry.id))]
  if (fresh.length > 0) await tx.insert(planEntries).values(fresh.map(entry => ({ plan: id, ...entry })))
  const { entries: _, ...details } = after
  await tx.update(plans).set({ version, details }).where(eq(plans.id, id))
}

/** Makes another plan, empty or as a copy, and applies operations to it; all of it or nothing. At most five are kept. */
export async function addPlan(db: Database,
  wish: { student: number, name: string, copyOf: number | null, operations?: readonly PlanOperation[] | undefined }): Promise<PlanHead> {
  checkOperations(await loadCollege(db), wish.operations ?? [])
  const head = await inTransaction(db, async (tx) => {
    const kept = await lockPlans(tx, wish.student)
    if (kept.length >= MOST_PLANS)
      throw new Refusal(422, 'too-many-plans', `You keep ${MOST_PLANS} plans already.`, 'Delete one that you no longer need.')
    const start = wish.copyOf === null ? EMPTY_PLAN : (await readPlan(tx, wish.student, wish.copyOf)).plan
    const plan = applyAll(start, wish.operations ?? [])
    if (typeof plan === 'string')
      throw new Refusal(422, 'plan-operations', `The plan could not be made: ${plan}.`, 'Nothing was kept. Check the file and try again.')
    const { entries, ...details } = plan
    const [made] = await tx.insert(plans).values({ student: wish.student, name: freeName(wish.name, kept), current: false, version: 0,
      details, deletedAt: null }).$returningId()
    if (entries.length > 0) await tx.insert(planEntries).values(entries.map(entry => ({ plan: made!.id, ...entry })))
    return (await readPlan(tx, wish.student, made!.id)).head
  })
  announcePlans(wish.student)
  return head
}

const lockPlans = (tx: Transaction, student: number) =>
  tx.select().from(plans).where(and(eq(plans.student, student), isNull(plans.deletedAt))).for('update')

function freeName(name: string, kept: readonly { name: string }[]): string {
  for (let n = 1; ; n++) {
    const candidate = n === 1 ? name : `${name.slice(0, 55)} ${n}`
    if (!kept.some(plan => plan.name === candidate)) return candidate
  }
}

/** Renames a plan, makes it the current one, deletes it or brings it back. */
export async function changePlan(db: Database,
  change: { student: number, plan: number, name?: string | undefined, current?: true | undefined, deleted?: boolean | undefined },
): Promise<void> {
  await inTransaction(db, async (tx) => {
    const kept = await lockPlans(tx, change.student)
    const [row] = await tx.select().from(plans).where(and(eq(plans.id, change.plan), eq(plans.student, change.student)))
    if (!row) throw new Refusal(404, 'plan-unknown', 'There is no such plan.', 'Go back to your current plan.')
    if (change.deleted === true && row.current)
      throw new Refusal(422, 'plan-current', 'The current plan cannot be deleted: sign-off and registration read it.',
        'Make another plan the current one first.')
    if (change.deleted === false && row.deletedAt && kept.length >= MOST_PLANS)
      throw new Refusal(422, 'too-many-plans', `You keep ${MOST_PLANS} plans already.`, 'Delete one that you no longer need.')
    if (change.name !== undefined && kept.some(other => other.id !== row.id && other.name === change.name))
      throw new Refusal(422, 'plan-name', `Another plan is called ${change.name}.`, 'Choose a name of its own.')
    if (change.current && row.deletedAt) throw new Refusal(422, 'plan-deleted', 'This plan was deleted.', 'Bring it back first.')
    if (change.current) await tx.update(plans).set({ current: false }).where(eq(plans.student, change.student))
    const deletedAt = change.deleted === undefined ? row.deletedAt : change.deleted ? await currentInstant(tx) : null
    await tx.update(plans).set({ name: change.name ?? row.name, current: change.current ?? row.current, deletedAt }).where(
      eq(plans.id, row.id),
    )
  })
  announcePlans(change.student)
}

export interface PlanComment {
  id: number
  author: number
  name: string
  at: string
  term: string | null
  entry: string | null
  text: string
}

/** What student and advisor wrote beside the plans, oldest first. */
export async function readComments(tx: Executor, student: number): Promise<PlanComment[]> {
  const rows = await tx.select({ comment: comments, name: people.name }).from(comments).innerJoin(people, eq(people.id, comments.author))
    .where(eq(comments.student, student)).orderBy(asc(comments.id))
  return rows.map(({ comment: { id, author, at, term, entry, text }, name }) => ({ id, author, name, at, term, entry, text }))
}

export async function addComment(db: Database,
  comment: { student: number, author: number, term: string | null, entry: string | null, text: string }): Promise<PlanComment[]> {
  if (comment.term) findTerm(await loadCollege(db), comment.term)
  await db.insert(comments).values({ ...comment, at: await currentInstant(db) })
  announcePlans(comment.student)
  return readComments(db, comment.student)
}
