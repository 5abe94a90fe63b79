import type { MoneyEntry } from '@ridgeway/core/money'
import type { Executor } from '../database'
import { change, fromInstantText, plain, type Statement, toInstant } from './plain'

/** A line of an account that is to be written. */
export interface Posting {
  student: number
  term: string
  at: string
  date: string
  /** Null for what the college does by itself. */
  actor: number | null
  kind: MoneyEntry['kind']
  courses: MoneyEntry['courses']
  reference: string
  /** Left out, what the courses come to. */
  cents?: number
}

export const INSERT_MONEY = `INSERT INTO money_entries
  (student, term, happened_at, happened_on, actor, kind, cents, courses, reference) VALUES ?`
const sumOf = (courses: MoneyEntry['courses']) => courses.reduce((sum, one) => sum + one.cents, 0)
const rowOf = (one: Posting) => [one.student, one.term, fromInstantText(one.at), one.date, one.actor, one.kind,
  one.cents ?? sumOf(one.courses), JSON.stringify(one.courses), one.reference]

/** What is charged for seats that a run or a change took, one line for all of it; null where it costs nothing. */
export function chargeOf({ student, term, at, date, actor, key }: Omit<Posting, 'kind' | 'courses' | 'reference'> & { key: string },
  claims: readonly { course: string, tuition: number, fees: number }[]) {
  const courses = new Map<string, number>()
  for (const { course, tuition, fees } of claims) courses.set(course, (courses.get(course) ?? 0) + tuition + fees)
  const lines = [...courses].map(([course, cents]) => ({ course, cents })).filter(line => line.cents > 0)
  return lines.length > 0 ? rowOf({ student, term, at, date, actor, kind: 'charge', courses: lines, reference: key }) : null
}

/** Writes lines of accounts; those of nothing are left out. */
export function postings(...entries: readonly Posting[]): Statement[] {
  const rows = entries.map(rowOf).filter(row => row[6] !== 0)
  return rows.length > 0 ? [[INSERT_MONEY, [rows]]] : []
}

interface EntryRow extends Omit<MoneyEntry, 'courses'> { student: number, courses: string }
/** Lines of accounts, oldest first: of one student, of one term or of all. */
export async function readEntries(db: Executor, student: number, term?: string): Promise<MoneyEntry[]> {
  const rows = await plain<EntryRow>(db, `SELECT id, happened_at at, happened_on date, term, kind, cents, courses, reference
    FROM money_entries WHERE student = ? AND (? OR term = ?) ORDER BY id`, [student, term === undefined, term ?? ''])
  return rows.map(row => ({ ...row, at: toInstant(row.at), courses: JSON.parse(row.courses) as MoneyEntry['courses'] }))
}

/** The plan by which a student pays a term, where one was chosen. */
export async function chosenPlan(db: Executor, student: number, term: string): Promise<string | null> {
  const [row] = await plain<{ plan: string }>(db, 'SELECT plan FROM payment_choices WHERE student = ? AND term = ?', [student, term])
  return row?.plan ?? null
}
export const keepPlanChoice = (tx: Executor, student: number, term: string, plan: string) => plain(tx,
  'INSERT INTO payment_choices (student, term, plan) VALUES (?, ?, ?) ON DUPLICATE KEY UPDATE plan = VALUES(plan)', [student, term, plan])

export interface Payment {
  id: string
  student: number
  term: string
  cents: number
  state: 'started' | 'sent' | 'accepted' | 'refused'
  started: string
  settled: string | null
}
const PAYMENT = 'SELECT id, student, term, cents, state, started_at started, settled_at settled FROM payments'
const asPayment = (row: Payment): Payment => ({ ...row, started: toInstant(row.started), settled: row.settled && toInstant(row.settled) })

export const paymentsOf = async (db: Executor, student: number, term: string) =>
  (await plain<Payment>(db, `${PAYMENT} WHERE student = ? AND term = ? ORDER BY started_at, id`, [student, term])).map(asPayment)
export async function findPayment(db: Executor, id: string): Promise<Payment | undefined> {
  const [row] = await plain<Payment>(db, `${PAYMENT} WHERE id = ?`, [id])
  return row && asPayment(row)
}
export const beginPayment = (tx: Executor, one: { id: string, student: number, term: string, cents: number, at: string }) => plain(tx,
  'INSERT INTO payments (id, student, term, cents, state, started_at) VALUES (?, ?, ?, ?, \'started\', ?)',
  [one.id, one.student, one.term, one.cents, fromInstantText(one.at)])
export const markPayment = (tx: Executor, id: string, state: Payment['state'], settled: string | null) => plain(tx,
  'UPDATE payments SET state = ?, settled_at = ? WHERE id = ?', [state, settled && fromInstantText(settled), id])

/** Students with an open balance of a term, by number, after one; those on whom its hold stands already are left out. */
export const openBalances = (db: Executor, terms: readonly string[], after: number, most: number) =>
  plain<{ student: number, term: string }>(db,
    `SELECT m.student, m.term FROM money_entries m WHERE m.term IN (?) AND m.student > ? AND NOT EXISTS (SELECT 1 FROM holds h
       WHERE h.student = m.student AND h.placed_by = CONCAT('fees ', m.term) AND h.cleared_at IS NULL) GROUP BY m.student, m.term
     HAVING SUM(IF(m.kind IN ('charge', 'payback'), m.cents, -CAST(m.cents AS SIGNED))) > 0 ORDER BY m.student LIMIT ?`,
    [[...terms], after, most])

/** Holds that the rule of a term's fees placed and that still stand. */
export const feeHold = async (tx: Executor, student: number, rule: string) =>
  (await plain(tx, 'SELECT 1 FROM holds WHERE student = ? AND placed_by = ? AND cleared_at IS NULL', [student, rule])).length > 0
export const placeHold = (tx: Executor, hold: { student: number, rule: string, reason: string, contact: string, at: string }) => plain(tx,
  'INSERT INTO holds (student, placed_by, reason, contact, placed_at) VALUES (?, ?, ?, ?, ?)',
  [hold.student, hold.rule, hold.reason, hold.contact, fromInstantText(hold.at)])
export const clearHold = (tx: Executor, student: number, rule: string, at: string) => change(tx,
  'UPDATE holds SET cleared_at = ? WHERE student = ? AND placed_by = ? AND cleared_at IS NULL', [fromInstantText(at), student, rule])
