import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Course, CourseItem } from '../catalog/types'
import { LETTER_SCALE } from '../grades/scale'
import type { StudentFacts } from '../record/facts'
import { findRings } from './catalog-check'
import { coursesIn, evaluate } from './evaluate'
import { parseExpression } from './parse'
import { printExpression } from './print'
import type { Expression } from './types'

const course = (code: string, rule: Partial<Course> = {}): Course => ({
  code,
  subject: code.slice(0, 3),
  number: Number(code.slice(4)),
  title: code,
  credits: 300,
  creditsMax: 300,
  description: '',
  attributes: [],
  prerequisite: '',
  corequisite: '',
  exclusions: [],
  equivalents: [],
  repeatLimit: 1,
  offered: { seasons: ['fall', 'spring'] },
  parts: ['lecture'],
  fee: 0,
  ...rule,
})
const item = (code: string, values: Partial<CourseItem> = {}): CourseItem => ({ id: code, course: code, term: '2026FA', credits: 300,
  grade: null, state: 'planned', source: 'here', ...values })
const context = { courses: new Map(['CHY 110', 'MTH 140', 'HYD 210'].map(code => [code, course(code)])), scale: LETTER_SCALE,
  repeatPolicy: 'best' as const, course: 'HYD 230' }
const facts = (items: CourseItem[], more: Partial<StudentFacts> = {}): StudentFacts => ({ items, programs: [], placements: {},
  permissions: [], ...more })
const rule = (text: string): Expression => {
  const parsed = parseExpression(text)
  if (!parsed.ok || !parsed.expression) throw new Error(text)
  return parsed.expression
}
const firmness = (text: string, items: CourseItem[], more: Partial<StudentFacts> = {}) =>
  evaluate(rule(text), '2027SP', facts(items, more), context)!.firmness

const code = fc.tuple(fc.constantFrom('HYD', 'CHY', 'MTH'), fc.integer({ min: 100, max: 499 })).map(([subject, number]) =>
  `${subject} ${number}`,
)
const leaf: fc.Arbitrary<Expression> = fc.oneof(
  fc.record({ kind: fc.constant('course' as const), course: code, alongside: fc.boolean() }),
  fc.record({ kind: fc.constant('course' as const), course: code, minGrade: fc.constantFrom('A', 'B-', 'C', 'D+'),
    alongside: fc.boolean() }),
  fc.record({ kind: fc.constant('credits' as const), credits: fc.integer({ min: 1, max: 120 }).map(c => c * 100) }),
  fc.record({ kind: fc.constant('credits' as const), credits: fc.integer({ min: 1, max: 30 }).map(c => c * 50),
    subject: fc.constantFrom('HYD', 'ECL'), levelMin: fc.constantFrom(200, 300) }),
  fc.record({ kind: fc.constant('placement' as const), test: fc.constant('MTH'), score: fc.integer({ min: 1, max: 99 }) }),
  fc.record({ kind: fc.constant('standing' as const),
    standing: fc.constantFrom('sophomore' as const, 'junior' as const, 'senior' as const) }),
  fc.constant({ kind: 'program' as const, program: 'WSC-BS' }),
  fc.constant({ kind: 'permission' as const }),
)
/** Trees in the form the parser gives: no node of one kind directly inside the same kind, no group of one. */
const tree = fc.letrec<{ any: Expression, all: Expression, some: Expression }>(tie => ({
  any: fc.array(fc.oneof({ depthSize: 'small' }, leaf, tie('all'), tie('some')), { minLength: 2, maxLength: 3 }).map(of => ({ kind: 'any',
    of }),
  ),
  all: fc.array(fc.oneof({ depthSize: 'small' }, leaf, tie('any'), tie('some')), { minLength: 2, maxLength: 3 }).map(of => ({ kind: 'all',
    of }),
  ),
  some: fc.array(fc.oneof({ depthSize: 'small' }, leaf, tie('all')), { minLength: 2, maxLength: 4 }).map(of => ({ kind: 'atLeast', n: 1,
    of }),
  ),
}))

describe('parseExpression and printExpression', () => {
  it('give back the same expression and the same text', () => {
    fc.assert(fc.property(fc.oneof(leaf, tree.any, tree.all, tree.some), (expression) => {
      const text = printExpression(expression)
      const parsed = parseExpression(text)
      expect(parsed).toEqual({ ok: true, expression })
      expect(printExpression(parsed.ok ? parsed.expression : null)).toBe(text)
    }))
  })

  it('reads "and" more tightly than "or"', () => {
    expect(rule('CHY 110 or MTH 140 and HYD 210')).toMatchObject({ kind: 'any', of: [{ course: 'CHY 110' }, { kind: 'all' }] })
  })

  it.each(
    [['CHY 11', 4, { code: 'a course number' }], ['CHY 110 with Q', 13, { code: 'a grade' }], ['CHY 110 with D-', 13, { code: 'a grade' }],
      ['CHY 110 with F', 13, { code: 'a grade' }], ['CHY 110 or', 10, { code: 'a subject' }], ['3 of (CHY 110, MTH 140)', 0, {
        code: 'a number from 1',
        to: 2,
      }], ['CHY 110 & MTH 140', 8, { code: 'a token' }], ['(CHY 110', 8, { code: 'a word', words: [')'] }], ['CHY 110 MTH 140', 8, {
        code: 'and, or, or the end',
      }], [`${'('.repeat(20_000)}CHY 110`, 50, { code: 'fewer parentheses' }]] as const,
  )(
    'says where and what in "%s"',
    (text, at, expected) => {
      const parsed = parseExpression(text)
      expect(parsed.ok).toBe(false)
      if (!parsed.ok) {
        expect(parsed.problem.at).toBe(at)
        expect(parsed.problem.expected).toMatchObject(expected)
      }
    },
  )

  it('never throws on any text', () => {
    fc.assert(fc.property(fc.string(), text => typeof parseExpression(text).ok === 'boolean'))
  })
})

describe('evaluate', () => {
  it('tells passed, under way, planned and missing apart', () => {
    expect(firmness('CHY 110 with C', [item('CHY 110', { state: 'completed', grade: 'C' })])).toBe('passed')
    expect(firmness('CHY 110 with C', [item('CHY 110', { state: 'completed', grade: 'C-' })])).toBe('unmet')
    expect(firmness('CHY 110 with C', [item('CHY 110', { state: 'under way' })])).toBe('if passed')
    expect(firmness('CHY 110', [item('CHY 110')])).toBe('if planned')
    expect(firmness('CHY 110', [])).toBe('unmet')
  })

  it('takes the same term only alongside', () => {
    const sameTerm = [item('CHY 110', { term: '2027SP' })]
    expect(firmness('CHY 110', sameTerm)).toBe('unmet')
    expect(firmness('CHY 110 or alongside', sameTerm)).toBe('if planned')
  })

  it('counts a repeated course by its better attempt', () => {
    const twice = [item('CHY 110', { id: '1', state: 'completed', grade: 'F', term: '2025FA' }),
      item('CHY 110', { id: '2', state: 'completed', grade: 'B' })]
    expect(firmness('CHY 110 with C', twice)).toBe('passed')
  })

  it('reads credits, standing, placement, program and permission', () => {
    const thirty = [item('HYD 210', { state: 'completed', grade: 'B', credits: 600 }),
      item('CHY 110', { state: 'completed', grade: 'B', credits: 2400 })]
    expect(firmness('30 credits', Array.from({ length: 10 }, (_, i) => item('HYD 210', { id: String(i), state: 'completed', grade: 'B' }))))
      .toBe('unmet')
    expect(firmness('30 credits', thirty)).toBe('passed')
    expect(firmness('6 credits in HYD at 200+', thirty)).toBe('passed')
    expect(firmness('6 credits in ECL', thirty)).toBe('unmet')
    expect(firmness('standing sophomore', thirty)).toBe('passed')
    expect(firmness('standing junior', thirty)).toBe('unmet')
    expect(firmness('placement MTH at least 60', [], { placements: { MTH: 60 } })).toBe('passed')
    expect(firmness('program WSC-BS', [], { programs: ['WSC-BS'] })).toBe('passed')
    expect(firmness('permission', [], { permissions: ['HYD 230'] })).toBe('passed')
  })

  it('names the smallest missing sets', () => {
    const found = evaluate(rule('(CHY 110 and MTH 140) or HYD 210'), '2027SP', facts([]), context)!
    expect(found.missing.map(set => set.flatMap(coursesIn))).toEqual([['HYD 210'], ['CHY 110', 'MTH 140']])
  })

  it('is satisfied by every missing set it names', () => {
    const only = fc.letrec<{ any: Expression, all: Expression }>(tie => ({
      any: fc.array(
        fc.oneof({ depthSize: 'small' }, code.map((c): Expression => ({ kind: 'course', course: c, alongside: false })), tie('all')),
        { minLength: 2, maxLength: 3 },
      ).map(of => ({ kind: 'any', of })),
      all: fc.array(
        fc.oneof({ depthSize: 'small' }, code.map((c): Expression => ({ kind: 'course', course: c, alongside: false })), tie('any')),
        { minLength: 2, maxLength: 3 },
      ).map(of => ({ kind: 'all', of })),
    }))
    fc.assert(fc.property(only.any, (expression) => {
      for (const set of evaluate(expression, '2027SP', facts([]), context)!.missing) {
        const items = set.flatMap(coursesIn).map((c, i) => item(c, { id: String(i), state: 'completed', grade: 'A' }))
        expect(evaluate(expression, '2027SP', facts(items), context)!.firmness).toBe('passed')
      }
    }))
  })

  it('never gets worse when a course is passed', () => {
    const order = ['passed', 'if passed', 'if planned', 'unmet']
    fc.assert(fc.property(tree.any, fc.array(code, { maxLength: 5 }), code, (expression, had, more) => {
      const before = had.map((c, i) => item(c, { id: String(i), state: 'completed', grade: 'B' }))
      const at = (items: CourseItem[]) => order.indexOf(evaluate(expression, '2027SP', facts(items), context)!.firmness)
      expect(at([...before, item(more, { id: 'more', state: 'completed', grade: 'A' })])).toBeLessThanOrEqual(at(before))
    }))
  })
})

describe('findRings', () => {
  it('reports the courses around a cycle, and null without one', () => {
    const looped = new Map(
      [course('AAA 100', { prerequisite: 'AAA 200' }), course('AAA 200', { prerequisite: 'AAA 300 and AAA 400' }),
        course('AAA 300', { prerequisite: 'AAA 100' }), course('AAA 400')].map(c => [c.code, c]),
    )
    expect(findRings(looped)).toEqual([['AAA 100', 'AAA 200', 'AAA 300']])
    expect(findRings(new Map([course('AAA 100', { prerequisite: 'AAA 400' }), course('AAA 400')].map(c => [c.code, c])))).toEqual([])
  })
})
