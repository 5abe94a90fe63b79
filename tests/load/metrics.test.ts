import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { freePort, startServer, STATE } from '../../tools/command/machine.mjs'
import { Client, close, db } from './client'

/** What a server counts of itself, for the office's page and for monitoring in the common text format. */
let edda: Client
beforeAll(async () => edda = await Client.signIn('edda'))
afterAll(close)

interface Figures {
  up: number
  pages: number
  memory: number
  lag: number
  routes: { method: string, route: string, count: number, failed: number, median: number, p95: number }[]
}
const figures = () => edda.json<Figures>('GET', '/api/server')
const countOf = ({ routes }: Figures, route: string) => routes.find(one => one.route === route)?.count ?? 0

describe('the figures of a server', () => {
  it('count every answer by its route, without a name or a number of anybody', async () => {
    const tamsin = await Client.signIn('tamsin')
    const before = await figures()
    for (let i = 0; i < 5; i++) await tamsin.call('GET', '~')
    await tamsin.call('GET', '/api/students/999999')
    const after = await figures()
    const route = '/api/students/:id'
    expect(countOf(after, route) - countOf(before, route)).toBeGreaterThanOrEqual(6)
    const one = after.routes.find(each => each.route === route)!
    expect(one.median).toBeGreaterThan(0)
    expect(one.p95).toBeGreaterThanOrEqual(one.median)
    expect(JSON.stringify(after)).not.toMatch(/students\/\d/)
    expect(after.memory).toBeGreaterThan(50_000_000)
    expect(after.up).toBeGreaterThan(0)
  })

  it('are given in the common text format, which a reader of it reads, to the office and to its tokens', async () => {
    const answer = await edda.call('GET', '/api/metrics')
    expect(answer.headers.get('content-type')).toMatch(/^text\/plain; version=0\.0\.4/)
    const lines = (await answer.text()).trim().split('\n')
    // Prometheus' text exposition format 0.0.4: comments, or a name, labels in braces, and a number.
    const sample = /^[a-zA-Z_:][\w:]*(\{([a-zA-Z_]\w*="(\\.|[^"\\])*",?)*\})? (NaN|[+-]?Inf|[-+\d.eE]+)( \d+)?$/
    for (const line of lines) if (line !== '' && !line.startsWith('#')) expect(line).toMatch(sample)
    expect(lines.some(line => line.startsWith('ridgeway_request_seconds_bucket{le="0.05",'))).toBe(true)
    expect(lines.some(line => line.startsWith('process_resident_memory_bytes '))).toBe(true)
    expect(lines.some(line => line.startsWith('ridgeway_open_pages '))).toBe(true)
    const tamsin = await Client.signIn('tamsin')
    expect((await tamsin.call('GET', '/api/metrics')).status).toBe(403)
    expect((await tamsin.call('GET', '/api/server')).status).toBe(403)
    const { token } = await edda.json<{ token: string }>('POST', '/api/tokens', { name: 'monitoring', scope: 'read', days: 1 })
    const byToken = await fetch(`${edda.address}/api/metrics`, { headers: { authorization: `Bearer ${token}` } })
    expect([byToken.status, (await byToken.text()).includes('ridgeway_request_seconds')]).toEqual([200, true])
  })
})

describe('a slow request', () => {
  it('is told with what it waited for, on the page and in the log, without a name or a number of anybody', async () => {
    const log = join(STATE, 'slow.log')
    // Here everything is slow that takes any time at all.
    const server = await startServer({ databaseUrl: process.env.DATABASE_URL!, port: await freePort(), demo: true, log,
      env: { RIDGEWAY_SLOW_MS: '0' } })
    const tamsin = await Client.signIn('tamsin', 'larkmoor', server.address)
    expect((await tamsin.call('GET', '~?term=2027SP')).status).toBe(200)
    interface Slow { route: string, ms: number, spans: { what: string, at: number, ms: number }[] }
    const { slow } = await edda.at(server.address).json<{ slow: Slow[] }>('GET', '/api/server')
    await server.stop()
    const file = slow.find(one => one.route === '/api/students/:id')!
    expect(file.spans.map(span => span.what)).toContain('database')
    // Who asks is looked up first, then the file is read: two stretches within the whole.
    expect(file.spans.filter(span => span.what === 'database').length).toBeGreaterThanOrEqual(2)
    for (const span of file.spans) expect(span.at + span.ms).toBeLessThanOrEqual(file.ms + 2)
    const lines = readFileSync(log, 'utf8').split('\n').filter(line => line.includes('slow request'))
    expect(lines.some(line => line.includes('/api/students/:id') && line.includes('database'))).toBe(true)
    expect(lines.join()).not.toMatch(/tamsin|students\/\d/)
  })
})

describe('a server that nobody asks', () => {
  it('looks whether something is to be done, and writes nothing', async () => {
    const count = async () => {
      const [rows] = await db.execute(sql`SHOW GLOBAL STATUS WHERE Variable_name IN ('Com_select', 'Com_commit')`) as unknown as
        [{ Variable_name: string, Value: string }[]]
      return Object.fromEntries(rows.map(row => [row.Variable_name, Number(row.Value)])) as { Com_select: number, Com_commit: number }
    }
    const before = await count()
    await expect.poll(async () => (await count()).Com_select - before.Com_select, { timeout: 60_000, interval: 200 }).toBeGreaterThan(80)
    expect((await count()).Com_commit - before.Com_commit).toBeLessThan(8)
  })
})
