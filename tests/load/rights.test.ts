import { and, eq } from 'drizzle-orm'
import { hash } from '@node-rs/argon2'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { StudentState } from '../../shared/contract/views/student'
import * as s from '../../server/db/schema'
import { ADDRESS, Client, close, db, News, problemOf, trySignIn } from './client'

/** What a person must not be able to do, although each request by itself looks right. */
const TERM = '2027SP'
let una: Client
let hollis: Client
let yara: Client
beforeAll(async () => {
  ;[una, hollis, yara] = await Promise.all(['una', 'hollis', 'yara'].map(name => Client.signIn(name))) as [Client, Client, Client]
})
afterAll(close)
const state = (client: Client, student = client.id) => client.json<StudentState>('GET', `/api/students/${student}?term=${TERM}`)
const seenIn = ({ file }: StudentState) =>
  file.entries.filter(entry => entry.term === TERM).map(({ course, credits }) => ({ course, credits }))

describe('an act on what has moved on', () => {
  it('a plan cannot be made current and deleted in one request, and the file stays whole', async () => {
    const { plan } = await state(una)
    const copy = await una.json<{ id: number }>('POST', '~/plans', { name: 'Copy', copyOf: plan.id })
    for (const id of [plan.id, copy.id]) {
      const answer = await una.call('PUT', `~/plans/${id}`, { current: true, deleted: true })
      expect((await problemOf(answer)).status).toBe(400)
    }
    await una.json('PUT', `~/plans/${copy.id}`, { deleted: true })
    expect(await problemOf(await una.call('PUT', `~/plans/${copy.id}`, { current: true }))).toMatchObject({ status: 422,
      code: 'plan-deleted' })
    expect((await state(una)).plans.filter(head => head.current).map(head => head.id)).toEqual([plan.id])
  })

  it('a term is signed off as the advisor saw it, or not at all, with the difference named', async () => {
    const seen = seenIn(await state(hollis, una.id))
    await una.json('POST', '~/plan', { baseVersion: 0, operations: [{ kind: 'place', entry: 'late', course: 'VAL 220', term: TERM,
      credits: 300 }, { kind: 'remove', entry: (await state(una)).file.entries.find(entry => entry.course === seen[0]!.course)!.id }] })
    const refused = await problemOf(await hollis.call('POST', `/api/students/${una.id}/sign-off`, { term: TERM, note: '', seen }))
    expect(refused).toMatchObject({ status: 409, code: 'moved-on' })
    expect(refused.title).toContain('VAL 220 was added')
    expect(refused.title).toContain(`${seen[0]!.course} was taken out`)
    const now = seenIn(await state(hollis, una.id))
    expect((await hollis.call('POST', `/api/students/${una.id}/sign-off`, { term: TERM, note: '', seen: now })).status).toBe(200)
    expect((await state(una)).signOff!.copy.map(entry => entry.course)).toContain('VAL 220')
  })

  it('a wish to change program is granted as it was read, or not at all', async () => {
    await una.json('POST', '~/program-change', { programs: ['WSC-BS-2024'], note: 'the older year' })
    const read = (await state(hollis, una.id)).programChange!
    await una.json('POST', '~/program-change', { programs: ['UPH-BA-2024'], note: 'no, something else' })
    const decision = `/api/students/${una.id}/program-change/decision`
    expect(await problemOf(await hollis.call('POST', decision, { request: read.id, granted: true }))).toMatchObject({ status: 409,
      code: 'moved-on' })
    expect((await state(una)).programIds).not.toContain('UPH-BA-2024')
    await una.json('DELETE', '~/program-change')
    expect(await problemOf(await hollis.call('POST', decision, { request: read.id, granted: true }))).toMatchObject({ status: 409,
      code: 'not-asked' })
  })
})

describe('access ends when it ends', () => {
  const isOut = async (client: Client, path = `~?term=${TERM}`) => (await client.call('GET', path)).status

  it('with signing out: the cookie is worth nothing any more, and news stop', async () => {
    const idris = await Client.signIn('idris')
    const other = await Client.signIn('idris')
    const news = await News.of(idris, idris.id)
    await news.next(() => true)
    expect((await idris.call('DELETE', '/api/session')).status).toBe(200)
    await news.end()
    expect([await isOut(idris), await isOut(other)]).toEqual([401, 200])
  })

  it('with a changed password: everywhere', async () => {
    const [lark, again] = [await Client.signIn('lark'), await Client.signIn('lark')]
    const news = await News.of(lark, lark.id)
    const before = (await db.select().from(s.people).where(eq(s.people.id, lark.id)))[0]!.passwordHash
    await db.update(s.people).set({ passwordHash: await hash('another one') }).where(eq(s.people.id, lark.id))
    await news.end()
    expect([await isOut(lark), await isOut(again)]).toEqual([401, 401])
    expect((await trySignIn('lark', 'another one')).status).toBe(200)
    await db.update(s.people).set({ passwordHash: before }).where(eq(s.people.id, lark.id))
  })

  it('with a lowered role, and with another advisor', async () => {
    const sable = await Client.signIn('sable')
    const news = await News.of(hollis, sable.id)
    await news.next(() => true)
    await db.update(s.students).set({ advisor: yara.id }).where(eq(s.students.person, sable.id))
    await news.end()
    const file = `/api/students/${sable.id}?term=${TERM}`
    expect([await isOut(hollis, file), await isOut(yara, file)]).toEqual([403, 200])
    await db.update(s.students).set({ advisor: hollis.id }).where(eq(s.students.person, sable.id))
    await db.update(s.people).set({ role: 'student' }).where(eq(s.people.id, hollis.id))
    expect([await isOut(hollis, file), await isOut(hollis, `/api/advisees?term=${TERM}`)]).toEqual([403, 403])
    await db.update(s.people).set({ role: 'advisor' }).where(eq(s.people.id, hollis.id))
    expect(await isOut(hollis, file)).toBe(200)
  })
})

describe('signing in', () => {
  it('does not tell which half was wrong', async () => {
    const [known, unknown] = [await (await trySignIn('jory', 'wrong')).json(), await (await trySignIn('nobody-here', 'wrong')).json()]
    expect(known).toEqual(unknown)
  })

  it('takes ten tries at a name, however many come at one moment and however the name is spelled', async () => {
    const spellings = ['jory', 'JORY', ' jory ', 'jory', 'Jory']
    const tries = await Promise.all(Array.from({ length: 30 }, (_, i) => trySignIn(spellings[i % spellings.length]!, `wrong ${i}`)))
    // One was made above.
    expect(tries.filter(answer => answer.status === 401).length).toBe(9)
    expect((await trySignIn('jory', 'larkmoor')).status).toBe(429)
  })

  it.each(['jöry', 'jory\u0000', 'jory\u0301', 'jor\u00FD', 'jory '.repeat(2)])('knows nobody by the name %j', async (name) => {
    expect((await trySignIn(name, 'larkmoor')).status).toBe(401)
  })

  it('keeps the session in a cookie that scripts cannot read and other sites cannot send', async () => {
    const answer = await trySignIn('tamsin', 'larkmoor')
    const cookies = answer.headers.getSetCookie()
    for (const cookie of cookies) {
      expect(cookie).toMatch(/HttpOnly/i)
      expect(cookie).toMatch(/SameSite=Lax/i)
    }
    expect(cookies.join()).not.toContain('Tamsin')
    const stored = await db.select({ id: s.sessions.id }).from(s.sessions)
    for (const { id } of stored) expect(cookies.join()).not.toContain(id)
  })
})

describe('bodies', () => {
  const stream = (bytes: number) => {
    let left = bytes
    return new ReadableStream({ pull(controller) {
      if (left <= 0) return controller.close()
      const size = Math.min(left, 65_536)
      left -= size
      controller.enqueue(new TextEncoder().encode(' '.repeat(size)))
    } })
  }
  const send = (path: string, bytes: number, cookie = '') => fetch(`${ADDRESS}${path}`, { method: 'POST', body: stream(bytes),
    duplex: 'half',
    headers: { 'origin': ADDRESS, cookie, 'content-type': 'application/json' } } as RequestInit).catch(() => 'cut' as const)

  it('that come in pieces are counted: a large one is refused before it is read', async () => {
    const answer = await send('/api/session', 60_000_000)
    // Where the connection is closed while the sender still sends, the sender may not hear the words.
    if (answer !== 'cut') expect((await problemOf(answer)).status).toBe(413)
    expect(await problemOf(await send('/api/session', 6000) as Response)).toMatchObject({ status: 413, code: 'too-large' })
    expect((await fetch(`${ADDRESS}/api/health`)).status).toBe(200)
  })

  it('of somebody who is not signed in are not read at all', async () => {
    const answer = await send('/api/programs', 300_000)
    if (answer !== 'cut') expect((await problemOf(answer)).status).toBe(401)
  })

  it('deeply nested, or no JSON, are answered in words', async () => {
    const edda = await Client.signIn('edda')
    for (const text of ['['.repeat(60_000), '{"a":'.repeat(20_000), `{"rules":${'['.repeat(5000)}${']'.repeat(5000)}}`, 'x: (((((']) {
      const answer = await edda.json<{ ok: boolean, problems: unknown[] }>('POST', '/api/programs', { text, keep: true })
      expect(answer.ok).toBe(false)
      expect(answer.problems.length).toBeGreaterThan(0)
    }
    const raw = await fetch(`${ADDRESS}/api/programs`, { method: 'POST', body: '['.repeat(100_000), headers: { origin: ADDRESS,
      cookie: edda.cookie } })
    expect(await problemOf(raw)).toMatchObject({ status: 400, code: 'not-json' })
  })
})

describe('the demonstration\'s clock', () => {
  it('stays within the college\'s calendar, and everything can be done at either end of it', async () => {
    const [before] = await db.select().from(s.clockSetting)
    for (const now of ['9999-12-31T23:59:59Z', '0001-01-01T00:00:00Z', '1969-12-31T00:00:00Z'])
      expect((await problemOf(await una.call('PUT', '/api/standins/clock', { now }))).status).toBe(422)
    expect((await problemOf(await una.call('PUT', '/api/standins/clock', { now: 'tomorrow' }))).status).toBe(400)
    const terms = await db.select().from(s.terms)
    const starts = terms.map(term => term.start).sort()
    for (const now of [`${starts[0]}T12:00:00Z`, `${starts.at(-1)}T12:00:00Z`]) {
      await una.json('PUT', '/api/standins/clock', { now })
      await una.json('POST', '~/comments', { term: null, entry: null, text: `at ${now}` })
    }
    await db.update(s.clockSetting).set({ demoNow: before!.demoNow, setAt: before!.setAt })
    const written = await db.select().from(s.comments).where(and(eq(s.comments.student, una.id), eq(s.comments.author, una.id)))
    expect(written.length).toBe(2)
  })
})
