import { readdirSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { ACTS, VIEWS } from '../../shared/contract'
import type { Act, View, Who } from '../../shared/contract/define'
import * as s from '../../server/db/schema'
import { ADDRESS, Client, close, db } from './client'

/**
 * Every act and view with every identity, walked from the contract's own table: who gets in, who is turned away, and with which status.
 * What is new there is tested here without being remembered.
 */
type Identity = 'nobody' | 'own' | 'other student' | 'advisor' | 'deputy' | 'deputy before' | 'deputy after' | 'other advisor' | 'office'
const IDENTITIES: readonly Identity[] = ['nobody', 'own', 'other student', 'advisor', 'deputy', 'deputy before', 'deputy after',
  'other advisor', 'office']
const ADVISORS: readonly Identity[] = ['advisor', 'deputy', 'deputy before', 'deputy after', 'other advisor']
const ADMITTED: Record<Who, readonly Identity[]> = {
  'everybody': IDENTITIES,
  'signed in': IDENTITIES.filter(one => one !== 'nobody'),
  'advisor': ADVISORS,
  'office': ['office'],
  'file': ['own', 'advisor', 'deputy', 'office'],
  'own': ['own'],
  'own or advisor': ['own', 'advisor', 'deputy'],
  'their advisor': ['advisor', 'deputy'],
  'advisor or office': ['advisor', 'deputy', 'office'],
  'their office': ['office'],
}
const DECLARED: readonly (Act | View)[] = [...VIEWS, ...ACTS]
const lineOf = ({ method, path }: Pick<Act, 'method' | 'path'>) => `${method} ${path}`

const routes = readdirSync(resolve(import.meta.dirname, '../../server/api'), { recursive: true, encoding: 'utf8' })
  .filter(name => name.endsWith('.ts') && name !== '[...].ts').map((name) => {
    const [, path, method] = /^(.*?)(?:\/?index)?\.(get|post|put|delete)\.ts$/.exec(name)!
    return `${method!.toUpperCase()} ${join('/api', path!.replaceAll(/\[(\w+)\]/g, ':$1'))}`
  })

let tamsin: Client
let tamsinsPlan: number
const clients: Partial<Record<Identity, Client>> = {}
beforeAll(async () => {
  tamsin = await Client.signIn('tamsin')
  tamsinsPlan = (await tamsin.json<{ plan: { id: number } }>('GET', `/api/students/${tamsin.id}?term=2027SP`)).plan.id
  Object.assign(clients, { 'own': tamsin, 'other student': await Client.signIn('joss'), 'advisor': await Client.signIn('hollis'),
    'other advisor': await Client.signIn('yara'), 'office': await Client.signIn('edda'), 'deputy': await Client.signIn('sunniva'),
    'deputy before': await Client.signIn('dagny'), 'deputy after': await Client.signIn('piers') })
  const advisor = clients.advisor!.id
  await db.insert(s.deputies).values([
    { advisor, deputy: clients.deputy!.id, from: '2000-01-01', until: '2100-01-01' },
    { advisor, deputy: clients['deputy before']!.id, from: '2100-01-01', until: '2100-02-01' },
    { advisor, deputy: clients['deputy after']!.id, from: '2000-01-01', until: '2000-02-01' },
  ])
})
afterAll(async () => {
  await db.delete(s.deputies)
  await close()
})

async function ask(who: Identity, method: string, path: string): Promise<{ status: number, text: string, answer: Response }> {
  const hasBody = method !== 'GET' && method !== 'DELETE'
  // Signing out ends the session: that is tried with one of its own.
  const client = path === '/api/session' && method === 'DELETE' && clients[who] ? await Client.signIn(clients[who].username) : clients[who]
  const answer = await fetch(`${ADDRESS}${path}${method === 'GET' ? '?term=2027SP' : ''}`, { method,
    headers: { 'origin': ADDRESS, 'content-type': 'application/json', 'cookie': client?.cookie ?? '' },
    ...hasBody ? { body: '{}' } : {} })
  // News never end by themselves: that they begin is enough.
  const isStream = answer.headers.get('content-type')?.includes('text/event-stream')
  if (isStream) await answer.body!.cancel()
  return { status: answer.status, text: isStream ? '' : await answer.text(), answer }
}

describe('every act and view with every identity', () => {
  it('has its route, and no route is without one', () =>
    expect(routes.sort()).toEqual(DECLARED.map(lineOf).sort()))

  it.each(DECLARED.map(one => [lineOf(one), one] as const))('%s', async (_, { method, path, who }) => {
    const address = path.replace(':id', String(tamsin.id)).replace(':plan', String(tamsinsPlan))
    for (const identity of IDENTITIES) {
      const { status, text, answer } = await ask(identity, method, address)
      if (ADMITTED[who].includes(identity)) expect([200, 400], `${identity}: ${text}`).toContain(status)
      else expect(status, `${identity}: ${text}`).toBe(identity === 'nobody' ? 401 : 403)
      if (answer.ok) continue
      expect(answer.headers.get('content-type')).toContain('application/problem+json')
      expect(JSON.parse(text)).toMatchObject({ status, code: expect.any(String), title: expect.any(String), detail: expect.any(String) })
      expect(text).not.toMatch(/node_modules|at \w+ \(/)
    }
  })

  it('the description of the API is for whoever is signed in, and holds every act and view', async () => {
    expect((await ask('nobody', 'GET', '/api/openapi.json')).status).toBe(401)
    const { paths } = JSON.parse((await ask('own', 'GET', '/api/openapi.json')).text) as { paths: Record<string, Record<string, unknown>> }
    for (const { path, method } of DECLARED) expect(paths[path.replaceAll(/:(\w+)/g, '{$1}')]).toHaveProperty(method.toLowerCase())
  })

  it.each([['GET', '/api/nothing-here'], ['POST', '/api/students'], ['PATCH', '/api/session'], ['GET', '/api/students/x'],
    ['GET', '/api/students/99999999'], ['GET', '/api/students/1/plans/0']])('%s %s answers in words', async (method, path) => {
    const { status, text, answer } = await ask('own', method, path)
    expect([400, 403, 404, 405]).toContain(status)
    expect(answer.headers.get('content-type')).toContain('application/problem+json')
    expect(JSON.parse(text)).toMatchObject({ status, title: expect.any(String) })
  })
})

describe('what comes in', () => {
  it.each(['https://elsewhere.example', '', 'null', 'not an address'])('a change that comes from "%s" is refused', async (origin) => {
    const answer = await fetch(`${ADDRESS}/api/students/${tamsin.id}/terms`, { method: 'POST',
      headers: { 'cookie': tamsin.cookie, 'content-type': 'application/json', ...(origin ? { origin } : {}) },
      body: JSON.stringify({ term: '2027SP' }) })
    expect(answer.status).toBe(403)
    expect(await answer.json()).toMatchObject({ code: 'foreign-origin' })
  })

  it.each([
    ['a term that is not one', { term: '2027XX', note: '' }],
    ['a note too long', { term: '2027SP', note: 'x'.repeat(501) }],
    ['no body', undefined],
  ])('%s is answered with what to correct', async (_, body) => {
    const answer = await tamsin.call('POST', '~/sign-off-request', body)
    expect(answer.status).toBe(400)
    expect(await answer.json()).toMatchObject({ code: 'bad-input' })
  })

  it('pages come under a policy without inline script', async () => {
    const answer = await fetch(`${ADDRESS}/sign-in`)
    const policy = answer.headers.get('content-security-policy') ?? ''
    expect(/script-src[^;]*/.exec(policy)?.[0]).not.toMatch(/unsafe-inline|unsafe-eval/)
  })
})
