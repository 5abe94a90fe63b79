import { randomUUID } from 'node:crypto'
import { and, desc, eq } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { ApiToken } from '../../shared/contract/views/tokens'
import * as s from '../../server/db/schema'
import { ADDRESS, Client, close, db, openAccounts, problemOf } from './client'
import { freshStudents, TERM } from './students'

/** Tokens by which other programs of a college read and write: what they open, and what they never do. */
let student: Client
let other: Client
let edda: Client
beforeAll(async () => {
  const ids = await freshStudents(2, 170)
  const [a, b] = await openAccounts(ids)
  student = await Client.signIn(a!)
  other = await Client.signIn(b!)
  edda = await Client.signIn('edda')
})
afterAll(async () => {
  await db.delete(s.apiTokens)
  await close()
})

interface Made { id: number, token: string, until: string }
const make = (client: Client, scope: 'read' | 'write' = 'read', days = 30) => client.json<Made>('POST', '/api/tokens', { name: 'A script',
  scope, days })
/** A request as another program sends it: no cookie, and no page that it comes from. */
const ask = (token: string, method: string, path: string, body?: unknown) => fetch(`${ADDRESS}${path}`, { method,
  headers: { authorization: `Bearer ${token}`, ...body === undefined ? {} : { 'content-type': 'application/json' } },
  ...body === undefined ? {} : { body: JSON.stringify(body) } })
const file = (client: Client) => `/api/students/${client.id}?term=${TERM}`

describe('a token', () => {
  it('opens what its owner may see, and nothing of anybody else', async () => {
    const { token } = await make(student)
    const mine = await ask(token, 'GET', file(student))
    expect(mine.status).toBe(200)
    expect((await mine.json() as { id: number }).id).toBe(student.id)
    expect(await problemOf(await ask(token, 'GET', file(other)))).toMatchObject({ status: 403, code: 'not-yours' })
    expect(await problemOf(await ask(token, 'GET', `/api/seats?term=${TERM}`))).toMatchObject({ status: 403, code: 'wrong-role' })
  })

  it('that only reads changes nothing; one that writes does, without a page that it comes from', async () => {
    const read = await make(student)
    const write = await make(student, 'write')
    const path = `/api/students/${student.id}/searches`
    const search = { name: 'by a script', search: null }
    expect(await problemOf(await ask(read.token, 'PUT', path, search))).toMatchObject({ status: 403, code: 'token-reads' })
    expect((await ask(write.token, 'PUT', path, search)).status).toBe(200)
  })

  it('makes no tokens, ends no session, and listens to no news', async () => {
    const { token } = await make(student, 'write')
    for (const [method, path, body] of [['POST', '/api/tokens', { name: 'Another', scope: 'read', days: 1 }], ['DELETE', '/api/session',
      undefined], ['GET', `/api/students/${student.id}/news`, undefined]] as const)
      expect(await problemOf(await ask(token, method, path, body)), path).toMatchObject({ status: 403, code: 'not-by-token' })
  })

  it('is shown once, and kept only as what it hashes to', async () => {
    const { token, id } = await make(student)
    const [row] = await db.select().from(s.apiTokens).where(eq(s.apiTokens.id, id))
    expect(JSON.stringify(row)).not.toContain(token.slice(3, 20))
    const list = await student.json<ApiToken[]>('GET', '/api/tokens')
    expect(JSON.stringify(list)).not.toContain(token.slice(3, 20))
    expect(list.find(one => one.id === id)).toMatchObject({ name: 'A script', scope: 'read', used: null })
    await ask(token, 'GET', file(student))
    expect((await student.json<ApiToken[]>('GET', '/api/tokens')).find(one => one.id === id)!.used).not.toBeNull()
  })

  it('ends when it is revoked by its owner or the office, by nobody else, when its time is over, and with the password', async () => {
    const [mine, theirs, old, last] = [await make(student), await make(student), await make(student), await make(student)]
    expect(await problemOf(await other.call('DELETE', `/api/tokens?id=${mine.id}`))).toMatchObject({ status: 404, code: 'token-unknown' })
    expect((await ask(mine.token, 'GET', file(student))).status).toBe(200)
    expect((await student.call('DELETE', `/api/tokens?id=${mine.id}`)).status).toBe(200)
    expect((await edda.call('DELETE', `/api/tokens?id=${theirs.id}`)).status).toBe(200)
    await db.update(s.apiTokens).set({ until: '2020-01-01T00:00:00.000Z' }).where(eq(s.apiTokens.id, old.id))
    for (const one of [mine, theirs, old])
      expect(await problemOf(await ask(one.token, 'GET', file(student)))).toMatchObject({ status: 401, code: 'token-over' })
    const [person] = await db.select().from(s.people).where(eq(s.people.id, student.id))
    await db.update(s.people).set({ passwordHash: `${person!.passwordHash}x` }).where(eq(s.people.id, student.id))
    expect((await ask(last.token, 'GET', file(student))).status).toBe(401)
    await db.update(s.people).set({ passwordHash: person!.passwordHash }).where(eq(s.people.id, student.id))
    const told = await db.select().from(s.ledger).where(and(eq(s.ledger.action, 'revoke token'), eq(s.ledger.actor, edda.id)))
      .orderBy(desc(s.ledger.id))
    expect(told[0]!.detail).toMatchObject({ person: student.username })
  })

  it('is listed to the office with whose it is, and to others only their own', async () => {
    await make(student)
    const all = await edda.json<ApiToken[]>('GET', '/api/tokens?whose=all')
    expect(all.some(one => one.person.username === student.username)).toBe(true)
    expect(await problemOf(await other.call('GET', '/api/tokens?whose=all'))).toMatchObject({ status: 403, code: 'wrong-role' })
    expect((await other.json<ApiToken[]>('GET', '/api/tokens')).every(one => one.person.username === other.username)).toBe(true)
  })

  it('is asked no more often than its owner may, and says when to come again', async () => {
    const { token } = await make(other)
    const answers = await Promise.all(Array.from({ length: 130 }, () => ask(token, 'GET', '/api/notices')))
    const late = answers.filter(answer => answer.status === 429)
    expect(answers.filter(answer => answer.status === 200).length).toBe(120)
    expect(late.length).toBe(10)
    expect(Number(late[0]!.headers.get('retry-after'))).toBeGreaterThan(0)
    expect(await problemOf(late[0]!)).toMatchObject({ code: 'too-often' })
  })

  it('is no other scheme: what a proxy before the server asks for leaves the session what it is', async () => {
    const answer = await fetch(`${ADDRESS}${file(student)}`, { headers: { cookie: student.cookie,
      authorization: 'Basic cHJveHk6cHJveHk=' } })
    expect(answer.status).toBe(200)
  })

  it('that nobody made is none, whatever it looks like', async () => {
    for (const token of ['', 'rw_', `rw_${randomUUID()}`, 'x'.repeat(5000)])
      expect((await ask(token, 'GET', file(student))).status).toBe(401)
  })

  it('has a limit of how many one person keeps', async () => {
    await db.delete(s.apiTokens).where(eq(s.apiTokens.person, other.id))
    for (let n = 0; n < 10; n++) await make(other)
    expect(await problemOf(await other.call('POST', '/api/tokens', { name: 'One more', scope: 'read',
      days: 3 }))).toMatchObject({ status: 422,
      code: 'too-many-tokens' })
  })
})
