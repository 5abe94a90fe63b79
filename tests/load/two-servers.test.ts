import { randomUUID } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { eq } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { RunResult } from '../../shared/contract/acts/student'
import * as s from '../../server/db/schema'
import { freePort, type RunningServer, startServer, STATE } from '../../tools/command/machine.mjs'
import { Client, close, cookiesOf, db, News, openAccounts, problemOf, trySignIn } from './client'
import { freshStudents, lectureOf, lineUpAll, TERM } from './students'

/** A second server on the same database, behind a proxy that it trusts: what one does, the other knows. */
let second: RunningServer
beforeAll(async () => {
  second = await startServer({ databaseUrl: process.env.DATABASE_URL!, port: await freePort(), demo: true,
    log: join(STATE, 'second.log'), env: { RIDGEWAY_PROXY: '1', NUXT_SESSION_COOKIE_SECURE: 'true' } })
})
afterAll(async () => {
  await second.stop()
  await close()
})

describe('two servers', () => {
  it('tell each other\'s news and know each other\'s sessions, also that they ended', async () => {
    const merrin = await Client.signIn('merrin')
    const there = merrin.at(second.address)
    const news = await News.of(there, merrin.id)
    const first = await news.next(() => true)
    await merrin.json('POST', '~/comments', { term: null, entry: null, text: 'through the first' })
    const told = await news.next(next => next.version > first.version)
    await there.json('POST', '~/plan', { baseVersion: 0, operations: [{ kind: 'plan note', note: 'through the second' }] })
    await news.next(next => JSON.stringify(next.plans) !== JSON.stringify(told.plans))
    await merrin.json('DELETE', '/api/session')
    await news.end()
    expect((await there.call('GET', `~?term=${TERM}`)).status).toBe(401)
  })

  it('follow the catalog: a program that one puts in force is in force at the other', async () => {
    const edda = await Client.signIn('edda')
    const text = readFileSync('demo/programs/est-min-2025.json', 'utf8').replace('"catalogYear": 2025', '"catalogYear": 2031')
    const programs = async (client: Client) =>
      Object.keys((await client.json<{ programs: Record<string, unknown> }>('GET', '/api/catalog')).programs)
    expect(await programs(edda.at(second.address))).not.toContain('EST-MIN-2031')
    await edda.json('POST', '/api/programs', { text, keep: true })
    expect(await programs(edda.at(second.address))).toContain('EST-MIN-2031')
    expect(await programs(edda)).toContain('EST-MIN-2031')
    await db.delete(s.programs).where(eq(s.programs.id, 'EST-MIN-2031'))
    await edda.json('POST', '/api/programs', { text: readFileSync('demo/programs/est-min-2025.json', 'utf8'), keep: true })
    expect(await programs(edda.at(second.address))).not.toContain('EST-MIN-2031')
  })

  it('sell a section once: sixty students, twenty seats, the same key at both', async () => {
    const ids = await freshStudents(60, 130)
    const { section, pool } = await lectureOf('LNG 140', 20)
    const rows = await lineUpAll(ids, 'LNG 140', [section])
    const clients = await Promise.all((await openAccounts(ids)).map(name => Client.signIn(name)))
    const answers = await Promise.all(clients.flatMap((client) => {
      const press = { term: TERM, key: randomUUID(), rowIds: [rows.get(client.id)!] }
      return [client, client.at(second.address)].map(async at =>
        ({ id: client.id, result: await at.json<RunResult>('POST', '~/registrations', press) }))
    }))
    const byStudent = new Map(ids.map(id => [id, answers.filter(answer => answer.id === id).map(answer => answer.result)]))
    for (const both of byStudent.values()) {
      expect(both[0]!.rows).toEqual(both[1]!.rows)
      expect(both.filter(result => result.repeated).length).toBe(1)
    }
    expect([...byStudent.values()].filter(([one]) => one!.rows[0]!.outcome === 'register').length).toBe(20)
    const [seats] = await db.select().from(s.seatPools).where(eq(s.seatPools.id, pool))
    expect(seats!.taken).toBe(20)
  })

  it('know a key that comes six times over both', async () => {
    const [id] = await freshStudents(1, 195)
    const { section, pool } = await lectureOf('LNG 140', 20)
    const rows = await lineUpAll([id!], 'LNG 140', [section])
    const client = await Client.signIn((await openAccounts([id!]))[0]!)
    const press = { term: TERM, key: randomUUID(), rowIds: [rows.get(id!)!] }
    const results = await Promise.all(Array.from({ length: 6 }, (_, i) =>
      client.at(i % 2 ? second.address : client.address).json<RunResult>('POST', '~/registrations', press)))
    expect(results.filter(result => !result.repeated).length).toBe(1)
    expect((await db.select().from(s.seatPools).where(eq(s.seatPools.id, pool)))[0]!.taken).toBe(1)
  })
})

describe('tries to sign in', () => {
  const from = (n: number) => `203.0.113.${n}`
  it('are counted for both servers together', async () => {
    const tries = await Promise.all(Array.from({ length: 24 }, (_, i) =>
      trySignIn('vesper', `wrong ${i}`, i % 2 ? { address: second.address, from: '127.0.0.1' } : {})))
    expect(tries.filter(answer => answer.status === 401).length).toBe(10)
  })

  it('of a stranger do not keep the student out, who comes from elsewhere', async () => {
    for (let i = 0; i < 12; i++) await trySignIn('gwen', `wrong ${i}`, { address: second.address, from: from(1) })
    expect((await trySignIn('gwen', 'larkmoor', { address: second.address, from: from(1) })).status).toBe(429)
    expect((await trySignIn('gwen', 'larkmoor', { address: second.address, from: from(2) })).status).toBe(200)
  })

  it('from everywhere do not keep out a device that was used before', async () => {
    const before = await trySignIn('hale', 'larkmoor', { address: second.address, from: from(3) })
    const device = cookiesOf(before)
    for (let i = 0; i < 64; i++) await trySignIn('hale', 'wrong', { address: second.address, from: from(10 + i) })
    expect((await trySignIn('hale', 'larkmoor', { address: second.address, from: from(200) })).status).toBe(429)
    expect((await trySignIn('hale', 'larkmoor', { address: second.address, from: from(201), cookie: device })).status).toBe(200)
    // The cookie opens nothing, and does for nobody else.
    expect((await trySignIn('hale', 'wrong', { address: second.address, from: from(202), cookie: device })).status).toBe(401)
  })
})

describe('behind a proxy', () => {
  const post = (headers: Record<string, string>) => fetch(`${second.address}/api/session`, { method: 'POST', body: '{}',
    headers: { 'content-type': 'application/json', ...headers } })
  it('the host that it passes on is the one that pages must come from', async () => {
    const proxied = { 'x-forwarded-host': 'plan.larkmoor.example', 'x-forwarded-proto': 'https', 'x-forwarded-for': '198.51.100.7' }
    expect(await problemOf(await post({ ...proxied, origin: 'https://plan.larkmoor.example' }))).toMatchObject({ code: 'bad-input' })
    expect(await problemOf(await post({ ...proxied, origin: 'https://elsewhere.example' }))).toMatchObject({ code: 'foreign-origin' })
    expect(await problemOf(await post({ ...proxied, origin: 'null' }))).toMatchObject({ code: 'foreign-origin' })
  })

  it('cookies go over TLS only, and browsers are told to stay with it', async () => {
    const answer = await trySignIn('petra', 'larkmoor', { address: second.address, from: from9 })
    for (const cookie of answer.headers.getSetCookie()) expect(cookie).toMatch(/; Secure/i)
    for (const path of ['/sign-in', '/api/health'])
      expect((await fetch(`${second.address}${path}`)).headers.get('strict-transport-security')).toMatch(/max-age=\d{7,}/)
  })
  const from9 = '198.51.100.9'
})
