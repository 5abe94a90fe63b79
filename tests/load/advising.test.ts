import { and, eq } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest'
import type { AdviseeRow, Brief } from '../../shared/contract/views/advising'
import type { Sheet, StudentState } from '../../shared/contract/views/student'
import { VIEWS } from '../../shared/contract'
import * as s from '../../server/db/schema'
import { Client, close, db, News, problemOf } from './client'

/** Advising through the server's routes: what student and advisor say to each other, and that it holds at once and for nobody else. */
const TERM = '2027SP'
let corin: Client
let bryn: Client
let anselm: Client
let sunniva: Client
let edda: Client
beforeAll(async () => {
  ;[corin, bryn, anselm, sunniva, edda] = await Promise.all(['corin', 'bryn', 'anselm', 'sunniva',
    'edda'].map(name => Client.signIn(name))) as
  [Client, Client, Client, Client, Client]
  await db.update(s.clockSetting).set({ demoNow: '2026-11-09T15:00:00.000Z', setAt: new Date().toISOString() })
})
afterAll(close)

const state = (client: Client) => client.json<StudentState>('GET', `~?term=${TERM}`)
const of = (client: Client, what: string) => `/api/students/${client.id}/${what}`
const planned = (now: StudentState) => now.file.entries.filter(entry => entry.term === TERM).map(({ course, credits }) => ({ course,
  credits }))
const advisees = (client: Client) => client.json<AdviseeRow[]>('GET', `/api/advisees?term=${TERM}`)
const needs = async (advisor: Client, student: Client) =>
  (await advisees(advisor)).find(row => row.id === student.id)?.needs.map(need => need.code)

describe('review', () => {
  it('asked for with what the plan answers, given back with words, asked for again, signed off, withdrawn with a reason', async () => {
    await corin.json('POST', '~/sign-off-request', { term: TERM, note: 'as we said' })
    const asked = await state(corin)
    expect(asked.signOffAsked).toMatchObject({ note: 'as we said', answers: { credits: expect.any(Number), blockers: expect.any(Number) } })
    expect((await needs(anselm, corin))![0]).toBe('sign-off asked')

    expect((await corin.call('PUT', '~/sign-off-request', { term: TERM, words: 'no' })).status).toBe(403)
    await anselm.json('PUT', of(corin, 'sign-off-request'), { term: TERM, words: 'One language course too many.' })
    expect(await problemOf(await anselm.call('PUT', of(corin, 'sign-off-request'), { term: TERM, words: 'again' })))
      .toMatchObject({ status: 409, code: 'not-asked' })
    const returned = await state(corin)
    expect(returned.returned).toMatchObject({ by: 'Anselm Croft', words: 'One language course too many.', withdrawn: false })
    expect(returned.signOffAsked).toBeNull()
    expect(await needs(anselm, corin)).not.toContain('sign-off asked')

    await corin.json('POST', '~/sign-off-request', { term: TERM })
    expect((await state(corin)).returned).toBeNull()
    await anselm.json('POST', of(corin, 'sign-off'), { term: TERM, seen: planned(await state(corin)) })
    expect((await state(corin)).gates.find(gate => gate.kind === 'sign-off')!.open).toBe(true)

    expect(await problemOf(await anselm.call('DELETE', `${of(corin, 'sign-off')}?term=${TERM}&words=x`))).toMatchObject({ status: 400 })
    await anselm.json('DELETE', `${of(corin, 'sign-off')}?term=${TERM}&words=${encodeURIComponent('Signed the wrong plan.')}`)
    const after = await state(corin)
    expect(after.gates.find(gate => gate.kind === 'sign-off')!.open).toBe(false)
    expect(after.returned).toMatchObject({ withdrawn: true, words: 'Signed the wrong plan.' })
    const kept = await db.select().from(s.ledger).where(and(eq(s.ledger.student, corin.id), eq(s.ledger.action, 'withdraw sign-off')))
    expect(kept.map(row => row.detail)).toEqual([{ term: TERM, words: 'Signed the wrong plan.' }])
  })

  it('a plan that changed since the advisor looked is not signed, and the difference is told', async () => {
    const seen = planned(await state(corin)).slice(1)
    expect(await problemOf(await anselm.call('POST', of(corin, 'sign-off'), { term: TERM, seen })))
      .toMatchObject({ status: 409, code: 'moved-on', title: expect.stringContaining('was added') })
  })
})

describe('suggestions', () => {
  it('stand beside the plan until they are taken or declined, line by line; what fits no more is left and named', async () => {
    const before = await state(bryn)
    const [first, second] = before.file.entries
    const plan = before.plan.id
    const lines = [[{ kind: 'remove', entry: first!.id }], [{ kind: 'remove', entry: second!.id }],
      [{ kind: 'place', entry: 'suggested-1', course: 'VAL 110', term: '2028SU', credits: 300 }]]
    expect((await bryn.call('POST', '~/suggestions', { plan, lines })).status).toBe(403)
    await anselm.json('POST', of(bryn, 'suggestions'), { plan, why: 'lighter', lines })
    const offered = await state(bryn)
    expect(offered.suggestions).toHaveLength(3)
    expect(offered.file.entries).toEqual(before.file.entries)

    // The student takes the first out by themselves meanwhile.
    await bryn.json('POST', '~/plan', { baseVersion: offered.plan.version, operations: [{ kind: 'remove', entry: first!.id }] })
    const [a, b, c] = offered.suggestions
    expect((await anselm.call('PUT', of(bryn, 'suggestions'), { ids: [a!.id], take: true })).status).toBe(403)
    const { left } = await bryn.json<{ left: { id: number }[] }>('PUT', '~/suggestions', { ids: [a!.id, c!.id], take: true })
    expect(left.map(one => one.id)).toEqual([a!.id])
    await bryn.json('PUT', '~/suggestions', { ids: [b!.id], take: false, words: 'I need it' })
    const after = await state(bryn)
    expect(after.suggestions.map(one => one.id)).toEqual([a!.id])
    expect(after.file.entries.some(entry => entry.course === 'VAL 110' && entry.term === '2028SU')).toBe(true)
    expect(after.file.entries.some(entry => entry.id === second!.id)).toBe(true)
    // The advisor reads what became of them, with the student's words.
    const { answers } = await anselm.json<Brief>('GET', of(bryn, 'brief'))
    expect(answers).toMatchObject([{ state: 'declined', words: 'I need it' }, { state: 'accepted', words: '' }])
    await anselm.json('DELETE', `${of(bryn, 'suggestions')}?set=${a!.set}`)
    expect((await state(bryn)).suggestions).toEqual([])
    expect(await problemOf(await bryn.call('PUT', '~/suggestions', { ids: [a!.id],
      take: true }))).toMatchObject({ code: 'answered-already' })
  })

  it('that make no sense on the plan are refused, and nothing of them is kept', async () => {
    const { plan } = await state(bryn)
    expect(await problemOf(await anselm.call('POST', of(bryn, 'suggestions'), { plan: plan.id, lines: [[{ kind: 'remove',
      entry: 'nothing' }]] })))
      .toMatchObject({ status: 409, code: 'moved-on' })
    expect((await state(bryn)).suggestions).toEqual([])
  })
})

describe('comments', () => {
  it('are read by each side on their own, settled, and open again when somebody writes on', async () => {
    await corin.json('POST', '~/comments', { term: TERM, entry: null, text: 'Is this too much?' })
    const written = (await state(corin)).comments.at(-1)!
    expect(await needs(anselm, corin)).toContain('comments')
    await anselm.json('POST', of(corin, 'comments/read'), { upTo: written.id + 1000 })
    expect((await state(corin)).read[anselm.id]).toBe(written.id)
    expect(await needs(anselm, corin)).not.toContain('comments')
    await anselm.json('PUT', of(corin, 'comments'), { term: TERM, entry: null, settled: true })
    expect((await state(corin)).comments.at(-1)).toMatchObject({ settledBy: 'Anselm Croft' })
    await corin.json('POST', '~/comments', { term: TERM, entry: null, text: 'One more thing.' })
    expect((await state(corin)).comments.filter(one => one.term === TERM).map(one => one.settledBy)).toEqual([null, null])
  })
})

describe('notes', () => {
  const secret = 'xylophone-thistle-7731'
  it('that are not shared are in nothing that a student, another student or the office can get', async () => {
    await anselm.json('POST', of(corin, 'notes'), { text: `${secret} private`, shared: false })
    await anselm.json('POST', of(corin, 'notes'), { text: 'Bring the portfolio.', shared: true })
    const { notes } = await anselm.json<Brief>('GET', of(corin, 'brief'))
    expect(notes.map(note => note.text)).toEqual(['Bring the portfolio.', `${secret} private`])
    const plan = (await state(corin)).plan.id
    let looked = 0
    for (const client of [corin, bryn, edda]) {
      for (const view of VIEWS.filter(one => !one.stream)) {
        const path = view.path.replace(':id', String(corin.id)).replace(':plan', String(plan))
        const answer = await client.call('GET', `${path}?term=${TERM}&search=%7B%7D&text=corin`)
        expect(await answer.text(), `${client.username} ${view.path}`).not.toContain(secret)
        if (answer.ok) looked++
      }
    }
    expect(looked).toBeGreaterThan(30)
    expect((await state(corin)).notes.map(note => note.text)).toEqual(['Bring the portfolio.'])
    expect((await corin.call('GET', '~/brief')).status).toBe(403)
  })

  it('are removed by who wrote them alone', async () => {
    const [note] = await db.select().from(s.notes).where(and(eq(s.notes.student, corin.id), eq(s.notes.shared, true)))
    await db.update(s.notes).set({ author: sunniva.id }).where(eq(s.notes.id, note!.id))
    expect(await problemOf(await anselm.call('DELETE', `${of(corin, 'notes')}?id=${note!.id}`))).toMatchObject({ status: 404 })
  })
})

describe('exceptions', () => {
  it('are asked for once at a time, answered by whom the college entitles, and told', async () => {
    const seat = { kind: 'seat', term: TERM, course: 'HRT 150', section: 0 }
    const [section] = await db.select().from(s.sections).where(and(eq(s.sections.course, 'HRT 150'), eq(s.sections.term, TERM)))
    const asked = { ...seat, section: section!.id }
    expect(await problemOf(await corin.call('POST', '~/exception-requests', { asked: { ...seat, section: 1_999_999 }, reason: 'please' })))
      .toMatchObject({ code: 'section-unknown' })
    await corin.json('POST', '~/exception-requests', { asked, reason: 'Last course of my track.' })
    expect(await problemOf(await corin.call('POST', '~/exception-requests', { asked, reason: 'Once more.' })))
      .toMatchObject({ status: 409, code: 'asked-already' })
    const [mine] = (await state(corin)).asked
    expect(await needs(anselm, corin)).toContain('exceptions asked')
    // At this college seats are the office's.
    expect(await problemOf(await anselm.call('PUT', of(corin, 'exception-requests'), { id: mine!.id, granted: true })))
      .toMatchObject({ status: 403, code: 'not-entitled' })
    expect(await problemOf(await edda.call('PUT', of(corin, 'exception-requests'), { id: mine!.id, granted: false })))
      .toMatchObject({ code: 'words-missing' })
    await edda.json('PUT', of(corin, 'exception-requests'), { id: mine!.id, granted: true, words: 'granted', until: '2026-12-01' })
    const after = await state(corin)
    expect(after.asked).toMatchObject([{ state: 'granted', by: 'Edda Rowntree' }])
    expect(after.lifted).toMatchObject([{ kind: 'seat', course: 'HRT 150', section: section!.id, until: '2026-12-01' }])
    expect(await problemOf(await edda.call('PUT', of(corin, 'exception-requests'), { id: mine!.id, granted: true })))
      .toMatchObject({ status: 409, code: 'answered-already' })
    await db.update(s.clockSetting).set({ demoNow: '2026-12-02T15:00:00.000Z', setAt: new Date().toISOString() })
    expect((await state(corin)).lifted).toEqual([])
    await db.update(s.clockSetting).set({ demoNow: '2026-11-09T15:00:00.000Z', setAt: new Date().toISOString() })
  })
})

describe('how advising works here', () => {
  it('is the office\'s to say: what was not signed off is refused where it says so, and a code is asked for besides', async () => {
    await anselm.json('POST', of(corin, 'sign-off'), { term: TERM, seen: planned(await state(corin)) })
    const section = (await db.select().from(s.sections).where(and(eq(s.sections.term, TERM), eq(s.sections.course, 'ECL 210'),
      eq(s.sections.cancelled, false))))[0]!
    await db.insert(s.lineUpRows).values({ student: corin.id, term: TERM, course: 'ECL 210', position: 0, sectionIds: [section.id] })
    const refusals = async () => (await corin.json<Sheet>('GET', `~/dry-run?term=${TERM}`)).rows.flatMap(row =>
      row.findings.filter(one => !one.ok).map(one => one.code))
    const gate = async () => (await state(corin)).gates.find(one => one.kind === 'sign-off')!.open
    expect([await gate(), (await refusals()).includes('not-signed')]).toEqual([true, false])
    const [{ advising }] = await db.select().from(s.institution) as [typeof s.institution.$inferSelect]
    expect((await anselm.call('PUT', '/api/advising', advising)).status).toBe(403)
    await edda.json('PUT', '/api/advising', { ...advising, changedAfter: 'closed', releaseCode: 'besides' })
    expect([await gate(), (await refusals()).includes('not-signed')]).toEqual([false, true])
    const { code } = await anselm.json<{ code: string }>('POST', of(corin, 'release-code'), { term: TERM })
    await corin.json('PUT', '~/release-code', { term: TERM, code })
    expect(await gate()).toBe(true)
    await edda.json('PUT', '/api/advising', advising)
    expect((await refusals()).includes('not-signed')).toBe(false)
    await db.delete(s.lineUpRows).where(eq(s.lineUpRows.student, corin.id))
    await db.delete(s.releaseCodes).where(eq(s.releaseCodes.student, corin.id))
  })
})

describe('meetings', () => {
  interface Slots { slots: { start: string }[], meetings: { id: number, start: string, sequence: number }[] }
  it('a slot that two want at the same moment is one\'s; moving frees it, and so does cancelling', async () => {
    const { slots } = await corin.json<Slots>('GET', '~/meetings')
    expect(slots.length).toBeGreaterThan(8)
    const start = slots[3]!.start
    const answers = await Promise.all([corin, bryn, corin, bryn].map(client => client.call('POST', '~/meetings', { start })))
    expect(answers.map(answer => answer.status).sort()).toEqual([200, 409, 409, 409])
    expect(await db.select().from(s.meetingsWith).where(and(eq(s.meetingsWith.advisor, anselm.id), eq(s.meetingsWith.state, 'booked'))))
      .toHaveLength(1)
    const owner = answers[0]!.ok || answers[2]!.ok ? corin : bryn
    const [meeting] = (await owner.json<Slots>('GET', '~/meetings')).meetings
    await owner.json('POST', '~/meetings', { start: slots[5]!.start, moves: meeting!.id })
    const moved = await owner.json<Slots>('GET', '~/meetings')
    expect(moved.meetings).toMatchObject([{ id: meeting!.id, start: slots[5]!.start, sequence: 1 }])
    expect(moved.slots.map(one => one.start)).toContain(start)
    expect(await problemOf(await owner.call('POST', '~/meetings',
      { start: '2026-11-10T03:00:00.000Z' }))).toMatchObject({ code: 'slot-taken' })
    await owner.json('DELETE', `~/meetings?id=${meeting!.id}`)
    expect((await owner.json<Slots>('GET', '~/meetings')).slots.map(one => one.start)).toContain(slots[5]!.start)
  })
})

describe('handing over', () => {
  it('a deputy does everything while it lasts, and nothing before or after', async () => {
    const look = async () => (await sunniva.call('GET', of(corin, 'brief'))).status
    const write = async () => (await sunniva.call('POST', of(corin, 'notes'), { text: 'seen', shared: false })).status
    expect([await look(), await write()]).toEqual([403, 403])
    await anselm.json('PUT', '/api/deputies', { deputy: sunniva.id, from: '2026-11-09', until: '2026-11-10' })
    expect([await look(), await write()]).toEqual([200, 200])
    expect((await advisees(sunniva)).find(row => row.id === corin.id)).toMatchObject({ advisor: 'Anselm Croft' })
    expect((await state(corin)).deputy).toBe('Sunniva Rake')
    // Who is away is not met.
    const { slots } = await corin.json<{ slots: { start: string }[] }>('GET', '~/meetings')
    expect(slots.filter(one => one.start < '2026-11-11')).toEqual([])
    expect(slots.length).toBeGreaterThan(0)
    const news = await News.of(sunniva, corin.id)
    await news.next(told => told.version > 0)
    for (const demoNow of ['2026-11-08T15:00:00.000Z', '2026-11-11T15:00:00.000Z']) {
      await db.update(s.clockSetting).set({ demoNow, setAt: new Date().toISOString() })
      expect([await look(), await write()]).toEqual([403, 403])
    }
    // What the deputy had open closes under their eyes.
    await news.end()
    await db.update(s.clockSetting).set({ demoNow: '2026-11-09T15:00:00.000Z', setAt: new Date().toISOString() })
    expect(await look()).toBe(200)
    const { mine } = await anselm.json<{ mine: { id: number }[] }>('GET', '/api/deputies')
    expect((await sunniva.call('DELETE', `/api/deputies?id=${mine[0]!.id}`)).status).toBe(404)
    await anselm.json('DELETE', `/api/deputies?id=${mine[0]!.id}`)
    expect(await look()).toBe(403)
  })

  it('another advisor is in at once and the earlier one out, with its history', async () => {
    expect((await anselm.call('PUT', of(bryn, 'advisor'), { advisor: sunniva.id, reason: 'mine' })).status).toBe(403)
    await edda.json('PUT', of(bryn, 'advisor'), { advisor: sunniva.id, reason: 'Anselm has too many.' })
    expect((await anselm.call('GET', of(bryn, 'brief'))).status).toBe(403)
    expect((await anselm.call('GET', `/api/students/${bryn.id}?term=${TERM}`)).status).toBe(403)
    const { before } = await sunniva.json<Brief>('GET', of(bryn, 'brief'))
    expect(before).toMatchObject([{ advisor: 'Anselm Croft', by: 'Edda Rowntree', reason: 'Anselm has too many.' }])
    expect(await problemOf(await edda.call('PUT', of(bryn, 'advisor'), { advisor: sunniva.id,
      reason: 'again' }))).toMatchObject({ code: 'no-change' })
    await edda.json('PUT', of(bryn, 'advisor'), { advisor: anselm.id, reason: 'back again' })
  })
})

describe('who is here', () => {
  const noneNoted = (person: Client) => vi.waitFor(async () =>
    expect(await db.select().from(s.presence).where(eq(s.presence.person, person.id))).toEqual([]), { timeout: 10_000, interval: 100 })

  it('is told to the others who have the file open, and ends with the page', async () => {
    const [own, advisor] = [await News.of(corin, corin.id), await News.of(anselm, corin.id)]
    const told = await own.next(news => Object.keys(news.here).length > 0)
    expect(told.here).toEqual({ [anselm.id]: 'Anselm Croft' })
    expect((await advisor.next(news => Object.keys(news.here).length > 0)).here).toEqual({ [corin.id]: 'Corin Wade' })
    await advisor.close()
    expect((await own.next(news => Object.keys(news.here).length === 0)).here).toEqual({})
    await own.close()
  })

  it('leaves nothing of those who only looked in, however quickly they went', async () => {
    for (let n = 0; n < 12; n++) {
      const pages = await Promise.all(Array.from({ length: 3 }, () => News.of(anselm, corin.id)))
      await pages[n % 3]!.next(() => true)
      await Promise.all(pages.map(page => page.close()))
    }
    await noneNoted(anselm)
  })

  it('leaves nothing of those whose access ends while others come', async () => {
    for (let n = 0; n < 4; n++) {
      await anselm.json('PUT', '/api/deputies', { deputy: sunniva.id, from: '2026-11-09', until: '2026-11-10' })
      const deputys = await Promise.all(Array.from({ length: 6 }, () => News.of(sunniva, corin.id)))
      await Promise.all(deputys.map(page => page.next(() => true)))
      const { mine } = await anselm.json<{ mine: { id: number }[] }>('GET', '/api/deputies')
      const ended = anselm.json('DELETE', `/api/deputies?id=${mine[0]!.id}`)
      const comers = await Promise.all(Array.from({ length: 6 }, () => News.of(corin, corin.id)))
      await ended
      await Promise.all(deputys.map(page => page.end()))
      await Promise.all(comers.map(page => page.close()))
    }
    await noneNoted(sunniva)
  })
})

describe('the table of advisees', () => {
  it('tells what is new since the advisor looked, and a finish that slipped', async () => {
    const now = await state(corin)
    await anselm.json('POST', of(corin, 'looks'), { plan: now.plan.id, version: now.plan.version, finish: '2027SP',
      comment: now.comments.at(-1)!.id })
    await corin.json('POST', '~/plan', { baseVersion: now.plan.version, operations: [{ kind: 'plan note', note: 'thinking' }] })
    const row = (await advisees(anselm)).find(one => one.id === corin.id)!
    expect(row.since).toMatchObject({ edits: 1, comments: 0 })
    expect(row.needs.map(need => need.code)).toContain('finish slipped')
    const { changes } = await anselm.json<Brief>('GET', of(corin, 'brief'))
    expect(changes).toMatchObject([{ by: 'Corin Wade', operation: { kind: 'plan note' } }])
  })
})
