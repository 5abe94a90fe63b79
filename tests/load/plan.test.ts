import { and, asc, eq } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { randomUUID } from 'node:crypto'
import { applyToPlan, EMPTY_PLAN, type Plan, type PlanEntry, type PlanOperation } from '@ridgeway/core/planning'
import { clashBetween } from '@ridgeway/core/weeks'
import { TERMS, TRAVEL } from '../../demo/calendar'
import { KeptSections } from '../../server/college/sections'
import * as s from '../../server/db/schema'
import { Client, close, db, News } from './client'

/** Two editors on one plan: nothing lost, and the operations replay to the entries. */
interface Edit {
  version: number
  plan: Plan
  skipped: unknown[]
}
let wren: Client
let hollis: Client
beforeAll(async () => {
  wren = await Client.signIn('wren')
  hollis = await Client.signIn('hollis')
})
afterAll(close)
const edit = (client: Client, operations: PlanOperation[], baseVersion = 0) =>
  client.json<Edit>('POST', `/api/students/${wren.id}/plan`, { baseVersion, operations })
const place = (course: string, term: string): PlanOperation => ({ kind: 'place', entry: `${course.replace(' ', '')}-${term}`, course, term,
  credits: 300 })

describe('the demo college in the database', () => {
  it('has nobody registered for two classes at one time', async () => {
    const term = TERMS.find(candidate => candidate.code === '2027SP')!
    const sections = new Map((await new KeptSections().now(db, term.code)).map(section => [section.id, section]))
    const rows = await db.select().from(s.registrations)
    for (const student of new Set(rows.map(row => row.student))) {
      const mine = rows.filter(row => row.student === student).map(row => sections.get(row.section)!)
      mine.forEach((section, i) =>
        mine.slice(0, i).forEach(other =>
          expect(clashBetween([section], [other], term, TRAVEL), `student ${student}: ${section.course} and ${other.course}`).toBeNull(),
        ),
      )
    }
    expect(rows.length).toBeGreaterThan(50)
  })
})

describe('a plan with two editors', () => {
  it('keeps every edit of both, and its operations replay to its entries', async () => {
    const before = await db.select({ plan: s.plans, entry: s.planEntries }).from(s.planEntries).innerJoin(s.plans,
      eq(s.plans.id, s.planEntries.plan)).where(and(eq(s.plans.student, wren.id), eq(s.plans.current, true)))
    const plan = before[0]!.plan.id
    const student = ['ECL 210', 'VAL 220', 'HRT 130', 'GSP 240'].map(code => edit(wren, [place(code, '2027FA')]))
    const advisor = ['HYD 310', 'WRT 310', 'LNG 140', 'VAL 110'].map(code => edit(hollis, [place(code, '2027FA')]))
    await Promise.all([...student, ...advisor])
    const entries = await db.select().from(s.planEntries).where(eq(s.planEntries.plan, plan))
    expect(entries.filter(entry => entry.term === '2027FA').map(entry => entry.course).sort()).toEqual(['ECL 210', 'GSP 240', 'HRT 130',
      'HYD 310', 'LNG 140', 'VAL 110', 'VAL 220', 'WRT 310'])
    const operations = await db.select().from(s.planOperations).where(eq(s.planOperations.plan, plan)).orderBy(
      asc(s.planOperations.version),
    )
    expect(operations.map(row => row.version)).toEqual(operations.map((_, i) => i + 1))
    const start: PlanEntry[] = before.map(({ entry: { plan: _, ...entry } }) => entry)
    const { entries: replayed } = operations.reduce<Plan>((now, { operation }) => {
      const next = applyToPlan(now, operation)
      if (typeof next === 'string') throw new Error(next)
      return next
    }, { ...EMPTY_PLAN, entries: start })
    const key = (entry: PlanEntry) => `${entry.id} ${entry.term}`
    expect(replayed.map(key).sort()).toEqual(entries.map(key).sort())
  })

  it('skips and names what no longer makes sense, and does the rest', async () => {
    const result = await edit(wren, [{ kind: 'move', entry: 'not-there', term: '2028SP' }, { kind: 'move', entry: 'VAL220-2027FA',
      term: '2028SP' }])
    expect(result.skipped).toMatchObject([{ why: 'no such course in the plan' }])
    expect(result.plan.entries.find(entry => entry.course === 'VAL 220')?.term).toBe('2028SP')
  })

  it('refuses an unknown course whole: nothing of the request is written', async () => {
    const before = await edit(wren, [{ kind: 'note', entry: 'VAL220-2027FA', note: 'x' }])
    const answer = await wren.call('POST', '~/plan', { baseVersion: 0,
      operations: [{ kind: 'remove', entry: 'VAL220-2027FA' }, place('ZZZ 999', '2027FA')] })
    expect(answer.status).toBe(422)
    const after = await edit(wren, [{ kind: 'note', entry: 'VAL220-2027FA', note: 'y' }])
    expect(after.version).toBe(before.version + 1)
    expect(after.plan.entries.length).toBe(before.plan.entries.length)
  })

  it('does a batch once, however often it is sent, also at the same moment', async () => {
    const batch = randomUUID()
    const body = { baseVersion: 0, batch,
      operations: [{ kind: 'place', entry: 'HRT340-2028FA', course: 'HRT 340', term: '2028FA', credits: 300 }, { kind: 'remove',
        entry: 'LRT' }] }
    const answers = await Promise.all(Array.from({ length: 6 }, () => wren.json<Edit>('POST', '~/plan', body)))
    expect(new Set(answers.map(answer => answer.version)).size).toBe(1)
    const rows = await db.select().from(s.planOperations).where(eq(s.planOperations.batch, batch))
    expect(rows.length).toBe(1)
  })

  it('takes credits within the course\'s range only', async () => {
    const tooMany = await wren.call('POST', '~/plan', { baseVersion: 0,
      operations: [{ kind: 'place', entry: 'x', course: 'HYD 460', term: '2028SP', credits: 400 }] })
    expect([tooMany.status, (await tooMany.json() as { title: string }).title]).toEqual([422, 'HYD 460 has 1–3 cr, not 4.'])
    await edit(wren, [{ kind: 'place', entry: 'HYD460-2028SP', course: 'HYD 460', term: '2028SP', credits: 100 }, { kind: 'credits',
      entry: 'HYD460-2028SP', credits: 200 }])
    expect(
      (await wren.call('POST', '~/plan', { baseVersion: 0, operations: [{ kind: 'credits', entry: 'HYD460-2028SP', credits: 900 }] }))
        .status,
    ).toBe(422)
    expect((await edit(wren, [{ kind: 'remove', entry: 'HYD460-2028SP' }])).skipped).toEqual([])
  })

  it('lets two courses change places in one request', async () => {
    const [first, second] = (await edit(wren, [{ kind: 'plan note', note: 'x' }])).plan.entries.filter(entry => entry.term === '2027FA')
    const swapped = await edit(wren, [{ kind: 'move', entry: first!.id, term: '2028FA' }, { kind: 'move', entry: second!.id,
      term: '2028FA' }, { kind: 'move', entry: first!.id, term: '2027FA' }])
    expect(swapped.skipped).toEqual([])
    expect(swapped.plan.entries.find(entry => entry.id === second!.id)?.term).toBe('2028FA')
  })

  it('keeps placeholders, wishes and notes', async () => {
    const kept = await edit(wren, [
      { kind: 'hold', entry: 'hold-1', line: 'WSC-BS/voices', term: '2028SP', credits: 300 },
      { kind: 'note', entry: 'hold-1', note: 'something with music' },
      { kind: 'wishes', wishes: { target: 1400, termsOff: ['2027SU'], latestFinish: '2029SP' } },
      { kind: 'term note', term: '2028SP', note: 'half a job' },
      { kind: 'plan note', note: 'with Hollis' },
    ])
    expect(kept.skipped).toEqual([])
    const state = await wren.json<{ file: Plan, plan: { note: string, termNotes: Record<string, string> } }>('GET',
      `/api/students/${wren.id}?term=2027SP`)
    expect(state.file.placeholders).toEqual([{ id: 'hold-1', line: 'WSC-BS/voices', term: '2028SP', credits: 300,
      note: 'something with music' }])
    expect(state.file.wishes).toEqual({ target: 1400, termsOff: ['2027SU'], latestFinish: '2029SP' })
    expect(state.plan).toMatchObject({ note: 'with Hollis', termNotes: { '2028SP': 'half a job' } })
  })
})

describe('several plans', () => {
  interface Head {
    id: number
    name: string
    current: boolean
  }
  const heads = async () => (await wren.json<{ plans: Head[] }>('GET', `/api/students/${wren.id}?term=2027SP`)).plans

  it('keeps at most five, copies whole, renames, deletes with undo, and never the current one', async () => {
    const main = (await heads())[0]!
    const copy = await wren.json<Head>('POST', '~/plans', { name: 'Slow', copyOf: main.id })
    const read = async (id: number) => (await wren.json<{ plan: Plan }>('GET', `/api/students/${wren.id}/plans/${id}`)).plan
    expect(await read(copy.id)).toEqual(await read(main.id))
    await wren.json('POST', '~/plan', { plan: copy.id, baseVersion: 0, operations: [{ kind: 'plan note', note: 'only in the copy' }] })
    expect((await read(main.id)).note).toBe('with Hollis')
    for (const name of ['A', 'B', 'C']) await wren.json('POST', '~/plans', { name, copyOf: null })
    expect((await wren.call('POST', '~/plans', { name: 'D', copyOf: null })).status).toBe(422)
    expect((await wren.call('PUT', `~/plans/${copy.id}`, { name: 'A' })).status).toBe(422)
    expect((await wren.call('PUT', `~/plans/${main.id}`, { deleted: true })).status).toBe(422)
    await wren.json('PUT', `~/plans/${copy.id}`, { deleted: true })
    expect((await heads()).map(head => head.name)).toEqual(['Main', 'A', 'B', 'C'])
    expect((await wren.call('GET', `~/plans/${copy.id}`)).status).toBe(404)
    await wren.json('PUT', `~/plans/${copy.id}`, { deleted: false })
    expect((await read(copy.id)).note).toBe('only in the copy')
    await wren.json('PUT', `~/plans/${copy.id}`, { current: true })
    expect((await heads()).filter(head => head.current).map(head => head.name)).toEqual(['Slow'])
    await wren.json('PUT', `~/plans/${main.id}`, { current: true })
  })

  it('stays within five and one current when all are asked for at once', async () => {
    const joss = await Client.signIn('ines')
    const answers = await Promise.all(Array.from({ length: 9 }, (_, i) => joss.call('POST', '~/plans', { name: `P${i}`, copyOf: null })))
    expect(answers.filter(answer => answer.status === 200).length).toBe(4)
    const rows = await db.select().from(s.plans).where(eq(s.plans.student, joss.id))
    await Promise.all(rows.map(row => joss.call('PUT', `~/plans/${row.id}`, { current: true })))
    const after = await db.select().from(s.plans).where(and(eq(s.plans.student, joss.id), eq(s.plans.current, true)))
    expect(after.length).toBe(1)
  })

  it('another student\'s plan is not there, whatever its number', async () => {
    const foreign = (await db.select().from(s.plans)).find(plan => plan.student !== wren.id)!
    expect((await wren.call('GET', `~/plans/${foreign.id}`)).status).toBe(404)
    expect((await wren.call('POST', '~/plan', { plan: foreign.id, baseVersion: 0, operations: [{ kind: 'plan note', note: 'x' }] })).status)
      .toBe(404)
    expect((await wren.call('PUT', `~/plans/${foreign.id}`, { deleted: true })).status).toBe(404)
    expect((await wren.call('POST', '~/plans', { name: 'Stolen', copyOf: foreign.id })).status).not.toBe(200)
  })

  it('a plan made of operations is made whole or not at all', async () => {
    const kit = await Client.signIn('kit')
    const bad = await kit.call('POST', '~/plans', { name: 'From a file', copyOf: null,
      operations: [{ kind: 'place', entry: 'a', course: 'WRT 110', term: '2027FA', credits: 300 }, { kind: 'move', entry: 'gone',
        term: '2027FA' }] })
    expect(bad.status).toBe(422)
    expect((await db.select().from(s.plans).where(eq(s.plans.student, kit.id))).map(plan => plan.name)).toEqual(['Main'])
  })
})

describe('news', () => {
  it('tell a watching page of an edit and of a comment, in versions only', async () => {
    const news = await News.of(hollis, wren.id)
    const first = await news.next(() => true)
    const { version } = await edit(wren, [{ kind: 'plan note', note: 'news of a private kind' }])
    const second = await news.next(told => Object.values(told.plans).includes(version))
    await hollis.json('POST', `/api/students/${wren.id}/comments`, { term: '2027FA', entry: null, text: 'Looks good.' })
    const third = await news.next(told => told.version > second.version)
    expect(second.version).toBe(first.version)
    expect(third.plans).toEqual(second.plans)
    expect(news.heard).not.toMatch(/private|Looks good/)
    await news.close()
  })
})
