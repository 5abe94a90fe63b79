import { asc, eq } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { applyOperation, clashBetween, type PlanEntry, type PlanOperation } from '@ridgeway/core'
import { TERMS, TRAVEL } from '../../demo/calendar'
import { findSections } from '../../server/db/repositories/sections'
import * as s from '../../server/db/schema'
import { Client, close, db } from './client'

/** Two editors on one plan: nothing lost, and the operations replay to the entries. */
interface Edit { version: number, entries: PlanEntry[], skipped: unknown[] }
let wren: Client
let hollis: Client
beforeAll(async () => {
  wren = await Client.signIn('wren')
  hollis = await Client.signIn('hollis')
})
afterAll(close)
const edit = (client: Client, operations: PlanOperation[], baseVersion = 0) => client.json<Edit>('POST', `/api/students/${wren.id}/plan`, { baseVersion, operations })
const place = (course: string, term: string): PlanOperation => ({ kind: 'place', entry: `${course.replace(' ', '')}-${term}`, course, term, credits: 300 })

describe('the demo college in the database', () => {
  it('has nobody registered for two classes at one time', async () => {
    const term = TERMS.find(candidate => candidate.code === '2027SP')!
    const sections = new Map((await findSections(db, { term: term.code })).map(section => [section.id, section]))
    const rows = await db.select().from(s.registrations)
    for (const student of new Set(rows.map(row => row.student))) {
      const mine = rows.filter(row => row.student === student).map(row => sections.get(row.section)!)
      mine.forEach((section, i) => mine.slice(0, i).forEach(other =>
        expect(clashBetween([section], [other], term, TRAVEL), `student ${student}: ${section.course} and ${other.course}`).toBeNull()))
    }
    expect(rows.length).toBeGreaterThan(200)
  })
})

describe('a plan with two editors', () => {
  it('keeps every edit of both, and its operations replay to its entries', async () => {
    const before = (await db.select({ plan: s.plans, entry: s.planEntries }).from(s.planEntries).innerJoin(s.plans, eq(s.plans.id, s.planEntries.plan)).where(eq(s.plans.student, wren.id)))
    const plan = before[0]!.plan.id
    const student = ['ECL 210', 'VAL 220', 'HRT 130', 'GSP 240'].map(code => edit(wren, [place(code, '2027FA')]))
    const advisor = ['HYD 310', 'WRT 310', 'LNG 140', 'VAL 110'].map(code => edit(hollis, [place(code, '2027FA')]))
    await Promise.all([...student, ...advisor])
    const entries = await db.select().from(s.planEntries).where(eq(s.planEntries.plan, plan))
    expect(entries.filter(entry => entry.term === '2027FA').map(entry => entry.course).sort()).toEqual(['ECL 210', 'GSP 240', 'HRT 130', 'HYD 310', 'LNG 140', 'VAL 110', 'VAL 220', 'WRT 310'])
    const operations = await db.select().from(s.planOperations).where(eq(s.planOperations.plan, plan)).orderBy(asc(s.planOperations.version))
    expect(operations.map(row => row.version)).toEqual(operations.map((_, i) => i + 1))
    const start: PlanEntry[] = before.map(({ entry: { plan: _, ...entry } }) => entry)
    const replayed = operations.reduce((list, { operation }) => {
      const next = applyOperation(list, operation)
      if (typeof next === 'string') throw new Error(next)
      return next
    }, start)
    const key = (entry: PlanEntry) => `${entry.id} ${entry.term}`
    expect(replayed.map(key).sort()).toEqual(entries.map(key).sort())
  })

  it('skips and names what no longer makes sense, and does the rest', async () => {
    const result = await edit(wren, [{ kind: 'move', entry: 'not-there', term: '2028SP' }, { kind: 'move', entry: 'VAL220-2027FA', term: '2028SP' }])
    expect(result.skipped).toMatchObject([{ why: 'no such course in the plan' }])
    expect(result.entries.find(entry => entry.course === 'VAL 220')?.term).toBe('2028SP')
  })

  it('refuses an unknown course whole: nothing of the request is written', async () => {
    const before = await edit(wren, [{ kind: 'note', entry: 'VAL220-2027FA', note: 'x' }])
    const answer = await wren.call('POST', '~/plan', { baseVersion: 0, operations: [{ kind: 'remove', entry: 'VAL220-2027FA' }, place('ZZZ 999', '2027FA')] })
    expect(answer.status).toBe(422)
    const after = await edit(wren, [{ kind: 'note', entry: 'VAL220-2027FA', note: 'y' }])
    expect(after.version).toBe(before.version + 1)
    expect(after.entries.length).toBe(before.entries.length)
  })
})
