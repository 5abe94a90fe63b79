import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { course, courseMap, item, planned, term } from '../../../../../tests/builders'
import { LETTER_SCALE } from '../../grades/scale'
import { evaluate } from '../../prerequisites/evaluate'
import type { Expression } from '../../prerequisites/types'
import { factsOf } from '../../record/facts'
import type { DraftFacts, Task } from './types'
import { overFrom, waitReader } from './waits'

/**
 * A draft asks a rule "from which term on?" with every course where it would stand; the plan's checks ask it "does it hold in this term?".
 * Both must say the same, whatever the rule.
 */
const TERMS = ['2027SP', '2027FA', '2028SP', '2028FA'].map(code => term(code))
const [HAD, LOW, GOING, FIRM] = ['HAD 110', 'LOW 120', 'GNG 210', 'FRM 220']
const PLACED = ['AAA 100', 'BBB 200', 'CCC 300', 'DDD 400']
const asked = course('XXX 499')
const courses = courseMap(asked, ...[HAD, LOW, GOING, FIRM, 'NEV 100'].map(code => course(code!)), ...PLACED.map(code => course(code)),
  // One that gives the same credit as another.
  course('AAB 100', { equivalents: ['AAA 100'] }))
const fixed = [item(HAD!, { grade: 'B' }), item(LOW!, { grade: 'D' }), item(GOING!, { state: 'under way', term: '2026FA', grade: null }),
  item(FIRM!, { state: 'registered', term: '2027SP', grade: null })]
const facts: DraftFacts = { terms: TERMS, courses, scale: LETTER_SCALE, repeatPolicy: 'best', programs: ['MINE'], placements: { MTH: 60 },
  permissions: [] }
/** Two of the courses stand in one term together. */
const tasks: Task[] = [['AAA 100'], ['BBB 200', 'CCC 300'], ['DDD 400']].map(codes => ({
  courses: codes.map(code => ({ code, credits: 300, entry: null })), credits: codes.length * 300, slots: [0, 1, 2, 3], was: null,
  suggested: null }))

const named = fc.record({ kind: fc.constant('course' as const), alongside: fc.boolean(),
  course: fc.constantFrom(HAD!, LOW!, GOING!, FIRM!, 'NEV 100', 'AAB 100', ...PLACED) })
/** Courses whose term is settled: one of the draft that closes another from its own term on is looked at by the whole check of a draft. */
const settled = fc.record({ kind: fc.constant('course' as const), alongside: fc.boolean(),
  course: fc.constantFrom(HAD!, LOW!, GOING!, FIRM!, 'NEV 100') })
const leaf: fc.Arbitrary<Expression> = fc.oneof(
  { weight: 4, arbitrary: named },
  fc.tuple(named, fc.constantFrom('C', 'A')).map(([one, minGrade]) => ({ ...one, minGrade })),
  { weight: 2, arbitrary: fc.record({ kind: fc.constant('credits' as const), credits: fc.integer({ min: 0, max: 9 }).map(n => n * 300) }) },
  fc.record({ kind: fc.constant('credits' as const), credits: fc.constantFrom(300, 600), subject: fc.constantFrom('AAA', 'CCC', 'FRM') }),
  fc.record({ kind: fc.constant('credits' as const), credits: fc.constantFrom(300, 600), levelMin: fc.constantFrom(200, 400) }),
  fc.record({ kind: fc.constant('placement' as const), test: fc.constantFrom('MTH', 'LNG'), score: fc.constantFrom(50, 70) }),
  fc.record({ kind: fc.constant('program' as const), program: fc.constantFrom('MINE', 'OTHER') }),
  fc.record({ kind: fc.constant('standing' as const), standing: fc.constantFrom('freshman' as const, 'sophomore' as const) }),
  fc.constant({ kind: 'permission' as const }),
  fc.record({ kind: fc.constant('not' as const), condition: fc.oneof<fc.Arbitrary<Extract<Expression, { kind: 'not' }>['condition']>[]>(
    settled, fc.record({ kind: fc.constant('program' as const), program: fc.constantFrom('MINE', 'OTHER') }),
    fc.record({ kind: fc.constant('standing' as const), standing: fc.constantFrom('freshman' as const, 'junior' as const) })) }),
)
const { rule } = fc.letrec<{ rule: Expression }>(tie => ({
  rule: fc.oneof({ maxDepth: 3 }, leaf,
    fc.array(tie('rule'), { minLength: 1, maxLength: 3 }).map((of): Expression => ({ kind: 'all', of })),
    fc.array(tie('rule'), { minLength: 1, maxLength: 3 }).map((of): Expression => ({ kind: 'any', of })),
    fc.tuple(fc.array(tie('rule'), { minLength: 2, maxLength: 4 }), fc.nat()).map(([of, n]): Expression =>
      ({ kind: 'atLeast', n: 1 + n % of.length, of }))),
}))
const slots = fc.tuple(...tasks.map(() => fc.nat({ max: TERMS.length - 1 })))

function bothWays(expression: Expression, at: readonly number[], beside: boolean, permitted: boolean) {
  const mine = permitted ? { ...facts, permissions: [asked.code] } : facts
  const wait = waitReader(mine, tasks, fixed, null)(expression, asked, beside)
  const items = [...fixed, ...tasks.flatMap((task, i) => task.courses.map(({ code }) => planned(code, TERMS[at[i]!]!.code)))]
  const from = overFrom(wait, task => at[task])
  return TERMS.map(({ code }, slot) => {
    const found = evaluate(expression, code, factsOf(mine, items), { ...mine, course: asked.code, corequisite: beside })!
    return { slot, draft: from <= slot, checks: found.firmness !== 'unmet' }
  })
}

describe('what a course of a draft waits for', () => {
  it('is over in exactly those terms in which the plan\'s checks find its rule kept', () => {
    fc.assert(fc.property(rule, slots, fc.boolean(), fc.boolean(), (expression, at, beside, permitted) => {
      for (const { slot, draft, checks } of bothWays(expression, at, beside, permitted)) expect([slot, draft]).toEqual([slot, checks])
    }), { numRuns: 2000 })
  })

  it('is never over sooner when something is placed later', () => {
    fc.assert(fc.property(rule, slots, slots, fc.boolean(), (expression, one, other, beside) => {
      const wait = waitReader(facts, tasks, fixed, null)(expression, asked, beside)
      const later = one.map((slot, i) => Math.max(slot, other[i]!))
      expect(overFrom(wait, task => later[task])).toBeGreaterThanOrEqual(overFrom(wait, task => one[task]))
    }), { numRuns: 500 })
  })

  it('that is not among them comes when it could at the earliest, and credits may come from anything then', () => {
    const read = waitReader(facts, tasks, fixed, code => code === 'NEV 100' ? 2 : Infinity)
    const from = (expression: Expression) => overFrom(read(expression, asked, false), () => undefined)
    expect(from({ kind: 'course', course: 'NEV 100', alongside: false })).toBe(3)
    expect(from({ kind: 'course', course: 'NEV 100', alongside: true })).toBe(2)
    expect(from({ kind: 'course', course: 'OUT 100', alongside: true })).toBe(Infinity)
    expect(from({ kind: 'credits', credits: 12_000 })).toBe(-1)
    // Grades to come decide an average.
    expect(from({ kind: 'gpa', minimum: 400 })).toBe(-1)
  })
})
