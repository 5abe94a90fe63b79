import { eq, inArray, like, sql } from 'drizzle-orm'
import * as s from '../../server/db/schema'
import { TERM } from './caller'
import { db } from './client'

export { TERM }

/**
 * Generated students made fresh: nothing on record, nothing registered, every gate open, so that seats alone decide.
 * The college's clock stands in the opening hour.
 */
export async function freshStudents(count: number, from = 0): Promise<number[]> {
  const rows = await db.select({ id: s.people.id }).from(s.people).innerJoin(s.students, eq(s.students.person, s.people.id))
    .where(like(s.people.username, 's0%')).orderBy(s.people.id).limit(count).offset(from)
  const ids = rows.map(row => row.id)
  await db.delete(s.records).where(inArray(s.records.student, ids))
  await emptyWeeks(ids)
  await db.delete(s.holds).where(inArray(s.holds.student, ids))
  await db.update(s.students).set({ programConfirmed: true }).where(inArray(s.students.person, ids))
  const at = '2026-11-01T12:00:00.000Z'
  for (const student of ids) {
    await db.insert(s.signOffs).ignore().values({ student, term: TERM, advisor: 1, at, note: '', copy: [] })
    await db.insert(s.termsAcceptances).ignore().values({ student, term: TERM, at })
  }
  await db.update(s.clockSetting).set({ demoNow: '2026-11-10T16:00:00.000Z', setAt: new Date().toISOString() })
  return ids
}

/** Takes away what these students are registered for and have lined up; their seats are free again. */
export async function emptyWeeks(ids: readonly number[]) {
  const held = await db.select().from(s.registrations).where(inArray(s.registrations.student, [...ids]))
  for (const row of held) await db.update(s.seatPools).set({ taken: sql`${s.seatPools.taken} - 1` }).where(eq(s.seatPools.id, row.pool))
  await db.delete(s.registrations).where(inArray(s.registrations.student, [...ids]))
  await db.delete(s.ledger).where(inArray(s.ledger.student, [...ids]))
  await db.delete(s.lineUpRows).where(inArray(s.lineUpRows.student, [...ids]))
}

/** Nothing is owed, and no hold stands: when the clock is moved, what is unpaid would become one. */
export async function settleAccounts(ids: readonly number[]) {
  await db.delete(s.moneyEntries).where(inArray(s.moneyEntries.student, [...ids]))
  await db.delete(s.holds).where(inArray(s.holds.student, [...ids]))
}

/** An open lecture without a lab, whose rules ask nothing of a student without record, with one seat category that is now empty. */
export async function lectureOf(course: string, capacity: number): Promise<{ section: number, pool: number }> {
  const [chosen] = await db.select({ section: s.sections.id, pool: s.seatPools.id }).from(s.sections)
    .innerJoin(s.seatPools, eq(s.seatPools.section, s.sections.id))
    .where(sql`${s.sections.course} = ${course} AND ${s.sections.term} = ${TERM} AND NOT ${s.sections.cancelled}`).limit(1)
  const { section } = chosen!
  const holders = await db.select({ student: s.registrations.student }).from(s.registrations).where(eq(s.registrations.section, section))
  if (holders.length > 0) await emptyWeeks(holders.map(row => row.student))
  await db.delete(s.ledger).where(eq(s.ledger.section, section))
  await db.update(s.seatPools).set({ capacity, taken: 0, held: 0 }).where(eq(s.seatPools.id, chosen!.pool))
  return chosen!
}

/** A row in each student's line-up for these sections of a course; ids of the rows by student. */
export async function lineUpAll(ids: readonly number[], course: string, sectionIds: number[]): Promise<Map<number, number>> {
  await db.delete(s.lineUpRows).where(inArray(s.lineUpRows.student, [...ids]))
  await db.insert(s.lineUpRows).values(ids.map(student => ({ student, term: TERM, course, position: 0, sectionIds })))
  const rows = await db.select().from(s.lineUpRows).where(inArray(s.lineUpRows.student, [...ids]))
  return new Map(rows.map(row => [row.student, row.id]))
}
