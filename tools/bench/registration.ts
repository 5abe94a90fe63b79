import { randomUUID } from 'node:crypto'
import { eq, sql } from 'drizzle-orm'
import { EMPTY_PLAN } from '@ridgeway/core/planning'
import { loadDemo } from '../../demo/load'
import type { Database as Direct } from '../../server/db/connect'
import { Database } from '../../server/db/database'
import * as s from '../../server/db/schema'
import { registerOne } from '../../server/acts/register'
import { KeptCollege } from '../../server/college/college'
import { readStamp } from '../../server/db/store/college'
import { median, quantile, round, type Figure } from './figure'

const STUDENTS = 20_000
const COURSES = 90
const SECTIONS_EACH = 10
const CLIENTS = 16
const RUNS = 960
const TERM = '2027SP'
const FIRST_PERSON = 100_000
const FIRST_SECTION = 50_000

/** A large college beside the demo's: 900 open sections in five time slots, 20,000 students with every gate open. */
async function fillLargeCollege(db: Direct) {
  await loadDemo(db, { generated: 0, full: [] })
  await db.update(s.clockSetting).set({ demoNow: null })
  const chunks = async (table: Parameters<typeof db.insert>[0], rows: Record<string, unknown>[]) => {
    for (let at = 0; at < rows.length; at += 1000) await db.insert(table).values(rows.slice(at, at + 1000) as never)
  }
  const code = (c: number) => `LAR ${100 + c}`
  await chunks(s.courses,
    Array.from({ length: COURSES },
      (_, c) => ({ code: code(c), subject: 'LAR', number: 100 + c, title: 'Large', credits: 300, creditsMax: 300, description: '',
        attributes: [], prerequisite: c % 3 ? '' : 'HYD 110 or standing freshman', corequisite: '', exclusions: [], equivalents: [],
        repeatLimit: 1, offered: { seasons: ['spring'] }, parts: ['lecture'], fee: 0 })))
  const sections = Array.from({ length: COURSES * SECTIONS_EACH },
    (_, i) => ({ id: FIRST_SECTION + i, course: code(Math.floor(i / SECTIONS_EACH)), slot: Math.floor(i / SECTIONS_EACH) % 5,
      label: String(i % SECTIONS_EACH + 1).padStart(2, '0') }))
  await chunks(s.sections,
    sections.map(({ id, course, label }) => ({ id, term: TERM, session: 'full', course, number: String(id), label, part: 'lecture',
      link: label, exam: null, instructors: [], waitlistCapacity: 0, delivery: 'on site', notes: '', onlyPrograms: [], cancelled: false }),
    ))
  await chunks(s.meetings,
    sections.map(({ id, slot }) => ({ section: id, days: ['M', 'W'], start: 480 + slot * 90, end: 555 + slot * 90, first: '2027-01-11',
      last: '2027-04-30', site: 'larkmoor', room: '1' }),
    ))
  await chunks(s.seatPools, sections.map(({ id }) => ({ id, section: id, forGroup: null, capacity: 500, taken: 0, held: 0 })))
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
  await chunks(s.lineUpRows, ids.slice(0, RUNS).flatMap((student, i) =>
    [0, 1, 2, 3, 4].map((slot) => {
      const course = (i * 7 + slot * 11) % (COURSES / 5) * 5 + slot
      return { student, term: TERM, course: code(course), position: slot,
        sectionIds: [FIRST_SECTION + course * SECTIONS_EACH + i % SECTIONS_EACH] }
    }),
  ))
}

/** Whole registration runs of five bundles by 16 clients at once, against bare seat-claim transactions on the same tables. */
export async function benchRegistration(db: Direct): Promise<Figure[]> {
  await fillLargeCollege(db)
  const bare = await throughput(CLIENTS * 120,
    i => bareClaim(db, FIRST_SECTION + i * 13 % (COURSES * SECTIONS_EACH), FIRST_PERSON + RUNS + i))
  const rows = await db.select().from(s.lineUpRows)
  const byStudent = new Map<number, number[]>()
  for (const row of rows) byStudent.set(row.student, [...byStudent.get(row.student) ?? [], row.id])
  const database = new Database(process.env.DATABASE_URL!)
  const college = await new KeptCollege().at(db, (await readStamp(db)).catalog)
  const at = new Date().toISOString()
  let complete = 0
  const runs = await throughput(RUNS, async (i) => {
    const student = FIRST_PERSON + i
    const press = { student, actor: student, term: TERM, key: randomUUID(), rowIds: byStudent.get(student)! }
    const result = await database.write(tx => registerOne(tx, press, college, at))
    if (result.rows.every(row => row.outcome === 'register')) complete++
  })
  const oversold = await db.select({ n: sql<number>`count(*)` }).from(s.seatPools).where(sql`taken + held > capacity`)
  if (complete !== RUNS || Number(oversold[0]!.n) > 0)
    throw new Error(`only ${complete} of ${RUNS} runs registered all five, ${oversold[0]!.n} pools oversold`)
  const ratio = runs.perSecond / bare.perSecond
  return [
    { name: 'registration runs', value: round(runs.perSecond), unit: 'runs/s', reference: `${round(bare.perSecond, 0)} bare seat claims/s`,
      ratio: round(ratio, 3), target: 'ratio ≥ 0.4', ok: ratio >= 0.4 },
    { name: 'registration seats', value: round(runs.perSecond * 5), unit: 'seats/s', reference: 'the same bare claims, seat for seat',
      ratio: round(ratio * 5, 3), target: '', ok: null },
    { name: 'registration p99', value: round(quantile(runs.times, 0.99)), unit: 'ms',
      reference: `median ${round(median(runs.times))} ms, ${CLIENTS} clients, ${STUDENTS} students`, ratio: null, target: '≤ 500',
      ok: quantile(runs.times, 0.99) <= 500 },
  ]
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

async function throughput(count: number, work: (index: number) => Promise<unknown>): Promise<{ perSecond: number, times: number[] }> {
  const times: number[] = []
  let next = 0
  const start = performance.now()
  await Promise.all(Array.from({ length: CLIENTS }, async () => {
    for (let i = next++; i < count; i = next++) {
      const began = performance.now()
      await work(i)
      times.push(performance.now() - began)
    }
  }))
  return { perSecond: count / (performance.now() - start) * 1000, times }
}
