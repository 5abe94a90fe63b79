import { type ExceptionAsked, exceptionKey } from '@ridgeway/core/advising'
import type { PlanOperation } from '@ridgeway/core/planning'
import type { Executor } from '../database'
import { FILE_MARK } from './people'
import { change, fromInstantText, plain, toInstant } from './plain'

/* Comments. */
/** Settles what was written about one thing, or opens it again; how many comments that are. */
export const settleComments = (tx: Executor, about: { student: number, term: string | null, entry: string | null },
  settled: { by: number, at: string } | null) => change(tx,
  'UPDATE comments SET resolved_at = ?, resolved_by = ? WHERE student = ? AND term <=> ? AND entry <=> ?',
  [settled && fromInstantText(settled.at), settled?.by ?? null, about.student, about.term, about.entry])
/** A mark only goes forward, and never beyond what there is. */
export const keepRead = (tx: Executor, person: number, student: number, upTo: number) => plain(tx,
  `INSERT INTO file_looks (person, student, comment_read)
   VALUES (?, ?, (SELECT LEAST(?, IFNULL(MAX(id), 0)) FROM comments WHERE student = ?))
   ON DUPLICATE KEY UPDATE comment_read = GREATEST(comment_read, VALUES(comment_read))`, [person, student, upTo, student])

/* Looks. */
interface Looked { person: number, student: number, at: string, plan: number, version: number, finish: string | null, comment: number }
export const keepLook = (tx: Executor, look: Looked) => plain(tx,
  `INSERT INTO file_looks (person, student, looked_at, plan, version, finish, comment_read) VALUES (?, ?, ?, ?, ?, ?, ?)
   ON DUPLICATE KEY UPDATE looked_at = VALUES(looked_at), plan = VALUES(plan), version = VALUES(version), finish = VALUES(finish),
     comment_read = GREATEST(comment_read, VALUES(comment_read))`,
  [look.person, look.student, fromInstantText(look.at), look.plan, look.version, look.finish, look.comment])

export interface Look { at: string | null, plan: number | null, version: number | null, finish: string | null }
export async function lookOf(db: Executor, person: number, student: number): Promise<Look | null> {
  const [row] = await plain<Look>(db, 'SELECT looked_at at, plan, version, finish FROM file_looks WHERE person = ? AND student = ?',
    [person, student])
  return row ? { ...row, at: row.at && toInstant(row.at) } : null
}

/** What was done to a plan after a version, newest first, with who and when. */
export async function editsSince(db: Executor, plan: number, version: number, most: number) {
  const rows = await plain<{ by: string, at: string, operation: string }>(db,
    `SELECT p.name \`by\`, o.done_at at, o.operation FROM plan_operations o JOIN people p ON p.id = o.by_person
     WHERE o.plan = ? AND o.version > ? ORDER BY o.version DESC LIMIT ?`, [plan, version, most])
  return rows.map(row => ({ by: row.by, at: toInstant(row.at), operation: JSON.parse(row.operation) as PlanOperation }))
}

/* Notes. */
export async function notesOf(db: Executor, student: number) {
  const rows = await plain<{ id: number, by: string, author: number, at: string, text: string, shared: number, meeting: number | null }>(db,
    `SELECT n.id, p.name \`by\`, n.author, n.written_at at, n.text, n.shared, n.meeting FROM notes n JOIN people p ON p.id = n.author
     WHERE n.student = ? ORDER BY n.id DESC`, [student])
  return rows.map(row => ({ ...row, at: toInstant(row.at), shared: row.shared === 1 }))
}
interface NewNote { student: number, author: number, at: string, text: string, shared: boolean, meeting: number | null }
export const addNote = (tx: Executor, one: NewNote) => plain(tx,
  'INSERT INTO notes (student, author, written_at, text, shared, meeting) VALUES (?, ?, ?, ?, ?, ?)',
  [one.student, one.author, fromInstantText(one.at), one.text, one.shared, one.meeting])
export const removeNote = (tx: Executor, student: number, author: number, id: number) =>
  change(tx, 'DELETE FROM notes WHERE id = ? AND student = ? AND author = ?', [id, student, author])
export const countNotes = async (db: Executor, student: number) =>
  (await plain<{ n: number }>(db, 'SELECT COUNT(*) n FROM notes WHERE student = ?', [student]))[0]!.n

/* Suggestions. */
interface NewSuggestion extends Record<'student' | 'plan' | 'author', number>, Record<'set' | 'at' | 'why', string> {
  lines: readonly PlanOperation[][]
}
export const addSuggestions = (tx: Executor, one: NewSuggestion) => plain(tx,
  'INSERT INTO suggestions (student, plan, sent_as, author, suggested_at, why, operations, state) VALUES ?',
  [one.lines.map(line => [one.student, one.plan, one.set, one.author, fromInstantText(one.at), one.why, JSON.stringify(line), 'open'])])
export interface OpenSuggestion { id: number, plan: number, set: string, author: number, operations: PlanOperation[] }
/** Suggestions of a student that are not answered, in the order in which they were made. */
export async function openSuggestions(db: Executor, student: number): Promise<OpenSuggestion[]> {
  const rows = await plain<Omit<OpenSuggestion, 'operations'> & { operations: string }>(db,
    'SELECT id, plan, sent_as `set`, author, operations FROM suggestions WHERE student = ? AND state = \'open\' ORDER BY id', [student])
  return rows.map(row => ({ ...row, operations: JSON.parse(row.operations) as PlanOperation[] }))
}
export const closeSuggestions = (tx: Executor, ids: readonly number[], state: 'accepted' | 'declined' | 'taken back', at: string,
  words = '') => ids.length === 0
  ? Promise.resolve(0)
  : change(tx, 'UPDATE suggestions SET state = ?, decided_at = ?, words = ? WHERE id IN (?) AND state = \'open\'',
      [state, fromInstantText(at), words, [...ids]])

/** Suggestions that the student answered after a moment, newest first; all of them where it is null. */
export async function answersSince(db: Executor, student: number, since: string | null, most: number) {
  const rows = await plain<{ at: string, state: 'accepted' | 'declined', words: string, operations: string }>(db,
    `SELECT decided_at at, state, words, operations FROM suggestions WHERE student = ? AND state IN ('accepted', 'declined')
       AND decided_at > ? ORDER BY decided_at DESC, id DESC LIMIT ?`,
    [student, since === null ? '1000-01-01' : fromInstantText(since), most])
  return rows.map(row => ({ ...row, at: toInstant(row.at), operations: JSON.parse(row.operations) as PlanOperation[] }))
}

/* Requests for exceptions. */
export const addRequest = (tx: Executor, one: { student: number, asked: ExceptionAsked, reason: string, at: string }) => change(tx,
  `INSERT IGNORE INTO exception_requests (student, term, asked, about, reason, asked_at, state) VALUES (?, ?, ?, ?, ?, ?, 'asked')`,
  [one.student, 'term' in one.asked ? one.asked.term : null, JSON.stringify(one.asked), exceptionKey(one.asked), one.reason,
    fromInstantText(one.at)])
export interface ExceptionRequest { id: number, asked: ExceptionAsked, reason: string, state: string }
export async function findRequest(db: Executor, student: number, id: number): Promise<ExceptionRequest | undefined> {
  const [row] = await plain<{ id: number, asked: string, reason: string, state: string }>(db,
    'SELECT id, asked, reason, state FROM exception_requests WHERE student = ? AND id = ?', [student, id])
  return row && { ...row, asked: JSON.parse(row.asked) as ExceptionAsked }
}
export const countRequests = async (db: Executor, student: number) => (await plain<{ n: number }>(db,
  'SELECT COUNT(*) n FROM exception_requests WHERE student = ? AND state = \'asked\'', [student]))[0]!.n
interface Answer { state: 'granted' | 'declined' | 'taken back', by: number, at: string, words: string }
export const answerRequest = (tx: Executor, id: number, answer: Answer) => change(tx,
  'UPDATE exception_requests SET state = ?, decided_by = ?, decided_at = ?, words = ? WHERE id = ? AND state = \'asked\'',
  [answer.state, answer.by, fromInstantText(answer.at), answer.words, id])

/* The table of advisees. */
export interface AdviseeFacts {
  student: number
  /** Exceptions and changes of program that are asked for. */
  exceptions: number
  program: number
  /** When the student last did anything. */
  lastSign: string | null
  /** Comments not read, and edits of the current plan by others, since one looked. */
  comments: number
  edits: number
  lookedAt: string | null
  finishSeen: string | null
}
/** What the table says besides the files: requests, what is new since one looked, the last sign of life. One statement. */
export async function adviseeFacts(db: Executor, person: number, students: readonly number[]): Promise<Map<number, AdviseeFacts>> {
  if (students.length === 0) return new Map()
  const rows = await plain<AdviseeFacts>(db,
    `SELECT s.person student,
       (SELECT COUNT(*) FROM exception_requests e WHERE e.student = s.person AND e.state = 'asked') exceptions,
       (SELECT COUNT(*) FROM program_requests w WHERE w.waiting_of = s.person) program,
       (SELECT COUNT(*) FROM comments c WHERE c.student = s.person AND c.author <> ? AND c.resolved_at IS NULL
          AND c.id > IFNULL(l.comment_read, 0)) comments,
       (SELECT COUNT(*) FROM plan_operations o WHERE o.plan = p.id AND o.by_person <> ?
          AND o.version > IF(l.plan = p.id, l.version, 0)) edits,
       l.looked_at lookedAt, l.finish finishSeen,
       GREATEST(IFNULL((SELECT MAX(o.done_at) FROM plan_operations o WHERE o.plan = p.id AND o.by_person = s.person), '1000-01-01'),
         IFNULL((SELECT MAX(c.written_at) FROM comments c WHERE c.student = s.person AND c.author = s.person), '1000-01-01'),
         IFNULL((SELECT MAX(g.happened_at) FROM ledger g WHERE g.student = s.person AND g.actor = s.person), '1000-01-01'),
         IFNULL((SELECT MAX(q.asked_at) FROM sign_off_requests q WHERE q.student = s.person), '1000-01-01')) lastSign
     FROM students s LEFT JOIN plans p ON p.current_of = s.person
     LEFT JOIN file_looks l ON l.student = s.person AND l.person = ?
     WHERE s.person IN (?)`, [person, person, person, [...students]])
  return new Map(rows.map(row => [row.student, { ...row, lookedAt: row.lookedAt && toInstant(row.lookedAt),
    lastSign: row.lastSign && !row.lastSign.startsWith('1000') ? toInstant(row.lastSign) : null }]))
}
/** What tells whether a file or its current plan changed, of many students: one small statement. */
export const fileMarks = (db: Executor, students: readonly number[]) => students.length === 0
  ? Promise.resolve([])
  : plain<{ student: number, mark: string }>(db,
      `SELECT s.person student, ${FILE_MARK} mark FROM students s LEFT JOIN plans pl ON pl.current_of = s.person
       WHERE s.person IN (?)`, [[...students]])
/** Students whom somebody advises, or stands in for their advisor, on a date; with the advisor's name where it is another. */
export const adviseesOf = (db: Executor, person: number, date: string) => plain<{ student: number, advisor: string | null }>(db,
  `SELECT person student, NULL advisor FROM students WHERE advisor = ?
   UNION SELECT s.person, p.name FROM deputies d JOIN students s ON s.advisor = d.advisor JOIN people p ON p.id = d.advisor
     WHERE d.deputy = ? AND d.from_date <= ? AND d.until_date >= ? AND d.advisor <> ?`, [person, person, date, date, person])
