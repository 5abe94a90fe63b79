import type { ExceptionAsked } from '@ridgeway/core/advising'
import type { PlanOperation } from '@ridgeway/core/planning'
import type { MoneyEntry } from '@ridgeway/core/money'
import type { WaitedBefore } from '@ridgeway/core/registration'
import type { Executor } from '../database'
import type { LedgerAction } from '@ridgeway/core/office'
import { ledger, type Role } from '../schema'
import { change, fromInstantText, plain, toInstant } from './plain'

/**
 * Locks a student's row, which everybody does first who changes what stands about the student: two changes follow each other.
 * Tells the advisor and the catalog's stamp of this moment; undefined when there is no such student.
 */
export async function lockStudent(tx: Executor, student: number): Promise<{ advisor: number | null, catalog: number } | undefined> {
  const [row] = await plain<{ advisor: number | null, catalog: number }>(tx,
    'SELECT advisor, (SELECT version FROM college_stamp WHERE id = 1) catalog FROM students WHERE person = ? FOR UPDATE', [student])
  return row
}

/** Whoever looks at the file hears that it changed. */
export const bumpStudents = (tx: Executor, students: readonly number[]) =>
  change(tx, 'UPDATE students SET version = version + 1 WHERE person IN (?)', [[...students]])

export interface LedgerEntry {
  at: string
  /** Null for what the college does by itself. */
  actor: number | null
  student: number | null
  action: LedgerAction
  section?: number
  detail: Record<string, unknown>
}
export const writeLedger = (tx: Executor, entry: LedgerEntry) => tx.insert(ledger).values(entry)

interface Beside extends Record<'i' | 'j', number>, Record<'a' | 'd' | 'at', string>, Record<'b' | 'c', string | null> {
  kind: 'advisor' | 'comment' | 'change' | 'search' | 'feed' | 'money' | 'plan' | 'past' | 'read' | 'suggestion' | 'asked' | 'note'
    | 'meeting'
    | 'deputy' | 'told' | 'cancelled'
}
/** Answers of the last weeks are told; older ones only stand in the ledger. */
const ANSWERED_DAYS = 30

/** What only the screens show besides the dossier: the advisor, what was written, the newest wish to change program, kept searches. */
export async function readBeside(db: Executor, student: number, term: string, { now, date }: { now: string, date: string }) {
  const since = new Date(Date.parse(now) - ANSWERED_DAYS * 86_400_000).toISOString()
  const rows = await plain<Beside>(db,
    `SELECT 'advisor' kind, p.id i, NULL j, p.name a, p.email b, NULL c, '' d, NULL at
       FROM students s JOIN people p ON p.id = s.advisor WHERE s.person = ?
     UNION ALL SELECT 'comment', c.id, c.author, p.name, c.term, c.entry, JSON_ARRAY(c.text, r.name), c.written_at
       FROM comments c JOIN people p ON p.id = c.author LEFT JOIN people r ON r.id = c.resolved_by WHERE c.student = ?
     UNION ALL (SELECT 'change', id, NULL, state, programs, note, words, asked_at FROM program_requests WHERE student = ?
       ORDER BY id DESC LIMIT 1)
     UNION ALL SELECT 'search', NULL, NULL, name, NULL, NULL, search, NULL FROM kept_searches WHERE student = ?
     UNION ALL SELECT 'feed', NULL, NULL, '', NULL, NULL, '', made_at FROM calendar_feeds WHERE student = ?
     UNION ALL SELECT 'read', person, comment_read, '', NULL, NULL, '', NULL FROM file_looks WHERE student = ?
     UNION ALL SELECT 'suggestion', g.id, g.plan, p.name, g.sent_as, g.why, g.operations, g.suggested_at
       FROM suggestions g JOIN people p ON p.id = g.author WHERE g.student = ? AND g.state = 'open'
     UNION ALL SELECT 'asked', e.id, NULL, e.state, p.name, e.words, JSON_ARRAY(e.asked, e.reason), e.asked_at
       FROM exception_requests e LEFT JOIN people p ON p.id = e.decided_by
       WHERE e.student = ? AND (e.state = 'asked' OR (e.state IN ('granted', 'declined') AND e.decided_at > ?))
     UNION ALL SELECT 'note', n.id, NULL, p.name, NULL, NULL, n.text, n.written_at FROM notes n JOIN people p ON p.id = n.author
       WHERE n.student = ? AND n.shared
     UNION ALL SELECT 'meeting', m.id, m.minutes, a.name, m.place, m.about, JSON_ARRAY(m.sequence, m.advisor, p.name), m.start_at
       FROM advising_meetings m JOIN people a ON a.id = m.advisor JOIN people p ON p.id = m.student
       WHERE m.student = ? AND m.state = 'booked' AND DATE_ADD(m.start_at, INTERVAL m.minutes MINUTE) > ?
     UNION ALL SELECT 'told', COUNT(*), NULL, '', NULL, NULL, '', NULL FROM notices WHERE person = ? AND read_at IS NULL
     UNION ALL SELECT 'deputy', NULL, NULL, p.name, NULL, NULL, '', NULL FROM students s JOIN deputies d ON d.advisor = s.advisor
       JOIN people p ON p.id = d.deputy WHERE s.person = ? AND d.from_date <= ? AND d.until_date >= ?
     UNION ALL SELECT 'money', id, cents, kind, happened_on, reference, courses, happened_at FROM money_entries
       WHERE student = ? AND term = ?
     UNION ALL SELECT 'plan', NULL, NULL, plan, NULL, NULL, '', NULL FROM payment_choices WHERE student = ? AND term = ?
     UNION ALL SELECT 'past', b.place, b.offered, b.course, NULL, NULL, '', NULL FROM waitlist_past b WHERE b.course IN
       (SELECT s.course FROM waitlist_entries w JOIN sections s ON s.id = w.section WHERE w.student = ? AND s.term = ?)
       AND b.term <> ?
     UNION ALL SELECT 'cancelled', MAX(l.id), NULL, s.course, MIN(s.label), NULL, '', MAX(l.happened_at) FROM ledger l
       JOIN sections s ON s.id = l.section AND s.cancelled WHERE l.student = ? AND l.action = 'section cancelled' AND s.term = ?
       AND NOT EXISTS (SELECT 1 FROM registrations r WHERE r.student = l.student AND r.term = s.term AND r.course = s.course)
       GROUP BY s.course`,
    [...Array.from({ length: 8 }, () => student), fromInstantText(since), student, student, fromInstantText(now), student, student,
      date, date, student, term, student, term, student, term, term, student, term])
  const of = (kind: string) => rows.filter(row => row.kind === kind)
  const [advisor] = of('advisor')
  const [wish] = of('change')
  const [feed] = of('feed')
  return {
    advisor: advisor ? { id: advisor.i, name: advisor.a, email: advisor.b! } : null,
    comments: of('comment').sort((a, b) => a.i - b.i).map(row => ({ id: row.i, author: row.j, name: row.a, at: toInstant(row.at),
      term: row.b, entry: row.c, ...commentIn(row.d) })),
    read: Object.fromEntries(of('read').map(row => [row.i, row.j])),
    suggestions: of('suggestion').sort((a, b) => a.i - b.i).map(row => ({ id: row.i, set: row.b!, plan: row.j, by: row.a,
      at: toInstant(row.at), why: row.c!, operations: JSON.parse(row.d) as PlanOperation[] })),
    asked: of('asked').sort((a, b) => a.i - b.i).map((row) => {
      const [asked, reason] = JSON.parse(row.d) as [string, string]
      return { id: row.i, asked: JSON.parse(asked) as ExceptionAsked, reason, at: toInstant(row.at),
        state: row.a as 'asked' | 'granted' | 'declined', by: row.b, words: row.c ?? '' }
    }),
    notes: of('note').sort((a, b) => b.i - a.i).map(row => ({ id: row.i, by: row.a, at: toInstant(row.at), text: row.d })),
    meetings: of('meeting').map((row) => {
      const [sequence, advisor, name] = JSON.parse(row.d) as [number, number, string]
      return { id: row.i, start: toInstant(row.at), minutes: row.j, place: row.b!, about: row.c!, sequence, student, name, advisor,
        advisorName: row.a }
    }).sort((a, b) => a.start < b.start ? -1 : 1),
    messages: of('told')[0]?.i ?? 0,
    /** Sections of the term that were cancelled while they were registered, where their course is not registered again. */
    gone: of('cancelled').sort((a, b) => a.i - b.i).map(row => ({ course: row.a, label: row.b! })),
    deputy: of('deputy')[0]?.a ?? null,
    searches: of('search').map(row => ({ name: row.a, search: JSON.parse(row.d) as Record<string, unknown> }))
      .sort((a, b) => a.name < b.name ? -1 : 1),
    account: { plan: of('plan')[0]?.a ?? null,
      entries: of('money').sort((a, b) => a.i - b.i).map((row): MoneyEntry => ({ id: row.i, at: toInstant(row.at), date: row.b!, term,
        kind: row.a as MoneyEntry['kind'], cents: row.j, courses: JSON.parse(row.d) as MoneyEntry['courses'], reference: row.c! })) },
    /** How it went for those who waited before for the courses that are waited for now. */
    waitedBefore: (course: string): WaitedBefore[] => of('past').filter(row => row.a === course)
      .map(row => ({ place: row.i, offered: row.j === 1 })),
    feedSince: feed ? toInstant(feed.at) : null,
    programChange: wish
      ? { id: wish.i, state: wish.a as 'asked' | 'granted' | 'declined' | 'taken back', programs: JSON.parse(wish.b!) as string[],
          note: wish.c ?? '', words: wish.d, askedAt: toInstant(wish.at) }
      : null,
  }
}

const commentIn = (text: string) => {
  const [words, settledBy] = JSON.parse(text) as [string, string | null]
  return { text: words, settledBy }
}

/** What somebody who watches may still see, and what changed. */
export interface Watched {
  /** Sessions that go on, with whose they are now. */
  visitors: Map<string, { id: number, role: Role }>
  /** `advising` are the advisor and who stands in; `here` who has the file open, with their names. */
  students: Map<number, { advising: number[], version: number, plans: Record<string, number>, here: Record<string, string> }>
  catalog: number
}

interface WatchedRow extends Record<'i' | 'j', number> {
  kind: 'file' | 'plan' | 'catalog' | 'session' | 'deputy' | 'here'
  n: number | null
  a: string
  b: Role
}

/** Versions of what is watched and who may still watch, in one statement however many do. */
export async function readWatched(db: Executor, students: readonly number[], sessions: readonly string[],
  { now, date, present }: { now: string, date: string, present: string }): Promise<Watched> {
  const ids = [...students]
  const rows = await plain<WatchedRow>(db,
    `SELECT 'file' kind, person i, version j, advisor n, NULL a, NULL b FROM students WHERE person IN (?)
     UNION ALL SELECT 'plan', student, version, id, NULL, NULL FROM plans WHERE student IN (?) AND deleted_at IS NULL
     UNION ALL SELECT 'catalog', 0, version, NULL, NULL, NULL FROM college_stamp
     UNION ALL SELECT 'session', p.id, 0, NULL, s.id, p.role FROM sessions s JOIN people p ON p.id = s.person
       WHERE s.id IN (?) AND s.valid_until > ? AND s.mark = SHA2(p.password_hash, 256)
     UNION ALL SELECT 'deputy', s.person, 0, d.deputy, NULL, NULL FROM students s JOIN deputies d ON d.advisor = s.advisor
       WHERE s.person IN (?) AND d.from_date <= ? AND d.until_date >= ?
     UNION ALL SELECT 'here', e.student, 0, e.person, p.name, NULL FROM presence e JOIN people p ON p.id = e.person
       WHERE e.student IN (?) AND e.seen_at > ?`,
    [ids, ids, [...sessions], fromInstantText(now), ids, date, date, ids, fromInstantText(present)])
  const found: Watched = { visitors: new Map(), students: new Map(), catalog: 0 }
  for (const { i, j, n } of rows.filter(row => row.kind === 'file')) found.students.set(i, { advising: n === null ? [] : [n], version: j,
    plans: {}, here: {} })
  for (const row of rows) {
    if (row.kind === 'plan') found.students.get(row.i)!.plans[String(row.n)] = row.j
    if (row.kind === 'deputy') found.students.get(row.i)?.advising.push(row.n!)
    if (row.kind === 'here') found.students.get(row.i)!.here[String(row.n)] = row.a
    if (row.kind === 'catalog') found.catalog = row.j
    if (row.kind === 'session') found.visitors.set(row.a, { id: row.i, role: row.b })
  }
  return found
}
