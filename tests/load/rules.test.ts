import { randomUUID } from 'node:crypto'
import { and, eq } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { findingName, type RowDecision } from '@ridgeway/core/registration'
import { sayFinding } from '@ridgeway/words'
import type { RunResult } from '../../shared/contract/acts/student'
import type { AdviseeRow } from '../../shared/contract/views/advising'
import type { StudentState } from '../../shared/contract/views/student'
import * as s from '../../server/db/schema'
import { Client, close, db, problemOf as problem } from './client'

/** The server's own rules, through its routes: what it refuses, in which words, and that nothing is half-written. */
const TERM = '2027SP'
let perrin: Client
let lise: Client
let hollis: Client
let yara: Client
beforeAll(async () => {
  ;[perrin, lise, hollis, yara] = await Promise.all(['perrin', 'lise', 'hollis', 'yara'].map(name => Client.signIn(name))) as [Client,
    Client, Client, Client]
})
afterAll(close)

const sectionsOf = (course: string) => db.select().from(s.sections).where(and(eq(s.sections.course, course), eq(s.sections.term, TERM)))
const state = (client: Client) => client.json<StudentState>('GET', `~?term=${TERM}`)
const setClock = (client: Client, now: string) => client.json('PUT', '/api/standins/clock', { now })

const choose = (client: Client, term: string, course: string, sectionIds: number[]) =>
  client.call('PUT', '~/line-up', { term, choices: [{ course, sectionIds }] })

describe('the line-up', () => {
  it('takes only complete bundles of one link', async () => {
    const parts = await sectionsOf('HYD 230')
    const lecture = parts.find(part => part.label === '01')!
    const strangeLab = parts.find(part => part.label === '02L')!
    for (const sectionIds of [[lecture.id], [lecture.id, strangeLab.id]]) {
      expect(await problem(await choose(perrin, TERM, 'HYD 230', sectionIds))).toMatchObject({
        status: 422,
        code: 'bundle-incomplete',
      })
    }
    expect((await state(perrin)).lineUp).toEqual([])
  })

  it('refuses sections of another course, of another term, and cancelled ones', async () => {
    const [strange] = await sectionsOf('ECL 210')
    expect(await problem(await choose(perrin, TERM, 'HYD 230', [strange!.id])))
      .toMatchObject({ code: 'section-unknown' })
    expect(await problem(await choose(perrin, '2027SU', 'ECL 210', [strange!.id])))
      .toMatchObject({ code: 'section-unknown' })
    const [cancelled] = await db.select().from(s.sections).where(and(eq(s.sections.cancelled, true), eq(s.sections.part, 'lecture')))
    expect(await problem(await choose(perrin, TERM, cancelled!.course, [cancelled!.id])))
      .toMatchObject({ code: 'section-unknown' })
  })

  it('replaces a choice, and takes it out when nothing is chosen', async () => {
    const bundles = (await sectionsOf('ECL 210')).filter(section => !section.cancelled)
    for (const bundle of bundles.slice(0, 2))
      await perrin.json('PUT', '~/line-up', { term: TERM, choices: [{ course: 'ECL 210', sectionIds: [bundle.id] }] })
    expect((await state(perrin)).lineUp.map(row => row.sectionIds)).toEqual([[bundles[1]!.id]])
    await perrin.json('PUT', '~/line-up', { term: TERM, choices: [{ course: 'ECL 210', sectionIds: [] }] })
    expect((await state(perrin)).lineUp).toEqual([])
  })

  it('takes several choices at once, all of them or none', async () => {
    const [ecology, field] = [(await sectionsOf('ECL 210'))[0]!, await sectionsOf('GSP 140')]
    const whole = field.filter(section => section.link === field[0]!.link).map(section => section.id)
    const put = (...choices: { course: string, sectionIds: number[] }[]) => perrin.call('PUT', '~/line-up', { term: TERM, choices })
    expect(await problem(await put({ course: 'ECL 210', sectionIds: [ecology.id] }, { course: 'GSP 140', sectionIds: [whole[0]!] })))
      .toMatchObject({ code: 'bundle-incomplete' })
    expect((await state(perrin)).lineUp).toEqual([])
    expect(await problem(await put({ course: 'ECL 210', sectionIds: [ecology.id] }, { course: 'ECL 210', sectionIds: [] })))
      .toMatchObject({ code: 'course-twice' })
    expect((await put({ course: 'ECL 210', sectionIds: [ecology.id] }, { course: 'GSP 140', sectionIds: whole })).ok).toBe(true)
    expect((await state(perrin)).lineUp.map(row => row.course)).toEqual(['ECL 210', 'GSP 140'])
    await put({ course: 'ECL 210', sectionIds: [] }, { course: 'GSP 140', sectionIds: [] })
    expect((await state(perrin)).lineUp).toEqual([])
  })
})

describe('gates', () => {
  it('refuse a run while they are closed, name each with what to do, and take no seat', async () => {
    const bundle = (await sectionsOf('ECL 210')).find(section => !section.cancelled)!
    await perrin.json('PUT', '~/line-up', { term: TERM, choices: [{ course: 'ECL 210', sectionIds: [bundle.id] }] })
    await setClock(hollis, '2026-11-09T14:00:00Z')
    const { lineUp } = await state(perrin)
    const result = await perrin.json<RunResult>('POST', '~/registrations', { term: TERM, key: randomUUID(),
      rowIds: lineUp.map(row => row.id) })
    const refusals = result.rows[0]!.findings.filter(finding => !finding.ok)
    expect(refusals.map(findingName)).toEqual(['gate-opening', 'gate-sign-off', 'gate-holds', 'gate-terms'])
    for (const refusal of refusals) expect(sayFinding(refusal).way).not.toBe('')
    expect((await state(perrin)).registered).toEqual([])
    expect((await state(perrin)).lineUp.length).toBe(1)
  })

  it('open one by one: sign-off by the advisor, terms by the student', async () => {
    await perrin.json('POST', '~/sign-off-request', { term: TERM, note: 'please' })
    expect((await hollis.call('POST', `/api/students/${perrin.id}/sign-off`, { term: TERM, note: '', seen: [] })).status).toBe(403)
    const seen = (await state(perrin)).file.entries.filter(entry => entry.term === TERM).map(({ course, credits }) => ({ course, credits }))
    await yara.json('POST', `/api/students/${perrin.id}/sign-off`, { term: TERM, note: 'Good plan.', seen })
    await perrin.json('POST', '~/terms', { term: TERM })
    await perrin.json('POST', '~/terms', { term: TERM })
    const now = await state(perrin)
    expect(now.gates.filter(gate => !gate.open).map(gate => gate.kind)).toEqual(['opening', 'holds'])
    expect(now.signOff).toMatchObject({ by: 'Yara Quill', note: 'Good plan.' })
    expect(now.signOff!.copy.map(entry => entry.course).sort()).toEqual(['ECL 210', 'GSP 140', 'HYD 230', 'SOL 201'])
    expect(now.signOffAsked).toBeNull()
  })

  it('a term without courses can be neither asked for nor signed', async () => {
    expect(await problem(await perrin.call('POST', '~/sign-off-request', { term: '2029SU', note: '' }))).toMatchObject({ status: 422,
      code: 'nothing-planned' })
    const nothing = { term: '2029SU', note: '', seen: [] }
    expect(await problem(await yara.call('POST', `/api/students/${perrin.id}/sign-off`, nothing))).toMatchObject({
      status: 422,
      code: 'nothing-planned',
    })
  })
})

describe('dry run and run', () => {
  it('say the same: what the dry run promises is what the run does', async () => {
    await setClock(hollis, '2026-11-09T16:00:00Z')
    const dry = await lise.json<{ rows: RowDecision[] }>('GET', `~/dry-run?term=${TERM}`)
    expect(dry.rows.length).toBe(3)
    const run = await lise.json<RunResult>('POST', '~/registrations', { term: TERM, key: randomUUID(),
      rowIds: dry.rows.map(row => row.rowId) })
    expect(run.rows).toEqual(dry.rows)
    const registered = [...new Set((await state(lise)).registered.map(row => row.course))].sort()
    expect(registered).toEqual(dry.rows.filter(row => row.outcome === 'register').map(row => row.course).sort())
    expect(registered.length).toBeGreaterThan(0)
  })

  it('a registered course cannot be chosen again, and nothing chosen is refused by name', async () => {
    const course = (await state(lise)).registered[0]!
    expect(await problem(await choose(lise, TERM, course.course, [course.section])))
      .toMatchObject({ status: 409, code: 'registered' })
    expect(await problem(await lise.call('POST', '~/registrations', { term: TERM, key: randomUUID(), rowIds: [999_999] }))).toMatchObject({
      status: 422,
      code: 'nothing-chosen',
    })
  })

  it('the week shows every bundle with the same decision', async () => {
    const week = await lise.json<{ courses: { course: string, bundles: { registered: boolean, decision: RowDecision }[] }[] }>('GET',
      `~/week?term=${TERM}`)
    const mine = week.courses.flatMap(({ bundles }) => bundles.filter(bundle => bundle.registered))
    expect(mine.length).toBe(new Set((await state(lise)).registered.map(row => row.course)).size)
    for (const { course, bundles } of week.courses)
      for (const { decision } of bundles) expect(decision.findings.length, course).toBeGreaterThan(0)
  })
})

describe('the advisor\'s list', () => {
  it('is sorted by need and holds every advisee once', async () => {
    const ask = () => yara.json<AdviseeRow[]>('GET', `/api/advisees?term=${TERM}`)
    // What needs the requirements follows a moment after the first table.
    await expect.poll(async () => (await ask()).every(row => row.isWhole), { timeout: 30_000 }).toBe(true)
    const rows = await ask()
    expect(rows.map(row => row.urgency)).toEqual(rows.map(row => row.urgency).sort((a, b) => b - a))
    expect(new Set(rows.map(row => row.id)).size).toBe(rows.length)
    const kit = rows.find(row => row.name === 'Kit Sorrel')!
    expect(kit.needs).toContainEqual(expect.objectContaining({ code: 'gpa', asked: 200 }))
    const mine = await db.select().from(s.students).where(eq(s.students.advisor, yara.id))
    expect(rows.length).toBe(mine.length)
  })
})
