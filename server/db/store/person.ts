import { type Column, eq, inArray, or, type SQL, sql } from 'drizzle-orm'
import type { MySqlTable } from 'drizzle-orm/mysql-core'
import type { Executor } from '../database'
import * as s from '../schema'
import { fromInstantText, plain } from './plain'

/** A table with rows about a person: by which columns they are found, and whether they go when the person is erased. */
interface About {
  table: MySqlTable
  by: readonly Column[]
  /** `gone`: the rows go. `kept`: numbers of the whole college rest on them; they stay, without words and without a name. */
  erased: 'gone' | 'kept'
  /** Not for the person's own file: it opens something, or holds what others wrote for themselves. */
  secret?: true
}

/** Every table with rows about a person, those first that refer to others. A table that has such rows and is not here is an error. */
export const ABOUT: readonly About[] = [
  { table: s.suggestions, by: [s.suggestions.student], erased: 'gone' },
  { table: s.plans, by: [s.plans.student], erased: 'gone' },
  { table: s.studentPrograms, by: [s.studentPrograms.student], erased: 'gone' },
  { table: s.records, by: [s.records.student], erased: 'gone' },
  { table: s.holds, by: [s.holds.student], erased: 'gone' },
  { table: s.exceptions, by: [s.exceptions.student], erased: 'gone' },
  { table: s.exceptionRequests, by: [s.exceptionRequests.student], erased: 'gone' },
  { table: s.programRequests, by: [s.programRequests.student], erased: 'gone' },
  { table: s.milestones, by: [s.milestones.student], erased: 'gone' },
  { table: s.usePins, by: [s.usePins.student], erased: 'gone' },
  { table: s.comments, by: [s.comments.student], erased: 'gone' },
  { table: s.notes, by: [s.notes.student], erased: 'gone', secret: true },
  { table: s.signOffs, by: [s.signOffs.student], erased: 'gone' },
  { table: s.signOffRequests, by: [s.signOffRequests.student], erased: 'gone' },
  { table: s.releaseCodes, by: [s.releaseCodes.student], erased: 'gone', secret: true },
  { table: s.advisorsBefore, by: [s.advisorsBefore.student], erased: 'gone' },
  { table: s.meetingsWith, by: [s.meetingsWith.student], erased: 'gone' },
  { table: s.lineUpRows, by: [s.lineUpRows.student], erased: 'gone' },
  { table: s.weekWishes, by: [s.weekWishes.student], erased: 'gone' },
  { table: s.sharedWeeks, by: [s.sharedWeeks.student], erased: 'gone' },
  { table: s.shortlist, by: [s.shortlist.student], erased: 'gone' },
  { table: s.keptSearches, by: [s.keptSearches.student], erased: 'gone' },
  { table: s.calendarFeeds, by: [s.calendarFeeds.student], erased: 'gone', secret: true },
  { table: s.waitlistEntries, by: [s.waitlistEntries.student], erased: 'gone' },
  { table: s.registrationRuns, by: [s.registrationRuns.student], erased: 'gone' },
  { table: s.termsAcceptances, by: [s.termsAcceptances.student], erased: 'gone' },
  { table: s.crowdPresses, by: [s.crowdPresses.student], erased: 'gone', secret: true },
  { table: s.paymentChoices, by: [s.paymentChoices.student], erased: 'gone' },
  { table: s.fileLooks, by: [s.fileLooks.student, s.fileLooks.person], erased: 'gone', secret: true },
  { table: s.notices, by: [s.notices.person, s.notices.student], erased: 'gone' },
  { table: s.noticeWishes, by: [s.noticeWishes.person], erased: 'gone' },
  { table: s.presence, by: [s.presence.student, s.presence.person], erased: 'gone', secret: true },
  { table: s.sessions, by: [s.sessions.person], erased: 'gone', secret: true },
  { table: s.invitations, by: [s.invitations.person], erased: 'gone', secret: true },
  { table: s.apiTokens, by: [s.apiTokens.person], erased: 'gone', secret: true },
  { table: s.registrations, by: [s.registrations.student], erased: 'kept' },
  { table: s.moneyEntries, by: [s.moneyEntries.student], erased: 'kept' },
  { table: s.payments, by: [s.payments.student], erased: 'kept' },
  { table: s.ledger, by: [s.ledger.student], erased: 'kept' },
  { table: s.students, by: [s.students.person], erased: 'kept' },
]

const isOf = ({ by }: About, person: number): SQL => or(...by.map(column => eq(column, person)))!

/** All rows about a person, by the name of their table, but for what opens something and what others wrote for themselves. */
export async function everythingAbout(db: Executor, person: number): Promise<Record<string, unknown[]>> {
  const found: Record<string, unknown[]> = {}
  for (const about of ABOUT) if (!about.secret) found[nameOf(about.table)] = await db.select().from(about.table).where(isOf(about, person))
  const plans = (found.plans as { id: number }[]).map(plan => plan.id)
  found.planEntries = plans.length > 0 ? await db.select().from(s.planEntries).where(inArray(s.planEntries.plan, plans)) : []
  found.notesShared = await db.select().from(s.notes).where(sql`${s.notes.student} = ${person} AND ${s.notes.shared}`)
  return found
}
const nameOf = (table: MySqlTable) => Object.entries(s).find(([, one]) => one === table)![0]

export async function personOf(db: Executor, id: number) {
  const [row] = await db.select({ name: s.people.name, username: s.people.username, email: s.people.email }).from(s.people)
    .where(eq(s.people.id, id))
  return row!
}
/** Somebody by their name to sign in with, locked. */
export async function lockPerson(tx: Executor, username: string) {
  const [row] = await tx.select({ id: s.people.id, name: s.people.name, username: s.people.username, email: s.people.email,
    role: s.people.role,
    erased: s.people.erased }).from(s.people).where(eq(s.people.username, username)).for('update')
  return row
}

/** What somebody still has that others count on; it is settled before they are erased. */
export async function tiesOf(tx: Executor, person: number): Promise<{ registered: number, owing: number, advises: number }> {
  const [row] = await plain<{ registered: number, owing: number | null, advises: number }>(tx,
    `SELECT (SELECT COUNT(*) FROM registrations WHERE student = ? AND NOT graded)
         + (SELECT COUNT(*) FROM waitlist_entries WHERE student = ?)
         registered,
       (SELECT SUM(IF(kind IN ('charge', 'payback'), cents, -CAST(cents AS SIGNED))) FROM money_entries WHERE student = ?) owing,
       (SELECT COUNT(*) FROM students WHERE advisor = ?) advises`, [person, person, person, person])
  return { registered: Number(row!.registered), owing: Number(row!.owing ?? 0), advises: Number(row!.advises) }
}

/** The words that the ledger keeps with what happened: reasons, answers and names are somebody's own. */
const WORDS = ['reason', 'words', 'because', 'note', 'contact', 'person', 'name']

interface Erased { id: number, email: string, username: string }
/** Erases a person: what is about them alone goes, what the college's numbers rest on stays without a name. */
export async function erase(tx: Executor, { id: person, email, username }: Erased, at: string): Promise<void> {
  const plans = (await tx.select({ id: s.plans.id }).from(s.plans).where(eq(s.plans.student, person))).map(plan => plan.id)
  if (plans.length > 0) {
    await tx.delete(s.planEntries).where(inArray(s.planEntries.plan, plans))
    await tx.delete(s.planOperations).where(inArray(s.planOperations.plan, plans))
  }
  for (const about of ABOUT) if (about.erased === 'gone') await tx.delete(about.table).where(isOf(about, person))
  await tx.delete(s.deputies).where(or(eq(s.deputies.advisor, person), eq(s.deputies.deputy, person)))
  await tx.delete(s.officeHours).where(eq(s.officeHours.advisor, person))
  await plain(tx, `UPDATE ledger SET detail = JSON_REMOVE(detail, ${WORDS.map(word => `'$.${word}'`).join(', ')})
    WHERE student = ? OR (student IS NULL AND JSON_VALUE(detail, '$.person') = ?)`, [person, username])
  await plain(tx, 'UPDATE registrations SET run = \'\' WHERE student = ?', [person])
  await plain(tx, 'UPDATE students SET advisor = NULL, placements = \'{}\', cohorts = \'[]\', target_load = NULL, program_confirmed = TRUE '
  + 'WHERE person = ?', [person])
  await plain(tx, `UPDATE people SET name = ?, username = ?, email = ?, password_hash = NULL, story = '', erased_at = ? WHERE id = ?`,
    [`Erased person ${person}`, `erased-${person}`, '', fromInstantText(at), person])
  await plain(tx, 'DELETE FROM caught_mails WHERE sent_to = ?', [email])
}

/** Columns that say nothing to a person, or are worked out from others. */
const isPlain = (name: string) => !['listedCourse', 'waitingOf', 'waiting', 'what', 'mark', 'hash', 'passwordHash', 'secret',
  'code'].includes(name)
/** A row as the person's own file has it. */
export const plainRow = (row: unknown) => Object.fromEntries(Object.entries(row as object).filter(([name]) => isPlain(name)))
