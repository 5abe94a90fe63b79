import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { course, courseMap, item, term } from '../../../../tests/builders'
import type { CourseItem } from '../catalog/types'
import { LETTER_SCALE } from '../grades'
import { EMPTY_FILE, type PlanEntry } from '../planning'
import { leavingKind, readLeaving } from './leaving'

const SPRING = term('2027SP', { fullTime: 900, dropBy: '2027-01-20', withdrawBy: '2027-03-30' })
const held = (code: string, values: Partial<CourseItem> = {}) => item(code, { state: 'registered', term: '2027SP', ...values })
const entry = (code: string, when: string): PlanEntry => ({ id: `${code} ${when}`, course: code, term: when, credits: 300, pinned: false,
  pinnedUse: null, note: '' })
const courses = courseMap(course('AAA 100'), course('BBB 100', { corequisite: 'AAA 100' }), course('CCC 100'),
  course('DDD 200', { prerequisite: 'AAA 100 with C' }), course('EEE 100', { equivalents: ['AAA 100'] }))
const read = (drop: string[], values: { record?: CourseItem[], entries?: PlanEntry[], date?: string, signed?: PlanEntry[] } = {}) =>
  readLeaving(drop, { term: SPRING, date: values.date ?? '2026-11-09',
    file: { ...EMPTY_FILE, record: values.record ?? [held('AAA 100'), held('BBB 100'), held('CCC 100')], entries: values.entries ?? [],
      signedOff: values.signed ? [{ term: '2027SP', copy: values.signed }] : [] },
    rules: { courses, scale: LETTER_SCALE, repeatPolicy: 'best' } })

describe('leaving a course', () => {
  it.each([['2027-01-20', 'drop', '2027-01-20'], ['2027-01-21', 'withdraw', '2027-03-30'], ['2027-03-31', 'closed', null]])(
    'on %s is a %s', (date, kind, until) => expect(leavingKind(SPRING, date)).toEqual({ kind, until }))

  it('says the credits that are left, and when they are no full-time load any more', () => {
    expect(read(['CCC 100'])).toMatchObject({ credits: { before: 900, after: 600 }, fullTime: { before: true, after: false } })
    expect(read([])).toMatchObject({ credits: { before: 900, after: 900 }, fullTime: { before: true, after: true } })
  })

  it('names a course that stays without the one it goes with; both together leave none alone', () => {
    expect(read(['AAA 100']).alone).toEqual(['BBB 100'])
    expect(read(['AAA 100', 'BBB 100']).alone).toEqual([])
    // One that gives the same credit does as well.
    expect(read(['AAA 100'], { record: [held('AAA 100'), held('BBB 100'), held('EEE 100')] }).alone).toEqual([])
  })

  it('asks what is taken in the same move: another bundle of the course or an equivalent does, for that course and no other', () => {
    const about = { term: SPRING, date: '2026-11-09', rules: { courses, scale: LETTER_SCALE, repeatPolicy: 'best' as const },
      file: { ...EMPTY_FILE, record: [held('AAA 100'), held('BBB 100'), held('CCC 100')] } }
    expect(readLeaving(['AAA 100'], { ...about, instead: [held('AAA 100', { id: 'new' })] })).toMatchObject({ alone: [],
      credits: { before: 900, after: 900 } })
    expect(readLeaving(['AAA 100'], { ...about, instead: [held('EEE 100')] }).alone).toEqual([])
    // The exchange of one course says nothing for another that is given up with it.
    expect(readLeaving(['CCC 100', 'AAA 100'], { ...about, instead: [held('CCC 100', { id: 'new' })] }).alone).toEqual(['BBB 100'])
  })

  it('names planned courses whose rules hold no more, and none that did not hold before', () => {
    const entries = [entry('AAA 100', '2027SP'), entry('DDD 200', '2027FA')]
    expect(read(['AAA 100'], { entries }).planned).toEqual(['DDD 200'])
    expect(read(['CCC 100'], { entries }).planned).toEqual([])
    expect(read(['CCC 100'], { entries, record: [held('CCC 100')] }).planned).toEqual([])
    // Planned again before it, nothing breaks.
    expect(read(['AAA 100'], { entries: [...entries, entry('AAA 100', '2027SU')] }).planned).toEqual([])
  })

  it('tells that it was signed off', () => {
    expect(read(['AAA 100'], { signed: [entry('AAA 100', '2027SP')] }).signedOff).toBe(true)
    expect(read(['CCC 100'], { signed: [entry('AAA 100', '2027SP')] }).signedOff).toBe(false)
  })

  it('takes away what is left out and nothing else, whatever is dropped', () => {
    const all = ['AAA 100', 'BBB 100', 'CCC 100', 'EEE 100']
    fc.assert(fc.property(fc.subarray(all), fc.subarray(all), (has, drop) => {
      const record = has.map(code => held(code))
      const { credits, alone } = read(drop, { record })
      const stays = has.filter(code => !drop.includes(code))
      expect(credits).toEqual({ before: has.length * 300, after: stays.length * 300 })
      for (const code of alone) expect(stays).toContain(code)
    }))
  })
})
