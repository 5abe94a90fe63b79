import { ne } from 'drizzle-orm'
import type { Executor } from '../database'
import { people, type Role } from '../schema'
import { type CollegeStamp, STAMP, stampOf, type StampRow } from './college'
import { change, fromInstantText, plain, type Statement, together } from './plain'

export interface Person { id: number, name: string, username: string, role: Role }
/** Somebody signed in, as the database has them now. */
export interface Visitor extends Person { session: string }

export async function findForSignIn(db: Executor, username: string): Promise<Person & { passwordHash: string | null } | undefined> {
  const [found] = await plain<Person & { password_hash: string | null }>(db,
    'SELECT id, name, username, role, password_hash FROM people WHERE username = ?', [username])
  if (!found) return undefined
  const { password_hash: passwordHash, ...person } = found
  return { ...person, passwordHash }
}

/** Accounts that the demonstration's sign-in page offers, with their stories. */
export const demoPeople = (db: Executor) =>
  db.select({ username: people.username, name: people.name, role: people.role, story: people.story }).from(people)
    .where(ne(people.story, ''))

/** Begins a session; of too many the oldest end. */
export async function beginSession(tx: Executor,
  session: { id: string, person: number, mark: string, at: string, until: string, most: number }): Promise<void> {
  const at = fromInstantText(session.at)
  await plain(tx, 'DELETE FROM sessions WHERE person = ? AND valid_until <= ?', [session.person, at])
  const kept = await plain<{ id: string }>(tx, 'SELECT id FROM sessions WHERE person = ? ORDER BY started_at DESC, id FOR UPDATE',
    [session.person])
  const old = kept.slice(session.most - 1).map(row => row.id)
  if (old.length > 0) await plain(tx, 'DELETE FROM sessions WHERE id IN (?)', [old])
  await plain(tx, 'INSERT INTO sessions (id, person, started_at, valid_until, mark) VALUES (?, ?, ?, ?, ?)', [session.id,
    session.person, at, fromInstantText(session.until), session.mark])
}

export const endSession = (tx: Executor, id: string) => change(tx, 'DELETE FROM sessions WHERE id = ?', [id])

const VISITORS = 'SELECT s.id session, p.id, p.name, p.username, p.role FROM sessions s JOIN people p ON p.id = s.person '
  + 'WHERE s.id IN (?) AND s.valid_until > ? AND s.mark = SHA2(p.password_hash, 256)'
const visitorsOf = (rows: readonly Visitor[]) =>
  new Map(rows.map(({ session, id, name, username, role }) => [session, { session, id, name, username, role }]))

/** Who holds these sessions: each that has not ended, whose password is still the one that was given. */
export async function readVisitors(db: Executor, sessions: readonly string[], now: string): Promise<Map<string, Visitor>> {
  if (sessions.length === 0) return new Map()
  return visitorsOf(await plain<Visitor>(db, VISITORS, [[...sessions], fromInstantText(now)]))
}

/** Who comes with which sessions, the advisors of which students, and how the college stands: one round trip, however many they are. */
export async function readComers(db: Executor, comers: readonly { session: string | null, student: number }[], now: string):
Promise<{ stamp: CollegeStamp, visitors: Map<string, Visitor>, advisors: Map<number, number | null> }> {
  const sessions = [...new Set(comers.flatMap(({ session }) => session ?? []))]
  const students = [...new Set(comers.map(one => one.student))].filter(student => student > 0)
  const visitors: Statement[] = sessions.length > 0 ? [[VISITORS, [sessions, fromInstantText(now)]]] : []
  const advisors: Statement[] = students.length > 0 ? [['SELECT person, advisor FROM students WHERE person IN (?)', [students]]] : []
  const [stamps, ...others] = await together(db, [[STAMP, []], ...visitors, ...advisors])
  const rows = <Row>(asked: readonly Statement[]) => (asked.length > 0 ? others.shift()! : []) as Row[]
  return { stamp: stampOf((stamps as StampRow[])[0]), visitors: visitorsOf(rows<Visitor>(visitors)),
    advisors: new Map(rows<{ person: number, advisor: number | null }>(advisors).map(({ person, advisor }) => [person, advisor])) }
}

/** The advisor of a student; undefined when there is no such student. */
export async function advisorOf(db: Executor, student: number): Promise<number | null | undefined> {
  const [row] = await plain<{ advisor: number | null }>(db, 'SELECT advisor FROM students WHERE person = ?', [student])
  return row?.advisor
}

/**
 * Counts one more try under each key and tells how many there were in the window, this one included. One statement a key, so that
 * tries at the same moment, through whichever server, are all counted.
 */
export async function countTries(db: Executor, keys: readonly string[], now: string, until: string): Promise<number[]> {
  const counts: number[] = []
  for (const key of keys) {
    const at = fromInstantText(now)
    const end = fromInstantText(until)
    await plain(db, 'INSERT INTO sign_in_tries (try_key, tries, counted_until) VALUES (?, 1, ?) ON DUPLICATE KEY UPDATE '
    + 'tries = IF(counted_until <= ?, 1, tries + 1), counted_until = IF(counted_until <= ?, ?, counted_until)', [key, end, at, at, end])
    const [row] = await plain<{ tries: number }>(db, 'SELECT tries FROM sign_in_tries WHERE try_key = ?', [key])
    counts.push(row?.tries ?? 1)
  }
  return counts
}

/** A try that was right does not count. */
export async function forgetTry(db: Executor, keys: readonly string[]): Promise<void> {
  if (keys.length > 0) await plain(db, 'UPDATE sign_in_tries SET tries = GREATEST(tries - 1, 0) WHERE try_key IN (?)', [[...keys]])
}
export const forgetOldTries = (db: Executor, now: string) =>
  plain(db, 'DELETE FROM sign_in_tries WHERE counted_until <= ? LIMIT 500', [fromInstantText(now)])

/** Keeps an invitation; an earlier one of that person ends. */
export async function keepInvitation(tx: Executor, { id, person, until }: { id: string, person: number, until: string }): Promise<void> {
  await plain(tx, 'DELETE FROM invitations WHERE person = ?', [person])
  await plain(tx, 'INSERT INTO invitations (id, person, valid_until) VALUES (?, ?, ?)', [id, person, fromInstantText(until)])
}

/** Takes an invitation that holds: of several who try at once one has it. */
export async function takeInvitation(tx: Executor, id: string, at: string): Promise<Person | undefined> {
  const [found] = await plain<Person>(tx, 'SELECT p.id, p.name, p.username, p.role FROM invitations i JOIN people p ON p.id = i.person '
    + 'WHERE i.id = ? AND i.valid_until > ? FOR UPDATE', [id, fromInstantText(at)])
  if (!found || await change(tx, 'DELETE FROM invitations WHERE id = ?', [id]) === 0) return undefined
  return found
}

/** Sets a password; sessions that were begun with an older one end by it. */
export const keepPassword = (tx: Executor, person: number, passwordHash: string) =>
  change(tx, 'UPDATE people SET password_hash = ? WHERE id = ?', [passwordHash, person])

/** Adds somebody who signs in. */
export async function addPerson(tx: Executor,
  { username, name, email, role, passwordHash }: Omit<Person, 'id'> & { email: string, passwordHash: string }): Promise<Person> {
  const [row] = await plain<{ next: number }>(tx, 'SELECT IFNULL(MAX(id), 0) + 1 next FROM people')
  const id = Number(row!.next)
  await tx.insert(people).values({ id, username, name, email, role, passwordHash, story: '' })
  return { id, name, username, role }
}

/** Those of the registrar's office. */
export const officePeople = (db: Executor) => plain<{ id: number, name: string }>(db,
  'SELECT id, name FROM people WHERE role = \'office\' ORDER BY id')

/** Students whose rows are read in one go. */
const AT_ONCE = 500
/**
 * Ranges of numbers, first and last, that hold so many students each: rows of all of them at once would fill the server's memory. Others
 * are served between two.
 */
export async function* rangesOf(ids: readonly number[]): AsyncGenerator<readonly [from: number, to: number]> {
  for (let at = 0; at < ids.length; at += AT_ONCE) {
    yield [ids[at]!, ids[Math.min(at + AT_ONCE, ids.length) - 1]!]
    await new Promise(resolve => setImmediate(resolve))
  }
}

/** The mark of a student \`s\` with the current plan \`pl\`. */
export const FILE_MARK = 'CONCAT_WS(\' \', s.version, pl.id, pl.version)'
/** Somebody with a file, and what tells whether it or its current plan changed. */
export interface MarkedStudent { id: number, name: string, mark: string }
/** Everybody who has a file and was not erased, by number. */
export const markedStudents = (db: Executor) => plain<MarkedStudent>(db,
  `SELECT s.person id, p.name, ${FILE_MARK} mark FROM students s JOIN people p ON p.id = s.person AND p.erased_at IS NULL
   LEFT JOIN plans pl ON pl.current_of = s.person ORDER BY s.person`)

/** The first students by number, as many as are asked for. */
export const firstStudents = async (db: Executor, most: number): Promise<number[]> => (await plain<{ id: number }>(db,
  'SELECT s.person id FROM students s JOIN people p ON p.id = s.person AND p.erased_at IS NULL ORDER BY s.person LIMIT ?', [most]))
  .map(row => row.id)

/** The version of every student's file, by student. */
export const fileVersions = async (db: Executor) => new Map((await plain<{ id: number, version: number }>(db,
  'SELECT person id, version FROM students ORDER BY person')).map(row => [row.id, row.version]))
