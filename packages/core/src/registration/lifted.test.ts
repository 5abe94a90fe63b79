import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { course, courseMap, decision, meeting, row, section } from '../../../../tests/builders'
import { clashPair, decideRun, readGates } from '.'

/** Exceptions and the institution's own settings of sign-off, in the one decision on registering. */
const NONE = { lateAdd: new Set<string>(), restriction: new Set<string>(), clash: new Set<string>(), seat: new Set<number>() }
const courses = courseMap(course('AAA 100'), course('BBB 100'))
const refusals = (rows: ReturnType<typeof decideRun>) =>
  rows.map(one => one.findings.filter(finding => !finding.ok).map(finding => finding.code))

describe('two courses that may meet at the same time', () => {
  const sections = [section(1, 'AAA 100', { meetings: [meeting(540)] }), section(2, 'BBB 100', { meetings: [meeting(560)] })]
  const both = [row(1, 'AAA 100', [1]), row(2, 'BBB 100', [2])]
  it('register together where that is lifted, whichever of them comes first, and not otherwise', () => {
    for (const order of [both, [...both].reverse()]) {
      expect(refusals(decideRun(order, decision(courses, sections)))).toContainEqual(['clash'])
      for (const pair of [clashPair('AAA 100', 'BBB 100'), clashPair('BBB 100', 'AAA 100')])
        expect(refusals(decideRun(order, decision(courses, sections, { lifted: { ...NONE, clash: new Set([pair]) } })))).toEqual([[], []])
    }
    const other = { ...NONE, clash: new Set([clashPair('AAA 100', 'CCC 100')]) }
    expect(refusals(decideRun(both, decision(courses, sections, { lifted: other })))).toContainEqual(['clash'])
  })
})

describe('a seat that is kept for others', () => {
  const pool = (id: number, forGroup: string | null, capacity: number, taken: number) => ({ id, forGroup, capacity, taken, held: 0 })
  const ask = (kept: number, taken: number, lifted: number[]) => decideRun([row(1, 'AAA 100', [1])], decision(courses,
    [section(1, 'AAA 100', { onlyPrograms: ['X'], pools: [pool(10, null, 5, 5), pool(11, 'X', kept, taken)] })],
    { lifted: { ...NONE, seat: new Set(lifted) } }))[0]!
  it('is taken where that section is lifted, and never one that is not there', () => {
    fc.assert(fc.property(fc.nat(4), fc.nat(4), fc.boolean(), (kept, used, isLifted) => {
      const taken = Math.min(kept, used)
      const found = ask(kept, taken, isLifted ? [1] : [2])
      expect(found.outcome).toBe(isLifted && taken < kept ? 'register' : 'refused')
      if (found.outcome === 'register') expect(found.claims).toEqual([{ sectionId: 1, poolId: 11 }])
    }))
  })
})

describe('what was signed off', () => {
  const sections = [section(1, 'AAA 100'), section(2, 'BBB 100', { meetings: [meeting(900)] })]
  const ask = (signed: { courses: Set<string>, by: string } | null) =>
    refusals(decideRun([row(1, 'AAA 100', [1]), row(2, 'BBB 100', [2])], decision(courses, sections, { signed })))
  it('is all that is registered where the institution has it so, and makes no difference elsewhere', () => {
    expect(ask(null)).toEqual([[], []])
    expect(ask({ courses: new Set(['AAA 100']), by: 'Hollis Brandt' })).toEqual([[], ['not-signed']])
  })
})

describe('the gate of the sign-off', () => {
  const gate = (signed: boolean, released: boolean, releaseCode: 'instead' | 'besides') => readGates({ term: { code: '2027SP', name: '' },
    now: '2026-11-10T00:00:00Z', today: '2026-11-10', addBy: '2027-01-18', zone: 'UTC', openings: [], programs: [], earned: 0,
    signedOff: signed ? { by: 'Hollis Brandt', on: '2026-11-01' } : null, released: released ? '2026-11-02' : null, releaseCode,
    signOffAsked: false, advisor: null, holds: [], programConfirmed: true, programTitle: '', termsAccepted: null })
    .find(one => one.kind === 'sign-off')!
  it.each([[true, false], [false, true], [true, true], [false, false]])('signed %s, code used %s', (signed, released) => {
    expect(gate(signed, released, 'instead').open).toBe(signed || released)
    expect(gate(signed, released, 'besides').open).toBe(signed && released)
  })
})
