import { randomUUID } from 'node:crypto'
import { and, eq, inArray } from 'drizzle-orm'
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import type { RunResult } from '../../shared/contract/acts/student'
import type { Found } from '../../shared/contract/views/find'
import * as s from '../../server/db/schema'
import { Client, close, db, openAccounts, problemOf } from './client'
import { emptyWeeks, freshStudents, lectureOf, TERM } from './students'

/** How rows are set up, and what becomes of them when many press at once: backups in order, waitlists, seats under two names. */
const CLIENTS = 12
let ids: number[]
let clients: Client[]

beforeAll(async () => {
  ids = await freshStudents(CLIENTS, 60)
  clients = await Promise.all((await openAccounts(ids)).map(username => Client.signIn(username)))
})
beforeEach(async () => {
  await emptyWeeks(ids)
  await db.delete(s.waitlistEntries).where(inArray(s.waitlistEntries.student, ids))
})
afterAll(close)

/** All lectures of a course that could be taken, the first two emptied. */
async function twoLectures(course: string, first: number, second: number) {
  const one = await lectureOf(course, first)
  const sections = await db.select().from(s.sections).where(and(eq(s.sections.course, course), eq(s.sections.term, TERM),
    eq(s.sections.cancelled, false)))
  const other = sections.find(section => section.id !== one.section && section.seatsWith === null)!
  const holders = await db.select({ student: s.registrations.student }).from(s.registrations).where(eq(s.registrations.section, other.id))
  if (holders.length > 0) await emptyWeeks(holders.map(row => row.student))
  await db.update(s.seatPools).set({ capacity: second, taken: 0, held: 0 }).where(eq(s.seatPools.section, other.id))
  return [one.section, other.id] as const
}
const choose = (client: Client, course: string, section: number) =>
  client.json('PUT', '~/line-up', { term: TERM, choices: [{ course, sectionIds: [section] }] })
const rowOf = async (client: Client) =>
  (await client.json<{ lineUp: { id: number, course: string }[] }>('GET', `~?term=${TERM}`)).lineUp
const press = (client: Client, rowIds: number[]) =>
  client.json<RunResult>('POST', '~/registrations', { term: TERM, key: randomUUID(), rowIds })

describe('twelve who press at once', () => {
  it('take the first choice, then the backup, then the places of the waitlist, and nobody more', async () => {
    const [first, backup] = await twoLectures('LNG 140', 3, 4)
    await db.update(s.sections).set({ waitlistCapacity: 2 }).where(eq(s.sections.id, first))
    await db.delete(s.waitlistEntries).where(eq(s.waitlistEntries.section, first))
    await db.update(s.terms).set({ sectionsVersion: 7001 }).where(eq(s.terms.code, TERM))
    const rows = await Promise.all(clients.map(async (client) => {
      await choose(client, 'LNG 140', first)
      await client.json('PUT', '~/line-up/row', { term: TERM, course: 'LNG 140', backups: [[backup]], waitIfFull: true })
      return (await rowOf(client))[0]!.id
    }))
    const results = (await Promise.all(clients.map((client, i) => press(client, [rows[i]!])))).map(result => result.rows[0]!)
    const kinds = results.map(row => row.outcome === 'register' ? `register ${row.backup}` : row.outcome).sort()
    expect(kinds).toEqual([...Array(3).fill('refused'), ...Array(3).fill('register 0'), ...Array(4).fill('register 1'),
      ...Array(2).fill('waitlist')])
    expect(results.flatMap(row => row.waits.map(wait => wait.place)).sort()).toEqual([1, 2])
    const held = await db.select().from(s.registrations).where(inArray(s.registrations.student, ids))
    expect([held.filter(row => row.section === first).length, held.filter(row => row.section === backup).length]).toEqual([3, 4])
    const waiting = await db.select().from(s.waitlistEntries).where(eq(s.waitlistEntries.section, first))
    const told = await db.select().from(s.ledger).where(and(eq(s.ledger.section, first), eq(s.ledger.action, 'join waitlist')))
    expect(told.map(row => row.student).sort()).toEqual(waiting.map(row => row.student).sort())
    // Who registered or waits has no row any more; who was refused keeps it.
    const left = await db.select().from(s.lineUpRows).where(inArray(s.lineUpRows.student, ids))
    expect(left).toHaveLength(3)
  })

  it('never take more seats than a class has that goes under two names', async () => {
    const owner = await lectureOf('HRT 130', 5)
    const [other] = (await db.select().from(s.sections).where(and(eq(s.sections.course, 'VAL 110'), eq(s.sections.term, TERM),
      eq(s.sections.cancelled, false)))).filter(section => section.seatsWith === null)
    await db.update(s.sections).set({ seatsWith: owner.section }).where(eq(s.sections.id, other!.id))
    await db.update(s.terms).set({ sectionsVersion: 7002 }).where(eq(s.terms.code, TERM))
    const rows = await Promise.all(clients.map(async (client, i) => {
      await choose(client, i % 2 ? 'HRT 130' : 'VAL 110', i % 2 ? owner.section : other!.id)
      return (await rowOf(client))[0]!.id
    }))
    const results = await Promise.all(clients.map((client, i) => press(client, [rows[i]!])))
    expect(results.filter(result => result.rows[0]!.outcome === 'register')).toHaveLength(5)
    const [pool] = await db.select().from(s.seatPools).where(eq(s.seatPools.id, owner.pool))
    expect(pool!.taken).toBe(5)
    await emptyWeeks(ids)
    await db.update(s.sections).set({ seatsWith: null }).where(eq(s.sections.id, other!.id))
    await db.update(s.terms).set({ sectionsVersion: 7003 }).where(eq(s.terms.code, TERM))
  })
})

describe('setting up rows', () => {
  it('keeps what was set, through another choice, and registers with the grading that was chosen', async () => {
    const client = clients[0]!
    const [first, other] = await twoLectures('LNG 140', 5, 5)
    await db.update(s.sections).set({ gradingModes: ['letter', 'pass'] }).where(inArray(s.sections.id, [first, other]))
    await db.update(s.terms).set({ sectionsVersion: 7004 }).where(eq(s.terms.code, TERM))
    await choose(client, 'LNG 140', first)
    await client.json('PUT', '~/line-up/row', { term: TERM, course: 'LNG 140', backups: [[other], [other], [first]], grading: 'pass' })
    const [row] = await db.select().from(s.lineUpRows).where(eq(s.lineUpRows.student, client.id))
    expect([row!.backups, row!.grading]).toEqual([[[other]], 'pass'])
    // The backup becomes the first choice: it is no backup any more.
    await choose(client, 'LNG 140', other)
    const [again] = await db.select().from(s.lineUpRows).where(eq(s.lineUpRows.student, client.id))
    expect([again!.sectionIds, again!.backups, again!.grading]).toEqual([[other], [], 'pass'])
    await press(client, [again!.id])
    const [held] = await db.select().from(s.registrations).where(eq(s.registrations.student, client.id))
    expect(held!.grading).toBe('pass')
  })

  it('refuses in words what a section or a course does not offer, and an order of other courses', async () => {
    const client = clients[1]!
    const [first] = await twoLectures('LNG 140', 5, 5)
    await choose(client, 'LNG 140', first)
    const refused = async (body: object, path = 'row') => problemOf(await client.call('PUT', `~/line-up/${path}`, { term: TERM, ...body }))
    expect((await refused({ course: 'VAL 110', waitIfFull: true })).code).toBe('row-unknown')
    expect((await refused({ course: 'LNG 140', credits: 900 })).code).toBe('credits-out-of-range')
    expect((await refused({ course: 'LNG 140', backups: [[999_999]] })).code).toBe('section-unknown')
    expect((await refused({ course: 'LNG 140', backups: Array(6).fill([first]) })).status).toBe(400)
    expect((await refused({ courses: ['VAL 110'] }, 'order')).code).toBe('line-up-changed')
  })

  it('keeps an order', async () => {
    const client = clients[2]!
    for (const course of ['LNG 140', 'VAL 110', 'HRT 130']) await choose(client, course, (await lectureOf(course, 5)).section)
    await client.json('PUT', '~/line-up/order', { term: TERM, courses: ['HRT 130', 'LNG 140', 'VAL 110'] })
    expect((await rowOf(client)).map(row => row.course)).toEqual(['HRT 130', 'LNG 140', 'VAL 110'])
  })
})

describe('what is kept for the week', () => {
  it('holds as much as the limits say, and refuses more in words', async () => {
    const client = clients[3]!
    const block = (i: number) => ({ id: `w${i}`, weight: 'hard', kind: 'keep free', days: ['M'], start: 600, end: 660 })
    await client.json('PUT', '~/week-wishes', { term: TERM, wishes: [block(1)] })
    expect((await client.call('PUT', '~/week-wishes', { term: TERM, wishes: Array.from({ length: 31 }, (_, i) =>
      block(i)) })).status).toBe(400)
    expect((await problemOf(await client.call('PUT', '~/week-wishes', { term: TERM, wishes: [block(1),
      block(1)] }))).code).toBe('wish-twice')
    expect((await client.call('PUT', '~/week-wishes', { term: TERM, wishes: [{ ...block(1), end: 500 }] })).status).toBe(400)
    for (let i = 0; i < 20; i++) await client.json('PUT', '~/searches', { name: `search ${i}`, search: { text: 'water' } })
    expect((await problemOf(await client.call('PUT', '~/searches', { name: 'one more',
      search: { text: '' } }))).code).toBe('too-many-searches')
    await client.json('PUT', '~/searches', { name: 'search 3', search: { text: 'snow' } })
    await client.json('PUT', '~/searches', { name: 'search 4', search: null })
    const kept = await db.select().from(s.keptSearches).where(eq(s.keptSearches.student, client.id))
    expect([kept.length, kept.find(row => row.name === 'search 3')!.search.text]).toEqual([19, 'snow'])
  })

  it('shows in a search what is on the shortlist, and what hits hours that are kept free', async () => {
    const client = clients[4]!
    const { section } = await lectureOf('LNG 140', 5)
    await client.json('PUT', '~/shortlist', { term: TERM, course: 'LNG 140', sectionIds: [section], keep: true })
    const [meeting] = await db.select().from(s.meetings).where(eq(s.meetings.section, section))
    await client.json('PUT', '~/week-wishes', { term: TERM, wishes: [{ id: 'k', weight: 3, kind: 'keep free', days: meeting!.days,
      start: meeting!.start,
      end: meeting!.end, name: 'shift' }] })
    const search = encodeURIComponent(JSON.stringify({ text: '', remembered: true }))
    const found = await client.json<Found>('GET', `~/find?term=${TERM}&search=${search}`)
    expect(found.courses.map(one => [one.course, one.bundles.map(bundle => [bundle.id, bundle.hits])])).toEqual([['LNG 140',
      [[String(section),
        ['shift']]]]])
    expect((await client.call('GET', `~/find?term=${TERM}&search=no`)).status).toBe(400)
    expect((await problemOf(await client.call('PUT', '~/shortlist', { term: TERM, course: 'LNG 140', sectionIds: [999_999],
      keep: true }))).code)
      .toBe('section-unknown')
  })
})

describe('a bundle and its backups', () => {
  it('are chosen in one act, and nothing of it is kept where one of them is no bundle', async () => {
    const [client, student] = [clients[0]!, ids[0]!]
    const [first, second] = await twoLectures('LNG 140', 3, 3)
    const foreign = await lectureOf('VAL 110', 3)
    const rowsOf = () => db.select().from(s.lineUpRows).where(eq(s.lineUpRows.student, student))
    const send = (backups: number[][] | undefined, sectionIds = [first]) =>
      client.json('PUT', '~/line-up', { term: TERM, choices: [{ course: 'LNG 140', sectionIds, backups }] })

    const refused = await client.call('PUT', '~/line-up', { term: TERM, choices: [{ course: 'LNG 140', sectionIds: [first],
      backups: [[second], [foreign.section]] }] })
    expect(await problemOf(refused)).toMatchObject({ code: 'section-unknown' })
    expect(await rowsOf()).toEqual([])
    await send([[second], [first], [second]])
    expect((await rowsOf()).map(row => [row.sectionIds, row.backups])).toEqual([[[first], [[second]]]])
    // Another first choice keeps the backups that are none of it; an empty list takes them away.
    await send(undefined, [second])
    expect((await rowsOf())[0]!.backups).toEqual([])
    await send([[first]], [second])
    await send(undefined, [second])
    expect((await rowsOf())[0]!.backups).toEqual([[first]])
    await send([], [second])
    expect((await rowsOf())[0]!.backups).toEqual([])
  })
})
