import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { course, courseMap, item, planned, rulesOf } from '../../../../tests/builders'
import { linked } from '../catalog/linked'
import type { CourseItem } from '../catalog/types'
import { averagedAttempts, earnedCredits, readCredit, timesFor } from './attempts'
import { excludedBy, takenAlready } from './repeats'

const ids = (items: readonly CourseItem[]) => items.map(one => one.id)

describe('readCredit', () => {
  const courses = courseMap(course('AAA 100'), course('BBB 390', { repeatLimit: 3 }))
  const attempt = (id: string, grade: string, term: string, code = 'AAA 100') => item(code, { id, grade, term })

  it('keeps the best or the latest of repeats, by policy', () => {
    const items = [attempt('1', 'B', '2025FA'), attempt('2', 'C', '2026SP')]
    expect(ids(readCredit(items, rulesOf(courses)).earning)).toEqual(['1'])
    expect(ids(readCredit(items, rulesOf(courses, { repeatPolicy: 'latest' })).earning)).toEqual(['2'])
    expect([...readCredit(items, rulesOf(courses)).replaced]).toEqual(['2'])
  })
  it('orders two attempts of one term by the instant of the grade, and by nothing where that is not known', () => {
    const [early, late] = ['2025-10-20T12:00:00.000Z', '2025-12-15T12:00:00.000Z']
    const both = [{ ...attempt('1', 'C', '2025FA'), gradedAt: late }, { ...attempt('2', 'B', '2025FA'), gradedAt: early }]
    const latest = rulesOf(courses, { repeatPolicy: 'latest' })
    expect(ids(readCredit(both, latest).earning)).toEqual(['1'])
    expect(ids(readCredit(both.map(one => ({ ...one, gradedAt: null })), latest).earning)).toEqual(['2'])
  })
  it('compares a transferred attempt by the grade that was earned elsewhere', () => {
    const elsewhere = { ...attempt('t', 'TR', '2025FA'), source: 'transfer' as const, term: null, earnedGrade: 'B' }
    expect(ids(readCredit([elsewhere, attempt('c', 'C', '2025FA')], rulesOf(courses)).earning)).toEqual(['t'])
    expect(ids(readCredit([{ ...elsewhere, earnedGrade: 'D' }, attempt('c', 'C', '2025FA')], rulesOf(courses)).earning)).toEqual(['c'])
  })
  it('takes no credit away for a later attempt that failed', () => {
    const items = [attempt('1', 'B', '2025FA'), attempt('2', 'F', '2026SP')]
    expect(ids(readCredit(items, rulesOf(courses, { repeatPolicy: 'latest' })).earning)).toEqual(['1'])
  })
  it('never lets a withdrawal stand in the way of anything', () => {
    expect(readCredit([attempt('1', 'W', '2025FA')], rulesOf(courses))).toMatchObject({ earning: [], rivals: [], idle: [] })
    expect(ids(readCredit([attempt('1', 'W', '2025FA'), planned('AAA 100', '2027SP', { id: 'again' })], rulesOf(courses)).earning)).toEqual(
      ['again'],
    )
  })
  it('gives credit as often as a course may be repeated', () => {
    const items = ['2024FA', '2025SP', '2025FA', '2026SP'].map((term, i) => attempt(String(i), 'B', term, 'BBB 390'))
    expect(earnedCredits(items, rulesOf(courses))).toBe(900)
    expect(timesFor('BBB 390', courses)).toBe(3)
  })
  it('leaves a repeat of what gives credit idle, and counts one of what was failed', () => {
    const passed = [attempt('1', 'B', '2025FA'), planned('AAA 100', '2027SP', { id: 'again' })]
    expect(ids(readCredit(passed, rulesOf(courses)).idle)).toEqual(['again'])
    const failed = [attempt('1', 'F', '2025FA'), planned('AAA 100', '2027SP', { id: 'again' })]
    expect(ids(readCredit(failed, rulesOf(courses)).earning)).toEqual(['again'])
  })
  it('gives the credit of two courses that exclude each other to the one that was passed first', () => {
    const both = courseMap(course('AAA 100'), course('BBB 100', { exclusions: ['AAA 100'] }))
    const reading = readCredit([attempt('b', 'A', '2026SP', 'BBB 100'), attempt('a', 'C', '2025FA')], rulesOf(both))
    expect([ids(reading.earning), ids(reading.rivals)]).toEqual([['a'], ['b']])
  })
  it('of two passed in one term, to the better grade, then to the larger course', () => {
    const both = courseMap(course('AAA 100'), course('BBB 100', { exclusions: ['AAA 100'] }))
    const one = readCredit([attempt('a', 'C', '2025FA'), attempt('b', 'A', '2025FA', 'BBB 100')], rulesOf(both))
    expect(ids(one.earning)).toEqual(['b'])
    const two = readCredit([attempt('a', 'B', '2025FA'), { ...attempt('b', 'B', '2025FA', 'BBB 100'), credits: 400 }], rulesOf(both))
    expect(ids(two.earning)).toEqual(['b'])
  })
})

describe('averagedAttempts', () => {
  const courses = courseMap(course('AAA 100'), course('BBB 100', { exclusions: ['AAA 100'] }))
  const averaged = (...items: CourseItem[]) => ids(averagedAttempts(items, rulesOf(courses)))

  it('takes a failed attempt out for a graded repeat taken here, and for nothing else', () => {
    const failed = item('AAA 100', { id: 'f', grade: 'F' })
    expect(averaged(failed, item('AAA 100', { id: 'b', grade: 'B', term: '2026SP' }))).toEqual(['b'])
    expect(averaged(failed, item('AAA 100', { id: 't', grade: 'TR', term: null, source: 'transfer' }))).toEqual(['f'])
    expect(averaged(failed, item('AAA 100', { id: 'p', grade: 'P', term: '2026SP' }))).toEqual(['f'])
    expect(averaged(failed, item('BBB 100', { id: 'x', grade: 'B', term: '2026SP' })).sort()).toEqual(['f', 'x'])
  })
  it('looks at nothing that is not decided', () => {
    expect(averaged(item('AAA 100', { id: 'u', state: 'under way', grade: null }))).toEqual([])
  })
})

describe('takenAlready and excludedBy', () => {
  const courses = courseMap(course('AAA 100', { equivalents: ['AAA 110'] }), course('AAA 110'), course('BBB 390', { repeatLimit: 2 }),
    course('CCC 100', { exclusions: ['AAA 100'] }))
  const rules = rulesOf(courses)
  const taken = (code: string, items: CourseItem[], asked = 0) => takenAlready({ code }, items, rules, asked)

  it('hold a grade of C to be enough unless more is asked', () => {
    expect(taken('AAA 100', [item('AAA 100', { grade: 'C' })])).toMatchObject({ times: 1 })
    expect(taken('AAA 100', [item('AAA 100', { grade: 'C-' })])).toBeNull()
    expect(taken('AAA 100', [item('AAA 100', { grade: 'C' })], 300)).toBeNull()
    expect(taken('AAA 100', [item('AAA 100', { grade: 'B' })], 300)).not.toBeNull()
  })
  it('see an equivalent, from either side', () => {
    expect(taken('AAA 110', [item('AAA 100')])?.by.course).toBe('AAA 100')
    expect(taken('AAA 100', [item('AAA 110')])?.by.course).toBe('AAA 110')
  })
  it('let a repeatable course be taken until its limit, and what is under way counts', () => {
    const once = [item('BBB 390', { id: '1' })]
    expect(taken('BBB 390', once)).toBeNull()
    expect(taken('BBB 390', [...once, item('BBB 390', { id: '2', state: 'under way', grade: null })])).toMatchObject({ times: 2 })
  })
  it('see an exclusion from either side, and not one by a course that was failed', () => {
    expect(excludedBy({ code: 'AAA 100' }, [item('CCC 100')], rules)?.course).toBe('CCC 100')
    expect(excludedBy({ code: 'AAA 110' }, [item('CCC 100')], rules)?.course).toBe('CCC 100')
    expect(excludedBy({ code: 'CCC 100' }, [item('AAA 100', { grade: 'F' })], rules)).toBeNull()
  })
})

describe('laws of the record', () => {
  const CODES = ['AAA 100', 'AAA 110', 'BBB 100', 'CCC 100', 'CCC 110']
  const anyCourses = fc.record({
    same: fc.uniqueArray(fc.tuple(fc.nat(4), fc.nat(4)), { maxLength: 2 }),
    excludes: fc.uniqueArray(fc.tuple(fc.nat(4), fc.nat(4)), { maxLength: 3 }),
    times: fc.array(fc.integer({ min: 1, max: 3 }), { minLength: 5, maxLength: 5 }),
  }).map(({ same, excludes, times }) =>
    courseMap(...CODES.map((code, i) =>
      course(code, {
        repeatLimit: times[i]!,
        equivalents: same.filter(([a]) => a === i).map(([, b]) => CODES[b]!).filter(other => other !== code),
        exclusions: excludes.filter(([a]) => a === i).map(([, b]) => CODES[b]!).filter(other => other !== code),
      }),
    )),
  )
  const anyItems = fc.array(fc.record({
    code: fc.constantFrom(...CODES),
    term: fc.constantFrom('2024FA', '2025SP', '2025FA'),
    grade: fc.constantFrom('A', 'C', 'D', 'F', 'W', 'P', 'TR'),
    gradedAt: fc.constantFrom(null, '2025-10-20T12:00:00.000Z', '2025-12-15T12:00:00.000Z'),
    intended: fc.boolean(),
  }), { maxLength: 8 }).map(list =>
    list.map(({ code, term, grade, gradedAt, intended }, i): CourseItem =>
      intended
        ? planned(code, '2027SP', { id: `p${i}` })
        : item(code, { id: `r${i}`, term, grade, gradedAt, source: grade === 'TR' ? 'transfer' : 'here' }),
    ),
  )
  const policy = fc.constantFrom('best' as const, 'latest' as const)

  it('the order of rows never matters', () => {
    fc.assert(fc.property(anyCourses, anyItems, policy, fc.nat(), (courses, items, repeatPolicy, seed) => {
      const rules = rulesOf(courses, { repeatPolicy })
      const shuffled = [...items].sort((a, b) =>
        (a.id.charCodeAt(1) * (seed % 7 + 1)) % 5 - (b.id.charCodeAt(1) * (seed % 7 + 1)) % 5
        || (seed % 2 ? 1 : -1) * a.id.localeCompare(b.id),
      )
      const said = (list: CourseItem[]) => {
        const { earning, rivals, idle, replaced } = readCredit(list, rules)
        return { earning: ids(earning), rivals: ids(rivals).sort(), idle: ids(idle).sort(), replaced: [...replaced].sort(),
          average: ids(averagedAttempts(list, rules)).sort() }
      }
      expect(said(shuffled)).toEqual(said(items))
    }), { numRuns: 400 })
  })
  it('nothing earns beside what excludes it, and nothing more often than its family may', () => {
    fc.assert(fc.property(anyCourses, anyItems, policy, (courses, items, repeatPolicy) => {
      const whole = linked(courses)
      const { earning } = readCredit(items, rulesOf(courses, { repeatPolicy }))
      for (const one of earning) {
        const { exclusions, equivalents } = whole.get(one.course)!
        expect(earning.some(other => exclusions.includes(other.course))).toBe(false)
        expect(earning.filter(other => other.course === one.course || equivalents.includes(other.course)).length).toBeLessThanOrEqual(
          timesFor(one.course, courses),
        )
      }
    }), { numRuns: 400 })
  })
  it('every item is earning, a rival, idle, replaced, or gives no credit, and only one of them', () => {
    fc.assert(fc.property(anyCourses, anyItems, policy, (courses, items, repeatPolicy) => {
      const rules = rulesOf(courses, { repeatPolicy })
      const { earning, rivals, idle, replaced } = readCredit(items, rules)
      for (const one of items) {
        const places = [earning.includes(one), rivals.includes(one), idle.includes(one), replaced.has(one.id)].filter(Boolean).length
        const without = one.state === 'completed' && !(rules.scale[one.grade!]?.earns ?? false)
        expect(places).toBeLessThanOrEqual(1)
        if (!without) expect(places).toBe(1)
      }
    }), { numRuns: 400 })
  })
  it('what links courses holds both ways, and a linked catalog is linked already', () => {
    fc.assert(fc.property(anyCourses, (courses) => {
      const whole = linked(courses)
      expect(linked(whole)).toBe(whole)
      for (const { code, equivalents, exclusions } of whole.values()) {
        for (const other of equivalents) expect(whole.get(other)!.equivalents).toContain(code)
        for (const other of exclusions) expect(whole.get(other)!.exclusions).toContain(code)
        expect(exclusions.some(other => equivalents.includes(other))).toBe(false)
      }
    }), { numRuns: 200 })
  })
})
