import { eq, ne, sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Looking } from '../../server/college/asked'
import { type College, dateIn, KeptCollege } from '../../server/college/college'
import { Database, type Executor } from '../../server/db/database'
import * as s from '../../server/db/schema'
import { meetingsAhead } from '../../server/db/store/advisors'
import { adviseeFacts, adviseesOf, fileMarks } from '../../server/db/store/advising'
import { answeredBefore, lapsedOffers, registeredIn } from '../../server/db/store/changes'
import { readStamp } from '../../server/db/store/college'
import { noticesOf } from '../../server/db/store/notices'
import { advisorOf, findForSignIn, readVisitors } from '../../server/db/store/people'
import { plain } from '../../server/db/store/plain'
import { readForRuns } from '../../server/db/store/runs'
import { readWatched } from '../../server/db/store/students'
import { visitorByToken } from '../../server/db/store/tokens'
import { readAccountOf } from '../../server/views/account'
import { readBriefView, readMessagesView, readSlotsView } from '../../server/views/advising'
import { readFind } from '../../server/views/find'
import { readGroupsView } from '../../server/views/groups'
import { readLedgerView, readSectionView } from '../../server/views/office'
import { readStudentView } from '../../server/views/student'
import { readSheet, readWeekView } from '../../server/views/week'
import { close, db } from './client'
import { TERM } from './students'

/**
 * What is asked for every page and every press finds its rows by an index: how long it takes does not depend on how many people the college
 * has. Tables that grow with the people are named; whatever reads one of them from end to end fails here, unless it is said why.
 */
const GROWING = new Set(['people', 'students', 'student_programs', 'records', 'plans', 'plan_entries', 'plan_operations', 'sessions',
  'line_up_rows', 'registrations', 'registration_runs', 'waitlist_entries', 'sign_offs', 'sign_off_requests', 'terms_acceptances',
  'ledger', 'money_entries', 'notices', 'comments', 'holds', 'exceptions', 'milestones', 'payments', 'payment_choices', 'sign_in_tries',
  'week_wishes', 'shortlist', 'presence', 'file_looks', 'suggestions', 'write_marks'])

const database = new Database(process.env.DATABASE_URL!, 4)
const at = '2026-11-09T15:00:00.000Z'
let college: College
let student: number
let advisor: number
let office: number
let section: number
beforeAll(async () => {
  college = await database.read(async own => new KeptCollege().at(own, (await readStamp(own)).catalog))
  await database.read(own => college.sections.now(own, TERM))
  const people = await db.select().from(s.people).where(ne(s.people.story, ''))
  student = people.find(one => one.username === 'tamsin')!.id
  office = people.find(one => one.role === 'office')!.id
  advisor = (await db.select().from(s.students).where(eq(s.students.person, student)))[0]!.advisor!
  section = (await db.select().from(s.registrations).limit(1))[0]!.section
  // As a database that has been there for a while knows how its tables are filled.
  for (const table of GROWING) await db.execute(sql.raw(`ANALYZE TABLE ${table}`))
})
afterAll(async () => {
  await database.close()
  await close()
})

type Ask = (text: string | { sql: string }, values?: unknown[]) => Promise<unknown>

/** The statements that some work asks, each with its values; several that go together are told apart. */
async function statementsOf(work: (own: Executor) => Promise<unknown>): Promise<[text: string, values: unknown[]][]> {
  const found: [string, unknown[]][] = []
  await database.read(async (own) => {
    const client = (own as unknown as { $client: Record<'query' | 'execute', Ask> }).$client
    const { query, execute } = client
    const heard = (ask: Ask): Ask => (text, values) => {
      found.push([typeof text === 'string' ? text : text.sql, values ?? []])
      return ask.call(client, text, values)
    }
    Object.assign(client, { query: heard(query), execute: heard(execute) })
    try {
      await work(own)
    }
    finally {
      Object.assign(client, { query, execute })
    }
  })
  return found.flatMap(([text, values]) => {
    const together = /^BEGIN NOT ATOMIC (.*) END$/s.exec(text)
    if (!together) return [[text, values] as [string, unknown[]]]
    let used = 0
    return together[1]!.split(/;\s*/).filter(Boolean).map((one): [string, unknown[]] => {
      const count = one.split('?').length - 1
      used += count
      return [one, values.slice(used - count, used)]
    })
  })
}

interface Step { table: string | null, type: string | null, possible_keys: string | null, rows: number | null }
/** More rows than any page needs of one table. */
const MANY = 1000
/**
 * Growing tables that a statement reads from end to end, or by an index from end to end: many rows of them, or a few where no index could
 * find fewer once they are many. That a table of ten rows is read whole, though an index is there, says nothing.
 */
async function scannedBy([text, values]: [string, unknown[]]): Promise<string[]> {
  if (!/^\(?\s*(select|update|delete|with)/i.test(text)) return []
  const steps = await database.read(own => plain<Step>(own, `EXPLAIN ${text}`, values))
  const named = /(?:from|join|update)\s+`?(\w+)`?(?:\s+(?:as\s+)?`?(?!on\b|where\b|left\b|join\b|set\b)(\w+)`?)?/gi
  const names = new Map([...text.matchAll(named)].map(([, table, alias]) => [alias ?? table!, table!]))
  const isWhole = ({ type, possible_keys, rows }: Step) => (type === 'ALL' || type === 'index')
    && (Number(rows) > MANY || (type === 'ALL' && possible_keys === null))
  return steps.filter(isWhole).flatMap(({ table }) => {
    const whole = table && (names.get(table) ?? table)
    return whole && GROWING.has(whole) ? [whole] : []
  })
}

const looking = <Input>(own: Executor, who: number, input: Input, visitor = who): Looking<Input> => ({ db: own, student: who, plan: 0,
  college, at, date: dateIn(at, college.zone), input, visitor: { id: visitor, name: '', username: '', role: 'student', session: 'x' } })
const term = { term: TERM }

const ASKED: [what: string, work: (own: Executor) => Promise<unknown>, whole?: readonly string[]][] = [
  ['who asks', own => readVisitors(own, ['0'.repeat(64)], at)],
  ['whose advisor', own => advisorOf(own, student)],
  ['signing in', own => findForSignIn(own, 'tamsin')],
  ['a token', own => visitorByToken(own, '0'.repeat(64), at)],
  ['a student\'s file', own => readStudentView(looking(own, student, term))],
  ['a week', own => readWeekView(looking(own, student, term))],
  ['a dry run', own => readSheet(looking(own, student, term))],
  ['an account', own => readAccountOf(looking(own, student, term))],
  ['a search', own => readFind({ ...looking(own, student, term), input: { term: TERM, search: { text: 'water' }, most: 40 } })],
  ['groups', own => readGroupsView(looking(own, student, term))],
  ['messages', own => readMessagesView(looking(own, student, {}))],
  ['notices', own => noticesOf(own, student, 20)],
  ['news for many pages', own => readWatched(own, [student], ['x'], { now: at, date: '2026-11-09', present: at })],
  ['an advisor\'s students', async (own) => {
    const mine = (await adviseesOf(own, advisor, '2026-11-09')).map(one => one.student)
    await fileMarks(own, mine.slice(0, 30))
    await adviseeFacts(own, advisor, mine.slice(0, 30))
  }],
  ['a brief', own => readBriefView(looking(own, student, {}, advisor))],
  ['free times', own => readSlotsView(looking(own, student, {}))],
  ['meetings', own => meetingsAhead(own, 'student', student, at)],
  ['presses of Register', own => readForRuns(own, [{ student, key: 'k', term: TERM }], true)],
  ['what is registered', own => registeredIn(own, student, TERM, null)],
  ['a key', own => answeredBefore(own, student, 'k')],
  ['offers that are over', own => lapsedOffers(own, at)],
  ['a section of the office', own => readSectionView({ ...looking(own, 0, { term: TERM, section, consequences: '1' as const }, office) })],
  ['the ledger', own => readLedgerView(looking(own, 0, {}, office))],
  ['the ledger of a student', own => readLedgerView(looking(own, 0, { student }, office))],
  ['the ledger of a section', own => readLedgerView(looking(own, 0, { section }, office))],
]

describe('no page and no press reads a table that grows with the people from end to end', () => {
  it.each(ASKED)('%s', async (_, work, whole = []) => {
    const statements = await statementsOf(work)
    expect(statements.length).toBeGreaterThan(0)
    const scanned: [string, string][] = []
    for (const statement of statements)
      for (const table of await scannedBy(statement)) if (!whole.includes(table)) scanned.push([table, statement[0].slice(0, 300)])
    expect(scanned).toEqual([])
  })

  it('would be noticed: a question without an index is', async () => {
    expect(await scannedBy(['SELECT e.name FROM people e WHERE e.story LIKE ?', ['%x%']])).toEqual(['people'])
  })
})
