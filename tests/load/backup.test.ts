import { type ChildProcess, spawn, spawnSync } from 'node:child_process'
import { existsSync, mkdtempSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setTimeout as wait } from 'node:timers/promises'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { loadDemo } from '../../demo/load'
import { connect } from '../../server/db/connect'
import { applyMigrations } from '../../server/db/migrations'
import * as s from '../../server/db/schema'
import { bin, freePort, ROOT, type RunningDatabase, type RunningServer, startDatabase, startServer, STATE }
  from '../../tools/command/machine.mjs'
import { broken } from './invariants'
import { Storm } from './storming'

/** A college that was destroyed is brought back to the second before, from a backup and the log of changes. */
const LOGGING = ['--log-bin=changes', '--server-id=1', '--binlog-format=ROW', '--sync-binlog=1']
const folder = mkdtempSync(join(tmpdir(), 'ridgeway-backup-'))
let database: RunningDatabase
let server: RunningServer
let following: ChildProcess
let storm: Storm
beforeAll(async () => {
  rmSync(join(STATE, 'backup'), { recursive: true, force: true })
  database = await startDatabase('backup', 0, LOGGING)
  await database.create('college', true)
  const open = connect(database.url('college'), 4)
  await applyMigrations(open.db, 'server/db/migrations')
  await loadDemo(open.db, { generated: 60 })
  server = await startServer({ databaseUrl: database.url('college'), port: await freePort(), demo: true,
    log: join(STATE, 'backup-server.log') })
  storm = new Storm(open, [server.address], 40)
  await storm.prepare()
}, 180_000)
afterAll(async () => {
  await server.stop()
  await database.stop()
  rmSync(folder, { recursive: true, force: true })
})

const command = (args: string[], name = 'college') => spawnSync(bin('tsx'), ['tools/backup.ts', ...args],
  { cwd: ROOT, encoding: 'utf8', env: { ...process.env, DATABASE_URL: database.url(name) } })

describe('a college that is destroyed', () => {
  it('comes back to the second before, with everything that was acknowledged and nothing that came after', async () => {
    const before = await storm.blow(3000, 1, async () => {})
    const kept = command(['backup', folder])
    expect(kept.stderr).toBe('')
    expect(kept.stdout).toMatch(/Kept 97 students|Kept \d+ students/)
    following = spawn(bin('tsx'), ['tools/backup.ts', 'backup', folder, '--follow'], { cwd: ROOT,
      env: { ...process.env, DATABASE_URL: database.url('college') } })
    await new Promise<void>(done => following.stdout!.once('data', () => done()))
    const told = await storm.blow(4000, 2, reached => reached(21 - before.size))
    await storm.calm()
    const { db, close } = storm.open
    const registered = await db.$count(s.registrations)
    const entries = await db.$count(s.ledger)
    expect(before.size + told.size).toBeGreaterThan(20)
    expect(await broken(db)).toEqual({})
    await server.stop()
    await wait(1100)
    const moment = new Date().toISOString()
    await wait(1100)
    await db.delete(s.registrations)
    await db.delete(s.lineUpRows)
    await close()
    // The copy of the log has the destruction too; then the database is gone for good.
    const size = () => readdirSync(join(folder, 'log')).reduce((sum, name) => sum + statSync(join(folder, 'log', name)).size, 0)
    await expect.poll(async () => {
      const first = size()
      await wait(400)
      return first > 0 && first === size()
    }, { timeout: 20_000 }).toBe(true)
    database.signal('SIGKILL')
    following.kill('SIGTERM')
    await new Promise(done => following.once('exit', done))
    rmSync(join(STATE, 'backup'), { recursive: true, force: true })

    database = await startDatabase('backup', 0, LOGGING)
    await database.create('college', true)
    const back = command(['restore', folder, '--until', moment])
    expect(back.stderr).toBe('')
    expect(back.stdout).toMatch(/Every seat is as the ledger replays it/)
    storm.open = connect(database.url('college'), 4)
    expect(await storm.open.db.$count(s.registrations)).toBe(registered)
    expect(await storm.open.db.$count(s.ledger)).toBe(entries)
    expect(await storm.missing(new Map([...before, ...told]))).toEqual([])
    expect(await broken(storm.open.db)).toEqual({})
    // Without a moment it comes back as it was last: destroyed. Under another name too.
    await database.create('last', true)
    const last = command(['restore', folder], 'last')
    const ended = connect(database.url('last'), 1)
    expect([last.status, await ended.db.$count(s.registrations)]).toEqual([0, 0])
    await ended.close()
    await storm.open.close()
  }, 120_000)

  it('is never written over what is there, and a backup that was cut short or changed is none', async () => {
    expect(command(['restore', folder])).toMatchObject({ status: 1, stderr: expect.stringContaining('is not empty') as string })
    await database.create('spare', true)
    expect(command(['restore', join(folder, 'nothing')], 'spare').stderr).toContain('no backup')
    expect(command(['restore', folder, '--until', '2001-01-01T00:00:00Z'], 'spare').stderr).toContain('no backup')
    expect(command(['restore', folder, '--until', 'yesterday'], 'spare').stderr).toContain('is no instant')
    const [name] = readdirSync(folder).filter(one => existsSync(join(folder, one, 'manifest.json')))
    writeFileSync(join(folder, name!, 'college.sql.gz'), 'cut short')
    expect(command(['restore', folder], 'spare').stderr).toContain('not what was kept')
    const spare = connect(database.url('spare'), 1)
    await expect(spare.db.$count(s.students)).rejects.toThrow()
    await spare.close()
  }, 60_000)
})
