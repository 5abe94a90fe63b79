import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { course, courseMap, decision, meeting, row, section } from '../../../../tests/builders'
import type { Weekday } from '../catalog/types'
import { findSections, type SearchInput, type SectionSearch } from './search'
import { makeTextIndex, readText } from './text'

const DAYS: Weekday[] = ['M', 'T', 'W', 'R', 'F']
const DELIVERIES = ['on site', 'online live', 'mixed'] as const
const CODES = ['HYD 110', 'HYD 230', 'ECL 210', 'WRT 110', 'MTH 140', 'ECL 330']
/** A small term: every course with three sections at hours, places and with seats at random, one course that cannot be taken. */
const anyTerm = fc.record({
  hours: fc.array(fc.integer({ min: 0, max: 7 }), { minLength: 18, maxLength: 18 }),
  days: fc.array(fc.integer({ min: 0, max: 4 }), { minLength: 18, maxLength: 18 }),
  full: fc.array(fc.integer({ min: 0, max: 4 }), { minLength: 18, maxLength: 18 }),
  far: fc.array(fc.boolean(), { minLength: 18, maxLength: 18 }),
})
/** The last course's last section has seats and clashes with what is picked; those before it are full. */
const lastClashes = { hours: Array(18).fill(0), days: Array(18).fill(0), full: Array(18).fill(0).with(17, 1), far: Array(18).fill(false) }
/** Not asked for, most of the time. */
const often = <T>(...values: T[]) => fc.oneof({ weight: 3, arbitrary: fc.constant(undefined) },
  { weight: 1, arbitrary: fc.constantFrom(...values) })
const anySearch: fc.Arbitrary<Partial<SectionSearch>> = fc.record({
  canTake: fc.constantFrom(true, undefined), fits: fc.constantFrom(true, undefined), seatsLeft: fc.constantFrom(true, undefined),
  days: fc.constantFrom(undefined, ['M', 'W'] as Weekday[], ['T', 'R', 'F'] as Weekday[]),
  from: fc.constantFrom(undefined, 600), to: fc.constantFrom(undefined, 900), sites: fc.constantFrom(undefined, ['main'], ['far']),
  subjects: fc.constantFrom(undefined, ['HYD'], ['ECL', 'WRT']), lines: fc.constantFrom(undefined, ['open' as const], ['P/water' as const]),
  deliveries: often(['on site' as const], ['online live' as const, 'mixed' as const]), sessions: often(['full'], ['first']),
  levels: often([1], [2, 3]), instructor: often('Oake'), group: often('TRAIL'), remembered: often(true as const),
})
function inputOf({ hours, days, full, far }: { hours: number[], days: number[], full: number[], far: boolean[] },
  search: Partial<SectionSearch>): SearchInput {
  const courses = courseMap(...CODES.map(code => course(code, { subject: code.slice(0, 3), prerequisite: code === 'ECL 330'
    ? 'ZZZ 900'
    : '' })))
  const sections = CODES.flatMap((code, c) => [0, 1, 2].map((n) => {
    const i = c * 3 + n
    return section(i + 1, code, { link: String(n), label: `0${n + 1}`, number: String(30001 + i),
      instructors: [n === 0 ? 'Oake' : 'Keld'],
      delivery: DELIVERIES[i % 3]!, session: c % 3 === 2 ? 'first' : 'full', group: n === 2 ? 'TRAIL' : '',
      meetings: [meeting(480 + hours[i]! * 60, { days: [DAYS[days[i]!]!], site: far[i] ? 'far' : 'main' })],
      pools: [{ id: i + 1, forGroup: null, capacity: 3, taken: full[i] === 0 ? 3 : 0, held: 0 }] })
  }))
  return {
    search: { text: '', ...search }, context: decision(courses, sections), rows: [row(1, 'HYD 110', [1])],
    lines: [{ line: 'P/water', title: 'Water', program: 'P', hue: 'lake', open: true, overlay: false, uses: new Set(), takes: one =>
      one.subject === 'HYD' },
    { line: 'P/life', title: 'Life', program: 'P', hue: 'moss', open: true, overlay: false, uses: new Set(), takes: one =>
      one.subject === 'ECL' }],
    wishes: [{ id: 'w', weight: 3, kind: 'keep free', days: ['F'], start: 480, end: 720, name: 'shift' }],
    shortlist: new Set(['2', '5', '6', '11', '16']),
    creditsOf: () => null, index: makeTextIndex(courses.values(), sections), most: 50,
  }
}
const idsOf = (input: SearchInput) => findSections(input).courses.flatMap(one => one.bundles.map(bundle => bundle.id)).sort()

describe('findSections', () => {
  it('shows what every one of its conditions shows by itself, and nothing else', () => {
    fc.assert(fc.property(anyTerm, anySearch, (term, search) => {
      const apart = Object.entries(search).filter(([key]) => key !== 'from' && key !== 'to').map(([key, value]) =>
        new Set(idsOf(inputOf(term, { [key]: value }))))
      const hours = new Set(idsOf(inputOf(term, { from: search.from, to: search.to })))
      const expected = idsOf(inputOf(term, {})).filter(id => hours.has(id) && apart.every(set => set.has(id)))
      expect(idsOf(inputOf(term, search))).toEqual(expected)
    }), { numRuns: 120 })
  })

  it('is the same however often the same sections were searched before, and as if they never were', () => {
    fc.assert(fc.property(anyTerm, anySearch, anySearch, (term, search, other) => {
      const input = inputOf(term, search)
      const first = findSections(input)
      findSections({ ...input, search: { text: 'ecl', ...other, sort: 'time' } })
      expect(findSections(input)).toEqual(first)
      expect(first).toEqual(findSections(inputOf(term, search)))
    }), { numRuns: 60 })
  })

  it('counts what choosing a condition would leave', () => {
    fc.assert(fc.property(anyTerm, anySearch, (term, search) => {
      const { counts } = findSections(inputOf(term, search))
      for (const key of ['canTake', 'fits', 'seatsLeft'] as const)
        expect(counts[key]).toBe(findSections(inputOf(term, { ...search, [key]: true })).bundles)
      for (const [line, bundles] of Object.entries(counts.lines))
        expect(bundles).toBe(findSections(inputOf(term, { ...search, lines: [line as 'P/water'] })).bundles)
      for (const [subject, bundles] of Object.entries(counts.subjects))
        expect(bundles).toBe(findSections(inputOf(term, { ...search, subjects: [subject] })).bundles)
      for (const [site, bundles] of Object.entries(counts.sites))
        expect(bundles).toBe(findSections(inputOf(term, { ...search, sites: [site] })).bundles)
      const left = (choice: Partial<SectionSearch>) => findSections(inputOf(term, { ...search, ...choice })).bundles
      for (const [delivery, bundles] of Object.entries(counts.deliveries))
        expect(bundles).toBe(left({ deliveries: [delivery as 'mixed'] }))
      for (const [session, bundles] of Object.entries(counts.sessions)) expect(bundles).toBe(left({ sessions: [session] }))
      for (const [level, bundles] of Object.entries(counts.levels)) expect(bundles).toBe(left({ levels: [Number(level)] }))
      for (const [instructor, bundles] of Object.entries(counts.instructors)) expect(bundles).toBe(left({ instructor }))
      for (const [group, bundles] of Object.entries(counts.groups)) expect(bundles).toBe(left({ group }))
    }), { numRuns: 60 })
  })

  it('puts them in the order that was asked for, and finds the same in each', () => {
    fc.assert(fc.property(anyTerm, anySearch, (term, search) => {
      const sorted = (sort: NonNullable<SectionSearch['sort']>) => findSections(inputOf(term, { ...search, sort })).courses
      const ids = (courses: ReturnType<typeof sorted>) => courses.flatMap(one => one.bundles.map(bundle => bundle.id)).sort()
      for (const sort of ['code', 'time', 'seats'] as const) expect(ids(sorted(sort))).toEqual(ids(sorted('best')))
      const codes = sorted('code').map(one => one.course)
      expect(codes).toEqual([...codes].sort())
      const seats = sorted('seats').map(({ bundles }) => bundles.map(bundle => bundle.seats))
      expect(seats).toEqual(seats.map(course => [...course].sort((a, b) => b - a)).sort(([a], [b]) => b! - a!))
      const starts = sorted('time').map(({ bundles }) => bundles.map(({ sections }) => sections[0]!.meetings[0]!.start))
      expect(starts).toEqual(starts.map(course => [...course].sort((a, b) => a - b)).sort(([a], [b]) => a! - b!))
    }), { numRuns: 100, examples: [[lastClashes, { fits: true }]] })
  })

  it('says of everything that it holds back why, and shows it when that is opened', () => {
    fc.assert(fc.property(anyTerm, anySearch, (term, search) => {
      const { bundles, counts } = findSections(inputOf(term, search))
      const open = findSections(inputOf(term, { ...search, canTake: undefined, fits: undefined, seatsLeft: undefined })).bundles
      expect(bundles + counts.hidden.reduce((sum, one) => sum + one.bundles, 0)).toBe(open)
      for (const { reason, bundles: held } of counts.hidden)
        expect(findSections(inputOf(term, { ...search, hiddenFor: reason })).bundles).toBe(held)
    }), { numRuns: 60 })
  })

  it('finds nothing only with ways out that bring what they say', () => {
    fc.assert(fc.property(anyTerm, anySearch, (term, search) => {
      const { bundles, counts } = findSections(inputOf(term, { ...search, text: 'ecl' }))
      if (bundles > 0) return void expect(counts.letGo).toEqual([])
      for (const { condition, bundles: brings } of counts.letGo) {
        const without = condition === 'text'
          ? { ...search, text: '' }
          : { ...search, text: 'ecl', ...condition === 'hours' ? { from: undefined, to: undefined } : { [condition]: undefined } }
        expect(findSections(inputOf(term, without)).bundles).toBe(brings)
      }
    }), { numRuns: 120 })
  })

  it('reads a pasted list, and tells what a number is not', () => {
    const plain = { hours: Array(18).fill(0).map((_, i) => i % 8), days: Array(18).fill(0).map((_, i) => i % 5),
      full: Array(18).fill(1) as number[],
      far: Array(18).fill(false) as boolean[] }
    const { numbers, bundles } = findSections(inputOf(plain, { text: '30004, 30007\n39999' }))
    expect(numbers).toEqual([{ number: '30004', course: 'HYD 230', bundles: ['4'] }, { number: '30007', course: 'ECL 210', bundles: ['7'] },
      { number: '39999', course: null, bundles: [] }])
    expect(bundles).toBe(2)
  })
})

describe('readText', () => {
  it.each([
    ['', { kind: 'nothing' }], ['hyd230', { kind: 'code', course: 'HYD 230', label: null }],
    ['HYD-230 02', { kind: 'code', course: 'HYD 230', label: '02' }], ['20034 #20035', { kind: 'numbers', numbers: ['20034', '20035'] }],
    ['the History of water', { kind: 'words', words: ['history', 'water'] }], ['hyd23', { kind: 'words', words: ['hyd', '23'] }],
  ])('%j', (text, expected) => {
    expect(readText(text)).toEqual(expected)
  })
})
