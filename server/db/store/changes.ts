import type { Executor } from '../database'
import type { LedgerAction } from '@ridgeway/core/office'
import { fromInstantText, plain, type Statement, toInstant, together } from './plain'

/** A registered section that is given up. */
export interface Given {
  id: number
  section: number
  pool: number
  course: string
  session: string
  credits: number
  /** What was charged for it, in cents. */
  tuition: number
  fees: number
}

/** Registered sections of some courses of a term, or of all, with the pools in which their seats are. */
export const registeredIn = (tx: Executor, student: number, term: string, courses: readonly string[] | null) => plain<Given>(tx,
  `SELECT r.id, r.section, r.pool, r.course, s.session, r.credits, r.tuition, r.fees
   FROM registrations r JOIN sections s ON s.id = r.section
   WHERE r.student = ? AND r.term = ? AND NOT r.graded AND (? OR r.course IN (?)) ORDER BY r.id`,
  [student, term, courses === null, courses?.length ? [...courses] : ['']])

/** Sections that own the seats of these, by the section: those that meet under two names have one set of seats. */
export async function ownersOf(tx: Executor, sections: readonly number[]): Promise<Map<number, number>> {
  const rows = sections.length > 0
    ? await plain<{ id: number, owner: number }>(tx, 'SELECT id, IFNULL(seats_with, id) owner FROM sections WHERE id IN (?)',
        [[...sections]])
    : []
  return new Map(rows.map(row => [row.id, row.owner]))
}

/** How many wait without an offer for the seats of these sections, less those that are held for them already; by the owner of the seats. */
export async function unservedOf(tx: Executor, owners: readonly number[]): Promise<Map<number, number>> {
  if (owners.length === 0) return new Map()
  const rows = await plain<{ owner: number, waiting: number }>(tx,
    `SELECT IFNULL(s.seats_with, s.id) owner,
       COUNT(*) - (SELECT COUNT(*) FROM freed_seats f WHERE f.section = IFNULL(s.seats_with, s.id)) waiting
     FROM waitlist_entries w JOIN sections s ON s.id = w.section WHERE IFNULL(s.seats_with, s.id) IN (?) AND w.offer_until IS NULL
     GROUP BY IFNULL(s.seats_with, s.id) LOCK IN SHARE MODE`, [[...owners]])
  return new Map(rows.map(row => [row.owner, Number(row.waiting)]))
}

export interface Told { action: LedgerAction, section: number | null, pool: number | null, detail: Record<string, unknown> }
/** A waitlist that is joined, with the place on it and the bundle that is waited for. */
export interface Joined {
  sectionId: number
  place: number
  course: string
  bundle: number[]
  grading: string
  credits: number | null
}
/** A seat that is taken; what it costs in cents. */
interface Taken {
  section: number
  pool: number
  course: string
  credits: number
  grading: string
  tuition: number
  fees: number
}
/** What a change of registration comes to, as it is kept. */
export interface Kept {
  student: number
  /** Null for what the college does by itself. */
  actor: number | null
  at: string
  term: string
  key: string
  asked: string
  gone: readonly Given[]
  /** Pools whose seat is free for everybody, and those that are held for a waitlist, each once a seat. */
  freed: readonly number[]
  held: readonly { section: number, pool: number }[]
  claims: readonly Taken[]
  /** Pools whose held seat becomes a taken one. */
  offered: readonly number[]
  /** Entries of waitlists that are settled. */
  entries: readonly number[]
  /** Courses whose line-up row is settled. */
  rows: readonly string[]
  /** What a withdrawal leaves on the record. */
  withdrawn: readonly { course: string, credits: number, grade: string }[]
  told: readonly Told[]
  /** What it comes to on the account. */
  money: readonly Statement[]
  result: unknown
}

/**
 * Waits end because their course is registered: a seat that is held for one of them goes to the next, but for those that are taken now.
 * Counts of seats stay as they are: what was offered is held for the waitlist again.
 */
export const endWaits = (entries: readonly number[], at: string, taken: readonly number[] = []): Statement[] => entries.length === 0
  ? []
  : [[`INSERT INTO freed_seats (section, pool, freed_at) SELECT IFNULL(s.seats_with, s.id), w.offer_pool, ? FROM waitlist_entries w
      JOIN sections s ON s.id = w.section WHERE w.id IN (?) AND w.offer_pool NOT IN (?)`, [fromInstantText(at), [...entries],
      taken.length > 0 ? [...taken] : [0]]],
    ['DELETE FROM waitlist_entries WHERE id IN (?)', [[...entries]]]]

/** Keeps a change of registration: seats, registrations, waitlists, record, ledger, and the answer under its key. */
export async function keepChange(tx: Executor, kept: Kept): Promise<void> {
  const { student, term } = kept
  const at = fromInstantText(kept.at)
  const moves = new Map<number, { taken: number, held: number }>()
  const add = (pool: number, taken: number, held: number) => {
    const before = moves.get(pool) ?? { taken: 0, held: 0 }
    moves.set(pool, { taken: before.taken + taken, held: before.held + held })
  }
  for (const pool of kept.freed) add(pool, -1, 0)
  for (const { pool } of kept.held) add(pool, -1, 1)
  for (const { pool } of kept.claims) add(pool, 1, 0)
  for (const pool of kept.offered) add(pool, 0, -1)
  const statements: Statement[] = [...moves].sort((a, b) => a[0] - b[0]).filter(([, { taken, held }]) => taken !== 0 || held !== 0)
    .map(([pool, { taken, held }]) => ['UPDATE seat_pools SET taken = taken + ?, held = held + ? WHERE id = ?', [taken, held, pool]])
  if (kept.gone.length > 0) statements.push(['DELETE FROM registrations WHERE id IN (?)', [kept.gone.map(one => one.id)]])
  if (kept.held.length > 0)
    statements.push(['INSERT INTO freed_seats (section, pool, freed_at) VALUES ?', [kept.held.map(one => [one.section, one.pool, at])]])
  if (kept.claims.length > 0)
    statements.push([`INSERT INTO registrations (student, section, pool, term, course, credits, run, registered_at, grading,
      tuition, fees) VALUES ?`,
    [kept.claims.map(one => [student, one.section, one.pool, term, one.course, one.credits, kept.key, at, one.grading,
      one.tuition, one.fees])]])
  statements.push(...endWaits(kept.entries, kept.at, kept.offered))
  if (kept.rows.length > 0)
    statements.push(['DELETE FROM line_up_rows WHERE student = ? AND term = ? AND course IN (?)', [student, term, [...kept.rows]]])
  if (kept.withdrawn.length > 0)
    statements.push(['INSERT INTO records (student, course, term, credits, grade, state, source, graded_at) VALUES ?',
      [kept.withdrawn.map(one => [student, one.course, term, one.credits, one.grade, 'completed', 'here', at])]])
  if (kept.told.length > 0)
    statements.push(['INSERT INTO ledger (happened_at, actor, student, action, section, pool, run, detail) VALUES ?',
      [kept.told.map(one => [at, kept.actor, student, one.action, one.section, one.pool, kept.key, JSON.stringify(one.detail)])]])
  statements.push(...kept.money, answerOf(kept))
  await together(tx, statements)
}

/** The answer under its key, so that the same press acts once. */
const answerOf = ({ student, key, term, asked, at, result }: Pick<Kept, 'student' | 'key' | 'term' | 'asked' | 'at'
  | 'result'>): Statement =>
  ['INSERT INTO registration_runs (student, run_key, term, asked, run_at, result) VALUES (?, ?, ?, ?, ?, ?)',
    [student, key, term, asked, fromInstantText(at), JSON.stringify(result)]]

/** An exchange that waits for a seat: waits are joined with what is given up for them, and nothing else changes yet. */
export const keepAnswer = (tx: Executor, kept: Pick<Kept, 'student' | 'actor' | 'key' | 'term' | 'asked' | 'at' | 'result'> & {
  waits: readonly (Joined & { exchange: string[] })[]
}) => together(tx, [
  ['INSERT INTO waitlist_entries (student, section, joined_at, bundle, grading, credits, joined_as, exchange_for) VALUES ?',
    [kept.waits.map(one => [kept.student, one.sectionId, fromInstantText(kept.at), JSON.stringify(one.bundle), one.grading, one.credits,
      one.place, JSON.stringify(one.exchange)])]],
  ['INSERT INTO ledger (happened_at, actor, student, action, section, pool, run, detail) VALUES ?',
    [kept.waits.map(one => [fromInstantText(kept.at), kept.actor, kept.student, 'join waitlist', one.sectionId, null, kept.key,
      JSON.stringify({ course: one.course, place: one.place, for: one.exchange })])]],
  answerOf(kept),
])

/** What is given up when a seat is offered: for all parts of the bundle that are waited for. */
export const keepExchange = (tx: Executor, student: number, { bundle }: Pick<Entry, 'bundle'>, exchange: readonly string[]
  | null) => plain(tx,
  'UPDATE waitlist_entries SET exchange_for = ? WHERE student = ? AND bundle = ?',
  [exchange === null ? null : JSON.stringify(exchange), student, JSON.stringify(bundle)])

/** How a wait went, for those who will stand at its place in a later term. */
const outcomeOf = ({ term, course, joinedAs }: Entry, offered: boolean): Statement =>
  ['INSERT INTO waitlist_past (term, course, place, offered) VALUES (?, ?, ?, ?)', [term, course, joinedAs, offered]]

/** What was answered before to the same key. */
export async function answeredBefore(tx: Executor, student: number, key: string): Promise<{ asked: string, result: unknown } | undefined> {
  const [row] = await plain<{ asked: string, result: string }>(tx,
    'SELECT asked, result FROM registration_runs WHERE student = ? AND run_key = ?', [student, key])
  return row && { asked: row.asked, result: JSON.parse(row.result) as unknown }
}

/** One who waits, with what is held for them. */
export interface Entry {
  id: number
  student: number
  section: number
  term: string
  session: string
  course: string
  bundle: number[]
  grading: string
  credits: number | null
  offerUntil: string | null
  offerPool: number | null
  /** What is given up when it is offered, decided beforehand; null asks the student. */
  exchange: string[] | null
  joinedAs: number
}
type EntryRow = Omit<Entry, 'bundle' | 'exchange'> & { bundle: string, exchange: string | null }
const ENTRY = `SELECT w.id, w.student, w.section, s.term, s.session, s.course, w.bundle, w.grading, w.credits, w.offer_until offerUntil,
  w.offer_pool offerPool, w.exchange_for exchange, w.joined_as joinedAs FROM waitlist_entries w JOIN sections s ON s.id = w.section`
const asEntry = ({ bundle, offerUntil, exchange, ...row }: EntryRow): Entry => {
  const ids = JSON.parse(bundle) as number[]
  return { ...row, bundle: ids.length > 0 ? ids : [row.section], offerUntil: offerUntil && toInstant(offerUntil),
    exchange: exchange === null ? null : JSON.parse(exchange) as string[] }
}
/** An entry as it is now; it stays so while the row of its student is locked, which everybody does first who changes it. */
export async function readEntry(tx: Executor, id: number): Promise<Entry | undefined> {
  const [row] = await plain<EntryRow>(tx, `${ENTRY} WHERE w.id = ?`, [id])
  return row && asEntry(row)
}
/** Those who wait for the seats of a section and are offered none, the first first. */
export const waitingFor = async (tx: Executor, owner: number) => (await plain<EntryRow>(tx,
  `${ENTRY} WHERE IFNULL(s.seats_with, s.id) = ? AND w.offer_until IS NULL ORDER BY w.joined_at, w.id`, [owner])).map(asEntry)
/** Offers of one student for the parts of one bundle: they are taken, or end, together. */
export const offersOf = async (tx: Executor, { student, bundle }: Pick<Entry, 'student' | 'bundle'>) => (await plain<EntryRow>(tx,
  `${ENTRY} WHERE w.student = ? AND w.offer_until IS NOT NULL ORDER BY w.id`, [student])).map(asEntry)
  .filter(one => one.bundle.join() === bundle.join())
/** Terms and sessions for which somebody waits. */
export const waitedSessions = (db: Executor) => plain<{ term: string, session: string }>(db,
  'SELECT DISTINCT s.term, s.session FROM waitlist_entries w JOIN sections s ON s.id = w.section')
/** Waits for sections of these sessions, or all those of one student. */
export const waitsOf = async (db: Executor, sessions: readonly { term: string, session: string }[] | null, student = 0) =>
  sessions?.length === 0
    ? []
    : plain<{ id: number, student: number }>(db, `SELECT w.id, w.student FROM waitlist_entries w JOIN sections s ON s.id = w.section
        WHERE ${sessions === null ? 'w.student = ?' : '(s.term, s.session) IN (?)'} ORDER BY w.id LIMIT 50`,
      [sessions === null ? student : sessions.map(one => [one.term, one.session])])
/** Offers whose time is over. */
export const lapsedOffers = (db: Executor, at: string) => plain<{ id: number, student: number }>(db,
  'SELECT id, student FROM waitlist_entries WHERE offer_until <= ? ORDER BY id LIMIT 50', [fromInstantText(at)])
/** The oldest seat that waits to be offered and that nobody else is about to offer. */
export interface Freed { id: number, section: number, pool: number }
export async function claimFreedSeat(tx: Executor): Promise<Freed | undefined> {
  const [row] = await plain<Freed>(tx,
    'SELECT id, section, pool FROM freed_seats ORDER BY id LIMIT 1 FOR UPDATE SKIP LOCKED')
  return row
}
/** One more that came free, of a section that owns its seats; null where there is none that nobody else is about to offer. */
export async function claimFreedSeatOf(tx: Executor, section: number, but: readonly number[]): Promise<Freed | undefined> {
  const [row] = await plain<Freed>(tx,
    'SELECT id, section, pool FROM freed_seats WHERE section = ? AND id NOT IN (?) ORDER BY id LIMIT 1 FOR UPDATE SKIP LOCKED', [section,
      [...but]])
  return row
}
/** Whether any seat waits to be offered: a look without locks. */
export const anyFreedSeat = async (db: Executor) => (await plain(db, 'SELECT 1 FROM freed_seats LIMIT 1')).length > 0

/** The seat is held for this person until then. */
export const keepOffer = (tx: Executor, seat: { id: number, pool: number }, entry: Entry,
  until: string, at: string) => together(tx, [
  ['UPDATE waitlist_entries SET offer_until = ?, offer_pool = ? WHERE id = ?', [fromInstantText(until), seat.pool, entry.id]],
  ['DELETE FROM freed_seats WHERE id = ?', [seat.id]],
  ['UPDATE students SET version = version + 1 WHERE person = ?', [entry.student]],
  ['INSERT INTO ledger (happened_at, actor, student, action, section, pool, detail) VALUES (?, ?, ?, ?, ?, ?, ?)',
    [fromInstantText(at), null, entry.student, 'offer seat', entry.section, seat.pool, JSON.stringify({ course: entry.course, until })]],
  outcomeOf(entry, true),
])

/** Nobody who waits may take it: the seat is free for everybody. */
export const releaseSeat = (tx: Executor, seat: Freed, at: string) => together(tx, [
  ['UPDATE seat_pools SET held = held - 1 WHERE id = ?', [seat.pool]],
  ['DELETE FROM freed_seats WHERE id = ?', [seat.id]],
  ['INSERT INTO ledger (happened_at, actor, student, action, section, pool, detail) VALUES (?, ?, ?, ?, ?, ?, ?)',
    [fromInstantText(at), null, null, 'release seat', seat.section, seat.pool, '{}']],
])

/** Somebody leaves a waitlist, by themselves or because the time of the offer is over; a seat that was held goes to the next. */
export const keepLeaving = (tx: Executor, entry: Entry, owner: number, actor: number | null, action: LedgerAction,
  at: string) => together(tx, [
  ['DELETE FROM waitlist_entries WHERE id = ?', [entry.id]],
  ...entry.offerPool === null
    ? [outcomeOf(entry, false)]
    : [['INSERT INTO freed_seats (section, pool, freed_at) VALUES (?, ?, ?)', [owner, entry.offerPool, fromInstantText(at)]] as Statement],
  ['UPDATE students SET version = version + 1 WHERE person = ?', [entry.student]],
  ['INSERT INTO ledger (happened_at, actor, student, action, section, pool, detail) VALUES (?, ?, ?, ?, ?, ?, ?)',
    [fromInstantText(at), actor, entry.student, action, entry.section, entry.offerPool, JSON.stringify({ course: entry.course })]],
])
