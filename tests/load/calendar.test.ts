import { and, desc, eq } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { CalendarOfTerm } from '../../shared/contract/acts/office'
import * as s from '../../server/db/schema'
import { Client, close, db, problemOf } from './client'

/** The academic calendar by hand: days, sessions and new terms. A term that nobody plans in yet is changed, and left as it was. */
const TERM = '2029FA'
let edda: Client
let calendar: CalendarOfTerm
async function read(): Promise<CalendarOfTerm> {
  const [term] = await db.select().from(s.terms).where(eq(s.terms.code, TERM))
  const sessions = await db.select().from(s.termSessions).where(eq(s.termSessions.term, TERM))
  return { noClass: term!.noClass, movedDays: term!.movedDays,
    sessions: sessions.map(({ term: _, deadlines, ...one }) => ({ ...one, deadlines: deadlines ?? null })) }
}
beforeAll(async () => {
  edda = await Client.signIn('edda')
  calendar = await read()
})
afterAll(async () => {
  await send(calendar, await read())
  await close()
})
const send = (wanted: CalendarOfTerm, seen: CalendarOfTerm, who = edda) =>
  who.call('PUT', '/api/terms/calendar', { ...wanted, term: TERM, seen })

describe('the calendar of a term', () => {
  it('takes days without classes, days that follow another weekday, and another session, in the order of the days', async () => {
    const wanted: CalendarOfTerm = { noClass: [{ date: '2029-11-22', name: 'Harvest break' }, { date: '2029-10-08', name: 'College day' }],
      movedDays: [{ date: '2029-10-10', follows: 'M' }],
      sessions: [...calendar.sessions, { code: 'late', name: 'Late start', start: '2029-10-01', end: '2029-12-01', deadlines: null }] }
    expect((await send(wanted, calendar)).status).toBe(200)
    const now = await read()
    expect(now.noClass.map(one => one.date)).toEqual(['2029-10-08', '2029-11-22'])
    expect(now.movedDays).toEqual([{ date: '2029-10-10', follows: 'M' }])
    expect(now.sessions.map(one => one.code).sort()).toEqual([...calendar.sessions.map(one => one.code), 'late'].sort())
    const [told] = await db.select().from(s.ledger).where(eq(s.ledger.action, 'import')).orderBy(desc(s.ledger.id)).limit(1)
    expect(told).toMatchObject({ actor: edda.id })
    // A session without sections may go again.
    expect((await send({ ...now, sessions: calendar.sessions }, now)).status).toBe(200)
    expect((await read()).sessions.map(one => one.code)).not.toContain('late')
  })

  it('refuses what is made from a calendar that somebody changed meanwhile, and changes nothing', async () => {
    const now = await read()
    const answer = await problemOf(await send({ ...now, noClass: [] }, { ...now, noClass: [{ date: '2029-09-03', name: 'Elsewhere' }] }))
    expect(answer).toMatchObject({ status: 409, code: 'calendar-changed' })
    expect(await read()).toEqual(now)
  })

  it.each<[string, (now: CalendarOfTerm) => CalendarOfTerm, string]>([
    ['a day outside the term', now => ({ ...now, noClass: [{ date: '2031-01-01', name: 'New year' }] }), 'is not in'],
    ['a day twice', now => ({ ...now, noClass: [{ date: '2029-10-09', name: 'A' }, { date: '2029-10-09', name: 'B' }] }), 'named twice'],
    ['a session beyond the term', now => ({ ...now, sessions: [...now.sessions, { code: 'x', name: 'X', start: '2029-10-01',
      end: '2031-01-01',
      deadlines: null }] }), 'lies within its term'],
    ['two sessions of one code', now => ({ ...now, sessions: [...now.sessions, now.sessions[0]!] }), 'Two sessions are called'],
  ])('refuses %s', async (_, change, words) => {
    const now = await read()
    const answer = await problemOf(await send(change(now), now))
    expect(answer.status).toBe(422)
    expect(answer.title).toContain(words)
    expect(await read()).toEqual(now)
  })

  it('keeps a session that has sections', async () => {
    const sessions = await db.select().from(s.termSessions).where(eq(s.termSessions.term, '2027SP'))
    const [term] = await db.select().from(s.terms).where(eq(s.terms.code, '2027SP'))
    const seen = { noClass: term!.noClass, movedDays: term!.movedDays,
      sessions: sessions.map(({ term: _, deadlines, ...one }) => ({ ...one, deadlines: deadlines ?? null })) }
    const [used] = await db.select({ session: s.sections.session }).from(s.sections).where(eq(s.sections.term, '2027SP')).limit(1)
    const answer = await edda.call('PUT', '/api/terms/calendar', { ...seen, term: '2027SP', seen,
      sessions: seen.sessions.filter(one => one.code !== used!.session) })
    expect(await problemOf(answer)).toMatchObject({ status: 422, code: 'session-used' })
  })

  it('is for the office alone', async () => {
    const hollis = await Client.signIn('hollis')
    expect((await send(calendar, calendar, hollis)).status).toBe(403)
  })
})

describe('another term', () => {
  const NEW = { term: '2044SP', name: 'Spring 2044', start: '2044-01-11', end: '2044-04-29', addBy: '2044-01-18', dropBy: '2044-01-25',
    withdrawBy: '2044-03-25', feesDue: '2044-01-04', loadCap: 1800, fullTime: 1200 }
  it('is added once with one session, and refused where its days make no sense', async () => {
    expect(await problemOf(await edda.call('POST', '/api/terms', { ...NEW, end: '2043-12-01' }))).toMatchObject({ code: 'dates-wrong',
      title: expect.stringContaining('ends before it begins') })
    expect(await db.$count(s.terms, eq(s.terms.code, '2044SP'))).toBe(0)
    expect((await edda.call('POST', '/api/terms', NEW)).status).toBe(200)
    expect(await db.select().from(s.termSessions).where(and(eq(s.termSessions.term, '2044SP')))).toMatchObject([{ code: 'full',
      start: NEW.start, end: NEW.end }])
    expect(await problemOf(await edda.call('POST', '/api/terms', NEW))).toMatchObject({ status: 409, code: 'term-known' })
    await db.delete(s.termSessions).where(eq(s.termSessions.term, '2044SP'))
    await db.delete(s.terms).where(eq(s.terms.code, '2044SP'))
  })
})

describe('the ledger, asked for less', () => {
  it('tells one kind of act, and what happened up to the end of a day in the college\'s zone', async () => {
    interface Page { rows: { id: number, at: string, action: string }[], more: boolean }
    const imports = await edda.json<Page>('GET', '/api/ledger?action=import')
    expect(imports.rows.length).toBeGreaterThan(0)
    expect(new Set(imports.rows.map(row => row.action))).toEqual(new Set(['import']))
    const until = await edda.json<Page>('GET', '/api/ledger?day=2026-11-02')
    expect(until.rows.length).toBeGreaterThan(0)
    // Midnight after the second of November is seven in the morning in UTC there.
    for (const row of until.rows) expect(row.at < '2026-11-03T07:00:00.000Z').toBe(true)
  })
})
