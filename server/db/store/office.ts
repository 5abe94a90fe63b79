import type { ExceptionAsked } from '@ridgeway/core/advising'
import type { CourseItem } from '@ridgeway/core/catalog'
import type { Executor } from '../database'
import { groupBy } from './group'
import { fromInstantText, plain, together, toInstant } from './plain'

/** What keeps students from pressing in a term, with the codes of their programs; in the order of their ids. */
export async function readHindrances(db: Executor, term: string) {
  // Each table once, put together here: a question for every student costs several times as much.
  const [students, programs, signed, held] = await together(db, [
    [`SELECT s.person id, s.program_confirmed confirmed FROM students s JOIN people e ON e.id = s.person AND e.erased_at IS NULL
      ORDER BY s.person`, []],
    ['SELECT sp.student, p.code FROM student_programs sp JOIN programs p ON p.id = sp.program ORDER BY sp.student, sp.position', []],
    [`SELECT student FROM sign_offs WHERE term = ?
      UNION SELECT student FROM release_codes WHERE term = ? AND used_at IS NOT NULL`, [term, term]],
    ['SELECT DISTINCT student FROM holds WHERE cleared_at IS NULL', []],
  ]) as [{ id: number, confirmed: number }[], { student: number, code: string }[], { student: number }[], { student: number }[]]
  const programsOf = groupBy(programs, row => row.student)
  const isSigned = new Set(signed.map(row => row.student))
  const isHeld = new Set(held.map(row => row.student))
  return students.map(({ id, confirmed }) => ({ id, programs: (programsOf.get(id) ?? []).map(row => row.code), unsigned: !isSigned.has(id),
    held: isHeld.has(id), unconfirmed: !confirmed }))
}

/** What students have completed, by student; those whose numbers lie between two, both included. */
export async function readCompleted(db: Executor, from: number, to: number): Promise<Map<number, CourseItem[]>> {
  const rows = await plain<Omit<CourseItem, 'id'> & { id: number, student: number }>(db,
    'SELECT id, student, course, term, credits, grade, topic, state, source FROM records WHERE state = \'completed\' '
    + 'AND student BETWEEN ? AND ? ORDER BY student, id', [from, to])
  // Every field by its name: see `named` of the sections.
  return groupBy(rows.map(({ id, student, course, term, credits, grade, topic, state, source }) =>
    ({ id: String(id), student, course, term, credits, grade, topic, state, source })), row => row.student)
}

/** Requests for exceptions without an answer, the oldest first. */
export async function openRequests(db: Executor) {
  const rows = await plain<{ id: number, student: number, name: string, username: string, asked: string, reason: string, at: string }>(db,
    `SELECT e.id, e.student, p.name, p.username, e.asked, e.reason, e.asked_at at FROM exception_requests e
     JOIN people p ON p.id = e.student WHERE e.state = 'asked' ORDER BY e.asked_at, e.id LIMIT 200`)
  return rows.map(({ student, name, username, ...row }) => ({ ...row, asked: JSON.parse(row.asked) as ExceptionAsked,
    at: toInstant(row.at), student: { id: student, name, username } }))
}

/** Students that owe something for a term, and how much in all, in cents. */
export async function unpaidOf(db: Executor, term: string): Promise<{ students: number, cents: number }> {
  const [row] = await plain<{ students: number, cents: number | null }>(db,
    `SELECT COUNT(*) students, SUM(open) cents FROM (SELECT student,
       SUM(IF(kind IN ('charge', 'payback'), cents, -CAST(cents AS SIGNED))) open
     FROM money_entries WHERE term = ? GROUP BY student HAVING open > 0) owing`, [term])
  return { students: Number(row!.students), cents: Number(row!.cents ?? 0) }
}

/** Those who owe something for a term, who owes most first; in cents. */
export async function owingFor(db: Executor, term: string): Promise<{ id: number, name: string, username: string, cents: number }[]> {
  const rows = await plain<{ id: number, name: string, username: string, cents: number }>(db,
    `SELECT p.id, p.name, p.username, owing.cents FROM (SELECT student,
       SUM(IF(kind IN ('charge', 'payback'), cents, -CAST(cents AS SIGNED))) cents
     FROM money_entries WHERE term = ? GROUP BY student HAVING cents > 0) owing JOIN people p ON p.id = owing.student
     ORDER BY owing.cents DESC, p.name, p.id LIMIT 200`, [term])
  return rows.map(row => ({ ...row, cents: Number(row.cents) }))
}

/** Students who have no advisor, with their programs. */
export async function studentsWithoutAdvisor(db: Executor) {
  const rows = await plain<{ id: number, name: string, username: string, programs: string | null }>(db,
    `SELECT p.id, p.name, p.username, GROUP_CONCAT(c.program ORDER BY c.position) programs FROM students s JOIN people p ON p.id = s.person
     LEFT JOIN student_programs c ON c.student = s.person WHERE s.advisor IS NULL AND p.erased_at IS NULL
     GROUP BY p.id, p.name, p.username ORDER BY p.name, p.id LIMIT 200`)
  return rows.map(({ programs, ...row }) => ({ ...row, programs: programs?.split(',') ?? [] }))
}

interface Standing {
  advisorless: number
  holds: number
  refused: string | null
  refusedAt: string | null
  taken: string | null
}
/** Students without advisor, holds that stand, and the newest import that was refused, unless one was put in force since. */
export async function readStanding(db: Executor) {
  const [row] = await plain<Standing>(db,
    `SELECT (SELECT COUNT(*) FROM students s JOIN people p ON p.id = s.person WHERE s.advisor IS NULL AND p.erased_at IS NULL)
       advisorless, (SELECT COUNT(*) FROM holds WHERE cleared_at IS NULL) holds,
       r.detail refused, r.happened_at refusedAt, NULL taken
     FROM (SELECT 1 one) x LEFT JOIN ledger r ON r.id = (SELECT MAX(id) FROM ledger WHERE student IS NULL AND action = 'import refused')
       AND NOT EXISTS (SELECT 1 FROM ledger i WHERE i.student IS NULL AND i.action = 'import' AND i.id > r.id)`)
  const refused = row!.refused ? JSON.parse(row!.refused) as { problems: number, first: string } : null
  return { withoutAdvisor: Number(row!.advisorless), holds: Number(row!.holds),
    refusedImport: refused && { at: toInstant(row!.refusedAt!), problems: refused.problems, first: refused.first } }
}

/** Those who are registered in a section and those who wait for it, the first first. */
export async function peopleIn(db: Executor, section: number) {
  const rows = await plain<{ kind: 'registered' | 'waiting', id: number, name: string, at: string, until: string | null }>(db,
    `SELECT 'registered' kind, p.id, p.name, r.registered_at at, NULL until FROM registrations r JOIN people p ON p.id = r.student
       WHERE r.section = ? AND NOT r.graded
     UNION ALL SELECT 'waiting', p.id, p.name, w.joined_at, w.offer_until FROM waitlist_entries w JOIN people p ON p.id = w.student
       WHERE w.section = ? ORDER BY kind, at, id`, [section, section])
  return {
    registered: rows.filter(row => row.kind === 'registered').map(({ id, name, at }) => ({ id, name, at: toInstant(at) })),
    waiting: rows.filter(row => row.kind === 'waiting').map(({ id, name, until }) => ({ id, name, offerUntil: until && toInstant(until) })),
  }
}

/** Registrations of cancelled sections: whose, of which course, the first registered first. */
export const cancelledWith = (db: Executor, date: string, most: number) => plain<{ student: number, term: string, course: string }>(db,
  `SELECT r.student, r.term, r.course FROM sections s JOIN terms t ON t.code = s.term AND t.\`end\` >= ?
     JOIN registrations r ON r.section = s.id WHERE s.cancelled AND NOT r.graded
   GROUP BY r.student, r.term, r.course ORDER BY MIN(r.registered_at), MIN(r.id) LIMIT ?`, [date, most])
/** Waits for bundles with a cancelled section in them. */
export const cancelledWaits = (db: Executor, most: number) => plain<{ id: number, student: number }>(db,
  `SELECT w.id, w.student FROM sections s JOIN sections o ON o.term = s.term AND o.course = s.course
     JOIN waitlist_entries w ON w.section = o.id AND (w.section = s.id OR JSON_CONTAINS(w.bundle, CAST(s.id AS CHAR)))
   WHERE s.cancelled GROUP BY w.id, w.student ORDER BY w.id LIMIT ?`, [most])
/** Registered sections of a course, of some students. */
export const registeredOf = (db: Executor, term: string, course: string, students: readonly number[]) => students.length === 0
  ? []
  : plain<{ student: number, section: number, pool: number, course: string }>(db,
      'SELECT student, section, pool, course FROM registrations WHERE term = ? AND course = ? AND student IN (?) AND NOT graded',
      [term, course, [...students]])
/** Of these sections those that are cancelled. */
export const cancelledOf = async (db: Executor, ids: readonly number[]): Promise<number[]> => ids.length === 0
  ? []
  : (await plain<{ id: number }>(db, 'SELECT id FROM sections WHERE id IN (?) AND cancelled', [[...ids]])).map(row => row.id)

/** A seat that is held for somebody who did not wait for it. */
export interface HeldFor {
  student: number
  at: string
  until: string
  course: string
  bundle: readonly number[]
  grading: string
  credits: number | null
  claims: readonly { section: number, pool: number }[]
}
/** Holds the seats of a bundle for somebody, as if they had waited for it and it were offered now. */
export const keepSeatFor = (tx: Executor, { student, at, until, course, bundle, grading, credits, claims }: HeldFor) => together(tx, [
  ...[...claims].sort((a, b) => a.pool - b.pool).map(({ pool }) => ['UPDATE seat_pools SET held = held + 1 WHERE id = ?', [pool]] as const),
  [`INSERT INTO waitlist_entries (student, section, joined_at, bundle, grading, credits, joined_as, offer_until, offer_pool) VALUES ?
    ON DUPLICATE KEY UPDATE bundle = VALUES(bundle), grading = VALUES(grading), credits = VALUES(credits), exchange_for = NULL,
      offer_until = VALUES(offer_until), offer_pool = VALUES(offer_pool)`,
  [claims.map(one => [student, one.section, fromInstantText(at), JSON.stringify(bundle), grading, credits, 1, fromInstantText(until),
    one.pool])]],
  ['INSERT INTO ledger (happened_at, actor, student, action, section, pool, detail) VALUES ?',
    [claims.map(one => [fromInstantText(at), null, student, 'offer seat', one.section, one.pool, JSON.stringify({ course, until,
      because: 'another section was cancelled' })])]],
])

interface HoldRow {
  id: number
  student: number
  name: string
  username: string
  reason: string
  contact: string
  placed: string
  rule: string
}
/** Holds that stand, the oldest first. */
export async function holdsStanding(db: Executor) {
  const rows = await plain<HoldRow>(db,
    `SELECT h.id, h.student, p.name, p.username, h.reason, h.contact, h.placed_at placed, h.placed_by rule FROM holds h
     JOIN people p ON p.id = h.student WHERE h.cleared_at IS NULL ORDER BY h.placed_at, h.id LIMIT 1000`)
  return rows.map(({ id, student, name, username, reason, contact, placed, rule }) => ({ id, student: { id: student, name, username },
    reason,
    contact, placed: toInstant(placed), byRule: rule !== '' }))
}
/** Who these holds are on, in the order of the students. */
interface Holder { id: number, student: number, rule: string, reason: string }
export const holdersOf = (db: Executor, holds: readonly number[]) => plain<Holder>(db,
  'SELECT id, student, placed_by rule, reason FROM holds WHERE id IN (?) AND cleared_at IS NULL ORDER BY student, id', [[...holds]])
export const clearHolds = (tx: Executor, holds: readonly number[], at: string) =>
  plain(tx, 'UPDATE holds SET cleared_at = ? WHERE id IN (?) AND cleared_at IS NULL', [fromInstantText(at), [...holds]])
/** Students by their names to sign in with, in the order of their ids. */
export const studentsNamed = (db: Executor, usernames: readonly string[]) => plain<{ id: number, username: string }>(db,
  'SELECT id, username FROM people WHERE role = \'student\' AND username IN (?) ORDER BY id', [[...usernames]])

/** Students whose programs are not confirmed. */
export async function unconfirmedStudents(db: Executor) {
  const rows = await plain<{ id: number, name: string, username: string, programs: string | null }>(db,
    `SELECT p.id, p.name, p.username, GROUP_CONCAT(sp.program ORDER BY sp.position) programs FROM students s
     JOIN people p ON p.id = s.person LEFT JOIN student_programs sp ON sp.student = s.person
     WHERE NOT s.program_confirmed GROUP BY p.id, p.name, p.username
     ORDER BY p.name LIMIT 1000`)
  return rows.map(({ programs, ...row }) => ({ ...row, programs: programs?.split(',') ?? [] }))
}
export const confirmStudents = (tx: Executor, students: readonly number[]) => plain<{ id: number }>(tx,
  'SELECT person id FROM students WHERE person IN (?) AND NOT program_confirmed ORDER BY person FOR UPDATE', [[...students]])
export const markConfirmed = (tx: Executor, students: readonly number[]) =>
  plain(tx, 'UPDATE students SET program_confirmed = TRUE WHERE person IN (?)', [[...students]])

interface ExceptionRow {
  id: number
  student: number
  name: string
  username: string
  kind: string
  course: string | null
  term: string | null
  value: number | null
  until: string | null
  reason: string
  by: string
  at: string
}
/** Exceptions in force on a date, the newest first. */
export async function exceptionsStanding(db: Executor, date: string) {
  const rows = await plain<ExceptionRow>(db,
    `SELECT e.id, e.student, p.name, p.username, e.kind, e.course, e.term, e.value, e.until_date \`until\`, e.reason, g.name \`by\`,
       e.granted_at at
     FROM exceptions e JOIN people p ON p.id = e.student JOIN people g ON g.id = e.granted_by
     WHERE e.until_date IS NULL OR e.until_date >= ? ORDER BY e.granted_at DESC, e.id DESC LIMIT 1000`, [date])
  return rows.map(({ student, name, username, at, ...row }) => ({ ...row, at: toInstant(at), student: { id: student, name, username } }))
}

interface LedgerFilter {
  student?: number | undefined
  section?: number | undefined
  action?: string | undefined
  until?: string | undefined
  before?: number | undefined
}
interface LedgerLine {
  id: number
  at: string
  actor: string | null
  student: number | null
  name: string | null
  username: string | null
  action: string
  section: number | null
  course: string | null
  label: string | null
  term: string | null
  detail: string
}
/** Lines of the ledger before one, the newest first. */
export async function ledgerLines(db: Executor, { student, section, action, until, before }: LedgerFilter, most: number) {
  const asked: [string, unknown][] = [
    ...student === undefined ? [] : [['l.student = ?', student] as [string, unknown]],
    ...section === undefined ? [] : [['l.section = ?', section] as [string, unknown]],
    ...action === undefined ? [] : [['l.action = ?', action] as [string, unknown]],
    ...until === undefined ? [] : [['l.happened_at < ?', fromInstantText(until)] as [string, unknown]],
    ...before === undefined ? [] : [['l.id < ?', before] as [string, unknown]]]
  const rows = await plain<LedgerLine>(db,
    `SELECT l.id, l.happened_at at, a.name actor, l.student, p.name, p.username, l.action, l.section, s.course, s.label, s.term, l.detail
     FROM ledger l
     LEFT JOIN people a ON a.id = l.actor LEFT JOIN people p ON p.id = l.student LEFT JOIN sections s ON s.id = l.section
     ${asked.length > 0 ? `WHERE ${asked.map(([text]) => text).join(' AND ')}` : ''} ORDER BY l.id DESC LIMIT ?`,
    [...asked.map(([, value]) => value), most])
  return rows.map(row => ({ id: row.id, at: toInstant(row.at), actor: row.actor, action: row.action,
    student: row.student === null ? null : { id: row.student, name: row.name!, username: row.username! },
    section: row.section === null ? null : { id: row.section, name: `${row.course}-${row.label}`, term: row.term! },
    detail: JSON.parse(row.detail) as Record<string, unknown> }))
}

/** Courses registered in each minute after a moment, of those that stand; the minutes in which there were none are left out. */
export async function registeredByMinute(db: Executor, term: string, from: string, minutes: number) {
  const rows = await plain<{ minute: number, courses: number }>(db,
    `SELECT FLOOR(TIMESTAMPDIFF(SECOND, ?, registered_at) / 60) minute, COUNT(*) courses FROM registrations
     WHERE term = ? AND credits > 0 AND registered_at >= ? AND registered_at < DATE_ADD(?, INTERVAL ? MINUTE) GROUP BY minute`,
    [fromInstantText(from), term, fromInstantText(from), fromInstantText(from), minutes])
  return rows.map(row => ({ minute: Number(row.minute), courses: Number(row.courses) }))
}

interface NewOpening { from: string, program: string | null, earnedMin: number, words: string }
/** The openings of a term, as they are now. */
export const openingsOf = async (db: Executor, term: string): Promise<NewOpening[]> => (await plain<NewOpening>(db,
  'SELECT opens_at `from`, program, earned_min earnedMin, words FROM openings WHERE term = ? ORDER BY opens_at, id', [term]))
  .map(one => ({ ...one, from: toInstant(one.from) }))
/** All openings of a term, in the place of those it has; every server hears of it through the stamp. */
export const replaceOpenings = (tx: Executor, term: string, openings: readonly NewOpening[]) => together(tx, [
  ['UPDATE college_stamp SET version = version + 1', []],
  ['DELETE FROM openings WHERE term = ?', [term]],
  ...openings.length > 0
    ? [['INSERT INTO openings (term, opens_at, program, earned_min, words) VALUES ?', [openings.map(one => [term, fromInstantText(one.from),
        one.program, one.earnedMin, one.words])]] as const]
    : [],
])
