import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type Comer, comersOf, type OfficeNow, officeNeeds, openingsEffect } from './needs'

const opening = (from: string, earnedMin = 0, program: string | null = null) => ({ from, program, earnedMin,
  words: `${earnedMin} or more` })
const comer = (id: number, earned: number, more: Partial<Comer> = {}): Comer => ({ id, programs: ['WSC-BS'], earned, unsigned: false,
  held: false, unconfirmed: false, ...more })
const NOTHING: OfficeNow = { now: '2026-11-09T14:50:00.000Z', today: '2026-11-09', openings: [], comers: [], refusedImport: null,
  term: { code: '2027SP', name: 'Spring 2027', scheduled: true, closedBecause: null, feesDue: '2027-01-04' },
  questions: [], waiting: [], demand: [], unpaid: { students: 0, cents: 0 }, withoutAdvisor: 0, holds: 0, catalogProblems: 0 }
const EARLY = '2026-11-09T15:00:00.000Z'
const LATE = '2026-11-11T15:00:00.000Z'

describe('what needs the office', () => {
  it('is nothing where nothing is', () => expect(officeNeeds(NOTHING)).toEqual([]))

  it('begins with what keeps students out now, and ends with what can wait', () => {
    const needs = officeNeeds({ ...NOTHING, term: { ...NOTHING.term, closedBecause: 'The catalog is being mended' },
      openings: [opening(EARLY, 9000), opening(LATE)],
      comers: [comer(1, 9500, { unsigned: true }), comer(2, 9500), comer(3, 1000, { unconfirmed: true })], holds: 4,
      questions: [{ student: 3, name: 'Ines' }, { student: 1, name: 'Una' }],
      waiting: [{ section: 7, course: 'HRT 230', label: '01', waiting: 1 }, { section: 8, course: 'GSP 330', label: '01', waiting: 6 }],
      demand: [{ course: 'HRT 150', planned: 20, seats: 12 }, { course: 'LNG 102', planned: 3, seats: 12 }] })
    expect(needs.map(need => need.code)).toEqual(['registration closed', 'opening', 'opening', 'questions', 'waiting', 'over-wished',
      'holds',
      'unconfirmed'])
    expect(needs[1]).toMatchObject({ from: EARLY, isOpen: false, students: 2, unsigned: 1, held: 0 })
    expect(needs[4]).toMatchObject({ sections: 2, students: 7, most: { course: 'GSP 330' } })
    expect(needs[5]).toMatchObject({ courses: 1, most: [{ course: 'HRT 150' }] })
  })

  it('tells an opening from a week before it to a day after it, and who has none at all', () => {
    const at = (now: string) => officeNeeds({ ...NOTHING, now, openings: [opening(EARLY, 3000)], comers: [comer(1, 4000), comer(2, 100)] })
      .filter(need => need.code === 'opening')
    expect(at('2026-11-02T14:59:00.000Z')).toHaveLength(0)
    expect(at('2026-11-02T15:00:00.000Z')).toHaveLength(1)
    expect(at('2026-11-10T15:00:00.000Z')).toMatchObject([{ isOpen: true }])
    expect(at('2026-11-10T15:01:00.000Z')).toHaveLength(0)
    expect(officeNeeds({ ...NOTHING, openings: [opening(EARLY, 3000)], comers: [comer(2, 100)] }))
      .toContainEqual({ code: 'no opening', term: { code: '2027SP', name: 'Spring 2027' }, students: 1 })
  })

  it('tells of unpaid fees only while the due date comes near', () => {
    const of = (today: string) => officeNeeds({ ...NOTHING, today, unpaid: { students: 3, cents: 5 } }).map(need => need.code)
    expect(of('2026-12-13')).toEqual([])
    expect(of('2026-12-14')).toEqual(['unpaid'])
    expect(of('2027-01-04')).toEqual(['unpaid'])
    expect(of('2027-01-05')).toEqual([])
  })
})

describe('openings of a term', () => {
  const rules = fc.array(fc.record({ from: fc.constantFrom(EARLY, LATE, '2026-11-10T15:00:00.000Z'), earnedMin: fc.integer({ min: 0,
    max: 12 }).map(n => n * 1000), program: fc.constantFrom(null, 'WSC-BS', 'TIM-BS'), words: fc.constant('') }), { maxLength: 5 })
  const comers = fc.array(fc.record({ earned: fc.integer({ min: 0, max: 12_000 }), programs: fc.subarray(['WSC-BS', 'TIM-BS']) }),
    { maxLength: 20 })
  it('let everybody in once or never, each at the first that is theirs', () => {
    fc.assert(fc.property(rules, comers, (openings, people) => {
      const { by, without } = comersOf(openings, people)
      expect([...by.values()].reduce((sum, list) => sum + list.length, 0) + without.length).toBe(people.length)
      for (const [rule, list] of by) for (const one of list) {
        const theirs = openings.filter(other => (other.program === null || one.programs.includes(other.program))
          && one.earned >= other.earnedMin)
        expect(theirs.every(other => rule.from <= other.from)).toBe(true)
      }
    }))
  })
  it('move nobody when they stay, and the same people back when they are put back', () => {
    fc.assert(fc.property(rules, rules, comers, (before, after, people) => {
      expect(openingsEffect(before, before, people)).toEqual({ earlier: 0, later: 0, gained: 0, lost: 0 })
      const there = openingsEffect(before, after, people)
      const back = openingsEffect(after, before, people)
      expect([back.later, back.earlier, back.lost, back.gained]).toEqual([there.earlier, there.later, there.gained, there.lost])
    }))
  })
})
