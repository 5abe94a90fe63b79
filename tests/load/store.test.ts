import { asc, eq, inArray, ne, sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest'
import { itemsOf, readStanding } from '@ridgeway/core/planning'
import { earnedCredits } from '@ridgeway/core/record'
import type { Looking } from '../../server/college/asked'
import { readComersOf } from '../../server/college/comers'
import { type College, dateIn, KeptCollege, programsAt } from '../../server/college/college'
import { areOf, KeptSections } from '../../server/college/sections'
import { fileOf, planIn } from '../../server/college/student'
import { Database, type Executor } from '../../server/db/database'
import { readStamp } from '../../server/db/store/college'
import { readDossiers } from '../../server/db/store/dossiers'
import { plain, together } from '../../server/db/store/plain'
import { changeSections, readSeats } from '../../server/db/store/sections'
import { readWatched } from '../../server/db/store/students'
import * as s from '../../server/db/schema'
import { forgetFigures, readAdviseesView } from '../../server/views/advisees'
import { readSeatsView } from '../../server/views/staff'
import { readStudentView } from '../../server/views/student'
import { readFind } from '../../server/views/find'
import { warmUp } from '../../server/views/warm-up'
import { readSheet, readWeekView } from '../../server/views/week'
import { close, db } from './client'
import { TERM } from './students'

/** How much is asked of the database, and that what is kept or read together is what the tables hold. */
const database = new Database(process.env.DATABASE_URL!, 4)
const at = '2026-11-09T15:00:00.000Z'
let college: College
let students: number[]
beforeAll(async () => {
  college = await database.read(async own => new KeptCollege().at(own, (await readStamp(own)).catalog))
  await database.read(own => college.sections.now(own, TERM))
  students = (await db.select().from(s.people).where(ne(s.people.story, ''))).filter(one => one.role === 'student').map(one => one.id)
})
afterAll(async () => {
  await database.close()
  await close()
})

const looking = (own: Executor, student: number): Looking<{ term: string }> =>
  ({ db: own, student, plan: 0, visitor: null, college, at, date: dateIn(at, college.zone), input: { term: TERM } })

/** Statements that some work asks on one connection. */
const statementsOf = (work: (own: Executor) => Promise<unknown>) => database.read(async (own) => {
  const asked = async () => Number((await plain<{ Value: string }>(own, 'SHOW SESSION STATUS LIKE \'Questions\''))[0]!.Value)
  const before = await asked()
  await work(own)
  return await asked() - before - 1
})

describe('a round trip for many', () => {
  it('the dossiers of all students at once are those of each by themselves', async () => {
    const together = await database.read(own => readDossiers(own, students))
    expect([...together.keys()].sort((a, b) => a - b)).toEqual([...students].sort((a, b) => a - b))
    for (const id of students) {
      const alone = await database.read(own => readDossiers(own, [id]))
      expect(together.get(id)).toEqual(alone.get(id))
    }
  })

  it('a dossier is what the tables hold', async () => {
    const dossiers = await database.read(own => readDossiers(own, students))
    const records = await db.select().from(s.records).where(inArray(s.records.student, students)).orderBy(asc(s.records.id))
    const exceptions = await db.select().from(s.exceptions).where(inArray(s.exceptions.student, students))
    const entries = await db.select().from(s.planEntries).innerJoin(s.plans, eq(s.plans.id, s.planEntries.plan)).where(
      eq(s.plans.current, true))
    for (const [id, dossier] of dossiers) {
      expect(dossier.record).toEqual(records.filter(row => row.student === id).map(({ student: _, listedCourse: __, ...row }) => row))
      expect(dossier.exceptions.map(one => one.reason).sort()).toEqual(exceptions.filter(row => row.student === id).map(row => row.reason)
        .sort())
      const mine = entries.filter(row => row.plans.student === id).map(({ plan_entries: entry }) => entry)
      expect(dossier.entries.length).toBe(mine.length)
      expect(dossier.entries).toEqual(expect.arrayContaining(mine))
    }
  })

  it.each([
    ['a student\'s file with its line-up decided on', 3, (own: Executor) => readStudentView(looking(own, students[0]!))],
    ['a search', 3, (own: Executor) => readFind({ ...looking(own, students[0]!), input: { term: '2027SP', search: { text: 'water' },
      most: 40 } })],
    ['a week', 3, (own: Executor) => readWeekView(looking(own, students[0]!))],
    ['a dry run', 2, (own: Executor) => readSheet(looking(own, students[0]!))],
    ['the seats of a term', 2, (own: Executor) => readSeatsView({ ...looking(own, 0),
      input: { term: '2027SP', text: '', by: 'need', from: 0, most: 15 } })],
    ['news for two hundred pages', 1, (own: Executor) => readWatched(own, students, Array.from({ length: 200 }, (_, i) => `s${i}`),
      { now: at, date: '2026-11-09', present: at })],
  ] as const)('%s: %i statements at most', async (_, most, work) => {
    expect(await statementsOf(work)).toBeLessThanOrEqual(most)
  })

  it('an advisor\'s list costs as many statements with thirty advisees as with one', async () => {
    const advisors = await db.select({ id: s.students.advisor, n: sql<number>`count(*)` }).from(s.students).groupBy(s.students.advisor)
    const some = advisors.filter(one => one.id !== null && Number(one.n) > 0).slice(0, 6)
    const counts: [first: number, again: number][] = []
    for (const { id, n } of some) {
      forgetFigures()
      const visitor = { id: id!, name: '', username: '', role: 'advisor' as const, session: '' }
      let rows = 0
      const ask = () => statementsOf(async (own) => {
        rows = (await readAdviseesView({ read: work => work(own) }, { ...looking(own, 0), visitor })).length
      })
      const first = await ask()
      expect(rows).toBe(Number(n))
      counts.push([first, await ask()])
    }
    forgetFigures()
    // The files are read once, and not again while nothing changes.
    expect(new Set(counts.map(([first]) => first))).toEqual(new Set([4]))
    expect(new Set(counts.map(([, again]) => again))).toEqual(new Set([3]))
    expect(Math.max(...some.map(one => Number(one.n)))).toBeGreaterThan(30)
  })

  it('several statements in one stop where one fails, and what they did goes with the transaction', async () => {
    const [first] = await db.select().from(s.students).limit(1)
    const bump = ['UPDATE students SET version = version + 1 WHERE person = ?', [first!.person]] as const
    await expect(database.write(tx => together(tx, [bump, ['SELECT nothing FROM nowhere', []], bump]))).rejects.toThrow(/nowhere/)
    const read = await database.read(own => together(own, [['SELECT 1 one', []], ['SELECT 2 two UNION ALL SELECT 3', []]]))
    expect(read).toEqual([[{ one: 1 }], [{ two: 2 }, { two: 3 }]])
    expect((await db.select().from(s.students).where(eq(s.students.person, first!.person)))[0]!.version).toBe(first!.version)
  })
})

describe('what a server keeps', () => {
  it('sections with their seats are what the tables hold, after seats, sections and categories changed', async () => {
    const kept = new KeptSections()
    const fresh = () => database.read(own => new KeptSections().now(own, TERM))
    const [pool] = await db.select().from(s.seatPools).innerJoin(s.sections, eq(s.sections.id, s.seatPools.section)).where(
      eq(s.sections.term, TERM)).limit(1)
    const { section, id, capacity } = pool!.seat_pools
    const course = pool!.sections.course
    const both = async () => [await database.read(own => kept.now(own, TERM)), await fresh()] as const
    const [first, second] = await both()
    expect(first).toEqual(second)
    // All of them are read by ranges of numbers, some by their courses.
    const byCourse = await database.read(own => kept.now(own, TERM, [...new Set(first.map(one => one.course))]))
    expect(byCourse).toEqual(first)
    expect(first.length).toBeGreaterThan(100)
    await db.update(s.seatPools).set({ capacity: capacity + 3 }).where(eq(s.seatPools.id, id))
    const changed = await both()
    expect(changed[0]).toEqual(changed[1])
    expect(changed[0]).not.toEqual(first)
    await database.write(tx => changeSections(tx, TERM, [section], async () => {
      await tx.update(s.sections).set({ notes: 'moved to another room' }).where(eq(s.sections.id, section))
      await tx.insert(s.seatPools).values({ id: 900_100, section, forGroup: 'WSC-BS', capacity: 2, taken: 0, held: 0 })
    }))
    const moved = await both()
    expect(moved[0]).toEqual(moved[1])
    const some = await database.read(own => kept.now(own, TERM, [course]))
    expect(some).toEqual(moved[0].filter(one => one.course === course))
    expect(some.find(one => one.id === section)).toMatchObject({ notes: 'moved to another room' })
    expect(some.find(one => one.id === section)!.pools.map(one => one.id)).toContain(900_100)
    await database.write(tx => changeSections(tx, TERM, [section], async () => {
      await tx.update(s.sections).set({ notes: pool!.sections.notes }).where(eq(s.sections.id, section))
      await tx.delete(s.seatPools).where(eq(s.seatPools.id, 900_100))
    }))
    await db.update(s.seatPools).set({ capacity }).where(eq(s.seatPools.id, id))
    const back = await both()
    expect(back[0]).toEqual(back[1])
    expect(back[0]).toEqual(first)
  })

  it('sections are given to everybody who asks, though others find at the same moment that what is kept is old', async () => {
    const kept = new KeptSections()
    const every = (await database.read(own => kept.known(own, TERM))).map(one => one.id)
    let isDone = false
    const asked = Promise.all(Array.from({ length: 8 }, () => database.read(async own => [
      (await kept.known(own, TERM)).map(one => one.id), (await kept.recently(own, TERM)).sections.map(one => one.id),
      (await kept.now(own, TERM)).map(one => one.id)]))).finally(() => {
      isDone = true
    })
    while (!isDone) {
      kept.forget(TERM)
      await new Promise(resolve => setImmediate(resolve))
    }
    for (const lists of await asked) expect(lists).toEqual([every, every, every])
  })

  it('recent sections are read again after a second, and stay the same objects but for those whose seats changed', async () => {
    vi.useFakeTimers({ toFake: ['Date'] })
    try {
      const kept = new KeptSections()
      const recently = async () => (await database.read(own => kept.recently(own, TERM))).sections
      const first = await recently()
      const [section] = first.filter(one => one.seatsWith === null && one.pools.length === 1)
      const pool = eq(s.seatPools.id, section!.pools[0]!.id)
      await db.update(s.seatPools).set({ capacity: sql`capacity + 2` }).where(pool)
      expect(await recently()).toBe(first)
      vi.setSystemTime(Date.now() + 1001)
      const second = await recently()
      expect(second.filter((one, i) => one !== first[i]).map(one => one.id)).toContain(section!.id)
      expect(second.filter((one, i) => one !== first[i] && !one.pools.some(other => other.id === section!.pools[0]!.id))).toEqual([])
      expect(second.find(one => one.id === section!.id)!.pools[0]!.capacity).toBe(section!.pools[0]!.capacity + 2)
      vi.setSystemTime(Date.now() + 1001)
      expect(await recently()).toBe(second)
      await db.update(s.seatPools).set({ capacity: section!.pools[0]!.capacity }).where(pool)
      vi.setSystemTime(Date.now() + 1001)
      expect(await recently()).toEqual(first)
    }
    finally {
      vi.useRealTimers()
    }
  })

  it('a server that has warmed up reads no more for a search than one that was asked before', async () => {
    // Within the second for which seats are recent.
    vi.useFakeTimers({ toFake: ['Date'] })
    try {
      const kept = new KeptCollege()
      await warmUp(database, kept)
      const warm = await database.read(async own => kept.at(own, (await readStamp(own)).catalog))
      const search = (of: College) => statementsOf(own => readFind({ ...looking(own, students[0]!), college: of,
        input: { term: TERM, search: { text: 'water' }, most: 40 } }))
      const cold = await database.read(async own => new KeptCollege().at(own, (await readStamp(own)).catalog))
      const first = await search(cold)
      const again = await search(cold)
      expect(first).toBeGreaterThan(again)
      expect(await search(warm)).toBe(again)
    }
    finally {
      vi.useRealTimers()
    }
  })

  it('what students have earned is read again for changed files alone, also where the catalog has changed in something else', async () => {
    const anew = () => database.read(async own => new KeptCollege().at(own, (await readStamp(own)).catalog))
    let comers: Awaited<ReturnType<typeof readComersOf>> = []
    const asked = async (of: College) => statementsOf(async (own) => { comers = await readComersOf(own, of, TERM) })
    await asked(college)
    const again = await asked(await anew())
    const dossiers = await database.read(own => readDossiers(own, comers.map(one => one.id)))
    for (const { id, earned } of comers) {
      const record = dossiers.get(id)!.record.map(row => ({ ...row, id: String(row.id) }))
      expect([id, earned]).toEqual([id, earnedCredits(record, college.catalog)])
    }
    expect(comers.length).toBeGreaterThan(500)
    const [first] = comers
    await db.update(s.students).set({ version: sql`version + 1` }).where(eq(s.students.person, first!.id))
    expect(await asked(college)).toBe(again + 1)
    // A course that gives other credit, or another scale, is another matter.
    const other = { ...college, catalog: { ...college.catalog, repeatPolicy: college.catalog.repeatPolicy === 'best'
      ? 'latest' as const
      : 'best' as const } }
    expect(await asked(other)).toBeGreaterThan(again + 1)
  })

  it('old sections are told from those whose seats were read', async () => {
    const stamp = (await database.read(own => readSeats(own, TERM, null))).stamp
    const kept = await database.read(own => college.sections.at(own, TERM, stamp))
    const { seats } = await database.read(own => readSeats(own, TERM, null))
    expect(areOf(kept, seats)).toBe(true)
    expect(areOf(kept, seats.map((one, i) => i === 0 ? { ...one, version: one.version + 1 } : one))).toBe(false)
    expect(areOf(kept, [...seats, { ...seats[0]!, pool: 987_654 }])).toBe(false)
  })

  it('the standing that the server reads is the one that the browser reads from the same file', async () => {
    for (const [id, dossier] of await database.read(own => readDossiers(own, students.slice(0, 12)))) {
      const state = await database.read(own => readStudentView(looking(own, id)))
      const catalog = { ...college.catalog, programs: programsAt(college, dossier.programs) }
      const mine = readStanding(fileOf(dossier, college, TERM, planIn(dossier).plan, dateIn(at, college.zone)), catalog, dateIn(at,
        college.zone))
      const theirs = readStanding(JSON.parse(JSON.stringify(state.file)), catalog, dateIn(at, college.zone))
      expect(itemsOf(state.file).length).toBeGreaterThan(0)
      expect([theirs.earned, theirs.gpa, theirs.finish, theirs.checks]).toEqual([mine.earned, mine.gpa, mine.finish, mine.checks])
    }
  })
})
