import { randomUUID } from 'node:crypto'
import { and, eq, inArray, isNotNull, sql } from 'drizzle-orm'
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import type { ChangeResult, RunResult } from '../../shared/contract/acts/student'
import type { OtherTerm, SeatNews, StudentState } from '../../shared/contract/views/student'
import * as s from '../../server/db/schema'
import { Client, close, db, openAccounts, problemOf } from './client'
import { settled } from './settled'
import { emptyWeeks, freshStudents, lectureOf, settleAccounts, TERM } from './students'

/** Waiting in all its ways, and what stands before registering: exchanges decided beforehand, bundles of two full parts, codes, closing. */
const COURSE = 'LNG 140'
let ids: number[]
let clients: Client[]
let edda: Client

beforeAll(async () => {
  ids = await freshStudents(5, 220)
  clients = await Promise.all((await openAccounts(ids)).map(name => Client.signIn(name)))
  edda = await Client.signIn('edda')
})
beforeEach(async () => {
  await db.delete(s.waitlistEntries).where(inArray(s.waitlistEntries.student, ids))
  await db.delete(s.freedSeats)
  await emptyWeeks(ids)
  await settleAccounts(ids)
  await setClock('2026-11-10T16:00:00.000Z')
})
afterAll(async () => {
  await db.delete(s.waitlistEntries).where(inArray(s.waitlistEntries.student, ids))
  await emptyWeeks(ids)
  await setClock('2026-11-10T16:00:00.000Z')
  await close()
})
const setClock = (demoNow: string) => db.update(s.clockSetting).set({ demoNow, setAt: new Date().toISOString() })
async function register(client: Client, course: string, sections: number[]) {
  await client.json('PUT', '~/line-up', { term: TERM, choices: [{ course, sectionIds: sections }] })
  await client.json('PUT', '~/line-up/row', { term: TERM, course, waitIfFull: true })
  const [row] = await db.select().from(s.lineUpRows).where(and(eq(s.lineUpRows.student, client.id), eq(s.lineUpRows.course, course)))
  return (await client.json<RunResult>('POST', '~/registrations', { term: TERM, key: randomUUID(), rowIds: [row!.id] })).rows[0]!
}
const drop = (client: Client, course: string) => client.json<ChangeResult>('POST', '~/drops', { term: TERM, key: randomUUID(),
  courses: [course], everything: true })
const heldBy = async (client: Client) => (await db.select().from(s.registrations).where(eq(s.registrations.student, client.id)))
  .map(row => row.section).sort((a, b) => a - b)
const waitsOf = (client: Client) => db.select().from(s.waitlistEntries).where(eq(s.waitlistEntries.student, client.id))
const poolOf = async (section: number) => (await db.select().from(s.seatPools).where(eq(s.seatPools.section, section))
  .orderBy(s.seatPools.id))[0]!

/** A second lecture of the course, emptied. */
async function secondOf(first: number, capacity: number): Promise<number> {
  const other = (await db.select().from(s.sections).where(and(eq(s.sections.course, COURSE), eq(s.sections.term, TERM),
    eq(s.sections.cancelled, false), sql`${s.sections.seatsWith} IS NULL`))).find(one => one.id !== first)!
  await emptied([other.id], capacity)
  return other.id
}
async function emptied(sections: number[], capacity: number) {
  const holders = await db.select().from(s.registrations).where(inArray(s.registrations.section, sections))
  if (holders.length > 0) await emptyWeeks(holders.map(row => row.student))
  await db.delete(s.waitlistEntries).where(inArray(s.waitlistEntries.section, sections))
  // All of them for everybody, in the first category.
  const pools = await db.select().from(s.seatPools).where(inArray(s.seatPools.section, sections)).orderBy(s.seatPools.id)
  for (const [i, pool] of pools.entries()) {
    const isFirst = pools.findIndex(one => one.section === pool.section) === i
    await db.update(s.seatPools).set({ capacity: isFirst ? capacity : 0, taken: 0, held: 0, ...isFirst ? { forGroup: null } : {} })
      .where(eq(s.seatPools.id, pool.id))
  }
  await db.update(s.sections).set({ waitlistCapacity: 9, onlyPrograms: [], onlyStandings: [], onlyCohorts: [] })
    .where(inArray(s.sections.id, sections))
  await db.update(s.terms).set({ sectionsVersion: sql`${s.terms.sectionsVersion} + 1` }).where(eq(s.terms.code, TERM))
}
/** A lecture and its lab, for which nothing is asked, with so many seats each. */
async function labBundle(capacity: number): Promise<{ course: string, sections: number[] }> {
  const rows = await db.select({ id: s.sections.id, course: s.sections.course, link: s.sections.link }).from(s.sections)
    .innerJoin(s.courses, eq(s.courses.code, s.sections.course)).where(and(eq(s.sections.term, TERM), eq(s.courses.prerequisite, ''),
      eq(s.courses.corequisite, ''), eq(s.sections.cancelled, false), eq(s.sections.session, 'full'),
      sql`JSON_LENGTH(${s.courses.parts}) = 2 AND ${s.sections.seatsWith} IS NULL`)).orderBy(s.sections.id)
  const first = rows.find(row => rows.filter(one => one.course === row.course && one.link === row.link).length === 2)!
  const sections = rows.filter(one => one.course === first.course && one.link === first.link).map(one => one.id)
  await emptied(sections, capacity)
  return { course: first.course, sections }
}

describe('an exchange decided beforehand', () => {
  it('waits while you keep what you have, and happens by itself when a seat is offered: both or neither', async () => {
    const { section: first } = await lectureOf(COURSE, 5)
    const second = await secondOf(first, 1)
    const [holder, client] = clients as [Client, Client]
    await register(holder, COURSE, [second])
    await register(client, COURSE, [first])
    const body = { term: TERM, drops: [COURSE], course: COURSE, sectionIds: [second] }
    const key = randomUUID()
    const asked = await Promise.all([1, 2].map(() => client.json<ChangeResult>('POST', '~/exchanges', { ...body, key, wait: true })))
    expect(asked.map(one => [one.done, one.waits])).toEqual([[false, true], [false, true]])
    expect(await heldBy(client)).toEqual([first])
    expect(await waitsOf(client)).toMatchObject([{ section: second, exchange: [COURSE] }])
    await drop(holder, COURSE)
    await settled(async () => expect(await heldBy(client)).toEqual([second]))
    expect(await waitsOf(client)).toEqual([])
    expect(await poolOf(first)).toMatchObject({ taken: 0, held: 0 })
    expect(await poolOf(second)).toMatchObject({ taken: 1, held: 0 })
  })

  it('is refused by what came about since: then the seat is held, and the student is asked', async () => {
    const { section } = await lectureOf(COURSE, 1)
    const [holder, client] = clients as [Client, Client]
    await register(holder, COURSE, [section])
    expect((await register(client, COURSE, [section])).outcome).toBe('waitlist')
    const [entry] = await waitsOf(client)
    expect(await problemOf(await client.call('PUT', '~/waitlist', { term: TERM, entry: entry!.id, exchange: ['HYD 110'] })))
      .toMatchObject({ code: 'not-registered' })
    await client.json('PUT', '~/waitlist', { term: TERM, entry: entry!.id, exchange: [] })
    // A hold is placed since: registering is closed, the offer is not lost by that.
    await db.insert(s.holds).values({ student: client.id, reason: 'library', contact: 'library@larkmoor.example',
      placed: '2026-11-10T12:00:00.000Z', cleared: null })
    await drop(holder, COURSE)
    await settled(async () => expect((await waitsOf(client))[0]!.offerUntil).not.toBeNull())
    expect(await heldBy(client)).toEqual([])
    await db.delete(s.holds).where(eq(s.holds.student, client.id))
    const [offer] = await waitsOf(client)
    expect(await problemOf(await client.call('PUT', '~/waitlist', { term: TERM, entry: offer!.id, exchange: null })))
      .toMatchObject({ code: 'offered-already' })
    await client.json('POST', '~/offers', { term: TERM, key: randomUUID(), entry: offer!.id })
    expect(await heldBy(client)).toEqual([section])
  })
})

describe('a bundle of two full parts', () => {
  it('is offered whole, taken whole, and what is let go of it goes to the next whole', async () => {
    const { course, sections } = await labBundle(1)
    const [holder, first, second] = clients as [Client, Client, Client]
    expect((await register(holder, course, sections)).outcome).toBe('register')
    for (const client of [first, second]) {
      const waiting = await register(client, course, sections)
      expect(waiting.findings.filter(finding => !finding.ok).map(finding => finding.code)).toEqual(['seats-full', 'seats-full'])
      expect(waiting.waits).toHaveLength(2)
    }
    await drop(holder, course)
    await settled(async () => expect((await waitsOf(first)).filter(one => one.offerUntil)).toHaveLength(2))
    expect((await waitsOf(second)).filter(one => one.offerUntil)).toEqual([])
    // Letting one part go lets the other go: neither is of use alone.
    await first.call('DELETE', `~/waitlist?term=${TERM}&entry=${(await waitsOf(first))[0]!.id}`)
    expect(await waitsOf(first)).toEqual([])
    await settled(async () => expect((await waitsOf(second)).filter(one => one.offerUntil)).toHaveLength(2))
    await second.json('POST', '~/offers', { term: TERM, key: randomUUID(), entry: (await waitsOf(second))[1]!.id })
    expect(await heldBy(second)).toEqual([...sections].sort((a, b) => a - b))
    for (const section of sections) expect(await poolOf(section)).toMatchObject({ taken: 1, held: 0 })
    expect(await db.select().from(s.waitlistEntries).where(and(inArray(s.waitlistEntries.section, sections),
      isNotNull(s.waitlistEntries.offerPool)))).toEqual([])
  })
})

describe('waiting', () => {
  it('ends when the course is registered otherwise, with the held seat for the next', async () => {
    const { section: first } = await lectureOf(COURSE, 1)
    const second = await secondOf(first, 3)
    const [holder, client, next] = clients as [Client, Client, Client]
    await register(holder, COURSE, [first])
    for (const one of [client, next]) await register(one, COURSE, [first])
    await drop(holder, COURSE)
    await settled(async () => expect((await waitsOf(client))[0]!.offerUntil).not.toBeNull())
    expect((await register(client, COURSE, [second])).outcome).toBe('register')
    expect(await waitsOf(client)).toEqual([])
    await settled(async () => expect((await waitsOf(next))[0]!.offerUntil).not.toBeNull())
    expect(await poolOf(first)).toMatchObject({ taken: 0, held: 1 })
  })

  it('ends when nothing of the session can be added any more, and how it went is kept for those who come later', async () => {
    const { section } = await lectureOf(COURSE, 1)
    const [holder, client] = clients as [Client, Client]
    await register(holder, COURSE, [section])
    await register(client, COURSE, [section])
    const [term] = await db.select().from(s.terms).where(eq(s.terms.code, TERM))
    const past = async () => (await db.select().from(s.waitlistPast).where(and(eq(s.waitlistPast.course, COURSE),
      eq(s.waitlistPast.term, TERM), eq(s.waitlistPast.offered, false)))).length
    const before = await past()
    await setClock(new Date(Date.parse(`${term!.addBy}T20:00:00Z`) + 86_400_000).toISOString())
    await settled(async () => expect(await waitsOf(client)).toEqual([]))
    expect(await past()).toBeGreaterThan(before)
    const told = await db.select().from(s.ledger).where(and(eq(s.ledger.student, client.id), eq(s.ledger.action, 'waitlist closed')))
    expect(told).toHaveLength(1)
  })
})

describe('a release code', () => {
  it('opens the sign-off gate for that student and term, once; tries are counted', async () => {
    const [client, stranger] = clients as [Client, Client]
    await db.delete(s.signOffs).where(eq(s.signOffs.student, client.id))
    const [{ advisor }] = await db.select({ advisor: s.students.advisor }).from(s.students).where(eq(s.students.person, client.id)) as [
      { advisor: number }]
    const [person] = await db.select().from(s.people).where(eq(s.people.id, advisor))
    const advising = await Client.signIn(person!.username)
    const { code } = await advising.json<{ code: string }>('POST', `/api/students/${client.id}/release-code`, { term: TERM })
    const gate = async () => (await client.json<StudentState>('GET', `~?term=${TERM}`)).gates
      .find(one => (one as { kind: string }).kind === 'sign-off') as { open: boolean, released: string | null }
    expect((await gate()).open).toBe(false)
    const enter = (who: Client, text: string) => who.call('PUT', '~/release-code', { term: TERM, code: text })
    expect(await problemOf(await enter(stranger, code))).toMatchObject({ status: 422, code: 'code-wrong' })
    expect((await enter(client, code.toLowerCase())).status).toBe(200)
    expect(await gate()).toMatchObject({ open: true, released: '2026-11-10' })
    expect(await problemOf(await enter(client, code))).toMatchObject({ code: 'code-wrong' })
    const tries = []
    for (let i = 0; i < 12; i++) tries.push((await problemOf(await enter(stranger, 'ABCD-2345'))).code)
    expect(tries.at(-1)).toBe('too-many-codes')
    // Nobody but the advisor makes one.
    expect((await client.call('POST', '~/release-code', { term: TERM })).status).toBe(403)
    await db.delete(s.releaseCodes).where(eq(s.releaseCodes.student, client.id))
    await db.insert(s.signOffs).values({ student: client.id, term: TERM, advisor, at: '2026-11-01T12:00:00.000Z', note: '', copy: [] })
  })
})

describe('a rule that is lifted', () => {
  it('lets a course be added after the last day, for that student alone; taken back, the day holds again', async () => {
    const { section } = await lectureOf(COURSE, 5)
    const [client, other] = clients as [Client, Client]
    const halves = (await db.select().from(s.termSessions).where(eq(s.termSessions.term, TERM))).flatMap(one => one.deadlines?.addBy ?? [])
    await setClock(new Date(Date.parse(`${halves.sort().at(-1)}T20:00:00Z`) + 86_400_000).toISOString())
    expect((await register(client, COURSE, [section])).outcome).toBe('refused')
    const [student] = await db.select().from(s.students).where(eq(s.students.person, client.id))
    const [person] = await db.select().from(s.people).where(eq(s.people.id, student!.advisor!))
    const advising = await Client.signIn(person!.username)
    const at = `/api/students/${client.id}/lifted-rules`
    const late = { kind: 'late add', term: TERM, course: COURSE, reason: 'was ill in the first week' }
    expect((await client.call('POST', '~/lifted-rules', late)).status).toBe(403)
    await advising.json('POST', at, late)
    expect(await problemOf(await advising.call('POST', at, late))).toMatchObject({ status: 409, code: 'granted-already' })
    expect(await problemOf(await advising.call('POST', at, { kind: 'load', term: TERM, credits: 1200, reason: 'more' })))
      .toMatchObject({ code: 'no-more' })
    const { lifted } = await client.json<StudentState>('GET', `~?term=${TERM}`)
    expect(lifted).toMatchObject([{ kind: 'late add', course: COURSE, reason: 'was ill in the first week', by: person!.name }])
    expect((await register(client, COURSE, [section])).outcome).toBe('register')
    expect((await register(other, COURSE, [section])).outcome).toBe('refused')
    await drop(client, COURSE)
    await advising.json('DELETE', `${at}?id=${lifted[0]!.id}`)
    expect((await register(client, COURSE, [section])).outcome).toBe('refused')
    await db.delete(s.records).where(eq(s.records.student, client.id))
  })
})

describe('the office', () => {
  it('closes registration of a term for everybody, with a reason, and opens it again; drops go on', async () => {
    const { section } = await lectureOf(COURSE, 5)
    const [client, other] = clients as [Client, Client]
    await register(client, COURSE, [section])
    expect((await client.call('PUT', '/api/terms', { term: TERM, because: 'mischief' })).status).toBe(403)
    await edda.json('PUT', '/api/terms', { term: TERM, because: 'Rooms are being moved' })
    try {
      const refused = await register(other, COURSE, [section])
      expect(refused.findings.filter(finding => !finding.ok)).toMatchObject([{ code: 'gate', gate: { kind: 'office',
        because: 'Rooms are being moved' } }])
      expect((await drop(client, COURSE)).done).toBe(true)
    }
    finally {
      await edda.json('PUT', '/api/terms', { term: TERM, because: null })
    }
    expect((await register(other, COURSE, [section])).outcome).toBe('register')
  })
})

describe('live seats', () => {
  it('are told to every open page of a term within moments, as they change', async () => {
    const { section, pool } = await lectureOf(COURSE, 5)
    const [client, watcher] = clients as [Client, Client]
    const answer = await fetch(`${watcher.address}/api/students/${watcher.id}/news?term=${TERM}`, { headers: { cookie: watcher.cookie } })
    const reader = answer.body!.pipeThrough(new TextDecoderStream()).getReader()
    let text = ''
    const next = async (holds: (news: SeatNews) => boolean): Promise<SeatNews> => {
      for (;;) {
        for (let end = text.indexOf('\n\n'); end >= 0; end = text.indexOf('\n\n')) {
          const event = text.slice(0, end).split('\n')
          text = text.slice(end + 2)
          if (!event.includes('event: seats')) continue
          const news = JSON.parse(event.find(line => line.startsWith('data:'))!.slice(5)) as SeatNews
          if (holds(news)) return news
        }
        text += (await reader.read()).value ?? ''
      }
    }
    const first = await next(() => true)
    expect(Object.keys(first.pools).length).toBeGreaterThan(400)
    await register(client, COURSE, [section])
    const told = await next(news => news.pools[pool]?.[1] === 1)
    // Only what changed is told.
    expect(Object.keys(told.pools).length).toBeLessThan(50)
    await reader.cancel()
  })
})

describe('several terms', () => {
  it('have their run sheets beside each other, each with its own gates', async () => {
    const [client] = clients as [Client]
    const [summer] = await db.select().from(s.sections).innerJoin(s.courses, eq(s.courses.code, s.sections.course))
      .where(and(eq(s.sections.term, '2027SU'), eq(s.sections.cancelled, false), sql`JSON_LENGTH(${s.courses.parts}) = 1`)).limit(1)
    await client.json('PUT', '~/line-up', { term: '2027SU',
      choices: [{ course: summer!.sections.course, sectionIds: [summer!.sections.id] }] })
    const read = async () => (await client.json<OtherTerm[]>('GET', `~/line-ups?term=${TERM}`))
    expect(await read()).toMatchObject([{ term: '2027SU', rows: [{ course: summer!.sections.course, outcome: 'refused' }] }])
    const closed = (await read())[0]!.gates.filter(gate => !(gate as { open: boolean }).open).map(gate => (gate as { kind: string }).kind)
    expect(closed).toEqual(['opening', 'sign-off', 'terms'])
    // Seen from summer, nothing of spring is lined up.
    expect(await client.json('GET', '~/line-ups?term=2027SU')).toEqual([])
    await db.delete(s.lineUpRows).where(eq(s.lineUpRows.student, client.id))
  })
})
