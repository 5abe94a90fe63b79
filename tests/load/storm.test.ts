import { join } from 'node:path'
import { eq, sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { loadDemo } from '../../demo/load'
import { connect } from '../../server/db/connect'
import { applyMigrations } from '../../server/db/migrations'
import * as s from '../../server/db/schema'
import { freePort, type RunningDatabase, type RunningServer, startDatabase, startServer, STATE } from '../../tools/command/machine.mjs'
import { TERM } from './caller'
import { broken } from './invariants'
import { Storm } from './storming'

/**
 * Two hundred students at once, on few seats, while the clock jumps and a server and the database are killed. Then the tables are asked,
 * and every answer that somebody was given is looked for.
 */
const CLIENTS = 200
const STORM_MS = 25_000
const KILLED_MS = 20_000
let database: RunningDatabase
let servers: RunningServer[]
let url: string
let open: ReturnType<typeof connect>
let storm: Storm

const start = async (i: number) => startServer({ databaseUrl: url, port: await freePort(), demo: true, log: join(STATE, `storm-${i}.log`) })

beforeAll(async () => {
  database = await startDatabase('storm')
  await database.create('college', true)
  url = database.url('college')
  open = connect(url, 8)
  await applyMigrations(open.db, 'server/db/migrations')
  await loadDemo(open.db, { generated: 320 })
  servers = await Promise.all([start(1), start(2)])
  storm = new Storm(open, servers.map(server => server.address), CLIENTS)
  await storm.prepare()
}, 240_000)
afterAll(async () => {
  await Promise.all(servers.map(server => server.stop()))
  await open.close()
  await database.stop()
})

describe('two hundred at once', () => {
  it('leave the college as it must be, while the clock jumps past offers and back', async () => {
    const told = await storm.blow(STORM_MS, 1, async (reached) => {
      const jumps = ['2026-11-12T18:00:00.000Z', '2026-11-12T17:00:00.000Z', '2026-11-15T12:00:00.000Z']
      for (const [i, moment] of jumps.entries()) {
        await reached((i + 1) * CLIENTS / 2)
        await storm.setClock(moment)
        // Between two changes of others the same holds: one look at the tables sees one moment of them.
        await open.db.transaction(async tx => expect(await broken(tx as never)).toEqual({}), { isolationLevel: 'repeatable read' })
      }
    })
    await storm.calm()
    // How much of everything happens depends on how much this machine does in the time: where nobody declined an offer, somebody does now.
    await expect.poll(async () => {
      const declined = await open.db.$count(s.ledger, eq(s.ledger.action, 'decline offer'))
      const offers = await open.db.select().from(s.waitlistEntries).where(sql`${s.waitlistEntries.offerUntil} IS NOT NULL`)
      const offer = declined > 0 ? undefined : offers.find(one => storm.clientOf(one.student))
      if (offer)
        await storm.clientOf(offer.student)!.call('DELETE', `~/waitlist?term=${TERM}&entry=${offer.id}`)
      return declined
    }, { timeout: 60_000, interval: 200 }).toBeGreaterThan(0)
    // Offers that are still open when all is calm have their time run out: whatever the storm came to, some lapse.
    await storm.setClock('2026-11-22T12:00:00.000Z')
    await expect.poll(() => open.db.$count(s.ledger, eq(s.ledger.action, 'offer lapsed')), { timeout: 60_000, interval: 200 })
      .toBeGreaterThan(0)
    await storm.calm()
    expect(await broken(open.db)).toEqual({})
    expect(await storm.missing(told)).toEqual([])
    const actions = (await open.db.selectDistinct({ action: s.ledger.action }).from(s.ledger)).map(row => row.action)
    for (const action of ['register', 'join waitlist', 'drop', 'offer seat', 'decline offer', 'offer lapsed', 'change'])
      expect(actions).toContain(action)
  }, 180_000)

  it('lose nothing that was acknowledged when a server, and then the database, is killed', async () => {
    const told = await storm.blow(KILLED_MS, 1000, async (reached) => {
      await reached(CLIENTS / 2)
      await servers[1]!.kill()
      servers[1] = await start(3)
      storm.addresses = servers.map(server => server.address)
      await reached(CLIENTS)
      const { port } = database
      database.signal('SIGKILL')
      database = await startDatabase('storm', port)
      await reached(CLIENTS + 1)
    })
    await storm.calm()
    expect(await broken(open.db)).toEqual({})
    expect(await storm.missing(told)).toEqual([])
    expect(told.size).toBeGreaterThan(CLIENTS)
  }, 180_000)
})
