import { randomUUID } from 'node:crypto'
import { join } from 'node:path'
import { setTimeout as wait } from 'node:timers/promises'
import { eq, like, sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { loadDemo } from '../../demo/load'
import { connect } from '../../server/db/connect'
import { applyMigrations } from '../../server/db/migrations'
import { Database } from '../../server/db/database'
import { plain } from '../../server/db/store/plain'
import * as s from '../../server/db/schema'
import { type Cluster, startCluster } from '../../tools/command/cluster.mjs'
import { freePort, type RunningServer, startDatabase, startServer, STATE } from '../../tools/command/machine.mjs'
import { Client } from '../load/caller'
import { broken } from '../load/invariants'
import { Storm } from '../load/storming'

/**
 * Three databases that hold the same and two servers before them, while many register: in each of ten rounds one of the databases is killed
 * or hangs, and comes back. Nothing that was acknowledged is lost, nothing is done twice, no seat is sold twice, on any of the three.
 */
const CLIENTS = 60
/** Which one, and how. The one that is written to goes most often. */
const ROUNDS = ([[1, 'is killed'], [1, 'hangs'], [2, 'is killed'], [2, 'hangs'], [1, 'hangs'], [1, 'is killed'], [3, 'hangs'],
  [3, 'is killed'], [1, 'is killed'], [1, 'hangs']] as const).map(([node, how]) => ({ node: node - 1, how }))
const CYCLE_MS = 8000
let cluster: Cluster
let servers: RunningServer[]
let opens: ReturnType<typeof connect>[]
let storm: Storm

beforeAll(async () => {
  cluster = await startCluster('cluster_tests', { fresh: true })
  await cluster.ensure('college')
  opens = cluster.nodes.map(node => connect(`mysql://root@127.0.0.1:${node.port}/college`, 4))
  await applyMigrations(opens[0]!.db, 'server/db/migrations')
  await loadDemo(opens[0]!.db, { generated: 120 })
  const start = async (i: number) => startServer({ databaseUrl: cluster.url('college'), port: await freePort(), demo: true,
    log: join(STATE, `cluster-server-${i}.log`) })
  servers = await Promise.all([start(1), start(2)])
  storm = new Storm(opens[0]!, servers.map(server => server.address), CLIENTS)
  await storm.prepare()
}, 300_000)
afterAll(async () => {
  await Promise.all(servers.map(server => server.stop()))
  await Promise.all(opens.map(open => open.close()))
  await cluster.stop()
})

/** Somebody writes one comment after the other through a server; the texts that were acknowledged, and the longest wait between two. */
async function keepWriting(client: Client, until: () => boolean) {
  const told: string[] = []
  let last = performance.now()
  let longest = 0
  while (!until()) {
    const text = randomUUID()
    const answer = await client.call('POST', '~/comments', { term: null, entry: null, text }).catch(() => null)
    if (!answer?.ok) {
      await wait(50)
      continue
    }
    told.push(text)
    longest = Math.max(longest, performance.now() - last)
    last = performance.now()
    // A file holds so many comments; they are taken away as another would be refused.
    if (told.length % 40 === 0) await wait(20)
  }
  return { told, longest: Math.round(longest) }
}

/** All three hold the same rows of what matters, once they have caught up with one another. */
async function sameEverywhere() {
  const look = async (open: ReturnType<typeof connect>) => {
    const [rows] = await open.db.execute(sql`SELECT (SELECT COUNT(*) FROM ledger) ledger, (SELECT SUM(id) FROM ledger) ids,
      (SELECT SUM(taken * id) FROM seat_pools) seats, (SELECT COUNT(*) FROM registrations) registrations,
      (SELECT SUM(id) FROM waitlist_entries) waits, (SELECT COUNT(*) FROM comments) comments`) as unknown as [unknown[]]
    return JSON.stringify(rows[0])
  }
  await expect.poll(async () => new Set(await Promise.all(opens.map(look))).size, { timeout: 30_000, interval: 200 }).toBe(1)
}

describe('a cluster that loses a node', () => {
  it(`${ROUNDS.length} times over: nothing acknowledged is lost, nothing is done twice, and people are served again`, async () => {
    const writers = ['una', 'mabel']
    const waits: { how: string, longest: number }[] = []
    for (const [cycle, { node: victim, how }] of ROUNDS.entries()) {
      const freeze = how === 'hangs'
      storm.open = opens[(victim + 1) % opens.length]!
      await opens[(victim + 1) % opens.length]!.db.delete(s.comments).where(like(s.comments.text, '________-____-4%'))
      let over = false
      const node = cluster.nodes[victim]!
      const [told, ...wrote] = await Promise.all([
        storm.blow(CYCLE_MS, 100 * cycle, async (reached) => {
          await reached(10)
          if (freeze) node.signal('SIGSTOP')
          else await node.stop('SIGKILL')
          await wait(CYCLE_MS / 2)
          if (freeze) node.signal('SIGCONT')
          else await node.start()
          await reached(11)
        }).finally(() => over = true),
        ...writers.map(async (name, i) => keepWriting(await Client.signIn(name, 'larkmoor', servers[i]!.address), () => over)),
      ])
      await expect.poll(() => node.state(), { timeout: 60_000, interval: 200 }).toBe('Synced')
      await storm.calm()
      await sameEverywhere()
      for (const open of opens) {
        storm.open = open
        expect(await broken(open.db)).toEqual({})
        expect(await storm.missing(told)).toEqual([])
        const kept = (await open.db.select({ text: s.comments.text }).from(s.comments)).map(row => row.text)
        for (const { told: texts } of wrote)
          expect(texts.filter(text => kept.filter(one => one === text).length !== 1)).toEqual([])
      }
      expect(told.size).toBeGreaterThan(10)
      for (const one of wrote) waits.push({ how: `node ${victim + 1} ${how}`, longest: one.longest })
    }
    const all = waits.map(one => one.longest).sort((a, b) => a - b)
    console.log(`until people were served again, ms: median ${all[Math.floor(all.length / 2)]}, longest ${all.at(-1)}; `
      + waits.map(one => `${one.how} ${one.longest}`).join(', '))
  }, 600_000)

  it('reads on every node what was written a moment ago, whoever asks', async () => {
    const database = new Database(cluster.url('college'), 4)
    const [first] = await opens[0]!.db.select().from(s.students).limit(1)
    for (let i = 0; i < 60; i++) {
      await database.write(tx => plain(tx, 'UPDATE students SET version = version + 1 WHERE person = ?', [first!.person]))
      const version = async () => Number((await database.read(db => plain<{ version: number }>(db,
        'SELECT version FROM students WHERE person = ?', [first!.person])))[0]!.version)
      const [one, other] = [await version(), await version()]
      expect([one - first!.version, other - first!.version]).toEqual([i + 1, i + 1])
    }
    await opens[0]!.db.update(s.students).set({ version: first!.version }).where(eq(s.students.person, first!.person))
    await database.close()
  })

  it('is said to those who look after it', async () => {
    const edda = await Client.signIn('edda', 'larkmoor', servers[0]!.address)
    const answer = await edda.json<{ nodes: { isUp: boolean }[] }>('GET', '/api/server')
    expect(answer.nodes.map(node => node.isUp)).toEqual([true, true, true])
    const figures = await (await edda.call('GET', '/api/metrics')).text()
    const valuesOf = (name: string) => [...figures.matchAll(new RegExp(`^${name}\\{node="[^"]+"\\} (\\d)$`, 'gm'))].map(one => one[1])
    expect(valuesOf('ridgeway_database_up')).toEqual(['1', '1', '1'])
    expect(valuesOf('ridgeway_database_writer').sort()).toEqual(['0', '0', '1'])
  })

  it('is never mixed with a database that belongs to no cluster, though the list names it first', async () => {
    const stranger = await startDatabase('stranger')
    await stranger.create('college', true)
    const database = new Database(`mysql://root@127.0.0.1:${stranger.port},127.0.0.1:${cluster.nodes[1]!.port}/college`, 2)
    await expect.poll(() => database.states().map(node => [node.isUp, node.isWriter]), { timeout: 10_000, interval: 100 })
      .toEqual([[false, false], [true, true]])
    const [first] = await opens[0]!.db.select().from(s.students).limit(1)
    // The stranger has no such table: whatever went there would fail.
    await database.write(tx => plain(tx, 'UPDATE students SET version = version + 1 WHERE person = ?', [first!.person]))
    expect(await database.read(db => plain(db, 'SELECT version FROM students WHERE person = ?', [first!.person])))
      .toEqual([{ version: first!.version + 1 }])
    await database.close()
    await stranger.stop()
  })
})
