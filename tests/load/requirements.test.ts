import { and, eq } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { StudentState } from '../../shared/contract/views/student'
import * as s from '../../server/db/schema'
import { Client, close, db, problemOf as problem } from './client'

/** Acts on requirements through the routes: what is refused in which words, and that a refusal leaves nothing behind. */
let nico: Client
let rafe: Client
let piers: Client
let yara: Client
let corwin: Client
beforeAll(async () => {
  ;[nico, rafe, piers, yara, corwin] = await Promise.all(['nico', 'rafe', 'piers', 'yara', 'corwin'].map(name => Client.signIn(name))) as [
    Client,
    Client,
    Client,
    Client,
    Client,
  ]
})
afterAll(close)

const state = (client: Client) => client.json<StudentState>('GET', '~?term=2027SP')
const of = (client: Client, path: string) => `/api/students/${client.id}/${path}`

describe('exceptions', () => {
  const waiver = { kind: 'waiver', program: 'WSC-BS', line: 'field-seminar', course: null, reason: 'Two seasons as a warden' }
  it('are granted by the advisor only, with a reason, once, and can be taken back', async () => {
    expect(await problem(await rafe.call('POST', '~/exceptions', waiver))).toMatchObject({ status: 403, code: 'not-yours' })
    expect(await problem(await yara.call('POST', of(rafe, 'exceptions'), { ...waiver, reason: ' ' }))).toMatchObject({ status: 400,
      title: expect.stringContaining('say why') })
    expect((await yara.call('POST', of(rafe, 'exceptions'), waiver)).status).toBe(200)
    expect(await problem(await yara.call('POST', of(rafe, 'exceptions'), waiver))).toMatchObject({ status: 409, code: 'granted-already' })
    const { file } = await state(rafe)
    expect(file.exceptions).toMatchObject([{ kind: 'waiver', line: 'field-seminar', by: 'Yara Quill' }])
    expect((await yara.call('DELETE', `${of(rafe, 'exceptions')}?id=${file.exceptions![0]!.id}`)).status).toBe(200)
    expect((await state(rafe)).file.exceptions).toEqual([])
    const actions = await db.select({ action: s.ledger.action }).from(s.ledger).where(
      and(eq(s.ledger.student, rafe.id), eq(s.ledger.actor, yara.id)),
    )
    expect(actions.map(row => row.action)).toEqual(expect.arrayContaining(['grant waiver', 'take back waiver']))
  })
  it.each([
    [{ ...waiver, program: 'UPH-BA' }, 'program-unknown'],
    [{ ...waiver, line: 'no-such-line' }, 'line-unknown'],
    [{ ...waiver, course: 'HYD 110' }, 'not-listed'],
    [{ ...waiver, kind: 'substitution', course: 'ZZZ 999', instead: null }, 'course-unknown'],
  ])('refuses what makes no sense: %j', async (body, code) => {
    expect(await problem(await yara.call('POST', of(rafe, 'exceptions'), body))).toMatchObject({ status: 422, code })
    expect((await state(rafe)).file.exceptions).toEqual([])
  })
  it('taken back twice, or of another student, are unknown', async () => {
    const [other] = (await state(nico)).file.exceptions!
    expect(await problem(await yara.call('DELETE', `${of(rafe, 'exceptions')}?id=${other!.id}`))).toMatchObject({ status: 404,
      code: 'exception-unknown' })
    expect((await state(nico)).file.exceptions).toHaveLength(1)
  })
})

describe('pinned uses', () => {
  it('hold for courses of the own record that fit the line, and for nothing else', async () => {
    const { file } = await state(nico)
    const item = file.record.find(candidate => candidate.course === 'ECL 110')!
    expect((await nico.call('PUT', '~/use-pins', { item: item.id, program: 'GFT-AAS', line: 'places' })).status).toBe(200)
    expect((await state(nico)).file.usePins).toEqual([{ item: item.id, program: 'GFT-AAS', line: 'places' }])
    expect(await problem(await nico.call('PUT', '~/use-pins', { item: item.id, program: 'GFT-AAS', line: 'writing' }))).toMatchObject({
      status: 422,
      code: 'does-not-fit',
    })
    const strange = (await state(rafe)).file.record[0]!
    expect(await problem(await nico.call('PUT', '~/use-pins', { item: strange.id, program: 'GFT-AAS', line: 'places' }))).toMatchObject({
      status: 404,
      code: 'item-unknown',
    })
    expect((await state(nico)).file.usePins).toHaveLength(1)
    expect((await nico.call('PUT', '~/use-pins', { item: item.id, program: 'GFT-AAS', line: null })).status).toBe(200)
    expect((await state(nico)).file.usePins).toEqual([])
  })
})

describe('a change of program', () => {
  it('is refused where it says nothing or nonsense, and can be taken back before it is answered', async () => {
    expect(await problem(await nico.call('POST', '~/program-change', { programs: ['GFT-AAS-2024', 'TSS-CERT-2024'] }))).toMatchObject({
      status: 422,
      code: 'no-change',
    })
    expect(await problem(await nico.call('POST', '~/program-change', { programs: ['GFT-AAS-2024', 'GFT-AAS-2025'] }))).toMatchObject({
      status: 422,
      code: 'program-twice',
    })
    expect(await problem(await nico.call('POST', '~/program-change', { programs: ['XXX-BS-2025'] }))).toMatchObject({ status: 422,
      code: 'program-unknown' })
    expect((await nico.call('POST', '~/program-change', { programs: ['GFT-AAS-2025', 'TSS-CERT-2024'] })).status).toBe(200)
    expect((await state(nico)).programChange).toMatchObject({ state: 'asked' })
    expect((await nico.call('DELETE', '~/program-change')).status).toBe(200)
    expect(await problem(await piers.call('POST', of(nico, 'program-change/decision'), { request: 1, granted: true }))).toMatchObject({
      status: 409, code: 'not-asked' })
    expect((await state(nico)).programIds).toEqual(['GFT-AAS-2024', 'TSS-CERT-2024'])
  })
  it('answered by two presses at once happens once', async () => {
    await nico.json('POST', '~/program-change', { programs: ['GFT-AAS-2025', 'TSS-CERT-2025'] })
    const request = (await state(nico)).programChange!.id
    const answers = await Promise.all([1, 2, 3].map(() =>
      piers.call('POST', of(nico, 'program-change/decision'), { request, granted: true })))
    expect(answers.map(answer => answer.status).sort()).toEqual([200, 409, 409])
    expect((await state(nico)).programIds).toEqual(['GFT-AAS-2025', 'TSS-CERT-2025'])
  })
})

describe('milestones and program files', () => {
  it('a milestone is recorded by the advisor, for a program that has it', async () => {
    const wilf = await Client.signIn('wilf')
    const dagny = await Client.signIn('dagny')
    expect(await problem(await dagny.call('PUT', of(wilf, 'milestones'), { program: 'TIM-BS', milestone: 'portfolio', done: true })))
      .toMatchObject({ status: 422, code: 'milestone-unknown' })
    await dagny.json('PUT', of(wilf, 'milestones'), { program: 'TIM-BS', milestone: 'workshop-card', done: true })
    expect((await state(wilf)).file.milestones).toEqual(['TIM-BS/workshop-card'])
    await dagny.json('PUT', of(wilf, 'milestones'), { program: 'TIM-BS', milestone: 'workshop-card', done: false })
    expect((await state(wilf)).file.milestones).toEqual([])
  })
  it('a file with a problem changes nothing, even when it is to be kept', async () => {
    const before = await db.select().from(s.programs)
    const answer = await corwin.json<{ ok: boolean, problems: unknown[] }>('POST', '/api/programs', {
      text: '{ "format": "ridgeway-program/1" }',
      keep: true,
    })
    expect(answer.ok).toBe(false)
    expect(answer.problems.length).toBeGreaterThan(0)
    expect(await db.select().from(s.programs)).toEqual(before)
  })
})
