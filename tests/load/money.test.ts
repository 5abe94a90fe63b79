import { randomUUID } from 'node:crypto'
import { and, eq, sql } from 'drizzle-orm'
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import { balancesOf, type MoneyEntry } from '@ridgeway/core/money'
import { Database } from '../../server/db/database'
import { KeptCollege } from '../../server/college/college'
import { collectFees, settlePayment } from '../../server/acts/money'
import type { ChangeResult, RunResult } from '../../shared/contract/acts/student'
import type { AccountView, StudentState } from '../../shared/contract/views/student'
import * as s from '../../server/db/schema'
import { Client, close, db, openAccounts, problemOf } from './client'
import { settled } from './settled'
import { emptyWeeks, freshStudents, lectureOf, lineUpAll, TERM } from './students'

/** Money in the real database: what is charged, comes back, is paid and is voided, with everything sent more than once. */
const COURSE = 'LNG 140'
/** Seats that are kept for the program of whom they are tried with. */
const KEPT_POOL = 9_000_001
const url = process.env.DATABASE_URL!
const own = new Database(url, 4)
const kept = new KeptCollege()
let client: Client
let other: Client

beforeAll(async () => {
  const ids = await freshStudents(2, 210)
  ;[client, other] = await Promise.all((await openAccounts(ids)).map(name => Client.signIn(name))) as [Client, Client]
})
beforeEach(async () => {
  for (const { id } of [client, other]) {
    await db.execute(sql`DELETE FROM desk_orders WHERE payment IN (SELECT id FROM payments WHERE student = ${id})`)
    for (const table of [s.payments, s.moneyEntries, s.paymentChoices, s.holds, s.waitlistEntries])
      await db.delete(table).where(eq(table.student, id))
  }
  await db.delete(s.freedSeats)
  await emptyWeeks([client.id, other.id])
  await setClock('2026-11-10T16:00:00.000Z')
})
afterAll(async () => {
  await emptyWeeks([client.id, other.id])
  await setClock('2026-11-10T16:00:00.000Z')
  await own.close()
  await close()
})
const setClock = (demoNow: string) => db.update(s.clockSetting).set({ demoNow, setAt: new Date().toISOString() })
async function register(who: Client, section: number) {
  const rows = await lineUpAll([who.id], COURSE, [section])
  return who.json<RunResult>('POST', '~/registrations', { term: TERM, key: randomUUID(), rowIds: [rows.get(who.id)!] })
}
const account = (who = client) => who.json<AccountView>('GET', `~/account?term=${TERM}`)
const lines = async (who = client) => (await account(who)).entries.map(({ kind, cents }) => [kind, cents])
const balance = async (who = client) => 0 - balancesOf((await account(who)).entries as MoneyEntry[]).student
const pay = async (cents: number, card: string, who = client) => {
  const key = randomUUID()
  const { payment } = await who.json<{ payment: string }>('POST', '~/payments', { term: TERM, key, cents })
  await who.json('POST', '~/desk', { payment, card })
  return payment
}

describe('what is charged', () => {
  it('is the price of what was registered, once, and comes back by the schedule with it', async () => {
    const { section } = await lectureOf(COURSE, 5)
    const { rows: [row] } = await register(client, section)
    const [held] = await db.select().from(s.registrations).where(eq(s.registrations.student, client.id))
    const price = held!.tuition + held!.fees
    expect(held!.tuition).toBe(row!.credits * 214)
    expect(await lines()).toEqual([['charge', price]])
    const key = randomUUID()
    const drops = await Promise.all([1, 2, 3].map(() => client.json<ChangeResult>('POST', '~/drops', { term: TERM, key, courses: [COURSE],
      everything: true })))
    expect(drops.filter(one => !one.repeated)).toHaveLength(1)
    expect(await lines()).toEqual([['charge', price], ['refund', price]])
    expect(await balance()).toBe(0)
  })

  it('keeps half of the tuition and all of the fees once the last day to drop is over', async () => {
    const { section } = await lectureOf(COURSE, 5)
    await register(client, section)
    const [held] = await db.select().from(s.registrations).where(eq(s.registrations.student, client.id))
    await db.insert(s.moneyEntries).values({ student: client.id, term: TERM, at: '2026-12-01T12:00:00.000Z', date: '2026-12-01',
      actor: client.id, kind: 'payment', cents: held!.tuition + held!.fees, courses: [], reference: 'paid' })
    const [term] = await db.select().from(s.terms).where(eq(s.terms.code, TERM))
    await setClock(new Date(Date.parse(`${term!.dropBy}T20:00:00Z`) + 86_400_000).toISOString())
    expect((await client.json<ChangeResult>('POST', '~/drops', { term: TERM, key: randomUUID(), courses: [COURSE],
      everything: true })).done)
      .toBe(true)
    const [refund] = (await account()).entries.filter(entry => entry.kind === 'refund')
    expect(refund!.cents).toBe(Math.round(held!.tuition / 2))
    // What the college owes goes back once, however often it is asked for.
    const key = randomUUID()
    const back = await Promise.all([1, 2, 3].map(() => client.json<{ cents: number }>('POST', '~/paybacks', { term: TERM, key })))
    expect(back.map(one => one.cents)).toEqual([refund!.cents, refund!.cents, refund!.cents])
    expect(await balance()).toBe(0)
    expect(await problemOf(await client.call('POST', '~/paybacks', { term: TERM, key: randomUUID() })))
      .toMatchObject({ status: 422, code: 'nothing-owed' })
    await db.delete(s.records).where(eq(s.records.student, client.id))
  })

  it('leaving all of a term asks to be meant', async () => {
    const { section } = await lectureOf(COURSE, 5)
    await register(client, section)
    expect(await problemOf(await client.call('POST', '~/drops', { term: TERM, key: randomUUID(), courses: [COURSE] })))
      .toMatchObject({ status: 422, code: 'leaves-term' })
  })

  it('changes with how it is graded or for how many credits, on the same seat', async () => {
    const { section, pool } = await lectureOf(COURSE, 5)
    await db.update(s.sections).set({ gradingModes: ['letter', 'pass'] }).where(eq(s.sections.id, section))
    await db.update(s.terms).set({ sectionsVersion: sql`${s.terms.sectionsVersion} + 1` }).where(eq(s.terms.code, TERM))
    await register(client, section)
    const before = await balance()
    const change = (values: object) => client.call('PUT', '~/registrations', { term: TERM, key: randomUUID(), course: COURSE, ...values })
    expect((await change({ grading: 'pass' })).status).toBe(200)
    expect(await problemOf(await change({ credits: 1500 }))).toMatchObject({ code: 'credits-range' })
    expect(await problemOf(await change({ grading: 'audit' }))).toMatchObject({ code: 'grading-not-given' })
    const [held] = await db.select().from(s.registrations).where(eq(s.registrations.student, client.id))
    expect(held).toMatchObject({ grading: 'pass', section })
    expect(await balance()).toBe(before)
    expect((await db.select().from(s.seatPools).where(eq(s.seatPools.id, pool)))[0]).toMatchObject({ taken: 1, held: 0 })
    const told = await db.select().from(s.ledger).where(and(eq(s.ledger.student, client.id), eq(s.ledger.action, 'change')))
    expect(told).toHaveLength(1)
  })

  it('keeps the seat that one has, also while one is free among those that are kept for one\'s program', async () => {
    const { section, pool } = await lectureOf(COURSE, 5)
    await db.update(s.sections).set({ gradingModes: ['letter', 'pass'] }).where(eq(s.sections.id, section))
    await register(client, section)
    const [mine] = await db.select({ code: s.programs.code }).from(s.studentPrograms)
      .innerJoin(s.programs, eq(s.programs.id, s.studentPrograms.program)).where(eq(s.studentPrograms.student, client.id))
    const kept = { id: KEPT_POOL, section, forGroup: mine!.code, capacity: 3, taken: 0, held: 0 }
    const seats = async () => (await db.select().from(s.seatPools).where(eq(s.seatPools.section, section))).map(one => [one.id, one.taken])
    await db.insert(s.seatPools).values(kept)
    await db.update(s.terms).set({ sectionsVersion: sql`${s.terms.sectionsVersion} + 1` }).where(eq(s.terms.code, TERM))
    try {
      const answer = await client.call('PUT', '~/registrations', { term: TERM, key: randomUUID(), course: COURSE, grading: 'pass' })
      expect(answer.status).toBe(200)
      expect(await seats()).toEqual([[pool, 1], [KEPT_POOL, 0]])
      expect((await db.select().from(s.registrations).where(eq(s.registrations.section, section))).map(one => one.pool)).toEqual([pool])
    }
    finally {
      await emptyWeeks([client.id])
      await db.delete(s.seatPools).where(eq(s.seatPools.id, KEPT_POOL))
      await db.update(s.terms).set({ sectionsVersion: sql`${s.terms.sectionsVersion} + 1` }).where(eq(s.terms.code, TERM))
    }
  })
})

describe('a payment', () => {
  it('is money when the desk says so, once, however often it answers', async () => {
    const { section } = await lectureOf(COURSE, 5)
    await register(client, section)
    const owed = await balance()
    const payment = await pay(owed, '4000 0000 0000 0004')
    await settled(async () => expect((await account()).payments).toMatchObject([{ id: payment, state: 'accepted' }]))
    await settled(async () => expect((await db.select().from(s.deskOrders).where(eq(s.deskOrders.payment, payment)))[0]!.answers).toBe(0))
    // And at the same moment through several servers.
    await Promise.all(Array.from({ length: 6 }, () => own.write(tx => settlePayment(tx, kept, payment, true))))
    expect((await lines()).filter(([kind]) => kind === 'payment')).toEqual([['payment', owed]])
    expect(await balance()).toBe(0)
  })

  it('that is refused takes nothing; an acceptance after that counts, a refusal after an acceptance does not', async () => {
    const { section } = await lectureOf(COURSE, 5)
    await register(client, section)
    const owed = await balance()
    const payment = await pay(owed, '4000 0000 0000 0002')
    await settled(async () => expect((await account()).payments).toMatchObject([{ state: 'refused' }]))
    expect(await balance()).toBe(owed)
    await own.write(tx => settlePayment(tx, kept, payment, true))
    await own.write(tx => settlePayment(tx, kept, payment, false))
    expect((await account()).payments).toMatchObject([{ state: 'accepted' }])
    expect(await balance()).toBe(0)
  })

  it('is never for more than is to pay, what is on its way counted; and nobody pays at the desk for somebody else', async () => {
    const { section } = await lectureOf(COURSE, 5)
    await register(client, section)
    const owed = await balance()
    const start = (cents: number, key = randomUUID()) => client.call('POST', '~/payments', { term: TERM, key, cents })
    expect(await problemOf(await start(owed + 1))).toMatchObject({ status: 422, code: 'too-much' })
    const key = randomUUID()
    const begun = await Promise.all([start(owed, key), start(owed, key), start(owed, key)])
    expect(begun.map(answer => answer.status)).toEqual([200, 200, 200])
    expect(await problemOf(await start(100, key))).toMatchObject({ status: 409, code: 'key-used' })
    expect(await problemOf(await other.call('POST', '~/desk', { payment: key, card: '4000 0000 0000 0001' })))
      .toMatchObject({ status: 404, code: 'payment-unknown' })
    await client.json('POST', '~/desk', { payment: key, card: '4000 0000 0000 0003' })
    expect(await problemOf(await start(100))).toMatchObject({ code: 'too-much' })
    expect((await account(other)).payments).toEqual([])
  })

  it('is in parts where that was chosen in time', async () => {
    const { section } = await lectureOf(COURSE, 5)
    await register(client, section)
    await client.json('PUT', '~/account', { term: TERM, plan: 'three' })
    expect((await account()).plan).toBe('three')
    expect(await problemOf(await client.call('PUT', '~/account', { term: TERM, plan: 'never' }))).toMatchObject({ code: 'plan-unknown' })
    await setClock('2027-01-05T16:00:00.000Z')
    expect(await problemOf(await client.call('PUT', '~/account', { term: TERM, plan: 'whole' }))).toMatchObject({ code: 'plan-late' })
  })
})

describe('what is unpaid', () => {
  it('is voided after the grace of its due date, once, with the seat for who waits and nothing left to pay', async () => {
    const { section, pool } = await lectureOf(COURSE, 1)
    await register(client, section)
    await db.insert(s.waitlistEntries).values({ student: other.id, section, joined: '2026-11-09T10:00:00.000Z', bundle: [section] })
    await setClock('2027-01-07T20:00:00.000Z')
    await collectFees(own, kept)
    expect(await db.select().from(s.registrations).where(eq(s.registrations.student, client.id))).toHaveLength(1)
    await setClock('2027-01-08T20:00:00.000Z')
    await Promise.all([collectFees(own, kept), collectFees(own, kept), collectFees(own, kept)])
    expect(await db.select().from(s.registrations).where(eq(s.registrations.student, client.id))).toEqual([])
    expect((await lines()).map(([kind]) => kind)).toEqual(['charge', 'void'])
    expect(await balance()).toBe(0)
    await settled(async () => expect((await db.select().from(s.waitlistEntries).where(eq(s.waitlistEntries.student,
      other.id)))[0]!.offerPool)
      .toBe(pool))
    expect((await db.select().from(s.seatPools).where(eq(s.seatPools.id, pool)))[0]).toMatchObject({ taken: 0, held: 1 })
  })

  it('a later part that is missed is a hold, until it is paid', async () => {
    const { section } = await lectureOf(COURSE, 5)
    await register(client, section)
    await client.json('PUT', '~/account', { term: TERM, plan: 'three' })
    const owed = await balance()
    await pay(Math.floor(owed * 0.4), '4000 0000 0000 0001')
    await settled(async () => expect(await balance()).toBe(owed - Math.floor(owed * 0.4)))
    await setClock('2027-03-20T20:00:00.000Z')
    await collectFees(own, kept)
    await collectFees(own, kept)
    const holds = async () => (await client.json<StudentState>('GET', `~?term=${TERM}`)).holds.map(hold => hold.reason)
    expect(await holds()).toEqual(['Fees of Spring 2027 are overdue'])
    await pay(await balance(), '4000 0000 0000 0001')
    await settled(async () => expect(await holds()).toEqual([]))
    expect(await db.select().from(s.registrations).where(eq(s.registrations.student, client.id))).toHaveLength(1)
  })
})
