import { randomUUID } from 'node:crypto'
import { eq, sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { readStanding } from '@ridgeway/core/planning'
import { bundlesOf } from '@ridgeway/core/weeks'
import { loadDemo } from '../../demo/load'
import { Random } from '../../demo/random'
import { registerTogether } from '../../server/acts/register'
import { dateIn, KeptCollege } from '../../server/college/college'
import { fileOf, planIn } from '../../server/college/student'
import { connect } from '../../server/db/connect'
import { applyMigrations } from '../../server/db/migrations'
import { Database } from '../../server/db/database'
import { readStamp } from '../../server/db/store/college'
import { readDossiers } from '../../server/db/store/dossiers'
import * as s from '../../server/db/schema'
import { postGrades } from '../../server/standins/registry'
import { readSheet } from '../../server/views/week'
import type { RunResult } from '../../shared/contract/acts/student'
import { type RunningDatabase, startDatabase } from '../../tools/command/machine.mjs'
import { broken } from './invariants'
import { TERM } from './students'

/** What the dry run says is what happens: a thousand students of every kind, with line-ups at random, on a quiet database. */
const STUDENTS = 1000
const AT = '2026-11-10T16:00:00.000Z'
let database: RunningDatabase
let open: ReturnType<typeof connect>
let own: Database
const kept = new KeptCollege()

beforeAll(async () => {
  database = await startDatabase('dry-run')
  await database.create('college', true)
  open = connect(database.url('college'), 4)
  await applyMigrations(open.db, 'server/db/migrations')
  await loadDemo(open.db, { generated: STUDENTS })
  own = new Database(database.url('college'), 4)
}, 240_000)
afterAll(async () => {
  await own.close()
  await open.close()
  await database.stop()
})

describe('the dry run', () => {
  it('never disagrees with the commit', async () => {
    const { db } = open
    const random = new Random(11)
    const { college, sections } = await own.read(async (tx) => {
      const at = await kept.at(tx, (await readStamp(tx)).catalog)
      return { college: at, sections: await at.sections.now(tx, TERM) }
    })
    const students = (await db.select({ id: s.students.person }).from(s.students).orderBy(s.students.person)).map(row => row.id)
    const courses = [...new Set(sections.map(section => section.course))]
    const planned = new Map<number, string[]>()
    const [rows] = await db.execute(sql`SELECT p.student, e.course FROM plan_entries e JOIN plans p ON p.id = e.plan
      WHERE p.is_current AND e.term = ${TERM}`) as unknown as [{ student: number, course: string }[]]
    for (const row of rows) planned.set(row.student, [...planned.get(row.student) ?? [], row.course])
    await db.delete(s.lineUpRows)
    const lines = students.flatMap((student) => {
      // What they plan, and something at random: much of it is refused, for every reason that there is.
      const wanted = [...new Set([...planned.get(student) ?? [], ...Array.from({ length: 1 + random.between(0, 3) },
        () => random.pick(courses))])]
      return random.shuffle(wanted).slice(0, 6).flatMap((course, position) => {
        const bundles = bundlesOf(college.catalog.courses.get(course)!, sections).map(bundle => bundle.sections.map(one => one.id))
        if (bundles.length === 0) return []
        return [{ student, term: TERM, course, position, sectionIds: random.pick(bundles),
          backups: random.chance(0.5) ? random.shuffle(bundles).slice(0, 2) : [], waitIfFull: random.chance(0.5) }]
      })
    })
    // A cancelled section is in some line-ups too, whatever chance would have brought.
    const cancelled = sections.find(section => section.cancelled)!
    const whole = sections.filter(section => section.course === cancelled.course && section.link === cancelled.link).map(one => one.id)
    for (const student of students.filter(id => id % 40 === 0 && !lines.some(row => row.student === id && row.course === cancelled.course)))
      lines.push({ student, term: TERM, course: cancelled.course, position: 9, sectionIds: whole, backups: [], waitIfFull: false })
    for (let i = 0; i < lines.length; i += 500) await db.insert(s.lineUpRows).values(lines.slice(i, i + 500))
    const counts = { register: 0, waitlist: 0, refused: 0 }
    const codes = new Set<string>()
    for (const student of students) {
      const looking = { student, plan: 0, visitor: null, college, at: AT, date: dateIn(AT, college.zone), input: { term: TERM } }
      const sheet = await own.read(tx => readSheet({ ...looking, db: tx }))
      if (sheet.rows.length === 0) continue
      const press = { student, actor: student, term: TERM, key: randomUUID(), at: AT, rowIds: sheet.rows.map(row => row.rowId) }
      const answers = await own.write(tx => registerTogether(tx, [press], (tx2, stamp) => kept.at(tx2, stamp), false), { begins: true })
      const result = answers.get(press) as RunResult
      expect(result.rows, `student ${student}`).toEqual(sheet.rows)
      for (const row of result.rows) {
        counts[row.outcome]++
        for (const finding of row.findings) if (!finding.ok) codes.add(finding.code)
      }
    }
    expect(students.length).toBeGreaterThanOrEqual(STUDENTS)
    // It was no walk in the park: all outcomes, and most of the reasons that there are.
    for (const n of Object.values(counts)) expect(n).toBeGreaterThan(30)
    for (const code of ['gate', 'already-passed', 'prerequisite', 'clash', 'load-cap', 'seats-full', 'section-cancelled',
      'restriction'])
      expect([...codes]).toContain(code)
  }, 240_000)
})

describe('the term after', () => {
  it('has its grades when it is over: each course once, the same for everybody who asks, and read by what comes next', async () => {
    const { db } = open
    await db.update(s.clockSetting).set({ demoNow: '2027-05-05T16:00:00.000Z', setAt: new Date().toISOString() })
    const before = await db.select().from(s.registrations).where(eq(s.registrations.term, TERM))
    const courses = new Set(before.map(row => `${row.student} ${row.course}`))
    // Several servers at once: nobody is graded twice.
    while ((await Promise.all([postGrades(own, kept), postGrades(own, kept)])).some(students => students.length > 0));
    expect(await db.select().from(s.registrations).where(eq(s.registrations.graded, false))).toEqual([])
    expect(await db.select().from(s.records).where(eq(s.records.state, 'under way'))).toEqual([])
    const graded = (await db.select().from(s.records).where(eq(s.records.term, TERM)))
      .filter(row => courses.has(`${row.student} ${row.course}`))
    expect(graded).toHaveLength(courses.size)
    expect(graded.every(row => row.grade !== null && row.state === 'completed')).toBe(true)
    const [one] = graded
    const looking = await own.read(async (tx) => {
      const college = await kept.at(tx, (await readStamp(tx)).catalog)
      const dossier = (await readDossiers(tx, [one!.student])).get(one!.student)!
      return readStanding(fileOf(dossier, college, '2027FA', planIn(dossier).plan, '2027-05-05'), college.catalog, '2027-05-05')
    })
    expect(looking.items.find(item => item.course === one!.course && item.term === TERM)).toMatchObject({ state: 'completed',
      grade: one!.grade })
    // What was taken stays taken: the ledger still replays to the seats.
    expect(await broken(db)).toEqual({})
  }, 240_000)
})
