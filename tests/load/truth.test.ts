import { randomUUID } from 'node:crypto'
import { and, eq, sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { findingName } from '@ridgeway/core/registration'
import { EMPTY_PLAN, type PlanOperation } from '@ridgeway/core/planning'
import { linesOfProgram } from '@ridgeway/core/requirements'
import { LIMITS } from '../../shared/contract/limits'
import type { RunResult } from '../../shared/contract/acts/student'
import type { StudentState } from '../../shared/contract/views/student'
import * as s from '../../server/db/schema'
import { Client, close, db, News, openAccounts, problemOf } from './client'
import { freshStudents, lectureOf, TERM } from './students'

/** What must be true whatever is sent, and how much of it. */
let student: Client
let dagny: Client
let emrys: Client
beforeAll(async () => {
  const [name] = await openAccounts(await freshStudents(1, 70))
  ;[student, dagny, emrys] = await Promise.all([name!, 'dagny', 'emrys'].map(one => Client.signIn(one))) as [Client, Client, Client]
})
afterAll(close)
const state = (client: Client) => client.json<StudentState>('GET', `~?term=${TERM}`)
const edit = (client: Client, operations: PlanOperation[]) => client.call('POST', '~/plan', { baseVersion: 0, operations })
const setClock = (now: string) => db.update(s.clockSetting).set({ demoNow: now, setAt: new Date().toISOString() })

describe('registration', () => {
  const lineUp = async () => {
    const { section } = await lectureOf('LNG 140', 10)
    await student.json('PUT', '~/line-up', { term: TERM, choices: [{ course: 'LNG 140', sectionIds: [section] }] })
    return (await state(student)).lineUp[0]!.id
  }
  const register = (rowIds: number[], key: string, term = TERM) => student.call('POST', '~/registrations', { term, key, rowIds })

  it('closes after the last day to add, and takes no seat from then on', async () => {
    const row = await lineUp()
    const { addBy } = (await db.select().from(s.terms).where(eq(s.terms.code, TERM)))[0]!
    const dayAfter = new Date(Date.parse(`${addBy}T20:00:00Z`) + 86_400_000).toISOString()
    await setClock(dayAfter)
    const { answer } = await (await register([row], randomUUID())).json() as { answer: RunResult }
    expect(answer.rows[0]!.findings.filter(finding => !finding.ok).map(findingName)).toEqual(['session-closed'])
    expect((await state(student)).registered).toEqual([])
    // Half terms can be added later; when those can be no more either, the term is closed as a whole.
    const halves = (await db.select().from(s.termSessions).where(eq(s.termSessions.term, TERM))).flatMap(one => one.deadlines?.addBy ?? [])
    await setClock(new Date(Date.parse(`${halves.sort().at(-1)}T20:00:00Z`) + 86_400_000).toISOString())
    const { answer: over } = await (await register([row], randomUUID())).json() as { answer: RunResult }
    expect(over.rows[0]!.findings.filter(finding => !finding.ok).map(findingName)).toEqual(['gate-closing', 'session-closed'])
    // On the day itself it goes through.
    await setClock(`${addBy}T20:00:00.000Z`)
    const { answer: onTheDay } = await (await register([row], randomUUID())).json() as { answer: RunResult }
    expect(onTheDay.rows[0]!.outcome).toBe('register')
    await setClock('2026-11-10T16:00:00.000Z')
  })

  it('a key stands for one press: the same again repeats its answer, anything else is refused', async () => {
    const row = await lineUp()
    const key = randomUUID()
    const first = await (await register([row], key)).json() as { answer: RunResult }
    const again = await (await register([row], key)).json() as { answer: RunResult }
    expect([first.answer.repeated, again.answer.repeated]).toEqual([false, true])
    expect(again.answer.rows).toEqual(first.answer.rows)
    expect(await problemOf(await register([row, row + 1], key))).toMatchObject({ status: 409, code: 'key-used' })
    expect(await problemOf(await register([row], key, '2027FA'))).toMatchObject({ status: 409, code: 'key-used' })
  })
})

describe('what is there once', () => {
  it('eight identical waivers at once make one', async () => {
    const [timber] = await db.select().from(s.programs).where(eq(s.programs.code, 'TIM-BS'))
    const waived = { kind: 'waiver', program: 'TIM-BS', line: linesOfProgram(timber!.body)[0]!.id, course: null,
      reason: 'Trained as a joiner' }
    const answers = await Promise.all(Array.from({ length: 8 }, () =>
      dagny.call('POST', `/api/students/${emrys.id}/exceptions`, waived)))
    expect(answers.map(answer => answer.status).sort()).toEqual([200, ...Array.from({ length: 7 }, () => 409)])
    const rows = await db.select().from(s.exceptions).where(and(eq(s.exceptions.student, emrys.id), eq(s.exceptions.kind, 'waiver')))
    expect(rows.length).toBe(1)
    const { student: of, kind, program, line: on, course, reason, grantedBy, grantedAt } = rows[0]!
    // The table itself knows, whoever writes.
    await expect(db.insert(s.exceptions).values({ student: of, kind, program, line: on, course, reason, grantedBy, grantedAt })).rejects
      .toThrow()
  })

  it('one current plan, one wish that waits: the tables refuse a second', async () => {
    const details = { ...EMPTY_PLAN, entries: undefined } as never
    await expect(db.insert(s.plans).values({ student: emrys.id, name: 'Second', current: true, version: 0, details })).rejects.toThrow()
    const wish = { student: emrys.id, programs: ['TIM-BS-2024'], note: '', askedAt: '2026-11-10T16:00:00.000Z',
      state: 'asked' as const, words: '' }
    await db.insert(s.programRequests).values(wish)
    await expect(db.insert(s.programRequests).values(wish)).rejects.toThrow()
    await db.delete(s.programRequests).where(eq(s.programRequests.student, emrys.id))
  })

  it.each([
    ['a registration for a course that is none', sql`INSERT INTO registrations
      (student, section, pool, term, course, credits, run, registered_at)
      SELECT person, (SELECT MIN(id) FROM sections), (SELECT MIN(id) FROM seat_pools), '2027SP', 'XXX 999', 0, 'x', NOW(3)
      FROM students LIMIT 1`],
    ['a meeting at a site that is none', sql`UPDATE meetings SET site = 'nowhere' LIMIT 1`],
    ['a program that is none', sql`UPDATE student_programs SET program = 'XXX-BS-1999' LIMIT 1`],
    ['an exception for a course that is none', sql`UPDATE exceptions SET course = 'XXX 999' WHERE kind <> 'substitution' LIMIT 1`],
    ['a substitution in the place of a course that is none', sql`UPDATE exceptions SET instead = 'XXX 999' LIMIT 1`],
    ['a course taken here that is none', sql`UPDATE records SET course = 'XXX 999' WHERE source = 'here' LIMIT 1`],
    ['a ledger line about seats that are none', sql`UPDATE ledger SET pool = 999999999 LIMIT 1`],
  ])('%s is refused by the table itself', async (_, statement) => {
    await expect(db.execute(statement)).rejects.toThrow()
  })

  it('ids that differ by case are two; ids with an accent or an invisible sign are none', async () => {
    const place = (entry: string, course: string): PlanOperation => ({ kind: 'place', entry, course, term: '2028SP', credits: 300 })
    expect((await edit(emrys, [place('abc', 'VAL 110'), place('ABC', 'LNG 140')])).status).toBe(200)
    expect((await state(emrys)).file.entries.filter(entry => /^abc$/i.test(entry.id)).map(entry => entry.id).sort()).toEqual(['ABC', 'abc'])
    for (const entry of ['\u00E4bc', 'abc\u0000', 'abc ', 'a\u0301bc'])
      expect((await problemOf(await edit(emrys, [place(entry, 'VAL 220')]))).status).toBe(400)
    // And where something else writes: no two different texts are equal for the database.
    const [rows] = await db.execute(sql`SELECT COLUMN_NAME name, COLLATION_NAME collation_name FROM information_schema.columns
      WHERE TABLE_SCHEMA = DATABASE() AND COLLATION_NAME IS NOT NULL AND TABLE_NAME NOT LIKE '\\_\\_%'`) as unknown as
      [{ name: string, collation_name: string }[]]
    expect(new Set(rows.map(row => row.collation_name))).toEqual(new Set(['utf8mb4_nopad_bin']))
  })
})

describe('an edit names what is there', () => {
  const entry = 'somewhere'
  it.each([
    ['a line of no program', { kind: 'hold', entry, line: 'WSC-BS/no-such-line', term: '2028SP', credits: 300 }],
    ['a program that is none', { kind: 'hold', entry, line: 'XYZ-BS/voices', term: '2028SP', credits: 300 }],
    ['a use on a line that is none', { kind: 'pin use', entry: 'abc', line: 'WSC-BS/no-such-line' }],
    ['a term outside the calendar', { kind: 'move', entry: 'abc', term: '2199SP' }],
    ['a term off outside the calendar', { kind: 'wishes', wishes: { target: null, termsOff: ['1999FA'], latestFinish: null } }],
    ['a finish outside the calendar', { kind: 'wishes', wishes: { target: null, termsOff: [], latestFinish: '2199SP' } }],
    ['a note on such a term', { kind: 'term note', term: '2199SP', note: 'x' }],
  ] as [string, PlanOperation][])('%s is refused, and nothing is written', async (_, operation) => {
    const before = await state(emrys)
    const answer = await edit(emrys, [{ kind: 'plan note', note: 'written with it' }, operation])
    expect([404, 422]).toContain(answer.status)
    const after = await state(emrys)
    expect(after.plan.version).toBe(before.plan.version)
    expect(after.plan.note).toBe(before.plan.note)
  })
})

describe('limits', () => {
  it('of a plan: courses and places held', async () => {
    const courses = (await db.select().from(s.courses)).filter(course => course.credits === 300).slice(0, 100)
    const placeAll = (term: string): PlanOperation[] =>
      courses.map(({ code }, i) => ({ kind: 'place', entry: `many-${term}-${i}`, course: code, term, credits: 300 }))
    const second = await student.json<{ id: number }>('POST', '~/plans', { name: 'Many', copyOf: null })
    const into = (operations: PlanOperation[]) => student.call('POST', '~/plan', { plan: second.id, baseVersion: 0, operations })
    expect((await into(placeAll('2028SP'))).status).toBe(200)
    expect(await problemOf(await into(placeAll('2028FA')))).toMatchObject({ status: 422, code: 'plan-full' })
    const hold = (i: number): PlanOperation => ({ kind: 'hold', entry: `hold-${i}`, line: 'WSC-BS/voices', term: '2028SP', credits: 300 })
    expect(await problemOf(await into(Array.from({ length: LIMITS.placeholders + 1 }, (_, i) => hold(i))))).toMatchObject({ status: 422,
      code: 'plan-full' })
    const { file } = await student.json<StudentState>('GET', `~?term=${TERM}&plan=${second.id}`)
    expect([file.entries.length, file.placeholders.length]).toEqual([100, 0])
  })

  it('of deleted plans: the oldest go for good', async () => {
    for (let i = 0; i < LIMITS.deletedPlans + 4; i++) {
      const { id } = await student.json<{ id: number }>('POST', '~/plans', { name: `Gone ${i}`, copyOf: null })
      await student.json('PUT', `~/plans/${id}`, { deleted: true })
    }
    const rows = await db.select().from(s.plans).where(and(eq(s.plans.student, student.id), sql`${s.plans.deletedAt} IS NOT NULL`))
    expect(rows.length).toBe(LIMITS.deletedPlans)
    expect(rows.map(row => row.name)).not.toContain('Gone 0')
  })

  it('of comments', async () => {
    const at = '2026-11-10T16:00:00.000Z'
    await db.insert(s.comments).values(Array.from({ length: LIMITS.comments }, (_, i) => ({ student: student.id, author: student.id, at,
      term: null, entry: null, text: `${i}` })))
    const comment = { term: null, entry: null, text: 'one more' }
    expect(await problemOf(await student.call('POST', '~/comments', comment))).toMatchObject({ status: 422, code: 'too-many-comments' })
    await db.delete(s.comments).where(eq(s.comments.student, student.id))
    expect((await student.call('POST', '~/comments', comment)).status).toBe(200)
  })

  it('of pages that listen, and of sessions', async () => {
    const open = await Promise.all(Array.from({ length: LIMITS.streams }, () => News.of(student, student.id)))
    expect(await problemOf(await student.call('GET', '~/news'))).toMatchObject({ status: 429, code: 'too-many-pages' })
    await Promise.all(open.map(news => news.close()))
    for (let i = 0; i < LIMITS.sessions + 2; i++) await Client.signIn(student.username)
    const sessions = await db.select().from(s.sessions).where(eq(s.sessions.person, student.id))
    expect(sessions.length).toBe(LIMITS.sessions)
    // The first of them was the oldest.
    expect((await student.call('GET', `~?term=${TERM}`)).status).toBe(401)
  })
})
