import { readdirSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { ADDRESS, Client, close } from './client'

/**
 * Every route of the server with every role: who gets in, who is turned away, and with which status.
 * A route that is not listed here fails the test, so that none is added without saying who may call it.
 */
type Who = 'nobody' | 'own' | 'other student' | 'advisor' | 'other advisor' | 'office'
const IN = 'in'
const file = { 'nobody': 401, 'own': IN, 'other student': 403, 'advisor': IN, 'other advisor': 403, 'office': IN } as const
const fileWrite = { ...file, office: 403 } as const
const own = { ...fileWrite, advisor: 403 } as const
const everybody = { 'nobody': IN, 'own': IN, 'other student': IN, 'advisor': IN, 'other advisor': IN, 'office': IN } as const
const signedIn = { ...everybody, nobody: 401 } as const
const office = { 'nobody': 401, 'own': 403, 'other student': 403, 'advisor': 403, 'other advisor': 403, 'office': IN } as const
const advisor = { ...office, 'advisor': IN, 'other advisor': IN, 'office': 403 } as const

const ROUTES: Record<string, { access: Record<Who, 401 | 403 | typeof IN>, body?: unknown, stream?: boolean }> = {
  'GET /api/health': { access: everybody },
  'GET /api/session': { access: everybody },
  'GET /api/session/demo': { access: everybody },
  'POST /api/session': { access: everybody, body: {} },
  'DELETE /api/session': { access: everybody },
  'GET /api/catalog': { access: signedIn },
  'GET /api/advisees': { access: advisor },
  'GET /api/seats': { access: office },
  'GET /api/openings': { access: office },
  'GET /api/standins/clock': { access: signedIn },
  'PUT /api/standins/clock': { access: signedIn, body: {} },
  'GET /api/students/[id]': { access: file },
  'GET /api/students/[id]/week': { access: file },
  'GET /api/students/[id]/dry-run': { access: file },
  'PUT /api/students/[id]/line-up': { access: own, body: {} },
  'POST /api/students/[id]/registrations': { access: own, body: {} },
  'POST /api/students/[id]/plan': { access: fileWrite, body: {} },
  'GET /api/students/[id]/plan-events': { access: file, stream: true },
  'POST /api/students/[id]/plans': { access: fileWrite, body: {} },
  'GET /api/students/[id]/plans/[plan]': { access: file },
  'PUT /api/students/[id]/plans/[plan]': { access: fileWrite, body: {} },
  'POST /api/students/[id]/comments': { access: fileWrite, body: {} },
  'POST /api/students/[id]/sign-off-request': { access: own, body: {} },
  'POST /api/students/[id]/sign-off': { access: fileWrite, body: {} },
  'POST /api/students/[id]/terms': { access: own, body: {} },
  'POST /api/students/[id]/program': { access: own, body: {} },
  'PUT /api/students/[id]/use-pins': { access: fileWrite, body: {} },
  'POST /api/students/[id]/exceptions': { access: fileWrite, body: {} },
  'DELETE /api/students/[id]/exceptions': { access: fileWrite },
  'PUT /api/students/[id]/milestones': { access: fileWrite, body: {} },
  'POST /api/students/[id]/program-change': { access: own, body: {} },
  'DELETE /api/students/[id]/program-change': { access: own },
  'POST /api/students/[id]/program-change/decision': { access: fileWrite, body: {} },
  'POST /api/programs': { access: office, body: {} },
}

const routes = readdirSync(resolve(import.meta.dirname, '../../server/api'), { recursive: true, encoding: 'utf8' }).filter(name =>
  name.endsWith('.ts'),
).map((name) => {
  const [, path, method] = /^(.*?)(?:\/?index)?\.(get|post|put|delete)\.ts$/.exec(name)!
  return `${method!.toUpperCase()} ${join('/api', path!)}`
})

let tamsin: Client
let tamsinsPlan: number
const clients: Partial<Record<Who, Client>> = {}
beforeAll(async () => {
  tamsin = await Client.signIn('tamsin')
  tamsinsPlan = (await tamsin.json<{ plan: { id: number } }>('GET', `/api/students/${tamsin.id}?term=2027SP`)).plan.id
  Object.assign(clients, { 'own': tamsin, 'other student': await Client.signIn('joss'), 'advisor': await Client.signIn('hollis'),
    'other advisor': await Client.signIn('yara'), 'office': await Client.signIn('edda') })
})
afterAll(close)

describe('every route with every role', () => {
  it('is listed here', () => expect(routes.sort()).toEqual(Object.keys(ROUTES).sort()))

  it.each(Object.entries(ROUTES))('%s', async (route, { access, body, stream }) => {
    const [method, path] = route.split(' ') as [string, string]
    const address = `${path.replace('[id]', String(tamsin.id)).replace('[plan]', String(tamsinsPlan))}${
      method === 'GET' ? '?term=2027SP' : ''
    }`
    for (const [who, expected] of Object.entries(access) as [Who, 401 | 403 | typeof IN][]) {
      const headers = { 'origin': ADDRESS, 'content-type': 'application/json', 'cookie': clients[who]?.cookie ?? '' }
      const answer = await fetch(`${ADDRESS}${address}`, { method, headers,
        ...(method === 'GET' || method === 'DELETE' ? {} : { body: JSON.stringify(body ?? {}) }) })
      if (stream && answer.ok) {
        // News never end by themselves: that they begin is enough.
        expect(answer.headers.get('content-type')).toContain('text/event-stream')
        expect(expected, who).toBe(IN)
        await answer.body!.cancel()
        continue
      }
      const text = await answer.text()
      if (expected === IN) expect([200, 400], `${who}: ${text}`).toContain(answer.status)
      else expect(answer.status, `${who}: ${text}`).toBe(expected)
      if (!answer.ok) {
        expect(answer.headers.get('content-type')).toContain('application/problem+json')
        expect(JSON.parse(text)).toMatchObject({ status: answer.status, title: expect.any(String) })
        expect(text).not.toMatch(/node_modules|at \w+ \(/)
      }
    }
  })

  it('an advisor signs off, a student cannot do it in their own file', async () => {
    expect((await tamsin.call('POST', '~/sign-off', { term: '2027SP', note: '' })).status).toBe(403)
  })

  it.each([['https://elsewhere.example'], ['']])('refuses a change that comes from "%s"', async (origin) => {
    const answer = await fetch(`${ADDRESS}/api/students/${tamsin.id}/terms`, { method: 'POST',
      headers: { 'cookie': tamsin.cookie, 'content-type': 'application/json', ...(origin ? { origin } : {}) },
      body: JSON.stringify({ term: '2027SP' }) })
    expect(answer.status).toBe(403)
    expect(await answer.json()).toMatchObject({ code: 'foreign-origin' })
  })

  it.each([['a term that is not one', { term: '2027XX', note: '' }], ['a note too long', { term: '2027SP', note: 'x'.repeat(501) }], [
    'no body',
    undefined,
  ]])('answers %s with what to correct', async (_, body) => {
    const answer = await tamsin.call('POST', '~/sign-off-request', body)
    expect(answer.status).toBe(400)
    expect(await answer.json()).toMatchObject({ code: 'bad-input' })
  })

  it('does not tell which half of a sign-in was wrong, and lets a name rest after ten tries', async () => {
    const attempt = (username: string) =>
      fetch(`${ADDRESS}/api/session`, { method: 'POST', headers: { 'origin': ADDRESS, 'content-type': 'application/json' },
        body: JSON.stringify({ username, password: 'wrong' }) })
    const known = await (await attempt('kit')).json()
    const unknown = await (await attempt('nobody-here')).json()
    expect(known).toEqual(unknown)
    for (let i = 0; i < 9; i++) await attempt('kit')
    expect((await attempt('kit')).status).toBe(429)
  })

  it('sends the session in a cookie that scripts cannot read and other sites cannot send', async () => {
    const answer = await fetch(`${ADDRESS}/api/session`, { method: 'POST',
      headers: { 'origin': ADDRESS, 'content-type': 'application/json' },
      body: JSON.stringify({ username: 'tamsin', password: 'larkmoor' }) })
    const cookie = answer.headers.getSetCookie().join()
    expect(cookie).toMatch(/HttpOnly/i)
    expect(cookie).toMatch(/SameSite=Lax/i)
    expect(cookie).not.toContain('Tamsin')
  })

  it('serves pages under a policy without inline script', async () => {
    const answer = await fetch(`${ADDRESS}/sign-in`)
    const policy = answer.headers.get('content-security-policy') ?? ''
    expect(/script-src[^;]*/.exec(policy)?.[0]).not.toMatch(/unsafe-inline|unsafe-eval/)
  })
})
