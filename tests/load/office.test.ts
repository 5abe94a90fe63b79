import { randomUUID } from 'node:crypto'
import { and, desc, eq, inArray, isNotNull, sql } from 'drizzle-orm'
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import type { OpeningsEffect } from '../../shared/contract/acts/office'
import type { SeatList } from '../../shared/contract/views/college'
import type { LedgerRow, SectionStory } from '../../shared/contract/views/office'
import type { StudentState } from '../../shared/contract/views/student'
import * as s from '../../server/db/schema'
import { Client, close, db, openAccounts, problemOf } from './client'
import { broken } from './invariants'
import { settled } from './settled'
import { emptyWeeks, freshStudents, settleAccounts, TERM } from './students'

/** What the registrar's office does, against the tables: seats, cancelled sections, holds, openings, dates, and what is told of it. */
const COURSE = 'LNG 140'
const COUNT = 8
let ids: number[]
let clients: Client[]
let edda: Client
let sections: { section: number, pool: number, label: string }[]

beforeAll(async () => {
  ids = await freshStudents(COUNT, 140)
  clients = await Promise.all((await openAccounts(ids)).map(username => Client.signIn(username)))
  edda = await Client.signIn('edda')
})
beforeEach(async () => {
  await db.delete(s.waitlistEntries).where(inArray(s.waitlistEntries.student, ids))
  await db.delete(s.freedSeats)
  await emptyWeeks(ids)
  await settleAccounts(ids)
  await db.update(s.clockSetting).set({ demoNow: '2026-11-10T16:00:00.000Z', setAt: new Date().toISOString() })
  sections = await db.select({ section: s.sections.id, pool: s.seatPools.id, label: s.sections.label }).from(s.sections)
    .innerJoin(s.seatPools, eq(s.seatPools.section, s.sections.id)).where(and(eq(s.sections.course, COURSE), eq(s.sections.term, TERM),
      eq(s.sections.cancelled, false))).orderBy(s.sections.id)
})
afterAll(async () => {
  await db.delete(s.waitlistEntries).where(inArray(s.waitlistEntries.student, ids))
  await db.delete(s.freedSeats)
  await emptyWeeks(ids)
  await settleAccounts(ids)
  await db.update(s.clockSetting).set({ demoNow: '2026-11-10T16:00:00.000Z', setAt: new Date().toISOString() })
  await close()
})

/** The seats that a section has for everybody, with nobody in it. */
async function emptied(at: number, capacity: number) {
  const { section, pool } = sections[at]!
  const held = await db.select({ student: s.registrations.student }).from(s.registrations).where(eq(s.registrations.section, section))
  if (held.length > 0) await emptyWeeks(held.map(one => one.student))
  await db.update(s.seatPools).set({ capacity, taken: 0, held: 0 }).where(eq(s.seatPools.id, pool))
  return sections[at]!
}
async function register(client: Client, section: number) {
  await db.insert(s.lineUpRows).values({ student: client.id, term: TERM, course: COURSE, position: 0, sectionIds: [section] })
  const [row] = await db.select().from(s.lineUpRows).where(and(eq(s.lineUpRows.student, client.id), eq(s.lineUpRows.course, COURSE)))
  await client.json('POST', '~/registrations', { term: TERM, key: randomUUID(), rowIds: [row!.id] })
}
const seatsOf = async (pool: number) => (await db.select().from(s.seatPools).where(eq(s.seatPools.id, pool)))[0]!
const setSeats = (section: number, seats: { for: string | null, seats: number }[], seen: { for: string | null, seats: number }[]) =>
  edda.call('PUT', '/api/seats', { section, seats, seen })
const cancel = (section: number, cancelled = true) => edda.call('PUT', '/api/sections', { section, cancelled,
  because: 'No teacher was found' })
/** Of the invariants those that are about these seats: other tests leave ledgers of their own. */
async function whole(pools: readonly number[]) {
  const found = await broken(db, { money: false })
  for (const [what, rows] of Object.entries(found)) expect(rows.filter(row => pools.includes(row.id as number)), what).toEqual([])
}

describe('the seats of a section', () => {
  it('cannot be fewer than are taken, and are not set over what somebody else set meanwhile', async () => {
    const { section, pool } = await emptied(0, 5)
    await Promise.all(clients.slice(0, 3).map(client => register(client, section)))
    const all = (seats: number) => [{ for: null, seats }]
    expect(await problemOf(await setSeats(section, all(2), all(5)))).toMatchObject({ status: 422, code: 'seats-taken',
      title: expect.stringContaining('3 of its seats') })
    expect(await problemOf(await setSeats(section, all(9), all(7)))).toMatchObject({ status: 409, code: 'seats-changed' })
    expect(await problemOf(await setSeats(section, [...all(4), { for: 'NOBODY', seats: 1 }], all(5)))).toMatchObject({ status: 422,
      code: 'group-unknown' })
    expect((await seatsOf(pool)).capacity).toBe(5)
    expect((await setSeats(section, [...all(4), { for: 'senior', seats: 2 }], all(5))).status).toBe(200)
    expect((await db.select().from(s.seatPools).where(eq(s.seatPools.section, section)).orderBy(s.seatPools.id))
      .map(one => [one.forGroup, one.capacity])).toEqual([[null, 4], ['senior', 2]])
    const [told] = await db.select().from(s.ledger).where(and(eq(s.ledger.section, section), eq(s.ledger.action, 'set seats')))
      .orderBy(desc(s.ledger.id))
    expect(told).toMatchObject({ actor: edda.id, detail: { before: [{ for: null, seats: 5 }] } })
    expect((await setSeats(section, all(6), [...all(4), { for: 'senior', seats: 2 }])).status).toBe(200)
    expect(await db.$count(s.seatPools, eq(s.seatPools.section, section))).toBe(1)
  })

  it('that are new go to those who wait, in their order, and the rest to everybody', async () => {
    const { section, pool } = await emptied(0, 2)
    await Promise.all(clients.slice(0, 2).map(client => register(client, section)))
    for (const [i, client] of clients.slice(2, 5).entries())
      await db.insert(s.waitlistEntries).values({ student: client.id, section, joined: `2026-11-10T10:00:0${i}.000Z`, bundle: [section] })
    expect((await setSeats(section, [{ for: null, seats: 4 }], [{ for: null, seats: 2 }])).status).toBe(200)
    // At no moment is a seat free for somebody who comes while others wait.
    const { capacity, taken, held } = await seatsOf(pool)
    expect(capacity - taken - held).toBe(0)
    await settled(async () => {
      const offered = await db.select().from(s.waitlistEntries).where(and(eq(s.waitlistEntries.section, section),
        isNotNull(s.waitlistEntries.offerUntil)))
      expect(offered.map(one => one.student).sort()).toEqual(clients.slice(2, 4).map(one => one.id).sort())
    })
    await whole([pool])
  })
})

describe('a cancelled section', () => {
  it('gives everything back, holds a seat elsewhere for those who were first, ends the waits, and is told to everybody', async () => {
    const [from, to] = [await emptied(0, 6), await emptied(1, 3)]
    for (const other of sections.slice(2)) await db.update(s.seatPools).set({ capacity: sql`taken + held` }).where(eq(s.seatPools.id,
      other.pool))
    for (const client of clients.slice(0, 6)) await register(client, from.section)
    await db.insert(s.waitlistEntries).values({ student: clients[6]!.id, section: from.section, joined: '2026-11-10T10:00:00.000Z',
      bundle: [from.section] })
    const story = await edda.json<SectionStory>('GET', `/api/sections?term=${TERM}&section=${from.section}&consequences=1`)
    expect(story.registered).toHaveLength(6)
    expect(story.touched!.map(one => one.other?.label ?? null)).toEqual([to.label, to.label, to.label, null, null, null])
    expect((await cancel(from.section)).status).toBe(200)
    expect(await problemOf(await cancel(from.section))).toMatchObject({ status: 409, code: 'no-change' })
    await settled(async () => {
      expect(await db.$count(s.registrations, eq(s.registrations.section, from.section))).toBe(0)
      expect(await db.$count(s.waitlistEntries, eq(s.waitlistEntries.section, from.section))).toBe(0)
    })
    const offered = await db.select().from(s.waitlistEntries).where(eq(s.waitlistEntries.section, to.section)).orderBy(s.waitlistEntries.id)
    expect(offered.map(one => one.student)).toEqual(clients.slice(0, 3).map(one => one.id))
    expect(offered.every(one => one.offerUntil !== null && one.offerPool === to.pool)).toBe(true)
    await whole([from.pool, to.pool])
    for (const client of clients.slice(0, 6)) {
      const entries = await db.select().from(s.moneyEntries).where(eq(s.moneyEntries.student, client.id))
      expect(entries.reduce((sum, one) => sum + (one.kind === 'charge' ? one.cents : -one.cents), 0)).toBe(0)
      expect(entries.map(one => one.kind).sort()).toEqual(['charge', 'refund'])
      const [notice] = await db.select().from(s.notices).where(eq(s.notices.person, client.id)).orderBy(desc(s.notices.id)).limit(1)
      expect(notice!.notice).toMatchObject({ code: 'section cancelled', waited: false })
    }
    const [first, , , fourth] = clients as [Client, Client, Client, Client]
    const state = await first.json<StudentState>('GET', `~?term=${TERM}`)
    expect(state.gone).toEqual([{ course: COURSE, label: from.label }])
    expect((await fourth.json<StudentState>('GET', `~?term=${TERM}`)).waitlisted).toEqual([])
    // The offer is taken like any other, and then nothing is gone any more.
    const taken = await first.json<{ done: boolean }>('POST', '~/offers', { term: TERM, key: randomUUID(), entry: offered[0]!.id,
      drops: [] })
    expect(taken.done).toBe(true)
    expect((await first.json<StudentState>('GET', `~?term=${TERM}`)).gone).toEqual([])
    await whole([from.pool, to.pool])
    const told = await edda.json<{ rows: LedgerRow[] }>('GET', `/api/ledger?section=${from.section}`)
    expect(told.rows.filter(row => row.action === 'section cancelled')).toHaveLength(6)
    expect(told.rows.find(row => row.action === 'cancel section')).toMatchObject({ actor: 'Edda Rowntree', detail: {
      because: 'No teacher was found' } })
    expect((await cancel(from.section, false)).status).toBe(200)
  })

  it('serves each once while the same students drop it, and while it is cancelled twice at the same moment', async () => {
    const [from, to] = [await emptied(0, 8), await emptied(1, 8)]
    for (const client of clients) await register(client, from.section)
    const done = await Promise.all([cancel(from.section), cancel(from.section), ...clients.slice(0, 4).map(client =>
      client.call('POST', '~/drops', { term: TERM, key: randomUUID(), courses: [COURSE], everything: true }))])
    expect(done.slice(0, 2).map(answer => answer.status).sort()).toEqual([200, 409])
    expect(done.every(answer => [200, 409].includes(answer.status))).toBe(true)
    await settled(async () => expect(await db.$count(s.registrations, eq(s.registrations.section, from.section))).toBe(0))
    const ends = await db.select().from(s.ledger).where(and(eq(s.ledger.pool, from.pool), inArray(s.ledger.student, ids),
      inArray(s.ledger.action, ['drop', 'section cancelled'])))
    expect(ends).toHaveLength(8)
    expect(new Set(ends.map(one => one.student)).size).toBe(8)
    await whole([from.pool, to.pool])
    for (const id of ids) {
      const entries = await db.select().from(s.moneyEntries).where(eq(s.moneyEntries.student, id))
      expect(entries.reduce((sum, one) => sum + (one.kind === 'charge' ? one.cents : -one.cents), 0)).toBe(0)
    }
    expect((await cancel(from.section, false)).status).toBe(200)
  })

  it('gives everything back after the last day to drop, too, and holds nothing after the last to add', async () => {
    const [from] = [await emptied(0, 2), await emptied(1, 2)]
    await register(clients[0]!, from.section)
    const [term] = await db.select().from(s.terms).where(eq(s.terms.code, TERM))
    await db.update(s.clockSetting).set({ demoNow: `${term!.withdrawBy}T18:00:00.000Z`, setAt: new Date().toISOString() })
    expect((await cancel(from.section)).status).toBe(200)
    await settled(async () => expect(await db.$count(s.registrations, eq(s.registrations.section, from.section))).toBe(0))
    const entries = await db.select().from(s.moneyEntries).where(eq(s.moneyEntries.student, ids[0]!))
    expect(entries.find(one => one.kind === 'refund')!.cents).toBe(entries.find(one => one.kind === 'charge')!.cents)
    expect(await db.$count(s.waitlistEntries, eq(s.waitlistEntries.student, ids[0]!))).toBe(0)
    // No W: the student did not leave it.
    expect(await db.$count(s.records, and(eq(s.records.student, ids[0]!), eq(s.records.course, COURSE)))).toBe(0)
    expect((await cancel(from.section, false)).status).toBe(200)
  })

  it('is no act of a term that is over, nor of anybody but the office', async () => {
    const [past] = await db.select().from(s.sections).innerJoin(s.terms, eq(s.terms.code, s.sections.term)).orderBy(s.terms.end).limit(1)
    await db.update(s.clockSetting).set({ demoNow: `${past!.terms.end}T18:00:00.000Z`, setAt: new Date().toISOString() })
    await db.update(s.clockSetting).set({ demoNow: '2027-05-30T18:00:00.000Z' })
    expect(await problemOf(await cancel(past!.sections.id))).toMatchObject({ status: 422, code: 'term-over' })
    expect((await clients[0]!.call('PUT', '/api/sections', { section: sections[0]!.section, cancelled: true,
      because: 'so' })).status).toBe(403)
  })
})

describe('holds and confirmations', () => {
  const holdsOf = () => db.select().from(s.holds).where(and(inArray(s.holds.student, ids), sql`${s.holds.cleared} IS NULL`))
  it('are placed on a whole list or on nobody, and cleared together', async () => {
    const usernames = clients.slice(0, 3).map(client => client.username)
    const send = (names: string[]) => edda.json<{ placed: number, unknown: string[] }>('POST', '/api/holds', { usernames: names,
      reason: 'An overdue field recorder', contact: 'library@larkmoor.example' })
    expect(await send([...usernames, 'nobody-here', 'hollis'])).toEqual({ placed: 0, unknown: ['nobody-here', 'hollis'] })
    expect(await holdsOf()).toEqual([])
    expect(await send([...usernames, usernames[0]!])).toEqual({ placed: 3, unknown: [] })
    const holds = await holdsOf()
    expect(holds).toHaveLength(3)
    const refused = await clients[0]!.json<StudentState>('GET', `~?term=${TERM}`)
    expect(refused.gates.find(gate => gate.kind === 'holds')!.open).toBe(false)
    expect(await edda.json('PUT', '/api/holds', { holds: holds.map(one => one.id) })).toEqual({ cleared: 3 })
    expect(await edda.json('PUT', '/api/holds', { holds: holds.map(one => one.id) })).toEqual({ cleared: 0 })
    expect(await holdsOf()).toEqual([])
  })
  it('leave a hold of the college\'s own rules until it is paid', async () => {
    await db.insert(s.holds).values({ student: ids[0]!, placedBy: `fees ${TERM}`, reason: 'Fees', contact: 'bursar',
      placed: '2026-11-10T10:00:00.000Z' })
    const [hold] = await holdsOf()
    expect(await problemOf(await edda.call('PUT', '/api/holds', { holds: [hold!.id] }))).toMatchObject({ status: 422,
      code: 'hold-by-rule' })
    expect(await holdsOf()).toHaveLength(1)
    await db.delete(s.holds).where(inArray(s.holds.student, ids))
  })
  it('confirm each program once', async () => {
    await db.update(s.students).set({ programConfirmed: false }).where(inArray(s.students.person, ids.slice(0, 2)))
    expect(await edda.json('PUT', '/api/programs/confirmed', { students: ids.slice(0, 4) })).toEqual({ confirmed: 2 })
    expect(await edda.json('PUT', '/api/programs/confirmed', { students: ids.slice(0, 4) })).toEqual({ confirmed: 0 })
  })
})

describe('openings and dates', () => {
  interface Opening { from: string, program: string | null, earnedMin: number, words: string }
  it('say whom they let in and whose moment moves before they are kept, and are not kept over another\'s change', async () => {
    const seen: Opening[] = (await edda.json<(Opening & { term: string })[]>('GET', '/api/openings')).filter(one => one.term === TERM)
      .map(({ term: _, ...one }) => one)
    const send = (openings: Opening[], keep: boolean, before = seen) => edda.call('PUT', '/api/openings', { term: TERM, openings,
      seen: before,
      keep })
    const effect = async (openings: Opening[]) => ((await (await send(openings, false)).json()) as { answer: OpeningsEffect }).answer
    const students = await db.$count(s.students)
    const same = await effect(seen)
    expect(same).toMatchObject({ kept: false, earlier: 0, later: 0, gained: 0, lost: 0 })
    expect(same.openings.reduce((sum, one) => sum + one.students, 0) + same.without).toBe(students)
    const none = await effect([])
    expect(none).toMatchObject({ without: students, lost: students - same.without })
    const day = (from: string) => new Date(Date.parse(from) + 86_400_000).toISOString()
    const later = seen.map(one => ({ ...one, from: day(one.from) }))
    expect(await effect(later)).toMatchObject({ later: students - same.without, earlier: 0, lost: 0 })
    expect((await db.select().from(s.openings).where(eq(s.openings.term, TERM))).length).toBe(seen.length)
    expect((await send(later, true)).status).toBe(200)
    expect(await problemOf(await send(seen, true))).toMatchObject({ status: 409, code: 'openings-changed' })
    expect((await send(seen, true, later)).status).toBe(200)
    expect(await problemOf(await send([...seen, { ...seen[0]!, program: 'NO-BS' }], true))).toMatchObject({ status: 422,
      code: 'program-unknown' })
    expect(await problemOf(await send([...seen, seen[0]!], true))).toMatchObject({ status: 422, code: 'named-twice' })
  })
  it('keep dates that come in order, and refuse others in words', async () => {
    const read = async () => (await db.select().from(s.terms).where(eq(s.terms.code, TERM)))[0]!
    const { addBy, dropBy, withdrawBy, feesDue, loadCap, fullTime } = await read()
    const send = (change: object) => edda.call('PUT', '/api/terms/dates', { term: TERM, addBy, dropBy, withdrawBy, feesDue, loadCap,
      fullTime,
      ...change })
    expect(await problemOf(await send({ dropBy: '2026-01-01' }))).toMatchObject({ status: 422, code: 'dates-wrong' })
    expect((await read()).dropBy).toBe(dropBy)
    expect((await send({ loadCap: loadCap + 100 })).status).toBe(200)
    expect((await read()).loadCap).toBe(loadCap + 100)
    expect((await send({})).status).toBe(200)
  })
})

describe('the list of sections', () => {
  const list = (query: Record<string, string> = {}) =>
    edda.json<SeatList>('GET', `/api/seats?${new URLSearchParams({ term: TERM, most: '500', ...query })}`)
  const idsOf = ({ rows }: SeatList) => rows.map(row => row.id)

  it('has every section of the term once, in parts, what needs doing first, and the sums of all', async () => {
    const all = await db.select({ id: s.sections.id }).from(s.sections).where(eq(s.sections.term, TERM))
    const parts = []
    for (let from = 0; from < all.length; from += 100) parts.push(await list({ from: String(from), most: '100' }))
    const rows = parts.flatMap(part => part.rows)
    expect(rows.map(row => row.id).sort((a, b) => a - b)).toEqual(all.map(one => one.id).sort((a, b) => a - b))
    expect(rows.map(row => row.urgency)).toEqual(rows.map(row => row.urgency).sort((a, b) => b - a))
    const [sums] = await db.select({ capacity: sql<number>`SUM(capacity)`, taken: sql<number>`SUM(taken)` }).from(s.seatPools)
      .innerJoin(s.sections, eq(s.sections.id, s.seatPools.section)).where(and(eq(s.sections.term, TERM), eq(s.sections.cancelled, false)))
    expect(parts[0]).toMatchObject({ found: all.length, sections: all.length, capacity: Number(sums!.capacity), taken: Number(sums!.taken),
      needing: rows.filter(row => row.urgency > 9).length })
  })

  it('is ordered by what is asked, and narrowed by words in any order', async () => {
    const left = (await list({ by: 'left', down: '1', most: '40' })).rows.map(row => row.capacity - row.taken - row.held)
    expect(left).toEqual([...left].sort((a, b) => b - a))
    const courses = (await list({ by: 'course', down: '0', most: '40' })).rows.map(row => row.course)
    expect(courses).toEqual([...courses].sort())
    const found = await list({ text: `lecture ${COURSE.toLowerCase()}` })
    expect(found.found).toBe(found.rows.length)
    expect(found.rows.every(row => row.course === COURSE && row.part === 'lecture')).toBe(true)
    expect(found.rows.length).toBeGreaterThan(0)
    expect(await list({ text: 'nothing has these words' })).toMatchObject({ rows: [], found: 0 })
    expect((await edda.call('GET', `/api/seats?term=${TERM}&by=anything`)).status).toBe(400)
  })

  it('shows what was cancelled a moment ago', async () => {
    const { section } = await emptied(1, 6)
    expect((await list({ text: COURSE })).rows.find(row => row.id === section)!.cancelled).toBe(false)
    await cancel(section)
    const row = (await list({ text: COURSE })).rows.find(one => one.id === section)!
    expect(row.cancelled).toBe(true)
    await cancel(section, false)
    expect(idsOf(await list({ text: COURSE, by: 'label' }))).toContain(section)
  })
})

describe('what the office sees', () => {
  it('is what needs it, with an import that was refused until one is put in force', async () => {
    const needs = async () => (await edda.json<{ needs: { code: string }[] }>('GET', `/api/office?term=${TERM}`)).needs
    expect((await needs()).map(one => one.code)).not.toContain('import refused')
    await edda.json('POST', '/api/college', { files: { 'sites.csv': 'site,name\r\nx,\r\n' }, keep: true })
    expect(await needs()).toContainEqual(expect.objectContaining({ code: 'import refused', problems: 1,
      first: expect.stringContaining('sites.csv, row 2') }))
    const [site] = await db.select().from(s.sites).limit(1)
    await edda.json('POST', '/api/college', { files: { 'sites.csv': `site,name\r\n${site!.code},${site!.name}\r\n` }, keep: true })
    expect((await needs()).map(one => one.code)).not.toContain('import refused')
  })
  it('is the whole story, page by page, without a line twice', async () => {
    const seen: number[] = []
    for (let before = ''; ;) {
      const { rows, more } = await edda.json<{ rows: LedgerRow[], more: boolean }>('GET', `/api/ledger?action=set%20seats${before}`)
      seen.push(...rows.map(row => row.id))
      if (!more) break
      before = `&before=${rows.at(-1)!.id}`
    }
    expect(seen).toEqual([...new Set(seen)].sort((a, b) => b - a))
    expect(seen).toHaveLength(await db.$count(s.ledger, eq(s.ledger.action, 'set seats')))
    const pace = await edda.json<{ openings: { minutes: number[], term: string }[] }>('GET', `/api/office/pace?term=${TERM}`)
    expect(pace.openings.length).toBeGreaterThan(0)
    for (const { minutes } of pace.openings) expect([...minutes].sort((a, b) => a - b)).toEqual(minutes)
  })
})
