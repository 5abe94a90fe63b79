import { randomUUID } from 'node:crypto'
import { and, eq, sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { RunResult } from '../../shared/contract/acts/student'
import * as s from '../../server/db/schema'
import { Client, close, db, openAccounts } from './client'
import { freshStudents, TERM } from './students'

/** Promise 1: seats are never oversold; promise 3: the same request acts once; promise 6: the ledger tells it all. */
const CLIENTS = 40
const SEATS = 5
const ROUNDS = 20
const COURSE = 'LNG 140'

let clients: Client[]
let section: number
let pool: number

beforeAll(async () => {
  const ids = await freshStudents(CLIENTS)
  const [chosen] = await db.select().from(s.sections).where(
    and(eq(s.sections.course, COURSE), eq(s.sections.term, TERM), eq(s.sections.cancelled, false)),
  ).limit(1)
  section = chosen!.id
  const pools = await db.select().from(s.seatPools).where(eq(s.seatPools.section, section))
  pool = pools[0]!.id
  clients = await Promise.all((await openAccounts(ids)).map(username => Client.signIn(username)))
})
afterAll(close)

async function emptySection() {
  await db.delete(s.registrations).where(eq(s.registrations.section, section))
  await db.delete(s.ledger).where(eq(s.ledger.section, section))
  await db.delete(s.lineUpRows).where(eq(s.lineUpRows.course, COURSE))
  await db.update(s.seatPools).set({ capacity: SEATS, taken: 0, held: 0 }).where(eq(s.seatPools.id, pool))
}

async function lineUp(client: Client): Promise<number> {
  await client.json('PUT', '~/line-up', { term: TERM, choices: [{ course: COURSE, sectionIds: [section] }] })
  const state = await client.json<{ lineUp: { id: number }[] }>('GET', `~?term=${TERM}`)
  return state.lineUp[0]!.id
}
const register = (client: Client, rowId: number, key: string = randomUUID()) =>
  client.json<RunResult>('POST', '~/registrations', { term: TERM, key, rowIds: [rowId] })

describe('forty clients and five seats', () => {
  it(`registers exactly five, ${ROUNDS} times over, and the ledger agrees`, async () => {
    for (let round = 0; round < ROUNDS; round++) {
      await emptySection()
      const rows = await Promise.all(clients.map(lineUp))
      const results = await Promise.all(clients.map((client, i) => register(client, rows[i]!)))
      const registered = results.filter(result => result.rows[0]!.outcome === 'register').length
      const refusals = results.filter(result => result.rows[0]!.outcome === 'refused')
      expect({ round, registered, refused: refusals.length }).toEqual({ round, registered: SEATS, refused: CLIENTS - SEATS })
      for (const { rows: [row] } of refusals)
        expect(row!.findings.filter(finding => !finding.ok).map(finding => finding.code)).toEqual(['seats-full'])
      const [seats] = await db.select().from(s.seatPools).where(eq(s.seatPools.id, pool))
      expect(seats!.taken).toBe(SEATS)
      const inLedger = await db.select().from(s.ledger).where(and(eq(s.ledger.section, section), eq(s.ledger.action, 'register')))
      const rowsHeld = await db.select().from(s.registrations).where(eq(s.registrations.section, section))
      expect(inLedger.map(entry => entry.student).sort()).toEqual(rowsHeld.map(row => row.student).sort())
      expect(inLedger.length).toBe(SEATS)
    }
  })

  it('acts once when the same press arrives eight times at once', async () => {
    await emptySection()
    const client = clients[0]!
    const rowId = await lineUp(client)
    const key = randomUUID()
    const answers = await Promise.all(Array.from({ length: 8 }, () => register(client, rowId, key)))
    expect(answers.filter(answer => !answer.repeated).length).toBe(1)
    expect(new Set(answers.map(answer => JSON.stringify(answer.rows))).size).toBe(1)
    const [seats] = await db.select().from(s.seatPools).where(eq(s.seatPools.id, pool))
    expect(seats!.taken).toBe(1)
  })

  it('two presses with different keys register once; the second says so', async () => {
    await emptySection()
    const client = clients[1]!
    const rowId = await lineUp(client)
    const answers = await Promise.all([client.call('POST', '~/registrations', { term: TERM, key: randomUUID(), rowIds: [rowId] }),
      client.call('POST', '~/registrations', { term: TERM, key: randomUUID(), rowIds: [rowId] })])
    expect(answers.map(answer => answer.status).sort()).toEqual([200, 422])
    const [seats] = await db.select().from(s.seatPools).where(eq(s.seatPools.id, pool))
    expect(seats!.taken).toBe(1)
  })

  it('the table itself refuses a seat too many', async () => {
    await expect(db.update(s.seatPools).set({ taken: SEATS + 1 }).where(eq(s.seatPools.id, pool))).rejects.toThrow()
  })

  it('the ledger replays to the seats of the whole college', async () => {
    const replayed = await db.select({ pool: s.ledger.pool, seats: sql<number>`count(*)` }).from(s.ledger).where(
      eq(s.ledger.action, 'register'),
    ).groupBy(s.ledger.pool)
    const pools = await db.select().from(s.seatPools)
    const registered = await db.select({ pool: s.registrations.pool, seats: sql<number>`count(*)` }).from(s.registrations).groupBy(
      s.registrations.pool,
    )
    const byPool = new Map(registered.map(row => [row.pool, Number(row.seats)]))
    for (const row of pools) expect(row.taken, `pool ${row.id}`).toBe(byPool.get(row.id) ?? 0)
    const inLedger = new Map(replayed.map(row => [row.pool, Number(row.seats)]))
    // The forty students' own earlier registrations were taken away by the set-up above; all other pools replay exactly.
    for (const [id, seats] of byPool) expect(inLedger.get(id) ?? 0, `pool ${id}`).toBeGreaterThanOrEqual(seats)
  })
})
