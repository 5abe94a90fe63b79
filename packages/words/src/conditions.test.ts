import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { coursesIn, type Expected, type Expression, type Lack, type Reason } from '@ridgeway/core/prerequisites'
import { sayCatalogProblem } from './catalog'
import { sayBecause, sayNeeds, sayReason } from './conditions'

const named = (course: string, more: { minGrade?: string, alongside?: boolean } = {}): Extract<Expression, { kind: 'course' }> =>
  ({ kind: 'course', course, alongside: false, ...more })
const stated = (expression: Expression) => sayBecause({ expression, because: { code: 'as stated' } })

const KINDS: Record<Expression['kind'], [Expression, string][]> = {
  course: [[named('AAA 100'), 'AAA 100'],
    [named('AAA 100', { minGrade: 'C', alongside: true }), 'AAA 100 with C or better (or in the same term)']],
  credits: [[{ kind: 'credits', credits: 6000 }, '60 credits earned'],
    [{ kind: 'credits', credits: 900, subject: 'AAA', levelMin: 300 }, '9 credits earned in AAA at 300 or above']],
  placement: [[{ kind: 'placement', test: 'MTH', score: 60 }, 'a MTH placement score of at least 60']],
  program: [[{ kind: 'program', program: 'WSC-BS' }, 'enrolment in program WSC-BS']],
  standing: [[{ kind: 'standing', standing: 'junior' }, 'junior standing']],
  permission: [[{ kind: 'permission' }, 'the instructor\'s permission']],
  gpa: [[{ kind: 'gpa', minimum: 250 }, 'an average of at least 2.50']],
  not: [
    [{ kind: 'not', condition: { kind: 'program', program: 'WSC-BS' } }, 'a student who is not in program WSC-BS'],
    [{ kind: 'not', condition: { kind: 'standing', standing: 'senior' } }, 'a student who is not a senior'],
    [{ kind: 'not', condition: named('AAA 100') }, 'a student who has neither passed AAA 100 nor is taking it']],
  all: [[{ kind: 'all', of: [named('AAA 100'), { kind: 'any', of: [named('BBB 100'), named('CCC 100')] }] },
    'AAA 100 and (BBB 100 or CCC 100)']],
  any: [[{ kind: 'any', of: [named('AAA 100'), { kind: 'permission' }] }, 'AAA 100 or the instructor\'s permission']],
  atLeast: [[{ kind: 'atLeast', n: 2, of: [named('AAA 100'), named('BBB 100'), named('CCC 100')] }, '2 of AAA 100, BBB 100, CCC 100']],
}

const code = fc.constantFrom('AAA 100', 'BBB 200', 'CCC 300', 'DDD 400')
const { rule } = fc.letrec<{ rule: Expression, leaf: Expression }>(tie => ({
  leaf: fc.oneof(
    code.map(course => named(course)), code.map(course => named(course, { minGrade: 'B-' })),
    fc.constant<Expression>({ kind: 'permission' }), code.map((course): Expression => ({ kind: 'not', condition: named(course) })),
    fc.nat(200).map((credits): Expression => ({ kind: 'credits', credits: credits * 50 })),
  ),
  rule: fc.oneof({ maxDepth: 3 }, tie('leaf'),
    fc.array(tie('rule'), { minLength: 1, maxLength: 3 }).map((of): Expression => ({ kind: 'all', of })),
    fc.array(tie('rule'), { minLength: 1, maxLength: 3 }).map((of): Expression => ({ kind: 'any', of })),
    fc.array(tie('rule'), { minLength: 2, maxLength: 3 }).map((of): Expression => ({ kind: 'atLeast', n: 1, of }))),
}))

describe('conditions', () => {
  it.each(Object.values(KINDS).flat())('%j reads "%s"', (expression, words) => expect(stated(expression)).toBe(words))

  it('of any rule name every course that the rule names, and nothing that is not there', () => {
    fc.assert(fc.property(rule, (expression) => {
      const words = stated(expression)
      for (const course of coursesIn(expression)) expect(words).toContain(course)
      expect(words).not.toMatch(/undefined|null|NaN|\[object|\(\)/)
    }), { numRuns: 300 })
  })
})

describe('what decided a condition', () => {
  type Because = Reason['because']
  const DECIDED: Record<Because['code'], [Expression, Because, string][]> = {
    'as stated': [[named('AAA 100'), { code: 'as stated' }, 'AAA 100']],
    'passed': [[named('AAA 100'), { code: 'passed', course: 'AAA 100', grade: 'B' }, 'AAA 100 passed with B']],
    'grade too low': [
      [named('AAA 100'), { code: 'grade too low', course: 'AAA 100', grade: 'D', minGrade: 'C' }, 'AAA 100 has D, C or better is needed'],
      [named('AAA 100'), { code: 'grade too low', course: 'AAA 100', grade: null, minGrade: null },
        'AAA 100 has no grade, a passing grade is needed']],
    'not before': [
      [named('AAA 100'), { code: 'not before', course: 'AAA 100', state: 'planned', sameTerm: false, alongside: false },
        'AAA 100 is planned for a later term, it must come first'],
      [named('AAA 100'), { code: 'not before', course: 'AAA 100', state: 'picked', sameTerm: false, alongside: true },
        'AAA 100 is picked for a later term, it must come no later']],
    'to be passed': [
      [named('AAA 100'), { code: 'to be passed', course: 'AAA 100', state: 'under way', minGrade: 'C' },
        'AAA 100 under way, C or better is needed'],
      [named('AAA 100'), { code: 'to be passed', course: 'AAA 100', state: 'registered', minGrade: null }, 'AAA 100 registered']],
    'intended': [[named('AAA 100'), { code: 'intended', course: 'AAA 100', state: 'planned' }, 'AAA 100 planned']],
    'absent': [[named('AAA 100'), { code: 'absent' }, 'AAA 100: not on your record and not in the plan']],
    'credits by then': [[{ kind: 'credits', credits: 6000 }, { code: 'credits by then', credits: 4500 }, '60 credits earned: 45 by then']],
    'standing now': [[{ kind: 'standing', standing: 'junior' }, { code: 'standing now', standing: 'sophomore' },
      'junior standing: sophomore now']],
    'score': [[{ kind: 'placement', test: 'MTH', score: 60 }, { code: 'score', score: null },
      'a MTH placement score of at least 60: no score on file']],
    'average now': [
      [{ kind: 'gpa', minimum: 250 }, { code: 'average now', value: null }, 'an average of at least 2.50: no grades yet'],
      [{ kind: 'gpa', minimum: 250 }, { code: 'average now', value: 231 }, 'an average of at least 2.50: 2.31 now']],
  }
  it.each(Object.values(DECIDED).flat())('%j, %j reads "%s"', (expression, because, words) =>
    expect(sayBecause({ expression, because })).toBe(words))

  it('is told of what holds, and of a rule that holds in no part as it stands', () => {
    const part = (course: string, firmness: Reason['firmness']): Reason =>
      ({ expression: named(course), firmness, because: { code: 'intended', course, state: 'planned' }, parts: [] })
    const whole = (parts: Reason[]): Reason => ({ expression: { kind: 'any', of: parts.map(one => one.expression) },
      firmness: parts[0]!.firmness, because: { code: 'as stated' }, parts })
    expect(sayReason(whole([part('AAA 100', 'if planned'), part('BBB 100', 'unmet'), part('CCC 100', 'if planned')])))
      .toBe('AAA 100 planned, CCC 100 planned')
    expect(sayReason(whole([part('AAA 100', 'unmet'), part('BBB 100', 'unmet')]))).toBe('AAA 100 or BBB 100')
  })
})

describe('what is missing', () => {
  const lack = (condition: Expression, held: Lack['held'] = null): Lack => ({ condition, held })
  it.each<[Lack[][], Parameters<typeof sayNeeds>[1], string]>([
    [[[lack(named('AAA 100')), lack({ kind: 'permission' })]], 'plan',
      'AAA 100 first, which is not in the plan, and the instructor\'s permission'],
    [[[lack({ kind: 'permission' }), lack(named('AAA 100'))]], 'record',
      'the instructor\'s permission and AAA 100, which is not on your record'],
    [[[lack(named('AAA 100'), { state: 'planned', term: '2027FA', grade: null })]], 'plan',
      'AAA 100 first, which is planned for Fall 2027'],
    [[[lack(named('AAA 100'), { state: 'under way', term: null, grade: null })]], 'plan', 'AAA 100 first, which is under way'],
    [[[lack(named('AAA 100'), { state: 'planned', term: '2027FA', grade: null })]], 'beside', 'AAA 100, which is planned for Fall 2027'],
    [[[lack(named('AAA 100', { minGrade: 'C' }), { state: 'completed', term: '2025FA', grade: null })]], 'record',
      'AAA 100 with C or better (you have no grade)'],
    // Two ways are enough to read.
    [['AAA 100', 'BBB 100', 'CCC 100'].map(course => [lack(named(course))]), 'record',
      'AAA 100, which is not on your record; or BBB 100, which is not on your record'],
  ])('%j against the %s', (needs, against, words) => expect(sayNeeds(needs, against)).toBe(words))
})

describe('a rule that cannot be read', () => {
  const said = (expected: Expected) => sayCatalogProblem({ code: 'unreadable rule', rule: 'prerequisite', course: 'AAA 200', text: 'x',
    problem: { at: 4, expected } }).replace('The prerequisite of AAA 200, "x", cannot be read: at character 5, ', '')
  it.each<[Expected, string]>([
    [{ code: 'a token' }, 'a course code, a number, a word or a parenthesis was expected.'],
    [{ code: 'and, or, or the end' }, '"and", "or" or the end of the rule was expected.'],
    [{ code: 'a word', words: ['or', 'above'] }, '"or" or "above" was expected.'],
    [{ code: 'a word', words: ['freshman', 'junior', 'senior'] }, 'freshman, junior or senior was expected.'],
    [{ code: 'a number from 1', to: 3 }, 'a number from 1 to 3 was expected.'],
    [{ code: 'a level' }, 'a level such as 300+ was expected.'],
    [{ code: 'a subject' }, 'a subject such as HYD was expected.'],
    [{ code: 'a grade', grades: [] }, 'a grade such as C or B- was expected.'],
    [{ code: 'a grade', grades: ['A', 'B', 'C'] }, 'a grade that earns credit was expected: A, B or C.'],
    [{ code: 'fewer parentheses' }, 'the rule is nested too deeply; write it with fewer parentheses.'],
    [{ code: 'an average' }, 'an average such as 2.50 was expected.'],
    [{ code: 'the score' }, 'the score was expected.'],
  ])('%j: %s', (expected, words) => expect(said(expected)).toBe(words))

  it('names all of a ring', () => {
    expect(sayCatalogProblem({ code: 'ring', courses: ['AAA 100', 'BBB 100'] })).toBe(
      'AAA 100 and BBB 100 wait for each other and can never be taken. Take one of them out of the others\' rules.')
  })
})
