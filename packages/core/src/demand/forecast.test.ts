import { describe, expect, it } from 'vitest'
import { Random } from '../../../../demo/random'
import { course, courseMap, term } from '../../../../tests/builders'
import { liveThrough } from '../../../../tests/references/generate-enrolments'
import { type ForecastStudent, forecastTerm, forecastWithBacktest } from './forecast'

const TERMS = ['2024FA', '2025SP', '2025FA', '2026SP', '2026FA', '2027SP', '2027FA'].map(code => term(code))
const COURSES = courseMap(course('AAA 100'), course('AAA 200', { prerequisite: 'AAA 100' }),
  course('AAA 300', { prerequisite: 'AAA 200', offered: { seasons: ['fall'] } }))
const SEQUENCES = new Map([['AAA-BS', ['AAA 100', 'AAA 200', 'AAA 300']]])
/** So many who take one course after the other from a term on, each passed but the last. */
const comers = (n: number, from: string, ...taken: string[]): ForecastStudent[] => Array.from({ length: n }, () => ({ degree: 'AAA-BS',
  enrolments: taken.map((code, i) => ({ course: code, term: TERMS[TERMS.findIndex(one => one.code === from) + i]!.code,
    earns: i === taken.length - 1 ? null : true })) }))

describe('the students that a course will have', () => {
  it('are those who come to it, and as many newcomers as a year before', () => {
    const students = [...comers(20, '2024FA', 'AAA 100', 'AAA 200', 'AAA 300').map(one => ({ ...one,
      enrolments: one.enrolments.map(of => ({ ...of, earns: true })) })), ...comers(40, '2026SP', 'AAA 100', 'AAA 200'),
    ...comers(12, '2026SP', 'AAA 100').map(one => ({ ...one, enrolments: one.enrolments.map(of => ({ ...of, earns: true })) })),
    ...comers(30, '2026FA', 'AAA 100')]
    const found = forecastTerm('2027SP', { students, courses: COURSES, sequences: SEQUENCES, terms: TERMS, known: '2026FA' })
    // Thirty began in fall and go on to the second course as those before did; nothing is given in spring that the forty could take.
    expect(found.get('AAA 200')).toBeGreaterThan(24)
    expect(found.get('AAA 200')).toBeLessThanOrEqual(42)
    // In spring twelve and forty began a year before, and nobody took the third.
    expect(found.get('AAA 100')).toBeCloseTo(52, 0)
    expect(found.get('AAA 300') ?? 0).toBe(0)
  })

  it('are those who mean to, in the terms between', () => {
    const past = comers(20, '2024FA', 'AAA 100', 'AAA 200', 'AAA 300').map(one => ({ ...one,
      enrolments: one.enrolments.map(of => ({ ...of, earns: true })) }))
    const now = comers(10, '2026FA', 'AAA 100')
    const meant = now.map(one => ({ ...one, enrolments: [...one.enrolments, { course: 'AAA 200', term: '2027SP', earns: null }] }))
    const of = (students: ForecastStudent[]) =>
      forecastTerm('2027FA', { students: [...past, ...students], courses: COURSES, sequences: SEQUENCES, terms: TERMS,
        known: '2026FA' }).get('AAA 300') ?? 0
    expect(of(meant)).toBeGreaterThan(7)
    expect(of(meant)).toBeGreaterThanOrEqual(of(now))
    expect(of(meant)).toBeLessThanOrEqual(10)
  })

  it('has nothing to say where nothing is on record', () => {
    expect(forecastWithBacktest('2027SP', { students: [], courses: COURSES, sequences: SEQUENCES, terms: TERMS, known: '2026FA' }))
      .toEqual({ courses: [], backtest: null })
  })
})

describe('against colleges that were lived through', () => {
  const COLLEGES = [11, 12, 13, 14, 15, 16]
  it('is nearer than last year\'s numbers in the mean, and in most of them', () => {
    const checked = COLLEGES.map((seed) => {
      const { students, ...college } = liveThrough(new Random(seed))
      const truth = new Map<string, number>()
      for (const one of students) for (const of of one.enrolments)
        if (of.term === '2026FA') truth.set(of.course, (truth.get(of.course) ?? 0) + 1)
      const before = students.map(one => ({ ...one, enrolments: one.enrolments.filter(of => of.term !== '2026FA') }))
        .filter(one => one.enrolments.length > 0)
      const { courses, backtest } = forecastWithBacktest('2026FA', { students: before, ...college, known: '2026SP' })
      expect(backtest!.error).toBeGreaterThan(0)
      const off = courses.map(one => Math.abs(one.expected - (truth.get(one.course) ?? 0)))
      const naive = courses.map(one => Math.abs(one.lastYear! - (truth.get(one.course) ?? 0)))
      const within = courses.filter(one => one.low! <= (truth.get(one.course) ?? 0) && (truth.get(one.course) ?? 0) <= one.high!)
      const mean = (list: readonly number[]) => list.reduce((sum, one) => sum + one, 0) / list.length
      return { off: mean(off), naive: mean(naive), within: within.length / courses.length }
    })
    const mean = (of: (one: typeof checked[number]) => number) => checked.reduce((sum, one) => sum + of(one), 0) / checked.length
    expect(mean(one => one.off)).toBeLessThan(0.8 * mean(one => one.naive))
    expect(checked.filter(one => one.off < one.naive).length).toBeGreaterThan(COLLEGES.length / 2)
    // What is given as eight in ten holds about so often, two terms being all it is learned from.
    expect(mean(one => one.within)).toBeGreaterThan(0.7)
  })
})

describe('a term that is planned and not begun', () => {
  it('is carried on from, and not learned from', () => {
    const passed = (list: ForecastStudent[]) => list.map(one => ({ ...one,
      enrolments: one.enrolments.map(of => ({ ...of, earns: true })) }))
    const past = passed(comers(20, '2024FA', 'AAA 100', 'AAA 200', 'AAA 300'))
    // Nobody took the third course in spring; forty say that they will, in the spring that is to come.
    const planning = comers(40, '2026FA', 'AAA 200', 'AAA 300')
    const input = { students: [...past, ...planning], courses: COURSES, sequences: SEQUENCES, terms: [...TERMS, term('2028SP')] }
    const lastYear = (begun?: string) => forecastWithBacktest('2028SP', { ...input, known: '2027SP', ...begun ? { begun } : {} })
      .courses.map(one => one.lastYear)
    expect(lastYear('2026FA').every(one => one === null)).toBe(true)
    expect(forecastTerm('2028SP', { ...input, known: '2027SP', begun: '2026FA' }).get('AAA 300') ?? 0).toBe(0)
  })
})
