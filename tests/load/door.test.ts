import { randomBytes, randomUUID } from 'node:crypto'
import fc from 'fast-check'
import { inArray, sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { KeptCollege } from '../../server/college/college'
import { Door, type LetIn } from '../../server/college/door'
import { Database, type Executor } from '../../server/db/database'
import * as s from '../../server/db/schema'
import { ADDRESS, Client, close, db, openAccounts } from './client'
import { freshStudents, TERM } from './students'

/** The database, asked when the test says so, and how often it was asked. */
class Gated extends Database {
  private waiting: (() => void)[] = []
  asked = 0

  override async read<T>(work: (db: Executor) => Promise<T>): Promise<T> {
    await new Promise<void>(go => this.waiting.push(go))
    this.asked++
    return super.read(work)
  }

  /** Lets those go on that ask, the last first, once somebody does. */
  async go(): Promise<void> {
    await settle()
    for (const go of this.waiting.splice(0).reverse()) go()
  }
}
/** Lets what was begun go as far as it goes by itself. */
const settle = () => new Promise(resolve => setImmediate(resolve))

const url = process.env.DATABASE_URL!
const database = new Gated(url, 4)
const kept = new KeptCollege()
/** Students with their advisors, and a session of each: the last of them has ended. */
let students: { person: number, advisor: number | null }[]
let sessions: string[]
beforeAll(async () => {
  const ids = await freshStudents(12, 300)
  await openAccounts(ids)
  students = await db.select({ person: s.students.person, advisor: s.students.advisor }).from(s.students)
    .where(inArray(s.students.person, ids)).orderBy(s.students.person)
  sessions = students.map(() => randomBytes(32).toString('hex'))
  for (const [i, { person }] of students.entries()) {
    await db.execute(sql`INSERT INTO sessions (id, person, started_at, valid_until, mark)
      SELECT ${sessions[i]}, id, UTC_TIMESTAMP(3), UTC_TIMESTAMP(3) + INTERVAL ${i === students.length - 1 ? -1 : 60} MINUTE,
        SHA2(password_hash, 256) FROM people WHERE id = ${person}`)
  }
})
afterAll(async () => {
  await db.delete(s.sessions).where(inArray(s.sessions.id, sessions))
  await database.close()
  await close()
})

describe('the door', () => {
  it('lets somebody who comes alone in at once, and those together who come while others are let in', async () => {
    const door = new Door(database, kept, { doors: 1, most: 100 })
    const before = database.asked
    const coming = students.map(({ person }, i) => door.come({ session: sessions[i]!, student: person }))
    await database.go()
    await coming[0]
    await database.go()
    const letIn = await Promise.all(coming)
    expect(database.asked - before).toBe(2)
    expect(letIn.map(one => one.visitor?.id)).toEqual([...students.slice(0, -1).map(one => one.person), undefined])
    expect(letIn.map(one => one.advisor)).toEqual(students.map(one => one.advisor))
    expect(new Set(letIn.map(one => one.stamp.catalog)).size).toBe(1)
  })

  it('knows nobody without a session, and no student whom there is not', async () => {
    const door = new Door(database, kept)
    const coming = Promise.all([door.come({ session: null, student: 0 }), door.come({ session: 'f'.repeat(64), student: 999_999_999 })])
    await database.go()
    for (const { visitor, advisor } of await coming) {
      expect(visitor).toBeNull()
      expect(advisor).toBeUndefined()
    }
  })

  it('tells each of a reading that failed, and lets the next in', async () => {
    const gone = new Gated(url.replace(/:\d+\//, ':1/'), 1)
    const door = new Door(gone, kept, { doors: 1, most: 100 })
    const coming = [1, 2, 3].map(() => door.come({ session: null, student: 0 })
      .then(() => 'in', (problem: Error) => problem.constructor.name))
    await gone.go()
    await coming[0]
    await gone.go()
    expect(await Promise.all(coming)).toEqual(['Unavailable', 'Unavailable', 'Unavailable'])
    await gone.close()
  })

  it('gives everybody their own, in whatever order they come and readings end (property)', async () => {
    const comer = fc.record({ session: fc.option(fc.nat({ max: 10 })), student: fc.option(fc.nat({ max: 11 })), answers: fc.boolean() })
    await fc.assert(fc.asyncProperty(fc.array(comer, { maxLength: 30 }), fc.integer({ min: 1, max: 3 }), fc.integer({ min: 1, max: 6 }),
      async (comers, doors, most) => {
        const door = new Door(database, kept, { doors, most })
        const before = database.asked
        const coming: Promise<LetIn>[] = []
        for (const { session, student, answers } of comers) {
          coming.push(door.come({ session: session === null ? null : sessions[session]!,
            student: student === null ? 0 : students[student]!.person }))
          if (answers) await database.go()
        }
        const all = Promise.all(coming)
        let isOver = false
        void all.finally(() => isOver = true)
        while (!isOver) await database.go()
        for (const [i, { session, student }] of comers.entries()) {
          expect((await coming[i]!).visitor?.id ?? null).toBe(session === null ? null : students[session]!.person)
          expect((await coming[i]!).advisor).toBe(student === null ? undefined : students[student]!.advisor)
        }
        expect(database.asked - before).toBeGreaterThanOrEqual(Math.ceil(comers.length / most))
        expect(database.asked - before).toBeLessThanOrEqual(comers.length)
      }), { numRuns: 25 })
  })
})

describe('a crowd', () => {
  /** More than may wait for a connection to the database. */
  const CROWD = 700
  const statuses = async (ask: () => Promise<Response>) =>
    new Set((await Promise.all(Array.from({ length: CROWD }, ask))).map(one => one.status))

  it('is let in, all of it, and told its place in line', async () => {
    const tamsin = await Client.signIn('tamsin')
    expect(await statuses(() => tamsin.call('GET', `~/registrations?key=${randomUUID()}`))).toEqual(new Set([200]))
  })

  it('that asks whether the server is well is told so, and keeps nobody outside', async () => {
    const tamsin = await Client.signIn('tamsin')
    const [health, ready, files] = await Promise.all([statuses(() => fetch(`${ADDRESS}/api/health`)),
      statuses(() => fetch(`${ADDRESS}/api/ready`)), Promise.all(Array.from({ length: 20 }, () => tamsin.call('GET', `~?term=${TERM}`)))])
    expect([health, ready]).toEqual([new Set([200]), new Set([200])])
    expect(files.map(one => one.status)).toEqual(files.map(() => 200))
  })
})
