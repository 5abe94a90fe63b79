import fc from 'fast-check'
import type { Course, CourseItem, Season } from '@ridgeway/core/catalog'
import { itemsOf, type StudentFile } from '@ridgeway/core/planning'
import type { CourseLine, Program, RequirementNode } from '@ridgeway/core/requirements'
import { course, courseMap, entry, file, item, line, program, term } from '../../builders'

/** Small colleges and students, made at random: few enough courses that everything can be tried. */

export const TODAY = '2026-11-09'
export const TERMS = ['2024FA', '2025SP', '2025FA', '2026SP', '2026FA', '2027SP', '2027FA', '2028SP'].map(code => term(code))
export const AHEAD = TERMS.slice(5)
export const CODES = ['AAA 100', 'AAA 110', 'AAA 200', 'BBB 100', 'BBB 200', 'CCC 300']

const seasons: fc.Arbitrary<Season[]> = fc.constantFrom<Season[]>(['fall', 'spring'], ['fall', 'spring'], ['fall'], ['spring'])

/** A rule that names other courses; `not` adds rules that close a course. */
const ruleText = (others: readonly string[], closes: boolean): fc.Arbitrary<string> => {
  const named = fc.constantFrom(...others)
  return fc.oneof(
    { weight: 6, arbitrary: fc.constant('') },
    { weight: 3, arbitrary: named },
    named.map(code => `${code} or alongside`),
    fc.tuple(named, fc.constantFrom('C', 'B')).map(([code, grade]) => `${code} with ${grade}`),
    fc.tuple(named, named).map(([a, b]) => `${a} or ${b}`),
    fc.tuple(named, named).map(([a, b]) => `${a} and ${b} or alongside`),
    fc.tuple(named, named, named).map(([a, b, c]) => `2 of (${a}, ${b}, ${c})`),
    fc.constantFrom('6 credits', '3 credits in AAA', '6 credits in BBB'),
    ...closes ? [fc.constant('not open to standing freshman'), fc.constant('not open to OLD 100')] : [],
  )
}

export const anyCourses = (options: { rules: boolean, closes?: boolean, repeats?: boolean }): fc.Arbitrary<ReadonlyMap<string, Course>> =>
  fc.tuple(...CODES.map((code) => {
    const others = CODES.filter(other => other !== code)
    return fc.record({
      credits: fc.constantFrom(0, 100, 300, 300, 300, 400),
      prerequisite: options.rules ? ruleText(others, options.closes ?? false) : fc.constant(''),
      corequisite: options.rules ? fc.oneof({ weight: 6, arbitrary: fc.constant('') }, fc.constantFrom(...others)) : fc.constant(''),
      excludes: fc.oneof({ weight: 8, arbitrary: fc.constant<string | null>(null) }, fc.constantFrom<string | null>(...others)),
      same: fc.oneof({ weight: 12, arbitrary: fc.constant<string | null>(null) }, fc.constantFrom<string | null>(...others)),
      times: options.repeats ? fc.constantFrom(1, 1, 1, 2) : fc.constant(1),
      offered: seasons,
    }).map(({ excludes, same, times, offered, credits, ...rest }): Course => course(code, { ...rest, credits, creditsMax: credits,
      // Names of one course that may be taken twice are no subject here.
      repeatLimit: options.repeats ? times : 1, exclusions: excludes ? [excludes] : [],
      equivalents: same && same !== excludes && !options.repeats ? [same] : [],
      offered: { seasons: offered } }))
  })).map(list => courseMap(...list, course('OLD 100'), course('OLD 110', { credits: 400, creditsMax: 400 })))

/** Attempts before the terms ahead: passed, failed, transferred, and under way. */
export const anyRecord = (codes: readonly string[] = [...CODES.slice(0, 4), 'OLD 100', 'OLD 110']): fc.Arbitrary<CourseItem[]> =>
  fc.array(fc.record({ code: fc.constantFrom(...codes), term: fc.constantFrom('2025SP', '2025FA', '2026SP'),
    grade: fc.constantFrom('A', 'B', 'C', 'D', 'F', 'TR'), underWay: fc.boolean() }), { maxLength: 3 }).map(list =>
    list.map(({ code, term: at, grade, underWay }, n) => underWay && grade !== 'TR'
      ? item(code, { id: `r${n + 1}`, state: 'under way', grade: null, term: '2026FA' })
      : item(code, { id: `r${n + 1}`, grade, term: grade === 'TR' ? null : at, source: grade === 'TR' ? 'transfer' : 'here' })))

/** The record with the credits of the catalog. */
export const withCredits = (record: readonly CourseItem[], courses: ReadonlyMap<string, Course>): CourseItem[] =>
  record.map(one => ({ ...one, credits: courses.get(one.course)?.credits ?? 300 }))

const anyLine = (id: string): fc.Arbitrary<CourseLine> => fc.oneof(
  fc.tuple(fc.subarray(CODES, { minLength: 1, maxLength: 4 }), fc.nat(2)).map(([list, n]) =>
    line(id, { filter: { list }, courses: 1 + n % list.length })),
  fc.tuple(fc.constantFrom('AAA', 'BBB'), fc.constantFrom(1, 2)).map(([subject, n]) =>
    line(id, { filter: { subjects: [subject] }, courses: n })),
  fc.tuple(fc.constantFrom('AAA', 'BBB'), fc.constantFrom(300, 400, 600)).map(([subject, credits]) =>
    line(id, { filter: { subjects: [subject] }, credits })),
)

/** A minor of two or three requirements, two of them often a choice. */
export const anyProgram: fc.Arbitrary<Program> = fc.tuple(anyLine('one'), anyLine('two'), fc.option(anyLine('three')), fc.boolean())
  .map(([one, two, three, choice]) => {
    const pair: RequirementNode[] = choice ? [{ kind: 'some', id: 'choice', title: 'choice', n: 1, children: [one, two] }] : [one, two]
    return program([...pair, ...three ? [three] : []])
  })

export const studentOf = (record: readonly CourseItem[], values: Partial<StudentFile> = {}): StudentFile =>
  file({ record: [...record], programs: ['P'], ...values })

export const plannedIn = (codes: readonly string[], at: string, courses: ReadonlyMap<string, Course>) =>
  codes.map(code => entry(code, at, { credits: courses.get(code)!.credits }))

export { itemsOf }
