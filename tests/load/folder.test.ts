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

/** The college as a folder, through the routes and through the command. */
let edda: Client
let files: Record<string, string>
beforeAll(async () => {
  edda = await Client.signIn('edda')
  files = (await edda.json<{ files: Record<string, string> }>('GET', '/api/college')).files
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
    const answer = await send(files, false)
    if (!answer.ok) throw new Error(JSON.stringify(answer.problems.slice(0, 3)))
    expect(answer.tables.every(one => one.added + one.changed + one.left === 0)).toBe(true)
    expect(answer.changes).toEqual([])
    expect(answer.tables.map(one => one.file)).toContain('programs')
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
