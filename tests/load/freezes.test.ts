import { randomUUID } from 'node:crypto'
import { readFileSync, readdirSync } from 'node:fs'
import { resolve } from 'node:path'
import { eq, sql } from 'drizzle-orm'
import { afterAll, describe, expect, it } from 'vitest'
import { Database, WAITS } from '../../server/db/database'
import { Busy, errorNumber, Unavailable } from '../../server/db/failures'
import { plain } from '../../server/db/store/plain'
import * as s from '../../server/db/schema'
import { Client, close, db, openAccounts, problemOf } from './client'
import { freshStudents, lectureOf, lineUpAll, TERM } from './students'

/** Many at one moment, and rows that somebody does not let go: every request is answered, and the next one too. */
const url = process.env.DATABASE_URL!
afterAll(close)

describe('the pool', () => {
  it('answers forty pins of one student at once, refused and kept ones, and what comes after', async () => {
    const mabel = await Client.signIn('mabel')
    const { file } = await mabel.json<{ file: { record: { id: string }[] } }>('GET', `~?term=${TERM}`)
    const program = 'GFT-AAS'
    const pin = (i: number) => i % 2
      ? { item: file.record[0]!.id, program, line: 'no-such-line' }
      : { item: file.record[0]!.id, program, line: null }
    const answers = await Promise.all(Array.from({ length: 40 }, (_, i) => mabel.call('PUT', '~/use-pins', pin(i))))
    expect(answers.filter(answer => answer.status === 200).length).toBe(20)
    expect(answers.filter(answer => answer.status === 422).length).toBe(20)
    expect((await mabel.call('GET', `~?term=${TERM}`)).status).toBe(200)
  })

  it('answers program files that are put in force while others register', async () => {
    const ids = await freshStudents(24, 100)
    const { section } = await lectureOf('LNG 140', 30)
    const rows = await lineUpAll(ids, 'LNG 140', [section])
    const clients = await Promise.all((await openAccounts(ids)).map(name => Client.signIn(name)))
    const edda = await Client.signIn('edda')
    const text = readFileSync('demo/programs/est-min-2025.json', 'utf8')
    const work = [
      ...clients.map(client => client.call('POST', '~/registrations', { term: TERM, key: randomUUID(), rowIds: [rows.get(client.id)!] })),
      ...Array.from({ length: 12 }, () => edda.call('POST', '/api/programs', { text, keep: true })),
    ]
    expect((await Promise.all(work)).map(answer => answer.status)).toEqual(work.map(() => 200))
    const held = await db.select().from(s.registrations).where(eq(s.registrations.section, section))
    expect(held.length).toBe(24)
  })

  it('a student\'s row that is not let go is waited for, then told, and nobody else waits', async () => {
    const [finch, teal] = [await Client.signIn('finch'), await Client.signIn('teal')]
    const note = (text: string) => ({ baseVersion: 0, operations: [{ kind: 'plan note', note: text }] })
    await db.transaction(async (tx) => {
      await tx.select().from(s.students).where(eq(s.students.person, finch.id)).for('update')
      const stuck = finch.call('POST', '~/plan', note('stuck'))
      expect((await teal.call('POST', '~/plan', note('free'))).status).toBe(200)
      expect((await finch.call('GET', `~?term=${TERM}`)).status).toBe(200)
      const problem = await problemOf(await stuck)
      expect(problem).toMatchObject({ status: 503, code: 'busy' })
      expect(problem.detail).toContain('Nothing of this request was done')
    })
    expect((await finch.call('POST', '~/plan', note('free again'))).status).toBe(200)
  })
})

describe('every wait ends', () => {
  const waits = { ...WAITS, connection: 150, read: 600, write: 600 }
  const withDatabase = async (work: (database: Database) => Promise<void>) => {
    const database = new Database(url, 1, waits)
    try {
      await work(database)
    }
    finally {
      await database.close()
    }
  }

  it('for a connection, and the pool is whole again afterwards', () => withDatabase(async (database) => {
    await database.read(async () => {
      await expect(database.read(tx => plain(tx, 'SELECT 1'))).rejects.toBeInstanceOf(Busy)
    })
    expect(await database.read(tx => plain(tx, 'SELECT 1 one'))).toEqual([{ one: 1 }])
  }))

  it('for a statement that goes on and on', () => withDatabase(async (database) => {
    await expect(database.read(tx => plain(tx, 'SELECT BENCHMARK(1000000000000, SHA2(1, 512))'))).rejects.toBeInstanceOf(Unavailable)
    expect(await database.read(tx => plain(tx, 'SELECT 1 one'))).toEqual([{ one: 1 }])
  }))

  it('for a lock; what was asked is not done', () => withDatabase(async (database) => {
    const [first] = await db.select().from(s.students).limit(1)
    await db.transaction(async (tx) => {
      await tx.select().from(s.students).where(eq(s.students.person, first!.person)).for('update')
      const waiting = database.write(own => plain(own, 'UPDATE students SET version = version + 1000 WHERE person = ?', [first!.person]))
      await expect(waiting).rejects.toBeInstanceOf(Unavailable)
    })
    expect((await db.select().from(s.students).where(eq(s.students.person, first!.person)))[0]!.version).toBeLessThan(1000)
  }))

  it('a deadlock is done again, and both writers end with what they wanted', async () => {
    const [a, b] = (await db.select().from(s.students).limit(2)).map(row => row.person) as [number, number]
    const before = await db.select().from(s.students).where(sql`${s.students.person} IN (${a}, ${b})`)
    const database = new Database(url, 2)
    let met: () => void
    const both = new Promise<void>(done => met = done)
    let arrived = 0
    const bump = (own: Parameters<Parameters<Database['write']>[0]>[0], id: number) =>
      plain(own, 'UPDATE students SET version = version + 1 WHERE person = ?', [id])
    const cross = (first: number, second: number) => database.write(async (own) => {
      await bump(own, first)
      if (++arrived === 2) met()
      await both
      await bump(own, second)
    })
    await Promise.all([cross(a, b), cross(b, a)])
    expect(arrived).toBeGreaterThan(2)
    const after = await db.select().from(s.students).where(sql`${s.students.person} IN (${a}, ${b})`)
    expect(after.map((row, i) => row.version - before[i]!.version)).toEqual([2, 2])
    await database.close()
  })

  it('is told as a crowd while more wait for a connection than there are, and not before or after', () => withDatabase(async (database) => {
    let go: () => void
    const held = new Promise<void>(done => go = done)
    const first = database.read(() => held)
    const second = database.read(() => held)
    expect(database.isCrowded()).toBe(true)
    const more = database.read(tx => plain(tx, 'SELECT 1'))
    go!()
    await Promise.all([first, second, more])
    expect(database.isCrowded()).toBe(false)
    const alone = database.read(() => held)
    expect(database.isCrowded()).toBe(false)
    await alone
  }))

  it('an error that is none of these comes through as it is', () => withDatabase(async (database) => {
    const problem = await database.read(tx => plain(tx, 'SELECT nothing FROM nowhere')).catch(error => error as Error)
    expect(errorNumber(problem)).toBe(1146)
  }))
})

describe('the shape that keeps it so', () => {
  it('nothing but the store asks the database: no act, view or route holds a query', () => {
    const server = resolve(import.meta.dirname, '../../server')
    const files = readdirSync(server, { recursive: true, encoding: 'utf8' }).filter(name => name.endsWith('.ts') && !name.startsWith('db/'))
    const asks = /\bfrom 'drizzle-orm|\bfrom 'mysql2|\bSELECT |\bUPDATE \w+ SET/
    const asking = files.filter(name => asks.test(readFileSync(resolve(server, name), 'utf8')))
    expect(files.length).toBeGreaterThan(40)
    // Health is one statement that asks nothing of anybody.
    expect(asking).toEqual(['api/health.get.ts'])
  })
})
