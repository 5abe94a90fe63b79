import { randomUUID } from 'node:crypto'
import { setTimeout as wait } from 'node:timers/promises'
import { asc, eq, inArray, sql } from 'drizzle-orm'
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import { findingName } from '@ridgeway/core/registration'
import { batchesOn } from '../../server/acts/batches'
import { Lanes, lanesConnections } from '../../server/acts/lanes'
import type { Press } from '../../server/acts/register'
import { KeptCollege } from '../../server/college/college'
import { Refusal } from '../../server/college/refusal'
import { Database, type Executor } from '../../server/db/database'
import { Busy } from '../../server/db/failures'
import { changeSections } from '../../server/db/store/sections'
import * as s from '../../server/db/schema'
import type { RunResult } from '../../shared/contract/acts/student'
import { close, db } from './client'
import { Relay } from './relay'
import { emptyWeeks, freshStudents, lectureOf, lineUpAll, TERM } from './students'

/** What the lanes of registration must bear: locked rows, poisoned files, moved sections, lost answers. */
const COURSE = 'LNG 140'
const AT = '2026-11-10T16:00:00.000Z'
const url = process.env.DATABASE_URL!
const kept = new KeptCollege()
/** Somebody else who works on the same database. */
const office = new Database(url, 2)
const opened: Database[] = [office]
const lanesOn = (address = url, size?: { lanes: number, most: number, patience?: number }) => {
  const database = new Database(address, lanesConnections(size))
  opened.push(database)
  return new Lanes(batchesOn(database, (tx, stamp) => kept.at(tx, stamp)), size)
}
let ids: number[]
let lanes: Lanes
beforeAll(async () => {
  ids = await freshStudents(64)
  lanes = lanesOn()
})
beforeEach(() => emptyWeeks(ids))
afterAll(async () => {
  await emptyWeeks(ids)
  await Promise.all(opened.map(database => database.close()))
  await close()
})

const press = (student: number, row: number, key: string = randomUUID()): Press =>
  ({ student, actor: student, term: TERM, key, rowIds: [row], at: AT })
const outcomes = (results: readonly RunResult[]) => results.map(result => result.rows[0]!.outcome)
const refusalsOf = (result: RunResult) => result.rows[0]!.findings.filter(finding => !finding.ok).map(findingName)
const seatsOf = async (pool: number) => (await db.select().from(s.seatPools).where(eq(s.seatPools.id, pool)))[0]!

/** A course whose lectures stand alone and of which two or more have room. */
async function courseWithTwoLectures(): Promise<string> {
  const rows = await db.select({ course: s.sections.course, n: sql<number>`count(*)` }).from(s.sections)
    .innerJoin(s.courses, eq(s.courses.code, s.sections.course)).innerJoin(s.seatPools, eq(s.seatPools.section, s.sections.id))
    .where(sql`${s.sections.term} = ${TERM} AND NOT ${s.sections.cancelled} AND ${s.courses.parts} = '["lecture"]'
      AND ${s.courses.prerequisite} = '' AND ${s.seatPools.forGroup} IS NULL AND ${s.seatPools.taken} + 5 < ${s.seatPools.capacity}`)
    .groupBy(s.sections.course).having(sql`count(*) > 1`)
  return rows[0]!.course
}

/** Does work while another transaction holds what `lock` locks; the lock goes when `work` is done. */
const whileHeld = <T>(lock: (tx: Executor) => Promise<unknown>, work: () => Promise<T>): Promise<T> => office.write(async (tx) => {
  await lock(tx)
  return work()
})

describe('a batch', () => {
  it('does what one press after the other does: results, registrations, ledger and seats are the same', async () => {
    const course = 'LNG 140'
    const { section, pool } = await lectureOf(course, 40)
    const rowsByStudent = await lineUpAll(ids, course, [section])
    const keys = new Map(ids.map(id => [id, randomUUID()]))
    const all = async (size: { lanes: number, most: number }) => {
      const line = lanesOn(url, size)
      const results = await Promise.all(ids.map(id => line.register(press(id, rowsByStudent.get(id)!, keys.get(id)))))
      const registered = await db.select({ student: s.registrations.student, section: s.registrations.section, pool: s.registrations.pool,
        credits: s.registrations.credits, run: s.registrations.run, at: s.registrations.at }).from(s.registrations)
        .where(inArray(s.registrations.student, ids)).orderBy(asc(s.registrations.student))
      const ledger = await db.select({ student: s.ledger.student, action: s.ledger.action, pool: s.ledger.pool, run: s.ledger.run,
        detail: s.ledger.detail }).from(s.ledger).where(inArray(s.ledger.student, ids)).orderBy(asc(s.ledger.student))
      return { results, registered, ledger, seats: await seatsOf(pool) }
    }
    const slow = await all({ lanes: 1, most: 1 })
    await emptyWeeks(ids)
    await db.delete(s.registrationRuns).where(inArray(s.registrationRuns.student, ids))
    await db.insert(s.lineUpRows).values([...rowsByStudent].map(([student, id]) => ({ id, student, term: TERM, course, position: 0,
      sectionIds: [section] })))
    const fast = await all({ lanes: 1, most: 8 })
    expect(fast).toEqual(slow)
    expect(outcomes(fast.results).filter(outcome => outcome === 'register').length).toBe(40)
    expect(fast.seats.taken).toBe(40)
  })

  it('counts seats kept for a program down within itself', async () => {
    const { section, pool } = await lectureOf(COURSE, 2)
    const [first] = await db.select().from(s.studentPrograms).where(eq(s.studentPrograms.student, ids[0]!))
    const group = first!.program.replace(/-\d{4}$/, '')
    const [mine, others] = [ids.slice(0, 3), ids.slice(3, 6)]
    const [other] = await db.select().from(s.programs).where(sql`${s.programs.code} <> ${group}`).limit(1)
    const programs = await db.select().from(s.studentPrograms).where(inArray(s.studentPrograms.student, [...mine, ...others]))
    await db.delete(s.studentPrograms).where(inArray(s.studentPrograms.student, [...mine, ...others]))
    await db.insert(s.studentPrograms).values([...mine.map(student => ({ student, program: first!.program, position: 0 })),
      ...others.map(student => ({ student, program: other!.id, position: 0 }))])
    await office.write(tx => changeSections(tx, TERM, [section], () =>
      tx.insert(s.seatPools).values({ id: 900_001, section, forGroup: group, capacity: 1, taken: 0, held: 0 })))
    try {
      const rows = await lineUpAll([...mine, ...others], COURSE, [section])
      const line = lanesOn(url, { lanes: 1, most: 8 })
      const results = await Promise.all([...mine, ...others].map(id => line.register(press(id, rows.get(id)!))))
      // The kept seat goes first; then two open ones, whoever comes.
      expect(outcomes(results)).toEqual(['register', 'register', 'register', 'refused', 'refused', 'refused'])
      expect([(await seatsOf(pool)).taken, (await seatsOf(900_001)).taken]).toEqual([2, 1])
    }
    finally {
      await emptyWeeks(ids)
      await office.write(tx => changeSections(tx, TERM, [section], () => tx.delete(s.seatPools).where(eq(s.seatPools.id, 900_001))))
      await db.delete(s.studentPrograms).where(inArray(s.studentPrograms.student, [...mine, ...others]))
      await db.insert(s.studentPrograms).values(programs)
    }
  })

  it('serves first who came first', async () => {
    const { section } = await lectureOf(COURSE, 5)
    const rows = await lineUpAll(ids, COURSE, [section])
    // Whatever order they have in the tables.
    const shuffled = ids.toSorted((a, b) => a * 7919 % 101 - b * 7919 % 101)
    const line = lanesOn(url, { lanes: 1, most: 8 })
    const results = await Promise.all(shuffled.map(id => line.register(press(id, rows.get(id)!))))
    expect(outcomes(results)).toEqual(shuffled.map((_, i) => i < 5 ? 'register' : 'refused'))
  })

  it('keeps the place of who came before, though another was let in sooner', async () => {
    const { section } = await lectureOf(COURSE, 2)
    const rows = await lineUpAll(ids, COURSE, [section])
    const line = lanesOn(url, { lanes: 1, most: 1 })
    const now = Date.now()
    // The first is served at once; of those behind, the one let in last came first.
    const results = await Promise.all([0, 30, 20, 10].map((later, i) => line.register(press(ids[i]!, rows.get(ids[i]!)!), now + later)))
    expect(outcomes(results)).toEqual(['register', 'refused', 'refused', 'register'])
  })

  it('keeps the place of who was told to come again, and serves whose turn has come, however long it took', async () => {
    const { section, pool } = await lectureOf(COURSE, 4)
    const rows = await lineUpAll(ids, COURSE, [section])
    const line = lanesOn(url, { lanes: 1, most: 1, patience: 100 })
    const presses = ids.slice(0, 5).map(id => press(id, rows.get(id)!))
    const [first, second, third, fourth, fifth] = presses as [Press, Press, Press, Press, Press]
    const isHeld = (tx: Executor) => tx.execute(sql`SELECT id FROM seat_pools WHERE id = ${pool} FOR UPDATE`)
    let before: Promise<RunResult | { code: string }>[] = []
    await whileHeld(isHeld, async () => {
      before = [first, second, third].map(one => line.register(one).catch((problem: Refusal) => ({ code: problem.code })))
      await wait(300)
    })
    const [one, two, away] = await Promise.all(before)
    expect(outcomes([one, two] as RunResult[])).toEqual(['register', 'register'])
    expect(away).toEqual({ code: 'busy' })
    // Two seats are left. While the fifth is being served the third comes again, after the fourth, and goes before it.
    let after: Promise<RunResult>[] = []
    await whileHeld(isHeld, async () => {
      after = [fifth, fourth, third].map(one => line.register(one))
      await wait(20)
    })
    expect(outcomes(await Promise.all(after))).toEqual(['register', 'refused', 'register'])
  })

  it('keeps the place of whom the database had no time for', async () => {
    const { section } = await lectureOf(COURSE, 2)
    const rows = await lineUpAll(ids, COURSE, [section])
    const working = batchesOn(office, (tx, stamp) => kept.at(tx, stamp))
    let troubles = 2
    const line = new Lanes((presses, skip) => troubles-- > 0 ? Promise.reject(new Busy('no time')) : working(presses, skip),
      { lanes: 1, most: 1 })
    const [first, second, third, fourth] = ids.slice(0, 4).map(id => press(id, rows.get(id)!)) as [Press, Press, Press, Press]
    const before = Date.now() - 1000
    await expect(line.register(first, before)).rejects.toThrow(Busy)
    await expect(line.register(second, before + 1)).rejects.toThrow(Busy)
    // One is served at once; the two that came before wait behind others only until they come again.
    const results = await Promise.all([third, fourth, second, first].map(one => line.register(one)))
    expect(outcomes(results)).toEqual(['register', 'refused', 'refused', 'register'])
  })

  it('tells who waits the place, the seconds until the turn, and when to look again', async () => {
    const { section, pool } = await lectureOf(COURSE, 4)
    const rows = await lineUpAll(ids, COURSE, [section])
    const line = lanesOn(url, { lanes: 1, most: 1 })
    const presses = ids.slice(0, 4).map(id => press(id, rows.get(id)!))
    const place = ({ student, key }: Press) => line.placeOf(student, key)
    const isHeld = (tx: Executor) => tx.execute(sql`SELECT id FROM seat_pools WHERE id = ${pool} FOR UPDATE`)
    let all: Promise<RunResult>[] = []
    await whileHeld(isHeld, async () => {
      all = presses.map(one => line.register(one))
      await wait(20)
      expect(presses.map(place)).toEqual([
        { before: 0, seconds: null, served: true, again: 600 },
        // How long it takes is not known yet.
        ...[0, 1, 2].map(before => ({ before, seconds: 0, served: false, again: 600 })),
      ])
      await wait(400)
    })
    expect(outcomes(await Promise.all(all))).toEqual(['register', 'register', 'register', 'register'])
    expect(place(presses[0]!)).toEqual({ before: null, seconds: null, served: false, again: 600 })
    await emptyWeeks(ids)
    const again = await lineUpAll(ids, COURSE, [section])
    const many = ids.map(id => press(id, again.get(id)!))
    await whileHeld(isHeld, async () => {
      all = many.map(one => line.register(one))
      await wait(20)
      const seconds = many.slice(1).map(one => place(one).seconds!)
      expect(seconds.at(-1)).toBeGreaterThan(1)
      expect(seconds).toEqual([...seconds].sort((a, b) => a - b))
      // Sixty looks a second by all of them together, at most.
      expect(place(many[1]!).again).toBe(Math.max(600, Math.round((many.length - 1) * 1000 / 60)))
    })
    await Promise.all(all)
  })

  it('gives those who are answered in a crowd an appointment for the rest, one after the other, and nobody else', async () => {
    const { section, pool } = await lectureOf(COURSE, 40)
    const rows = await lineUpAll(ids, COURSE, [section])
    const line = lanesOn(url, { lanes: 1, most: 1 })
    const isHeld = (tx: Executor) => tx.execute(sql`SELECT id FROM seat_pools WHERE id = ${pool} FOR UPDATE`)
    const [first, ...others] = ids.map(id => press(id, rows.get(id)!))
    let all: Promise<RunResult>[] = []
    await whileHeld(isHeld, async () => {
      all = [line.register(first!)]
      await wait(300)
    })
    await Promise.all(all)
    expect(line.calmIn()).toBe(0)
    await whileHeld(isHeld, async () => {
      all = others.map(one => line.register(one))
      await wait(20)
      const before = Date.now()
      const appointments = Array.from({ length: 20 }, () => Date.now() + line.calmIn())
      // Sixty-two who wait at 0.3 seconds each: after them.
      expect(appointments[0]! - before).toBeGreaterThan(5000)
      for (const [i, one] of appointments.slice(1).entries()) expect(one - appointments[i]!).toBeGreaterThanOrEqual(45)
    })
    await Promise.all(all)
    expect(line.calmIn()).toBe(0)
    // Nobody stands in line any more, but what people look at is read slowly.
    expect(line.calmIn(true)).toBeGreaterThanOrEqual(1000)
    expect(line.calmIn(true) - line.calmIn(true)).toBeLessThan(0)
  })

  it('takes two presses of one student one after the other', async () => {
    const { section, pool } = await lectureOf(COURSE, 5)
    const student = ids[0]!
    const row = (await lineUpAll([student], COURSE, [section])).get(student)!
    const [first, second] = await Promise.allSettled([lanes.register(press(student, row)), lanes.register(press(student, row))])
    expect(outcomes([(first as PromiseFulfilledResult<RunResult>).value])).toEqual(['register'])
    expect((second as PromiseRejectedResult).reason).toMatchObject({ code: 'nothing-chosen' })
    expect((await seatsOf(pool)).taken).toBe(1)
  })

  it('tells a full section with its waitlist, and where there is room', async () => {
    const course = await courseWithTwoLectures()
    const { section } = await lectureOf(course, 0)
    const waiting = ids.slice(10, 13)
    await db.insert(s.waitlistEntries).values(waiting.map(student => ({ student, section, joined: AT })))
    try {
      const row = (await lineUpAll(ids.slice(0, 1), course, [section])).get(ids[0]!)!
      const { findings } = (await lanes.register(press(ids[0]!, row))).rows[0]!
      const full = findings.find(finding => finding.code === 'seats-full' && !finding.ok)
      expect(full).toMatchObject({ seats: { capacity: 0, taken: 0, waiting: 3 }, other: { label: expect.any(String) } })
    }
    finally {
      await db.delete(s.waitlistEntries).where(inArray(s.waitlistEntries.student, waiting))
    }
  })

  it('registers again what was dropped, under a new key', async () => {
    const { section, pool } = await lectureOf(COURSE, 5)
    const student = ids[0]!
    for (let round = 0; round < 2; round++) {
      await emptyWeeks([student])
      const row = (await lineUpAll([student], COURSE, [section])).get(student)!
      expect(outcomes([await lanes.register(press(student, row))])).toEqual(['register'])
      expect((await seatsOf(pool)).taken).toBe(1)
    }
  })
})

describe('what holds one up does not hold up the others', () => {
  it('a student\'s row that somebody locks', async () => {
    const { section } = await lectureOf(COURSE, 64)
    const rows = await lineUpAll(ids.slice(0, 20), COURSE, [section])
    const held = ids[3]!
    const settled: number[] = []
    let last: Promise<RunResult>
    await whileHeld(tx => tx.select().from(s.students).where(eq(s.students.person, held)).for('update'), async () => {
      const presses = ids.slice(0, 20).map((id) => {
        const result = lanes.register(press(id, rows.get(id)!))
        void result.then(() => settled.push(id))
        return { id, result }
      })
      last = presses.find(one => one.id === held)!.result
      await Promise.all(presses.filter(one => one.id !== held).map(one => one.result))
      expect(settled).not.toContain(held)
    })
    expect(outcomes([await last!])).toEqual(['register'])
  })

  it('a file that cannot be read fails its own press only', async () => {
    const { section, pool } = await lectureOf(COURSE, 64)
    const some = ids.slice(0, 16)
    const rows = await lineUpAll(some, COURSE, [section])
    const poisoned = some[5]!
    await db.execute(sql`UPDATE students SET placements = '{' WHERE person = ${poisoned}`)
    try {
      const results = await Promise.allSettled(some.map(id => lanes.register(press(id, rows.get(id)!))))
      expect(some.filter((_, i) => results[i]!.status === 'rejected')).toEqual([poisoned])
      expect((await seatsOf(pool)).taken).toBe(15)
    }
    finally {
      await db.execute(sql`UPDATE students SET placements = '{}' WHERE person = ${poisoned}`)
    }
  })

  it('a refusal is of its own press: none of the rows is there any more', async () => {
    const { section } = await lectureOf(COURSE, 64)
    const some = ids.slice(0, 4)
    const rows = await lineUpAll(some, COURSE, [section])
    const results = await Promise.allSettled(some.map((id, i) => lanes.register(press(id, i === 2 ? 999_999_999 : rows.get(id)!))))
    expect(results.map(result => result.status)).toEqual(['fulfilled', 'fulfilled', 'rejected', 'fulfilled'])
    const { reason } = results[2] as PromiseRejectedResult
    expect(reason).toBeInstanceOf(Refusal)
    expect((reason as Refusal).code).toBe('nothing-chosen')
  })

  it('seats that the office holds are waited for', async () => {
    const { section, pool } = await lectureOf(COURSE, 3)
    const rows = await lineUpAll(ids.slice(0, 6), COURSE, [section])
    let presses: Promise<RunResult>[] = []
    await whileHeld(tx => tx.select().from(s.seatPools).where(eq(s.seatPools.id, pool)).for('update'), async () => {
      presses = ids.slice(0, 6).map(id => lanes.register(press(id, rows.get(id)!)))
      // Something of another student goes through meanwhile, on the other connections.
      expect((await db.select().from(s.students).where(eq(s.students.person, ids[0]!))).length).toBe(1)
    })
    expect(outcomes(await Promise.all(presses)).sort()).toEqual(['refused', 'refused', 'refused', 'register', 'register', 'register'])
    expect((await seatsOf(pool)).taken).toBe(3)
  })
})

describe('sections that change', () => {
  const cancel = (section: number, cancelled: boolean) => (tx: Executor) =>
    changeSections(tx, TERM, [section], () => tx.update(s.sections).set({ cancelled }).where(eq(s.sections.id, section)))

  it('are read anew when the term\'s stamp has moved', async () => {
    const { section } = await lectureOf(COURSE, 10)
    const rows = await lineUpAll(ids.slice(0, 2), COURSE, [section])
    expect(outcomes([await lanes.register(press(ids[0]!, rows.get(ids[0]!)!))])).toEqual(['register'])
    // Nobody is in it any more: who is in a cancelled section is served beside.
    await emptyWeeks(ids.slice(0, 1))
    await office.write(cancel(section, true))
    try {
      expect(refusalsOf(await lanes.register(press(ids[1]!, rows.get(ids[1]!)!)))).toContain('section-cancelled')
    }
    finally {
      await office.write(cancel(section, false))
    }
  })

  it('are read anew when they move between reading and locking', async () => {
    const { section } = await lectureOf(COURSE, 10)
    const rows = await lineUpAll(ids.slice(0, 1), COURSE, [section])
    let pressed: Promise<RunResult>
    // The press reads the old stamp and then waits for the seats, which the editor holds until it has cancelled the section.
    await whileHeld(cancel(section, true), async () => {
      pressed = lanes.register(press(ids[0]!, rows.get(ids[0]!)!))
      await waitingForSeats()
    })
    try {
      expect(refusalsOf(await pressed!)).toContain('section-cancelled')
    }
    finally {
      await office.write(cancel(section, false))
    }
  })
})

/** Resolves when a transaction asks for seats that another one holds. */
async function waitingForSeats() {
  for (;;) {
    const [rows] = await db.execute(sql`SELECT COUNT(*) n FROM information_schema.processlist
      WHERE info LIKE 'SELECT id pool%' AND info LIKE '%FOR UPDATE'`) as unknown as [{ n: number }[]]
    if (Number(rows[0]!.n) > 0) return
  }
}

describe('an answer that is lost', () => {
  it('while the seats were being kept: the same keys tell, and each press acts once', async () => {
    const { section, pool } = await lectureOf(COURSE, 20)
    const some = ids.slice(0, 8)
    const rows = await lineUpAll(some, COURSE, [section])
    for (const moment of ['before', 'after'] as const) {
      await emptyWeeks(some)
      await lineUpAll(some, COURSE, [section]).then(fresh => fresh.forEach((row, id) => rows.set(id, row)))
      const relay = await Relay.before(url)
      const line = lanesOn(relay.url, { lanes: 1, most: 8 })
      relay.cutAtNextCommit(moment)
      const results = await Promise.all(some.map(id => line.register(press(id, rows.get(id)!))))
      expect(relay.cuts).toBe(1)
      expect(outcomes(results)).toEqual(some.map(() => 'register'))
      expect(results.map(result => result.repeated)).toEqual(some.map(() => false))
      expect((await seatsOf(pool)).taken).toBe(8)
      expect((await db.select().from(s.registrations).where(eq(s.registrations.section, section))).length).toBe(8)
      await relay.close()
    }
  })
})
