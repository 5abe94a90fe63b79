import fc from 'fast-check'
import { expect, it } from 'vitest'
import type { Course, CourseItem } from '../catalog/types'
import { LETTER_SCALE } from '../grades/scale'
import { allocate, compareBranches, compareTiers, hasChoice, openByTier } from './allocation/allocate'
import { SolvedParts } from './allocation/memory'
import { isAverageLow } from './averages'
import { leastOpen, quickUses } from './bounds'
import { prepareProgram } from './prepare'
import { sumProgram } from './report'
import { isBelow } from './rules'
import type { CourseLine, Program, RequirementNode } from './types'

const CODES = ['AAA 100', 'AAA 110', 'AAA 200', 'BBB 100', 'BBB 110', 'BBB 200', 'CCC 100']
const anyCourses = fc.record({ credits: fc.array(fc.constantFrom(100, 300, 300, 400), { minLength: 7, maxLength: 7 }),
  equivalent: fc.boolean() }).map(({ credits, equivalent }) => new Map(CODES.map((code, i): [string, Course] => [code, {
  code, subject: code.slice(0, 3), number: Number(code.slice(4)), title: code, credits: credits[i]!, creditsMax: credits[i]!,
  description: '', attributes: code.endsWith('10') ? ['Places'] : [], prerequisite: '', corequisite: '', exclusions: [],
  equivalents: equivalent && code === 'AAA 110' ? ['BBB 110'] : [], repeatLimit: 1, offered: { seasons: ['fall'] }, parts: ['lecture'],
  fee: 0 }])))

const line = (id: string, values: Partial<CourseLine>): CourseLine => ({ kind: 'courses', id, title: id, filter: {}, ...values })
const anyLine = fc.constantFrom<Partial<CourseLine>>(
  { filter: { subjects: ['AAA'] }, courses: 2 }, { filter: { subjects: ['BBB'] }, credits: 400 },
  { filter: { attributes: ['Places'] }, courses: 1 },
  { filter: { list: ['AAA 100', 'BBB 100'] }, courses: 1, minGrade: 'C' }, { filter: { list: ['AAA 200', 'BBB 200'] }, courses: 2 },
  { filter: {}, credits: 700 }, { filter: { subjects: ['AAA', 'BBB'] }, courses: 2, credits: 600 },
  { filter: { subjects: ['AAA', 'BBB', 'CCC'] }, courses: 3, subjects: 2 })
const anyProgram = fc.tuple(fc.array(anyLine, { minLength: 1, maxLength: 3 }), fc.boolean(), fc.constantFrom(150, 200, 250, 300))
  .map(([lines, isChoice, minimum]): Program => {
    const children = lines.map((values, i) => line(`l${i}`, values))
    const node: RequirementNode = { kind: 'some', id: 'choice', title: 'choice', n: 1, children }
    return { code: 'P', kind: 'major', title: 'P', catalogYear: 2025, totalCredits: 1200, sharing: [], overlays: [], suggested: [],
      rules: [{ kind: 'gpa', id: 'own', title: 'own', minimum, scope: 'program' }],
      areas: [{ kind: 'all', id: 'area', title: 'Area', hue: 'moss', children: isChoice ? [node] : children }] }
  })
const anyItems = fc.uniqueArray(fc.record({ course: fc.constantFrom(...CODES),
  grade: fc.constantFrom('A', 'A', 'B', 'C', 'C-', 'D', 'F', 'P', null),
  term: fc.constantFrom('2025FA', '2026SP') }), { maxLength: 7, selector: one => `${one.course} ${one.term}` })

it('calls an average low or high only where it is with every use that fills as much, and a line open only where no use fills it', () => {
  const seen = { high: 0, highWithLowGrades: 0, low: 0, depends: 0, openWhatever: 0 }
  fc.assert(fc.property(anyCourses, anyProgram, anyItems, (courses, program, taken) => {
    const items = taken.map(({ course, grade, term }, i): CourseItem => ({ id: `i${i}`, course, term, credits: courses.get(course)!.credits,
      grade, state: grade === null ? 'planned' : 'completed', source: 'here' }))
    const prepared = prepareProgram({ program, items, courses, scale: LETTER_SCALE, repeatPolicy: 'best' })
    const { allocated, needs, ready: { tree }, candidates } = prepared
    const memory = new SolvedParts()
    const found = allocate(allocated, needs, tree, {}, memory)
    const isLow = (uses: number[]) => {
      const used = new Set(candidates.items.flatMap(({ id }, i) => uses[i]! >= 0 ? [id] : []))
      return sumProgram(prepared, uses, true, used, memory).rules.some(isBelow)
    }
    const said = isAverageLow(prepared, found.uses)
    const ways = new Set<boolean>()
    let least = Infinity
    // Every use there is, one by one.
    const tryAll = (uses: number[]) => {
      const i = uses.length
      if (i === allocated.length) {
        const open = openByTier(allocated, needs, tree, uses)
        least = Math.min(least, open[3])
        if (String(open) !== String(found.open)) return
        ways.add(isLow(uses))
        return
      }
      for (const way of [-1, ...allocated[i]!.fits]) tryAll([...uses, way])
    }
    tryAll([])
    if (said !== null) expect([...ways]).toEqual([said])
    // Worse uses than the best say less, and nothing else.
    for (const worse of [allocated.map(() => -1), ...hasChoice(tree) ? [] : [quickUses(prepared)]])
      expect([said, null]).toContain(isAverageLow(prepared, worse))
    const compare = hasChoice(tree) ? compareBranches : compareTiers
    expect(compare(openByTier(allocated, needs, tree, quickUses(prepared)), found.open)).toBeGreaterThanOrEqual(0)
    expect(leastOpen(prepared)).toBeLessThanOrEqual(least)
    seen.openWhatever += Number(leastOpen(prepared) > 0)
    if (said === null) seen.depends++
    else if (said) seen.low++
    else seen[items.some(item => item.grade === 'D' || item.grade === 'C-') ? 'highWithLowGrades' : 'high']++
  }), { numRuns: 400 })
  expect(Object.entries(seen).filter(([, times]) => times < 10)).toEqual([])
})
