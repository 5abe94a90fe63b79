import { and, eq, inArray, isNull, sql } from 'drizzle-orm'
import type { StudentPlan } from '@ridgeway/formats'
import { operationsBetween, type Plan } from '@ridgeway/core/planning'
import type { Executor } from '../database'
import * as s from '../schema'
import { groupBy } from './group'
import { officePeople } from './people'
import { change, plain } from './plain'
import type { Progress } from './long-works'
import { addPlan, makeCurrent, writePlan } from './plans'

/** A plan as it stands, with what it is in the tables. */
export interface StandingPlan extends StudentPlan { id: number, version: number }

/** The plans of these students, or of all, that are not deleted. */
export async function readPlansOf(db: Executor, students: readonly number[] | null): Promise<StandingPlan[]> {
  if (students?.length === 0) return []
  const whose = students ? inArray(s.plans.student, [...students]) : undefined
  const rows = await db.select({ id: s.plans.id, name: s.plans.name, current: s.plans.current, version: s.plans.version,
    details: s.plans.details, username: s.people.username }).from(s.plans).innerJoin(s.people, eq(s.people.id, s.plans.student))
    .where(and(isNull(s.plans.deletedAt), isNull(s.people.erased), whose)).orderBy(s.plans.id)
  const entries = groupBy(await db.select({ entry: s.planEntries }).from(s.planEntries).innerJoin(s.plans, eq(s.plans.id,
    s.planEntries.plan))
    .where(and(isNull(s.plans.deletedAt), whose)).orderBy(s.planEntries.term, s.planEntries.course, s.planEntries.id),
  row => row.entry.plan)
  return rows.map(({ details, ...row }) => ({ ...row,
    plan: { ...details, entries: (entries.get(row.id) ?? []).map(({ entry: { plan: _, ...entry } }) => entry) } }))
}

/** Who is registered for what: terms, courses and section labels, in a fixed order. */
export const readRegistered = (db: Executor): Promise<{ username: string, term: string, course: string, label: string }[]> =>
  plain(db, `SELECT p.username, r.term, r.course, x.label FROM registrations r JOIN sections x ON x.id = r.section
    JOIN people p ON p.id = r.student WHERE p.erased_at IS NULL ORDER BY r.term, r.course, x.label, p.username`)

/**
 * Puts plans in force that came in a file: a new one is added beside those a student has, one of a known name becomes what the file says,
 * by operations in the name of who brought it, so that everybody who has it open sees what became of it.
 */
export async function keepPlans(tx: Executor, plans: readonly (StudentPlan & { before: StudentPlan | null })[],
  ids: ReadonlyMap<string, number>, { by, at, step }: { by: number | null, at: string, step: Progress }): Promise<void> {
  if (plans.length === 0) return
  const author = by ?? (await officePeople(tx))[0]?.id
  for (const [i, { username, name, current, plan, before }] of plans.entries()) {
    await step('plans', i, plans.length)
    const student = ids.get(username)!
    const begun = before as StandingPlan | null ?? await emptyPlan(tx, student, name)
    let id = begun?.id
    if (begun) {
      const after = withIdsOf(begun.plan, plan)
      const operations = operationsBetween(begun.plan, after).map((operation, i) => ({ version: begun.version + i + 1, operation }))
      await writePlan(tx, begun.id, begun.plan, after, begun.version + operations.length, { by: author ?? student, at, batch: null,
        operations })
    }
    else id = await addPlan(tx, { student, name, plan })
    if (current) await makeCurrent(tx, student, id!)
  }
  const students = [...new Set(plans.map(one => ids.get(one.username)!))]
  for (let at = 0; at < students.length; at += 500)
    await change(tx, 'UPDATE students SET version = version + 1 WHERE person IN (?)', [students.slice(at, at + 500)])
}

/** The plan of this name that a student has had for as long as this transaction: who begins has one, and it is empty. */
async function emptyPlan(tx: Executor, student: number, name: string): Promise<StandingPlan | null> {
  const [row] = await tx.select().from(s.plans).where(and(eq(s.plans.student, student), eq(s.plans.name, name), isNull(s.plans.deletedAt),
    sql`NOT EXISTS (SELECT 1 FROM ${s.planEntries} WHERE ${s.planEntries.plan} = ${s.plans.id})`))
  return row ? { id: row.id, version: row.version, username: '', name, current: row.current, plan: { ...row.details, entries: [] } } : null
}

/** The same plan, with the ids of the courses and places that stand in both: what only changes is not taken out and put in again. */
function withIdsOf(before: Plan, after: Plan): Plan {
  const free = [...before.entries]
  const take = (test: (entry: Plan['entries'][number]) => boolean) => {
    const at = free.findIndex(test)
    return at < 0 ? undefined : free.splice(at, 1)[0]!.id
  }
  const entries = after.entries.map(entry => ({ entry, id: take(one => one.course === entry.course && one.term === entry.term) }))
    .map(({ entry, id }) => ({ ...entry, id: id ?? take(one => one.course === entry.course) ?? entry.id }))
  const held = [...before.placeholders]
  const placeholders = after.placeholders.map((place) => {
    const at = held.findIndex(one => one.line === place.line && one.term === place.term)
    return at < 0 ? { ...place, id: `${place.id}-${before.placeholders.length}` } : { ...place, id: held.splice(at, 1)[0]!.id }
  })
  return { ...after, entries, placeholders }
}
