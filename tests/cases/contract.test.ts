import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { z } from 'zod'
import { ACTS, VIEWS } from '../../shared/contract'
import { describeContract } from '../../shared/contract/openapi'

/** The table of what can be done and looked at, and what is written about it. */
const all = [...ACTS, ...VIEWS]
describe('the contract', () => {
  it('declares each name and each address once', () => {
    expect(new Set(all.map(one => one.name)).size).toBe(all.length)
    expect(new Set(all.map(one => `${one.method} ${one.path}`)).size).toBe(all.length)
    expect([ACTS.length, VIEWS.length].every(count => count > 10)).toBe(true)
  })

  it('lets nobody but the person themselves, or who has to do with them, near a student\'s file', () => {
    const near = ['file', 'own', 'own or advisor', 'their advisor', 'advisor or office', 'their office']
    for (const { path, who } of all) expect(near.includes(who), path).toBe(path.includes('/students/:id'))
  })

  it('says of each act that is decided on something what that is, and refuses what is no object', () => {
    for (const { input } of ACTS) for (const value of [null, 'text', [1]]) expect(input.safeParse(value).success).toBe(false)
    const decided = ACTS.filter(act => act.basis).map(act => act.name).sort()
    expect(decided).toEqual(['answer an asked exception', 'answer program change', 'answer suggestions', 'ask for money back',
      'book a meeting', 'change a registered course', 'decide an offer beforehand',
      'drop courses', 'edit plan', 'exchange a course',
      'load program file', 'order the line-up', 'register', 'set calendar of a term', 'set openings', 'set seats', 'set the college',
      'sign off',
      'start a payment',
      'take an offered seat'])
  })

  it('takes no unlimited text or list', () => {
    const endless = ACTS.flatMap(({ name, input }) => endlessIn(z.toJSONSchema(input, { io: 'input', unrepresentable: 'any' }), name))
    expect(endless).toEqual([])
  })

  it('is what the documentation prints', () =>
    expect(JSON.parse(readFileSync('docs/api/openapi.json', 'utf8'))).toEqual(JSON.parse(JSON.stringify(describeContract()))))
})

interface Schema { [key: string]: unknown }
/** Places in a schema where somebody could send as much as they like. */
function endlessIn(schema: unknown, at: string): string[] {
  if (typeof schema !== 'object' || schema === null) return []
  const { type, maxLength, maxItems, enum: choices, const: fixed, pattern, format } = schema as Schema
  const isOpenText = type === 'string' && maxLength === undefined && !choices && fixed === undefined && !pattern && !format
  const isOpenList = type === 'array' && maxItems === undefined
  return [...isOpenText || isOpenList ? [at] : [],
    ...Object.entries(schema).flatMap(([key, inner]) => endlessIn(inner, `${at}.${key}`))]
}
