import { randomUUID } from 'node:crypto'
import { eq, sql } from 'drizzle-orm'
import { EMPTY_PLAN } from '@ridgeway/core/planning'
import { loadDemo } from '../../demo/load'
import { connect, type Database as Direct } from '../../server/db/connect'
import { Database } from '../../server/db/database'
import * as s from '../../server/db/schema'
import { batchesOn } from '../../server/acts/batches'
import { Lanes, lanesConnections } from '../../server/acts/lanes'
import type { Looking } from '../../server/college/asked'
import { dateIn, KeptCollege } from '../../server/college/college'
import { readStamp } from '../../server/db/store/college'
import { plain } from '../../server/db/store/plain'
import { readSheet, readWeekView } from '../../server/views/week'
import { median, quantile, round as rounded, type Figure } from './figure'

const STUDENTS = 28_000
const COURSES = 90
const SECTIONS_EACH = 10
const RUNS = 1600
const BARE = 1200
const TERM = '2027SP'
const FIRST_PERSON = 100_000
const FIRST_SECTION = 50_000
const codeOf = (course: number) => `LAR ${100 + course}`

/** A large college beside the demo's: 900 open sections in five time slots, 28,000 students with every gate open. */
async function fillLargeCollege(db: Direct) {
  await loadDemo(db, { generated: 0, full: [] })
  await db.update(s.clockSetting).set({ demoNow: null })
  const chunks = async (table: Parameters<typeof db.insert>[0], rows: Record<string, unknown>[]) => {
    for (let at = 0; at < rows.length; at += 1000) await db.insert(table).values(rows.slice(at, at + 1000) as never)
  }
  await chunks(s.courses,
    Array.from({ length: COURSES },
      (_, c) => ({ code: codeOf(c), subject: 'LAR', number: 100 + c, title: 'Large', credits: 300, creditsMax: 300, description: '',
        attributes: [], prerequisite: c % 3 ? '' : 'HYD 110 or standing freshman', corequisite: '', exclusions: [], equivalents: [],
        repeatLimit: 1, offered: { seasons: ['spring'] }, parts: ['lecture'], fee: 0 })))
  const sections = Array.from({ length: COURSES * SECTIONS_EACH },
    (_, i) => ({ id: FIRST_SECTION + i, course: codeOf(Math.floor(i / SECTIONS_EACH)), slot: Math.floor(i / SECTIONS_EACH) % 5,
      label: String(i % SECTIONS_EACH + 1).padStart(2, '0') }))
  await chunks(s.sections,
    sections.map(({ id, course, label }) => ({ id, term: TERM, session: 'full', course, number: String(id), label, part: 'lecture',
      link: label, exam: null, instructors: [], waitlistCapacity: 0, delivery: 'on site', notes: '', onlyPrograms: [], onlyStandings: [],
      onlyCohorts: [], gradingModes: ['letter'], cancelled: false }),
    ))
  await chunks(s.meetings,
    sections.map(({ id, slot }) => ({ section: id, days: ['M', 'W'], start: 480 + slot * 90, end: 555 + slot * 90, first: '2027-01-11',
      last: '2027-04-30', site: 'larkmoor', room: '1' }),
    ))
  await chunks(s.seatPools, sections.map(({ id }) => ({ id, section: id, forGroup: null, capacity: 5000, taken: 0, held: 0 })))
  const ids = Array.from({ length: STUDENTS }, (_, i) => FIRST_PERSON + i)
  const at = '2026-01-01T00:00:00.000Z'
  await chunks(s.people,
    ids.map(id => ({ id, username: `l${id}`, name: `Large ${id}`, email: '', role: 'student', passwordHash: null, story: '' })))
  await chunks(s.students, ids.map(person => ({ person, advisor: 1, programConfirmed: true, placements: {}, targetLoad: null })))
  await chunks(s.studentPrograms, ids.map(student => ({ student, program: 'WSC-BS-2025', position: 0 })))
  const { entries: _, ...details } = EMPTY_PLAN
  await chunks(s.plans, ids.map(student => ({ student, name: 'Main', current: true, version: 0, details })))
  await chunks(s.signOffs, ids.map(student => ({ student, term: TERM, advisor: 1, at, note: '', copy: [] })))
  await chunks(s.termsAcceptances, ids.map(student => ({ student, term: TERM, at })))
  await chunks(s.records,
    ids.flatMap(student =>
      ['WRT 110', 'HYD 110', 'MTH 140', 'CHY 110'].map(course => ({ student, course, term: '2026SP', credits: 400, grade: 'B',
        state: 'completed', source: 'here' }),
      ),
    ))
  await db.insert(s.openings).values({ term: TERM, from: at, program: null, earnedMin: 0, words: 'everybody' })
}

/** Ways in which presses are served, and who presses. The first is for warming up. */
const ROUNDS = [
  { name: '', clients: 16, hot: false, lanes: undefined, target: null },
  { name: 'registration 16 spread', clients: 16, hot: false, lanes: undefined, target: 0.7 },
  { name: 'registration 64 spread', clients: 64, hot: false, lanes: undefined, target: 0.6 },
  { name: 'registration 16 one hot section', clients: 16, hot: true, lanes: undefined, target: 0.5 },
  { name: 'registration 64 one hot section', clients: 64, hot: true, lanes: undefined, target: 0.5 },
  // The hot section and its backup are soon full: most go on to the backup, then to the waitlist.
  { name: 'registration 64 backups, waitlists', clients: 64, hot: true, scarce: true, lanes: undefined, target: 0.5 },
  // One student a transaction, as many transactions as people press: what the lanes are held against.
  { name: 'registration 16 unbatched', clients: 16, hot: false, lanes: { lanes: 16, most: 1 }, target: null },
] as const
const MOST_P99_MS = 150

/**
 * Whole registration runs of five bundles with every rule, in lanes, by 16 and 64 clients, spread over 900 sections and with one section
 * that everybody wants among the five; against bare seat claims by as many clients on the same tables, just before. The reference asks
 * through the query builder, as acts do that change one thing; the same claims in plain statements are told beside it.
 */
export async function benchRegistration(db: Direct): Promise<Figure[]> {
  await fillLargeCollege(db)
  const figures: Figure[] = []
  const kept = new KeptCollege()
  for (const [round, { name, clients, hot, lanes, target, ...more }] of ROUNDS.entries()) {
    const first = FIRST_PERSON + round * RUNS
    const scarce = 'scarce' in more
    await lineUp(db, first, hot, scarce)
    let claim = FIRST_PERSON + ROUNDS.length * RUNS + round * 2 * BARE
    const poolFor = (i: number) => FIRST_SECTION + i * 13 % (COURSES * SECTIONS_EACH)
    const claims = connect(process.env.DATABASE_URL!, clients)
    const bare = await throughput(BARE, clients, i => bareClaim(claims.db, poolFor(i), claim++))
    await claims.close()
    const plainClaims = new Database(process.env.DATABASE_URL!, clients)
    const plainBare = await throughput(BARE, clients, i => plainClaim(plainClaims, poolFor(i), claim++))
    await plainClaims.close()
    if (scarce) await limitSeats(db, true)
    const runs = await registerAll(db, kept, { first, clients, size: lanes })
    if (scarce) await limitSeats(db, false)
    if (!name) continue
    const ratio = runs.perSecond / bare.perSecond
    const p99 = quantile(runs.times, 0.99)
    figures.push({ name, value: rounded(runs.perSecond), unit: 'runs/s',
      reference: `${rounded(bare.perSecond, 0)} bare seat claims/s by as many; ${rounded(plainBare.perSecond, 0)} plain, ratio ${
        rounded(runs.perSecond / plainBare.perSecond, 3)}`,
      ratio: rounded(ratio, 3), target: target === null ? '' : `ratio ≥ ${target}`, ok: target === null ? null : ratio >= target },
    { name: `${name} p99`, value: rounded(p99), unit: 'ms', reference: `median ${rounded(median(runs.times))} ms, ${STUDENTS} students`,
      ratio: null, target: target === null ? '' : `≤ ${MOST_P99_MS}`, ok: target === null ? null : p99 <= MOST_P99_MS })
  }
  figures.push(...await benchViews(kept))
  const oversold = await db.select({ n: sql<number>`count(*)` }).from(s.seatPools).where(sql`taken + held > capacity`)
  if (Number(oversold[0]!.n) > 0) throw new Error(`${oversold[0]!.n} pools oversold`)
  return figures
}

/** What the Week and the dry run cost the server for a student with five courses: 900 sections, ten bundles a course. */
async function benchViews(kept: KeptCollege): Promise<Figure[]> {
  const database = new Database(process.env.DATABASE_URL!, 2)
  const at = new Date().toISOString()
  const timesOf = async (read: (looking: Looking<{ term: string }>) => Promise<unknown>) => {
    const times: number[] = []
    for (let i = 0; i < 60; i++) {
      const student = FIRST_PERSON + (ROUNDS.length - 1) * RUNS + i
      const began = performance.now()
      await database.read(async (tx) => {
        const college = await kept.at(tx, (await readStamp(tx)).catalog)
        await read({ db: tx, student, plan: 0, visitor: null, college, at, date: dateIn(at, college.zone), input: { term: TERM } })
      })
      times.push(performance.now() - began)
    }
    return times.slice(10)
  }
  const [week, sheet] = [await timesOf(readWeekView), await timesOf(readSheet)]
  await database.close()
  return [
    { name: 'week of five courses', value: rounded(median(week)), unit: 'ms',
      reference: `p95 ${rounded(quantile(week, 0.95))} ms, 50 bundles`, ratio: null, target: '≤ 30', ok: median(week) <= 30 },
    { name: 'dry run of five courses', value: rounded(median(sheet)), unit: 'ms', reference: `p95 ${rounded(quantile(sheet, 0.95))} ms`,
      ratio: null, target: '', ok: null },
  ]
}

/** A third finds the first choice, a third the backup, a third waits; or there are seats enough again. */
async function limitSeats(db: Direct, limited: boolean) {
  for (const id of [FIRST_SECTION, FIRST_SECTION + 1])
    await db.update(s.seatPools).set({ capacity: limited ? sql`taken + ${Math.floor(RUNS / 3)}` : 20_000 }).where(eq(s.seatPools.id, id))
  await db.update(s.sections).set({ waitlistCapacity: RUNS }).where(eq(s.sections.id, FIRST_SECTION))
  await db.update(s.terms).set({ sectionsVersion: sql`${s.terms.sectionsVersion} + 1` }).where(eq(s.terms.code, TERM))
}

/** Five sections in each line-up; with `hot` the first of them is the same for everybody. */
async function lineUp(db: Direct, first: number, hot: boolean, scarce: boolean) {
  await db.delete(s.lineUpRows)
  const rows = Array.from({ length: RUNS }, (_, i) => [0, 1, 2, 3, 4].map((slot) => {
    const isHot = hot && slot === 0
    const course = isHot ? 0 : (i * 7 + slot * 11) % (COURSES / 5) * 5 + slot
    return { student: first + i, term: TERM, course: codeOf(course), position: slot,
      sectionIds: [FIRST_SECTION + course * SECTIONS_EACH + (isHot ? 0 : i % SECTIONS_EACH)],
      backups: scarce && isHot ? [[FIRST_SECTION + 1]] : [], waitIfFull: scarce && isHot }
  })).flat()
  for (let at = 0; at < rows.length; at += 1000) await db.insert(s.lineUpRows).values(rows.slice(at, at + 1000))
}

async function registerAll(db: Direct, kept: KeptCollege,
  { first, clients, size }: { first: number, clients: number, size: { lanes: number, most: number } | undefined }) {
  const rows = await db.select().from(s.lineUpRows)
  const byStudent = new Map<number, number[]>()
  for (const row of rows) byStudent.set(row.student, [...byStudent.get(row.student) ?? [], row.id])
  const database = new Database(process.env.DATABASE_URL!, lanesConnections(size))
  const lanes = new Lanes(batchesOn(database, (tx, stamp) => kept.at(tx, stamp)), size)
  let complete = 0
  const runs = await throughput(RUNS, clients, async (i) => {
    const student = first + i
    const result = await lanes.register({ student, actor: student, term: TERM, key: randomUUID(), rowIds: byStudent.get(student)!,
      at: new Date().toISOString() })
    if (result.rows.every(row => row.outcome !== 'refused')) complete++
  })
  await database.close()
  if (complete !== RUNS) throw new Error(`only ${complete} of ${RUNS} runs registered or waited for all five`)
  return runs
}

/** What the database itself can do: lock a seat row, take the seat, write who has it. */
function bareClaim(db: Direct, pool: number, student: number) {
  return db.transaction(async (tx) => {
    await tx.select().from(s.seatPools).where(eq(s.seatPools.id, pool)).for('update')
    await tx.update(s.seatPools).set({ taken: sql`${s.seatPools.taken} + 1` }).where(eq(s.seatPools.id, pool))
    await tx.insert(s.registrations).values({ student, section: pool, pool, term: TERM, course: 'LAR 100', credits: 0, run: 'bare',
      at: '2026-01-01T00:00:00.000Z' })
  }, { isolationLevel: 'read committed' })
}

/** The same in plain statements. */
function plainClaim(database: Database, pool: number, student: number) {
  return database.write(async (tx) => {
    await plain(tx, 'SELECT * FROM seat_pools WHERE id = ? FOR UPDATE', [pool])
    await plain(tx, 'UPDATE seat_pools SET taken = taken + 1 WHERE id = ?', [pool])
    await plain(tx, 'INSERT INTO registrations (student, section, pool, term, course, credits, run, registered_at) VALUES (?)',
      [[student, pool, pool, TERM, 'LAR 100', 0, 'bare', '2026-01-01 00:00:00.000']])
  })
}

async function throughput(count: number, clients: number,
  work: (index: number) => Promise<unknown>): Promise<{ perSecond: number, times: number[] }> {
  const times: number[] = []
  let next = 0
  const start = performance.now()
  await Promise.all(Array.from({ length: clients }, async () => {
    for (let i = next++; i < count; i = next++) {
      const began = performance.now()
      await work(i)
      times.push(performance.now() - began)
    }
  }))
  return { perSecond: count / (performance.now() - start) * 1000, times }
}
