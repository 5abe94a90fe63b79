import { randomUUID } from 'node:crypto'
import { and, eq, inArray, isNotNull, sql } from 'drizzle-orm'
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import type { ChangeResult } from '../../shared/contract/acts/student'
import * as s from '../../server/db/schema'
import { Client, close, db, openAccounts, problemOf } from './client'
import { settled } from './settled'
import { emptyWeeks, freshStudents, lectureOf, lineUpAll, settleAccounts, TERM } from './students'

/** What follows after registering: dropping, exchanging, waiting, offers that are taken, left and lapse; with many at once. */
const CLIENTS = 10
const COURSE = 'LNG 140'
let ids: number[]
let clients: Client[]

beforeAll(async () => {
  ids = await freshStudents(CLIENTS, 90)
  clients = await Promise.all((await openAccounts(ids)).map(username => Client.signIn(username)))
})
beforeEach(async () => {
  await db.delete(s.waitlistEntries).where(inArray(s.waitlistEntries.student, ids))
  await db.delete(s.freedSeats)
  await emptyWeeks(ids)
  await db.delete(s.records).where(inArray(s.records.student, ids))
  await settleAccounts(ids)
  await setClock('2026-11-10T16:00:00.000Z')
})
afterAll(async () => {
  await db.delete(s.waitlistEntries).where(inArray(s.waitlistEntries.student, ids))
  await db.delete(s.freedSeats)
  await emptyWeeks(ids)
  await setClock('2026-11-10T16:00:00.000Z')
  await close()
})
const setClock = (demoNow: string) => db.update(s.clockSetting).set({ demoNow, setAt: new Date().toISOString() })

async function register(some: readonly Client[], section: number, course = COURSE) {
  const rows = await lineUpAll(some.map(client => client.id), course, [section])
  await Promise.all(some.map(client => client.json('POST', '~/registrations', { term: TERM, key: randomUUID(),
    rowIds: [rows.get(client.id)!] })))
}
/** The others wait, in their order. */
async function wait(some: readonly Client[], section: number) {
  for (const [i, client] of some.entries())
    await db.insert(s.waitlistEntries).values({ student: client.id, section, joined: `2026-11-09T10:00:${String(i).padStart(2, '0')}.000Z`,
      bundle: [section] })
}
const drop = (client: Client, courses = [COURSE], key = randomUUID()) =>
  client.json<ChangeResult>('POST', '~/drops', { term: TERM, key, courses, everything: true })
const seatsOf = async (pool: number) => (await db.select().from(s.seatPools).where(eq(s.seatPools.id, pool)))[0]!
const heldIn = (section: number) => db.select().from(s.registrations).where(eq(s.registrations.section, section))
const entriesOf = (section: number) => db.select().from(s.waitlistEntries).where(eq(s.waitlistEntries.section, section))
  .orderBy(s.waitlistEntries.joined)
const offersOf = async (section: number) => (await entriesOf(section)).filter(entry => entry.offerUntil !== null)
/** Promise 1, from the tables: seats that are taken are registered, seats that are held are offered or about to be, and never too many. */
async function invariants(pool: number) {
  const { capacity, taken, held } = await seatsOf(pool)
  const registered = await db.select().from(s.registrations).where(eq(s.registrations.pool, pool))
  const offered = await db.select().from(s.waitlistEntries).where(and(eq(s.waitlistEntries.offerPool, pool),
    isNotNull(s.waitlistEntries.offerUntil)))
  const freed = await db.select().from(s.freedSeats).where(eq(s.freedSeats.pool, pool))
  expect(taken).toBe(registered.length)
  expect(held).toBe(offered.length + freed.length)
  expect(taken + held).toBeLessThanOrEqual(capacity)
}

describe('dropping', () => {
  it('frees the seat and acts once however often it is sent; a drop that was done is no second one', async () => {
    const { section, pool } = await lectureOf(COURSE, 3)
    const [client] = clients as [Client]
    await register([client], section)
    const key = randomUUID()
    const answers = await Promise.all(Array.from({ length: 5 }, () => drop(client, [COURSE], key)))
    expect(answers.filter(answer => !answer.repeated)).toHaveLength(1)
    expect(answers.every(answer => answer.done)).toBe(true)
    expect(await heldIn(section)).toEqual([])
    await invariants(pool)
    const told = await db.select().from(s.ledger).where(and(eq(s.ledger.section, section), eq(s.ledger.action, 'drop')))
    expect(told).toHaveLength(1)
    const again = await client.call('POST', '~/drops', { term: TERM, key: randomUUID(), courses: [COURSE], everything: true })
    expect(await problemOf(again)).toMatchObject({ status: 409, code: 'not-registered' })
  })

  it('leaves a W after the last day to drop, and is refused after the last to withdraw', async () => {
    const { section, pool } = await lectureOf(COURSE, 3)
    const [client] = clients as [Client]
    await register([client], section)
    const [term] = await db.select().from(s.terms).where(eq(s.terms.code, TERM))
    await setClock(`${term!.withdrawBy}T18:00:00.000Z`)
    expect((await drop(client)).done).toBe(true)
    expect(await db.select().from(s.records).where(eq(s.records.student, client.id))).toEqual([
      expect.objectContaining({ course: COURSE, term: TERM, grade: 'W', state: 'completed' })])
    await invariants(pool)
    await db.delete(s.records).where(eq(s.records.student, client.id))
    await setClock('2026-11-10T16:00:00.000Z')
    await register([client], section)
    await setClock(`${term!.end}T18:00:00.000Z`)
    expect(await problemOf(await client.call('POST', '~/drops', { term: TERM, key: randomUUID(), courses: [COURSE], everything: true })))
      .toMatchObject({ status: 422, code: 'drop-closed' })
    expect(await heldIn(section)).toHaveLength(1)
  })
})

describe('an exchange', () => {
  it('is both or neither: refused it keeps the first, done it leaves no trace of it', async () => {
    const first = await lectureOf(COURSE, 3)
    const [client, other] = clients as [Client, Client]
    const second = (await db.select().from(s.sections).where(and(eq(s.sections.course, COURSE), eq(s.sections.term, TERM),
      eq(s.sections.cancelled, false), sql`${s.sections.seatsWith} IS NULL`))).find(one => one.id !== first.section)!
    const [pool] = await db.select().from(s.seatPools).where(eq(s.seatPools.section, second.id))
    const holders = await heldIn(second.id)
    if (holders.length > 0) await emptyWeeks(holders.map(row => row.student))
    await db.update(s.seatPools).set({ capacity: 1, taken: 0, held: 0 }).where(eq(s.seatPools.id, pool!.id))
    await register([other], second.id)
    await register([client], first.section)
    const exchange = () => client.json<ChangeResult>('POST', '~/exchanges', { term: TERM, key: randomUUID(), drops: [COURSE],
      course: COURSE, sectionIds: [second.id] })
    const refused = await exchange()
    expect(refused).toMatchObject({ done: false, dropped: [] })
    expect(refused.decision!.findings.filter(finding => !finding.ok)).toMatchObject([{ code: 'seats-full' }])
    expect((await heldIn(first.section)).map(row => row.student)).toEqual([client.id])
    await drop(other)
    expect(await exchange()).toMatchObject({ done: true, dropped: [COURSE] })
    expect(await heldIn(first.section)).toEqual([])
    expect((await heldIn(second.id)).map(row => row.student)).toEqual([client.id])
    await invariants(first.pool)
    await invariants(pool!.id)
  })
})

describe('a waitlist', () => {
  it('gets the seat before anybody new; the first is offered it, takes it, and the next seat goes to the next', async () => {
    const { section, pool } = await lectureOf(COURSE, 2)
    const [a, b, c, d, stranger] = clients as [Client, Client, Client, Client, Client]
    await register([a, b], section)
    await wait([c, d], section)
    await drop(a)
    // Whoever comes now finds no seat: it is held for those who wait.
    const rows = await lineUpAll([stranger.id], COURSE, [section])
    const { rows: [row] } = await stranger.json<{ rows: { outcome: string }[] }>('POST', '~/registrations', { term: TERM,
      key: randomUUID(), rowIds: [rows.get(stranger.id)!] })
    expect(row!.outcome).toBe('refused')
    await settled(async () => expect((await offersOf(section)).map(entry => entry.student)).toEqual([c.id]))
    await invariants(pool)
    const [offer] = await offersOf(section)
    const key = randomUUID()
    const taken = await Promise.all([1, 2, 3].map(() => c.json<ChangeResult>('POST', '~/offers', { term: TERM, key, entry: offer!.id })))
    expect(taken.filter(one => !one.repeated && one.done)).toHaveLength(1)
    expect((await heldIn(section)).map(one => one.student).sort((x, y) => x - y)).toEqual([b.id, c.id].sort((x, y) => x - y))
    await invariants(pool)
    await drop(b)
    await settled(async () => expect((await offersOf(section)).map(entry => entry.student)).toEqual([d.id]))
    // Somebody else's offer is not theirs to take.
    const [other] = await offersOf(section)
    expect(await problemOf(await c.call('POST', '~/offers', { term: TERM, key: randomUUID(), entry: other!.id })))
      .toMatchObject({ code: 'offer-over' })
    await invariants(pool)
  })

  it('passes over who may not take the seat, and what is declined or lapses goes to the next; at last it is free for all', async () => {
    const { section, pool } = await lectureOf(COURSE, 1)
    const [a, passed, c, d] = clients as [Client, Client, Client, Client]
    await register([a], section)
    await wait([passed, c, d], section)
    await db.insert(s.records).values({ student: passed.id, course: COURSE, term: '2026SP', credits: 300, grade: 'A', state: 'completed',
      source: 'here' })
    await drop(a)
    await settled(async () => expect((await offersOf(section)).map(entry => entry.student)).toEqual([c.id]))
    const [offer] = await offersOf(section)
    expect(Date.parse(offer!.offerUntil!) - Date.parse('2026-11-10T16:00:00.000Z')).toBeGreaterThan(47 * 3_600_000)
    expect((await c.call('DELETE', `~/waitlist?term=${TERM}&entry=${offer!.id}`)).ok).toBe(true)
    await settled(async () => expect((await offersOf(section)).map(entry => entry.student)).toEqual([d.id]))
    await invariants(pool)
    await setClock('2026-11-13T16:00:00.000Z')
    await settled(async () => expect(await seatsOf(pool)).toMatchObject({ taken: 0, held: 0 }))
    expect((await entriesOf(section)).map(entry => entry.student)).toEqual([passed.id])
    const told = (await db.select().from(s.ledger).where(eq(s.ledger.section, section)).orderBy(s.ledger.id)).map(one => one.action)
    expect(told.filter(action => action !== 'register' && action !== 'drop')).toEqual(['offer seat', 'decline offer', 'offer seat',
      'offer lapsed', 'release seat'])
    await invariants(pool)
  })

  it('never oversells while all drop, register, wait and take at once', async () => {
    const { section, pool } = await lectureOf(COURSE, 3)
    await db.update(s.sections).set({ waitlistCapacity: 20 }).where(eq(s.sections.id, section))
    await db.update(s.terms).set({ sectionsVersion: sql`${s.terms.sectionsVersion} + 1` }).where(eq(s.terms.code, TERM))
    let seed = 7
    const random = (n: number) => (seed = (seed * 1103515245 + 12345) % 2147483648) % n
    const outcomes = await Promise.all(clients.map(async (client, i) => {
      let done = 0
      for (let round = 0; round < 6; round++) {
        const [mine] = await db.select().from(s.registrations).where(and(eq(s.registrations.student, client.id),
          eq(s.registrations.section, section)))
        const [entry] = await db.select().from(s.waitlistEntries).where(and(eq(s.waitlistEntries.student, client.id),
          eq(s.waitlistEntries.section, section)))
        const answer = mine
          ? await client.call('POST', '~/drops', { term: TERM, key: randomUUID(), courses: [COURSE], everything: true })
          : entry?.offerUntil
            ? await client.call('POST', '~/offers', { term: TERM, key: randomUUID(), entry: entry.id })
            : entry && random(3) === 0
              ? await client.call('DELETE', `~/waitlist?term=${TERM}&entry=${entry.id}`)
              : await pressFor(client, section)
        if (answer?.ok) done++
        expect(answer === null || answer.status < 500, `client ${i}: ${answer?.status}`).toBe(true)
        await invariantsLoose(pool)
      }
      return done
    }))
    expect(outcomes.reduce((sum, one) => sum + one, 0)).toBeGreaterThan(CLIENTS)
    await settled(async () => {
      expect(await db.select().from(s.freedSeats)).toEqual([])
      await invariants(pool)
    })
    // The ledger replays to the seats: registered less dropped, category by category.
    const told = await db.select().from(s.ledger).where(eq(s.ledger.pool, pool))
    const replayed = told.reduce((sum, one) => sum + (one.action === 'register' ? 1 : one.action === 'drop' ? -1 : 0), 0)
    expect(replayed).toBe((await seatsOf(pool)).taken)
  })
})

/** At any moment, between two changes of others. */
async function invariantsLoose(pool: number) {
  const { capacity, taken, held } = await seatsOf(pool)
  expect(taken + held).toBeLessThanOrEqual(capacity)
  expect(Math.min(taken, held)).toBeGreaterThanOrEqual(0)
}

/** Presses Register for the section, to wait where it is full; null where there is nothing to press. */
async function pressFor(client: Client, section: number): Promise<Response | null> {
  const put = await client.call('PUT', '~/line-up', { term: TERM, choices: [{ course: COURSE, sectionIds: [section] }] })
  if (!put.ok) return put
  await client.call('PUT', '~/line-up/row', { term: TERM, course: COURSE, waitIfFull: true })
  const [row] = await db.select().from(s.lineUpRows).where(and(eq(s.lineUpRows.student, client.id), eq(s.lineUpRows.course, COURSE)))
  return row ? client.call('POST', '~/registrations', { term: TERM, key: randomUUID(), rowIds: [row.id] }) : null
}
