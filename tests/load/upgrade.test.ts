import { spawn } from 'node:child_process'
import { cpSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setTimeout as wait } from 'node:timers/promises'
import { sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { loadDemo } from '../../demo/load'
import { connect } from '../../server/db/connect'
import { applyMigrations } from '../../server/db/migrations'
import * as s from '../../server/db/schema'
import { bin, freePort, ROOT, type RunningDatabase, type RunningServer, startDatabase, startServer, STATE }
  from '../../tools/command/machine.mjs'
import { Client, News, TERM } from './caller'
import { broken } from './invariants'

/** Servers that come and go while people work: one version after the other, and several that start at once. */
const FOLDER = join(ROOT, 'server/db/migrations')
let database: RunningDatabase
let open: ReturnType<typeof connect>
const started: RunningServer[] = []
beforeAll(async () => {
  database = await startDatabase('upgrade')
  await database.create('college', true)
  open = connect(database.url('college'), 6)
  await applyMigrations(open.db, FOLDER)
  await loadDemo(open.db, { generated: 60 })
}, 180_000)
afterAll(async () => {
  await Promise.all(started.map(server => server.stop()))
  await open.close()
  await database.stop()
})

const rows = async <T>(db: typeof open.db, text: ReturnType<typeof sql>) => (await db.execute(text) as unknown as [T[]])[0]

describe('migrations', () => {
  it('run once when five servers start at the same moment on an empty database, and none of them fails', async () => {
    await database.create('fresh', true)
    const codes = await Promise.all(Array.from({ length: 5 }, () => new Promise(done =>
      spawn(bin('tsx'), ['tools/migrate.ts'], { cwd: ROOT, stdio: 'ignore', env: { ...process.env, DATABASE_URL: database.url('fresh') } })
        .once('exit', done))))
    expect(codes).toEqual([0, 0, 0, 0, 0])
    const fresh = connect(database.url('fresh'), 1)
    const { entries } = JSON.parse(readFileSync(join(FOLDER, 'meta/_journal.json'), 'utf8')) as { entries: unknown[] }
    expect(await rows(fresh.db, sql`SELECT COUNT(*) n FROM __drizzle_migrations`)).toEqual([{ n: entries.length }])
    await fresh.close()
  })

  it('wait for whoever is at it, and no longer than that one lives', async () => {
    await open.db.execute(sql`UPDATE migration_turn SET taker = 'another', until_at = UTC_TIMESTAMP(3) + INTERVAL 2 SECOND`)
    const began = await rows<{ now: string }>(open.db, sql`SELECT UTC_TIMESTAMP(3) now`)
    await applyMigrations(open.db, FOLDER)
    const [waited] = await rows<{ s: string }>(open.db,
      sql`SELECT TIMESTAMPDIFF(MICROSECOND, ${began[0]!.now}, UTC_TIMESTAMP(3)) / 1e6 s`)
    expect(Number(waited!.s)).toBeGreaterThan(1.5)
  })

  it('only add from the version on that servers of two versions may share a database', () => {
    const { entries } = JSON.parse(readFileSync(join(FOLDER, 'meta/_journal.json'), 'utf8')) as { entries: { idx: number, tag: string }[] }
    for (const { tag } of entries.filter(one => one.idx >= SHARED_FROM)) {
      const text = readFileSync(join(FOLDER, `${tag}.sql`), 'utf8')
      // What takes away, renames or narrows, and what the server before does not know to fill.
      expect([tag, ...text.match(/\b(DROP|RENAME|MODIFY|CHANGE COLUMN|TRUNCATE)\b.*/gi) ?? []]).toEqual([tag])
      const added = text.match(/ADD (?:COLUMN )?`.*/gi) ?? []
      expect([tag, ...added.filter(line => /NOT NULL/i.test(line) && !/DEFAULT|GENERATED|AUTO_INCREMENT/i.test(line))]).toEqual([tag])
    }
  })
})
/** Migrations from this number on are applied while servers of the version before go on. */
const SHARED_FROM = 17

/** Sends people to servers as a proxy in front does: to those that say they are ready, asked every tenth of a second. */
class Proxy {
  private ready: RunningServer[] = []
  private ended = false
  private turn = 0
  constructor(public servers: RunningServer[]) {}

  async watch() {
    while (!this.ended) {
      const answers = await Promise.all(this.servers.map(async server => await server.isReady().catch(() => false) ? [server] : []))
      this.ready = answers.flat()
      await wait(100)
    }
  }

  end = () => this.ended = true
  isReady = (server: RunningServer) => this.ready.includes(server)
  next = () => this.ready[this.turn++ % this.ready.length]!.address
}

describe('one version after the other, while people work', () => {
  it('nobody notices: every request is answered by one of the servers, open pages come again, and nothing is lost', async () => {
    const start = async (name: string) => {
      const server = await startServer({ databaseUrl: database.url('college'), port: await freePort(), demo: true,
        log: join(STATE, `upgrade-${name}.log`), env: { RIDGEWAY_DRAIN_SECONDS: '3', RIDGEWAY_NAME: name } })
      started.push(server)
      return server
    }
    const proxy = new Proxy([await start('old-1'), await start('old-2')])
    const watching = proxy.watch()
    await expect.poll(() => proxy.servers.every(proxy.isReady)).toBe(true)
    const clients = await Promise.all(['una', 'mabel', 'finch', 'teal', 'joss'].map(name => Client.signIn(name, 'larkmoor', proxy.next())))
    let over = false
    const failures: string[] = []
    const texts: string[] = []
    let streams = 0
    // A file holds so many comments: half of them are for the time when the newer servers are alone.
    const left = clients.map(() => 40)
    const work = clients.map(async (client, n) => {
      for (let i = 0; !over; i++) {
        const at = client.at(proxy.next())
        const text = `${n} ${i}`
        const writes = left[n]! > 0
        if (writes) left[n]!--
        const [written, read] = await Promise.all([
          writes ? at.call('POST', '~/comments', { term: null, entry: null, text }) : at.call('GET', `~/week?term=${TERM}`),
          at.call('GET', `~?term=${TERM}`)]).catch((problem: Error) => [null, null, failures.push(`${text}: ${problem.message}`)] as const)
        if (writes && written?.ok) texts.push(text)
        for (const answer of [written, read]) if (answer && !answer.ok) failures.push(`${text}: ${answer.status} ${await answer.text()}`)
        await wait(20)
      }
    })
    // A page that listens comes again, as a browser does, whenever its server lets it go.
    const page = (async () => {
      while (!over) {
        const news = await News.of(clients[0]!.at(proxy.next()), clients[0]!.id)
        streams++
        await Promise.race([news.end(), new Promise<void>(done => void (async () => {
          while (!over) await wait(50)
          done()
        })())])
        if (over) await news.close()
      }
    })()

    try {
      // The newer version adds a table and a column, while both servers of the older one go on.
      const newer = mkdtempSync(join(tmpdir(), 'ridgeway-newer-'))
      cpSync(FOLDER, newer, { recursive: true })
      const journal = JSON.parse(readFileSync(join(newer, 'meta/_journal.json'), 'utf8')) as { entries: Record<string, unknown>[] }
      journal.entries.push({ ...journal.entries.at(-1), idx: journal.entries.length, when: Date.now(), tag: '9999_newer' })
      writeFileSync(join(newer, 'meta/_journal.json'), JSON.stringify(journal))
      writeFileSync(join(newer, '9999_newer.sql'), 'CREATE TABLE `newer` (`id` int NOT NULL PRIMARY KEY);\n--> statement-breakpoint\n'
      + 'ALTER TABLE `students` ADD `newer` int NOT NULL DEFAULT 7;\n--> statement-breakpoint\n'
      + 'ALTER TABLE `comments` ADD `newer` varchar(10) NOT NULL DEFAULT \'\';')
      await applyMigrations(open.db, newer)
      for (const i of [0, 1]) {
        const old = proxy.servers[i]!
        const next = await start(`new-${i + 1}`)
        proxy.servers = [...proxy.servers, next]
        await expect.poll(() => proxy.isReady(next)).toBe(true)
        await old.stop()
        expect(await old.ended).toBe(0)
      }
      proxy.servers = proxy.servers.slice(2)
      const soFar = texts.length
      left.fill(40)
      await expect.poll(() => texts.length).toBeGreaterThan(soFar + 10)
    }
    finally {
      // Whatever came of it, nobody goes on asking.
      over = true
      await Promise.all([...work, page].map(one => one.catch((problem: Error) => failures.push(problem.message))))
      proxy.end()
      await watching
    }
    expect(failures).toEqual([])
    const kept = (await open.db.select({ text: s.comments.text }).from(s.comments)).map(row => row.text)
    expect(texts.filter(text => kept.filter(one => one === text).length !== 1)).toEqual([])
    expect(streams).toBeGreaterThan(1)
    expect(await broken(open.db)).toEqual({})
  })
})
