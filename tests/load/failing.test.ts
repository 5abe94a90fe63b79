import { spawn } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { connect as dial } from 'node:net'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { loadDemo } from '../../demo/load'
import { connect } from '../../server/db/connect'
import { applyMigrations } from '../../server/db/migrations'
import { Database, WAITS } from '../../server/db/database'
import { OutcomeUnknown, Unavailable } from '../../server/db/failures'
import { collegeStamp } from '../../server/db/schema'
import { plain } from '../../server/db/store/plain'
import { freePort, ROOT, type RunningDatabase, type RunningServer, startDatabase, startServer, STATE }
  from '../../tools/command/machine.mjs'
import { Client, problemOf, trySignIn } from './client'
import { Relay } from './relay'

/** A database that stops, freezes, is empty, or breaks off at the worst moment: what people read then, and what comes after. */
const LOG = join(STATE, 'failing-server.log')
const SECRET = 'a very private sentence'
let database: RunningDatabase
let relay: Relay
let server: RunningServer
beforeAll(async () => {
  database = await startDatabase('failing')
  await database.create('college', true)
  const { db, close } = connect(database.url('college'), 4)
  await applyMigrations(db, 'server/db/migrations')
  await loadDemo(db, { generated: 0, full: [] })
  await close()
  relay = await Relay.before(database.url('college'))
  server = await startServer({ databaseUrl: relay.url, port: await freePort(), demo: true, log: LOG })
}, 180_000)
afterAll(async () => {
  await server.stop()
  await relay.close()
  await database.stop()
})

const statusOf = async (path: string) => (await fetch(`${server.address}${path}`)).status
/** Asks until it is so; each question has its answer within its own limit. */
async function until(holds: () => Promise<boolean>) {
  while (!await holds());
}

describe('an answer that is lost while a change is being kept', () => {
  it('is found out: the change is there once, whether it had been kept or not, and the person hears that it was done', async () => {
    const una = await Client.signIn('una', 'larkmoor', server.address)
    for (const moment of ['after', 'before'] as const) {
      const cuts = relay.cuts
      relay.cutAtNextCommit(moment)
      await una.json('POST', '~/comments', { term: null, entry: null, text: `${SECRET} ${moment}` })
      expect(relay.cuts).toBe(cuts + 1)
    }
    const { comments } = await una.json<{ comments: { text: string }[] }>('GET', '~?term=2027SP')
    expect(comments.map(comment => comment.text)).toEqual([`${SECRET} after`, `${SECRET} before`])
  })

  it('is found out while the first try is still being kept', async () => {
    const way = await Relay.before(database.url('college'))
    const own = new Database(way.url, 2)
    const { db, close } = connect(database.url('college'), 1)
    const version = async () => Number((await db.select().from(collegeStamp))[0]!.version)
    const before = await version()
    // Five at once on one row: each waits for the one before, and the cut falls on any of them.
    way.cutAtNextCommit('after')
    const bump = () => own.write(tx => plain(tx, 'UPDATE college_stamp SET version = version + 1'))
    await Promise.all(Array.from({ length: 5 }, bump))
    expect(way.cuts).toBe(1)
    expect(await version()).toBe(before + 5)
    await Promise.all([own.close(), close(), way.close()])
  })

  it('never says that nothing was done where nobody can tell; and is told apart from a change that was not made', async () => {
    const way = await Relay.before(database.url('college'))
    const own = new Database(way.url, 1, { ...WAITS, write: 900 })
    const bump = () => own.write(tx => plain(tx, 'UPDATE college_stamp SET version = version + 1'))
    way.cutAtNextCommit('after', { forGood: true })
    await expect(bump()).rejects.toBeInstanceOf(OutcomeUnknown)
    await expect(bump()).rejects.toBeInstanceOf(Unavailable)
    await own.close()
    await way.close()
  })
})

describe('a database in trouble', () => {
  it('frozen: requests are answered in words, health says so, and all is well as soon as it goes on', async () => {
    const una = await Client.signIn('una', 'larkmoor', server.address)
    database.signal('SIGSTOP')
    const answers = await Promise.all([fetch(`${server.address}/api/health`), fetch(`${server.address}/api/ready`),
      una.call('GET', '~?term=2027SP'), una.call('POST', '~/comments', { term: null, entry: null, text: SECRET }),
      trySignIn('una', 'larkmoor', { address: server.address })])
    for (const answer of answers) {
      const problem = await problemOf(answer)
      expect(problem.status).toBe(503)
      expect(`${problem.title} ${problem.detail}`).toMatch(/moment/)
      expect(answer.headers.get('retry-after')).not.toBeNull()
    }
    database.signal('SIGCONT')
    await until(async () => await statusOf('/api/ready') === 200)
    expect((await una.call('GET', '~?term=2027SP')).status).toBe(200)
    // What was refused with "nothing was done" was not done.
    const { comments } = await una.json<{ comments: { text: string }[] }>('GET', '~?term=2027SP')
    expect(comments.map(comment => comment.text)).not.toContain(SECRET)
  })

  it('gone and back: the same server serves on, and pages that listen are told again', async () => {
    const una = await Client.signIn('una', 'larkmoor', server.address)
    const gone = database
    gone.signal('SIGKILL')
    await until(async () => await statusOf('/api/health') === 503)
    expect(await problemOf(await una.call('GET', '~?term=2027SP'))).toMatchObject({ status: 503 })
    expect((await fetch(`${server.address}/sign-in`)).status).toBe(200)
    database = await startDatabase('failing', gone.port)
    await until(async () => await statusOf('/api/ready') === 200)
    const answers = await Promise.all(Array.from({ length: 30 }, () => una.call('GET', '~?term=2027SP')))
    expect(answers.map(answer => answer.status)).toEqual(answers.map(() => 200))
  })

  it('has left no failure unheard, and nothing that people wrote in the log', () => {
    const log = readFileSync(LOG, 'utf8')
    expect(log).toContain('unexpected failure')
    expect(log).not.toMatch(/unhandled|uncaught/i)
    expect(log).not.toContain(SECRET)
    expect(log).not.toContain('larkmoor')
  })
})

describe('an empty database', () => {
  it('is healthy but not ready, and a person reads what is missing', async () => {
    await database.create('empty', true)
    const { db, close } = connect(database.url('empty'), 1)
    await applyMigrations(db, 'server/db/migrations')
    await close()
    const empty = await startServer({ databaseUrl: database.url('empty'), port: await freePort(), demo: true,
      log: join(STATE, 'empty.log') })
    expect((await fetch(`${empty.address}/api/health`)).status).toBe(200)
    expect(await problemOf(await fetch(`${empty.address}/api/ready`))).toMatchObject({ status: 503, code: 'no-college' })
    expect(await problemOf(await fetch(`${empty.address}/api/session`))).toMatchObject({ status: 503, code: 'no-college' })
    await empty.stop()
  })
})

describe('./ridgeway start', () => {
  it('listens on this machine only, and its server ends with it', async () => {
    await database.create('production', true)
    const port = await freePort()
    const command = spawn('./ridgeway', ['start'], { cwd: ROOT, env: { ...process.env, HOST: undefined,
      DATABASE_URL: database.url('production'), PORT: String(port), RIDGEWAY_DEMO: '1',
      NUXT_SESSION_PASSWORD: 'a secret of our own that is long enough' } })
    let said = ''
    const listening = new Promise<void>((done, fail) => {
      command.stdout.on('data', (text: Buffer) => {
        said += text.toString()
        if (said.includes('holds no college yet')) done()
      })
      command.once('exit', () => fail(new Error(`it ended: ${said}`)))
    })
    await listening
    expect((await fetch(`http://127.0.0.1:${port}/api/health`)).status).toBe(200)
    // The demonstration's own doors are shut, whatever the environment says.
    expect((await fetch(`http://127.0.0.1:${port}/api/session/demo`)).status).toBe(404)
    expect(said).toContain('127.0.0.1')
    command.kill('SIGTERM')
    await new Promise(done => command.once('exit', done))
    const refused = await new Promise<boolean>((done) => {
      const probe = dial(port, '127.0.0.1')
      probe.once('error', () => done(true))
      probe.once('connect', () => {
        probe.destroy()
        done(false)
      })
    })
    expect(refused).toBe(true)
  })
})
