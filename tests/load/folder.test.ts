import { execFile } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { promisify } from 'node:util'
import { and, desc, eq, gt, isNull, sql } from 'drizzle-orm'
import mysql from 'mysql2/promise'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { FolderCheck } from '../../shared/contract/acts/college'
import * as s from '../../server/db/schema'
import { ROOT } from '../../tools/command/machine.mjs'
import { Client, close, db, problemOf } from './client'
import { settled } from './settled'

/** The college as a folder, through the routes and through the command. */
let edda: Client
let files: Record<string, string>
const readFolder = async () => (await edda.json<{ files: Record<string, string> }>('GET', '/api/college')).files
beforeAll(async () => {
  edda = await Client.signIn('edda')
  files = await readFolder()
})
afterAll(close)

const send = (given: Record<string, string>, keep: boolean) =>
  edda.json<FolderCheck>('POST', '/api/college', { files: given, keep })
/** The row of a table's file that begins so, with the header. */
function rowOf(file: string, begins: string): { header: string, cells: string } {
  const [header, ...lines] = files[file]!.split('\r\n')
  return { header: header!, cells: lines.find(line => line.startsWith(begins))! }
}
/** A section with seats of one kind of which several are taken, whatever others have done in this college. */
async function takenSection() {
  const pools = await db.select().from(s.seatPools).where(and(isNull(s.seatPools.forGroup), gt(s.seatPools.taken, 2)))
  for (const pool of pools) {
    const [section] = await db.select().from(s.sections).where(eq(s.sections.id, pool.section))
    if (section!.term === '2027SP' && await db.$count(s.seatPools, eq(s.seatPools.section, section!.id)) === 1) return section!
  }
  throw new Error('nobody is registered')
}
const seatsOf = (section: number) => db.select().from(s.seatPools).where(eq(s.seatPools.section, section))

describe('the college\'s folder', () => {
  it('changes nothing when it comes back as it went', async () => {
    // Grades may arrive and courses get under way between the two, as what was done before in this college has it.
    await settled(async () => {
      files = await readFolder()
      const answer = await send(files, false)
      if (!answer.ok) throw new Error(JSON.stringify(answer.problems.slice(0, 3)))
      expect(answer.tables.filter(one => one.added + one.changed + one.left > 0)).toEqual([])
      expect(answer.changes).toEqual([])
      expect(answer.tables.map(one => one.file)).toContain('programs')
    })
  })

  it('is all of it or nothing: one wrong row, and the right ones are not taken either', async () => {
    const before = await db.$count(s.courses)
    const answer = await send({ 'courses.csv': `course,title,credits\r\nNEW 100,New,3\r\nNEW 101,New,three\r\n`,
      'sites.csv': 'site,name\r\nnew,New\r\n' }, true)
    expect(answer).toMatchObject({ ok: false, problems: [{ file: 'courses.csv', row: 3, column: 'credits' }] })
    expect(await db.$count(s.courses)).toBe(before)
    expect(await db.select().from(s.sites).where(eq(s.sites.code, 'new'))).toEqual([])
  })

  it('takes no seat from anybody, adds seats at once, and every change is told in the ledger', async () => {
    const section = await takenSection()
    const key = `2027SP ${section.course} ${section.label}`
    const { header, cells } = rowOf('sections.csv', `2027SP,${section.course},${section.label},`)
    const at = header.split(',').indexOf('seats')
    const columns = cells.split(',')
    const withSeats = (seats: number) => ({ 'sections.csv': `${header}\r\n${columns.map((cell, i) => i === at ? String(seats) : cell)
      .join(',')}\r\n` })
    const before = await seatsOf(section.id)
    const now = before[0]!.capacity
    expect(await send(withSeats(before[0]!.taken - 1), true)).toMatchObject({ ok: false, problems: [{ column: 'seats',
      message: expect.stringContaining('it cannot have fewer') }] })
    expect(await seatsOf(section.id)).toEqual(before)
    const [stamp] = await db.select({ version: s.terms.sectionsVersion }).from(s.terms).where(eq(s.terms.code, '2027SP'))
    expect(await send(withSeats(now + 3), false)).toMatchObject({ ok: true, kept: false,
      changes: [{ key, columns: [{ title: 'seats', from: String(now), to: String(now + 3) }] }] })
    expect(await seatsOf(section.id)).toEqual(before)
    expect(await send(withSeats(now + 3), true)).toMatchObject({ ok: true, kept: true })
    expect((await seatsOf(section.id))[0]).toMatchObject({ capacity: now + 3, taken: before[0]!.taken })
    expect((await db.select({ version: s.terms.sectionsVersion }).from(s.terms).where(eq(s.terms.code, '2027SP')))[0]!.version)
      .toBeGreaterThan(stamp!.version)
    const [told] = await db.select().from(s.ledger).where(eq(s.ledger.action, 'import')).orderBy(desc(s.ledger.id)).limit(1)
    expect(told).toMatchObject({ actor: edda.id, detail: { tables: [{ file: 'sections.csv', added: 0, changed: 1 }] } })
    expect(await send(withSeats(now), true)).toMatchObject({ ok: true })
    expect((await seatsOf(section.id)).map(pool => pool.capacity)).toEqual([now])
  })

  it('two folders at the same moment are taken one after the other: a new section is there once', async () => {
    const { header, cells } = rowOf('sections.csv', '2027SP,HRT 150,01')
    const added = { 'sections.csv': `${header}\r\n${cells.replace('HRT 150,01,', 'HRT 150,Z9,').replace(/\d{5}/, '99999')}\r\n` }
    const both = await Promise.all([send(added, true), send(added, true)])
    expect(both.map(one => one.ok)).toEqual([true, true])
    const made = await db.select().from(s.sections).where(and(eq(s.sections.course, 'HRT 150'), eq(s.sections.label, 'Z9')))
    expect(made).toHaveLength(1)
    const pools = await db.select().from(s.seatPools).where(eq(s.seatPools.section, made[0]!.id))
    expect(pools).toMatchObject([{ taken: 0, held: 0 }])
    await db.delete(s.seatPools).where(eq(s.seatPools.section, made[0]!.id))
    await db.delete(s.meetings).where(eq(s.meetings.section, made[0]!.id))
    await db.delete(s.sections).where(eq(s.sections.id, made[0]!.id))
    await db.update(s.terms).set({ sectionsVersion: sql`${s.terms.sectionsVersion} + 1` }).where(eq(s.terms.code, '2027SP'))
  })

  it('is for the office alone, and has an end', async () => {
    const tamsin = await Client.signIn('tamsin')
    expect((await problemOf(await tamsin.call('POST', '/api/college', { files: { 'sites.csv': '' }, keep: true }))).status).toBe(403)
    expect((await problemOf(await tamsin.call('GET', '/api/college'))).status).toBe(403)
    const large = await edda.call('POST', '/api/college', { files: { 'sites.csv': 'x'.repeat(31_000_000) }, keep: true })
    expect((await problemOf(large)).code).toBe('too-large')
  })
})

describe('the command', () => {
  const run = promisify(execFile)
  const url = process.env.DATABASE_URL!.replace(/\/[^/]+$/, '/folder_tests')
  const folder = mkdtempSync(join(tmpdir(), 'ridgeway-folder-'))
  const tool = (script: string, ...args: string[]) => run('node_modules/.bin/tsx', [`tools/${script}.ts`, ...args],
    { cwd: ROOT, env: { ...process.env, DATABASE_URL: url } })
  afterAll(() => rmSync(folder, { recursive: true }))
  const allIn = (at: string): Record<string, string> => Object.fromEntries(readdirSync(at).flatMap((name) => {
    const path = join(at, name)
    return statSync(path).isDirectory()
      ? Object.entries(allIn(path)).map(([inner, text]) => [`${name}/${inner}`, text])
      : [[name, readFileSync(path, 'utf8')]]
  }))

  it('brings a college into an empty database and takes it out again to the byte; a dry run leaves nothing', async () => {
    const admin = await mysql.createConnection(process.env.DATABASE_URL!)
    await admin.query('DROP DATABASE IF EXISTS folder_tests')
    await admin.query('CREATE DATABASE folder_tests')
    await tool('migrate')
    const source = mkdtempSync(join(folder, 'a-'))
    await run('mkdir', ['-p', join(source, 'programs')])
    for (const [name, text] of Object.entries(files)) writeFileSync(join(source, name), text)
    const dry = await tool('folder', 'import', source, '--dry-run')
    expect(dry.stdout).toContain('This was a dry run; nothing was changed.')
    const [none] = await admin.query('SELECT COUNT(*) n FROM folder_tests.institution')
    expect(none).toMatchObject([{ n: 0 }])
    const done = await tool('folder', 'import', source)
    expect(done.stdout).toContain('All of it is in force.')
    expect(done.stdout).toMatch(/Edda Rowntree chooses a password at \/welcome#\S{30,}/)
    await tool('folder', 'export', join(folder, 'b'))
    expect(allIn(join(folder, 'b'))).toEqual(files)
    writeFileSync(join(source, 'sites.csv'), 'site,name\r\nx,\r\n')
    await expect(tool('folder', 'import', source)).rejects.toMatchObject({ code: 1,
      stderr: expect.stringContaining('sites.csv, row 2, name: This is empty') })
    await admin.query('DROP DATABASE folder_tests')
    await admin.end()
  }, 180_000)
})

describe('records and plans as JSON', () => {
  it('change nothing when they come back as they went; a plan of a known name becomes what the file says, by operations', async () => {
    const { files: given } = await edda.json<{ files: Record<string, string> }>('GET', '/api/college/plans')
    const same = await send(given, false)
    if (!same.ok) throw new Error(JSON.stringify(same.problems.slice(0, 3)))
    expect(same.tables.map(({ file, added, changed, left }) => ({ file, added, changed, left })))
      .toEqual(expect.arrayContaining([{ file: 'plans.json', added: 0, changed: 0, left: 0 }, { file: 'records.csv', added: 0, changed: 0,
        left: 0 }]))
    const { plans } = JSON.parse(given['plans.json']!) as { plans: PlanOfFile[] }
    const mine = plans.find(one => one.current && one.plan.terms.some(term => term.courses.length > 1))!
    const [student] = await db.select().from(s.people).where(eq(s.people.username, mine.student))
    const planOf = async (name: string) => (await db.select().from(s.plans).where(and(eq(s.plans.student, student!.id),
      eq(s.plans.name, name), isNull(s.plans.deletedAt))))[0]
    const before = (await planOf(mine.plan.name))!
    const fuller = { ...mine, plan: { ...mine.plan, note: 'Agreed with the office' } }
    const other = { ...mine, current: false, plan: { ...mine.plan, name: 'From the old system' } }
    const text = (list: PlanOfFile[]) => ({ 'plans.json': JSON.stringify({ format: 'ridgeway-plans/1', plans: list }) })
    expect(await send(text([fuller, other]), true)).toMatchObject({ ok: true, kept: true,
      tables: [{ file: 'plans.json', added: 1, changed: 1, same: 0 }] })
    const after = (await planOf(mine.plan.name))!
    expect(after).toMatchObject({ id: before.id, current: true, version: before.version + 1, details: { note: 'Agreed with the office' } })
    const [done] = await db.select().from(s.planOperations).where(and(eq(s.planOperations.plan, after.id),
      eq(s.planOperations.version, after.version)))
    expect(done).toMatchObject({ by: edda.id, operation: { kind: 'plan note' } })
    const added = (await planOf('From the old system'))!
    expect(await db.$count(s.planEntries, eq(s.planEntries.plan, added.id)))
      .toBe(await db.$count(s.planEntries, eq(s.planEntries.plan, before.id)))
    expect(await send(text([fuller, other]), true)).toMatchObject({ tables: [{ added: 0, changed: 0, same: 2 }] })
    await send(text([mine]), true)
    await db.delete(s.planEntries).where(eq(s.planEntries.plan, added.id))
    await db.delete(s.plans).where(eq(s.plans.id, added.id))
  })

  it('name what is wrong by the plan, and nothing is taken', async () => {
    const plan = { name: 'X', terms: [{ term: '2027SP', courses: [{ course: 'NIX 100' }] }] }
    const answer = await send({ 'plans.json': JSON.stringify({ format: 'ridgeway-plans/1', plans: [{ student: 'nobody', plan: { ...plan,
      terms: [] } },
    { student: 'ada', plan }] }) }, true)
    expect(answer).toMatchObject({ ok: false })
    expect(answer.ok ? [] : answer.problems.map(one => `${one.file} ${one.row} ${one.message}`)).toEqual(expect.arrayContaining([
      expect.stringMatching(/^plans.json 2 .*no course "NIX 100"/), expect.stringMatching(/^plans.json 1 There is no student nobody/)]))
  })
})

interface PlanOfFile {
  student: string
  current: boolean
  plan: { name: string, note: string, terms: { term: string, courses: object[] }[] }
}

describe('the college as a roster', () => {
  it('comes back without a change, and brings a student who is new', async () => {
    const { files: roster } = await edda.json<{ files: Record<string, string> }>('GET', '/api/college/roster')
    const same = await send(roster, false)
    if (!same.ok) throw new Error(JSON.stringify(same.problems.slice(0, 3)))
    expect(same.tables.filter(one => one.added + one.changed > 0)).toEqual([])
    expect(same.tables.map(one => one.file)).toEqual(expect.arrayContaining(['people.csv', 'sections.csv', 'courses.csv']))
    const row = 'newcomer,,,true,college,student,newcomer,,Nia,Fell,,,newcomer@larkmoor.example,,,,,'
    const more = { ...roster, 'users.csv': `${roster['users.csv']}${row}\r\n` }
    expect(await send(more, true)).toMatchObject({ ok: true, kept: true })
    const [nia] = await db.select().from(s.people).where(eq(s.people.username, 'newcomer'))
    expect(nia).toMatchObject({ name: 'Nia Fell', role: 'student' })
    expect(await db.$count(s.plans, eq(s.plans.student, nia!.id))).toBe(1)
    await db.delete(s.plans).where(eq(s.plans.student, nia!.id))
    await db.delete(s.students).where(eq(s.students.person, nia!.id))
    await db.delete(s.people).where(eq(s.people.id, nia!.id))
  })
})

describe('putting a folder in force', () => {
  /** Four thousand students who are new. */
  const many = () => ({ 'people.csv': ['sign-in name,name,email,role', ...Array.from({ length: 4000 }, (_, i) =>
    `long-${i},Long ${i},long-${i}@larkmoor.example,student`)].join('\r\n') })
  const begin = (work: string) => edda.call('POST', '/api/college', { files: many(), keep: true, work })
  /** Asks how far it is until it is far enough, or over. */
  async function until(work: string, far: (one: { stage: string, done: number, total: number }) => boolean) {
    for (let tries = 0; tries < 2000; tries++) {
      const { work: now } = await edda.json<{ work: { stage: string, done: number, total: number } | null }>('GET', `/api/work?id=${work}`)
      if (now && far(now)) return now
    }
    throw new Error('it was never so far')
  }

  it('tells any server how far it is, and takes all of it back when it is cancelled', async () => {
    const before = await db.$count(s.people)
    const work = crypto.randomUUID()
    const answer = begin(work)
    const seen = await until(work, one => one.total > 0)
    expect(seen.total).toBe(4000)
    expect((await edda.call('DELETE', `/api/work?id=${work}`)).status).toBe(200)
    const problem = await problemOf(await answer)
    expect(problem).toMatchObject({ code: 'work-cancelled', detail: expect.any(String) })
    expect(await db.$count(s.people)).toBe(before)
    expect(await db.$count(s.longWorks)).toBe(0)
  })

  it('is begun once under one name', async () => {
    const work = crypto.randomUUID()
    const first = begin(work)
    await until(work, one => one.total > 0)
    expect(await problemOf(await begin(work))).toMatchObject({ code: 'work-known' })
    await edda.call('DELETE', `/api/work?id=${work}`)
    await first
  })
})
