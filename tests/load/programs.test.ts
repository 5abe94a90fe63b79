import { desc, eq } from 'drizzle-orm'
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import type { CasesFile } from '@ridgeway/formats'
import type { ProgramTried } from '../../shared/contract/acts/college'
import type { ProgramOnFile } from '../../shared/contract/views/office'
import * as s from '../../server/db/schema'
import { Client, close, db, problemOf } from './client'

/** A program's rules changed by the office: whom it touches, worked cases, two who change at once, and what it was before. */
const PROGRAM = 'GFT-AAS-2025'
let edda: Client
let corwin: Client
let onFile: ProgramOnFile
const read = (version?: number) =>
  edda.json<ProgramOnFile>('GET', `/api/programs?program=${PROGRAM}${version ? `&version=${version}` : ''}`)
interface Loose { totalCredits: number, areas: { children: { id: string, title: string, courses?: number, credits?: number }[] }[] }
/** The program with one line asking for more. */
function harder(text: string, by = 3): { text: string, line: string } {
  const program = JSON.parse(text) as Loose
  const line = program.areas.flatMap(area => area.children).find(one => one.credits !== undefined && one.courses === undefined)!
  line.credits! += by
  return { text: JSON.stringify(program), line: line.id }
}
const keep = (body: object, client = edda) => client.call('POST', '/api/programs', { keep: true, ...body })
const stored = async () => (await db.select().from(s.programs).where(eq(s.programs.id, PROGRAM)))[0]!

beforeAll(async () => {
  edda = await Client.signIn('edda')
  corwin = await Client.signIn('corwin')
})
beforeEach(async () => {
  onFile = await read()
})
afterAll(close)

describe('whom a change touches', () => {
  it('is nobody where nothing is changed, and everybody is read once', async () => {
    const seen: number[] = []
    for (let after: number | null = 0; after !== null;) {
      const page: ProgramTried = await edda.json<ProgramTried>('POST', '/api/programs/effect', { text: onFile.text, after })
      seen.push(...page.rows.map(row => row.id))
      expect(page.rows.filter(row => row.effect.kind !== 'same' || row.effect.lines.length > 0)).toEqual([])
      expect(page.done).toBe(seen.length)
      after = page.next
    }
    expect(seen).toHaveLength(onFile.students)
    expect(new Set(seen).size).toBe(seen.length)
  })
  it('is who has more open, with the line that moves; nothing is written by looking', async () => {
    const before = await stored()
    const { text, line } = harder(onFile.text)
    const page = await edda.json<ProgramTried>('POST', '/api/programs/effect', { text })
    const losing = page.rows.filter(row => row.effect.kind === 'loses')
    expect(losing.length).toBeGreaterThan(0)
    for (const { effect } of losing) expect(effect.open.after).toBeGreaterThan(effect.open.before)
    expect(losing.some(row => row.effect.lines.some(moved => moved.id === line))).toBe(true)
    expect(page.rows.filter(row => row.effect.kind === 'gains')).toEqual([])
    expect(await stored()).toEqual(before)
  })
  it('is told with every line for those who are chosen, and what is wrong in a text is told instead', async () => {
    const { id } = onFile.some[0]!
    const page = await edda.json<ProgramTried>('POST', '/api/programs/effect', { text: onFile.text, students: [id] })
    expect(page.samples).toMatchObject([{ id }])
    expect(page.samples[0]!.lines.length).toBeGreaterThan(5)
    expect(await edda.json('POST', '/api/programs/effect', { text: '{}' })).toMatchObject({ ok: false })
  })
  it('is for the office alone', async () => {
    const tamsin = await Client.signIn('tamsin')
    expect((await tamsin.call('POST', '/api/programs/effect', { text: onFile.text })).status).toBe(403)
    expect((await tamsin.call('GET', `/api/programs?program=${PROGRAM}`)).status).toBe(403)
    expect(await problemOf(await edda.call('GET', '/api/programs?program=NONE-2025'))).toMatchObject({ status: 404,
      code: 'program-unknown' })
  })
})

describe('a program put in force', () => {
  it('keeps what it was, says who replaced it, and goes back to it', async () => {
    const { text } = harder(onFile.text)
    expect((await keep({ text, seen: onFile.version })).status).toBe(200)
    const now = await read()
    expect(now.version).toBe(onFile.version + 1)
    expect(now.history[0]).toMatchObject({ version: onFile.version, by: 'Edda Rowntree' })
    expect((await read(onFile.version)).text).toBe(onFile.text)
    const [line] = await db.select().from(s.ledger).orderBy(desc(s.ledger.id)).limit(1)
    expect(line).toMatchObject({ action: 'replace program', detail: { program: PROGRAM } })
    expect((await keep({ text: onFile.text, seen: now.version })).status).toBe(200)
    expect((await read()).text).toBe(onFile.text)
  })
  it('is refused where somebody else was before, and of two at once one wins', async () => {
    const { text } = harder(onFile.text)
    expect(await problemOf(await keep({ text, seen: onFile.version - 1 }))).toMatchObject({ status: 409, code: 'program-moved-on' })
    const answers = await Promise.all([keep({ text, seen: onFile.version }), keep({ text: harder(onFile.text, 6).text,
      seen: onFile.version }, corwin)])
    expect(answers.map(one => one.status).sort()).toEqual([200, 409])
    expect((await read()).version).toBe(onFile.version + 1)
    await keep({ text: onFile.text })
  })
  it('is refused where a worked case no longer holds, unless it is said; the cases stay with it', async () => {
    const cases = (lines: Record<string, object>): CasesFile => ({ format: 'ridgeway-cases/1', cases: [{ name: 'Nothing taken yet',
      source: 'common practice', given: {}, expect: { lines } }] }) as CasesFile
    const { text, line } = harder(onFile.text)
    const asked = (JSON.parse(onFile.text) as Loose).areas.flatMap(area => area.children).find(one => one.id === line)!.credits!
    const holds = JSON.stringify(cases({ [`GFT-AAS/${line}`]: { state: 'open', open: asked } }))
    expect((await keep({ text: onFile.text, cases: holds, seen: onFile.version })).status).toBe(200)
    expect(JSON.parse((await read()).cases!)).toMatchObject({ cases: [{ name: 'Nothing taken yet' }] })
    expect(await problemOf(await keep({ text }))).toMatchObject({ status: 422, code: 'cases-fail' })
    expect((await read()).text).toBe(onFile.text)
    expect((await keep({ text, despite: true })).status).toBe(200)
    expect(JSON.parse((await read()).cases!)).toMatchObject({ cases: [{ name: 'Nothing taken yet' }] })
    expect(await problemOf(await keep({ text, cases: '{"format":"nothing"}' }))).toMatchObject({ status: 422, code: 'cases-unreadable' })
    expect((await keep({ text: onFile.text, cases: null })).status).toBe(200)
    expect((await read()).cases).toBeNull()
  })
})
