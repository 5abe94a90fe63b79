import { termOrder } from '../catalog/terms'
import type { Commitment, Course, CourseCode, CourseItem, Credits, TermCode } from '../catalog/types'
import { earnsCredit, type GradeScale, meetsGrade } from '../grades/scale'
import { type ClassStanding, classStanding, STANDING_CREDITS } from '../grades/status'
import type { StudentFacts } from '../record/facts'
import type { Expression } from './types'

/** How firmly a rule is met, best first. */
export type Firmness = 'passed' | 'if passed' | 'if planned' | 'unmet'
const FIRMNESS: readonly Firmness[] = ['passed', 'if passed', 'if planned', 'unmet']

export interface Evaluation {
  firmness: Firmness
  /** The rule's parts, each with its own firmness and what decided it. */
  reason: Reason
  /** Smallest sets of conditions that would satisfy what is unmet; empty when the rule is met. At most eight. */
  missing: Expression[][]
}

export interface Reason {
  expression: Expression
  firmness: Firmness
  because: Because
  parts: Reason[]
}

/** What decided one condition. */
export type Because
  /** The condition itself says it all. */
  = | { code: 'as stated' }
    | { code: 'passed', course: CourseCode, grade: string | null }
    | { code: 'grade too low', course: CourseCode, grade: string | null, minGrade: string | null }
    /** It stands in the same term or later; with `alongside` the same term would do. */
    | { code: 'not before', course: CourseCode, state: Commitment, sameTerm: boolean, alongside: boolean }
    | { code: 'to be passed', course: CourseCode, state: Commitment, minGrade: string | null }
    | { code: 'intended', course: CourseCode, state: Commitment }
    | { code: 'absent' }
    /** Credits that are there by the term, with all that is planned. */
    | { code: 'credits by then', credits: Credits }
    | { code: 'standing now', standing: ClassStanding }
    | { code: 'score', score: number | null }

/** One condition that is not met, with the attempt at it or the intention that does not meet it; null when there is neither. */
export interface Lack { condition: Expression, held: { state: Commitment, term: TermCode | null, grade: string | null } | null }

/** What is missing, set by set, with what there is of each. */
export function lacksOf(missing: readonly Expression[][], items: readonly CourseItem[]): Lack[][] {
  return missing.map(set => set.map((condition) => {
    const item = condition.kind === 'course' ? items.find(one => one.course === condition.course) : undefined
    return { condition, held: item ? { state: item.state, term: item.term, grade: item.grade } : null }
  }))
}

export interface EvaluationContext {
  courses: ReadonlyMap<string, Course>
  scale: GradeScale
  /** The course the rule belongs to: permission is looked up under it. */
  course: string
  /** Courses of the same term count where the rule says "alongside"; corequisites always may. */
  corequisite?: boolean
}

const worst = (all: Firmness[]): Firmness => FIRMNESS[Math.max(0, ...all.map(f => FIRMNESS.indexOf(f)))]!
const MISSING_LIMIT = 8

/**
 * Evaluates a rule at a term against record and plan.
 * A completed course must have its grade; a course under way or registered counts as `if passed`
 * when its term lies before (or, alongside, at) the given term; a picked or planned course as `if planned`.
 */
export function evaluate(expression: Expression | null, at: TermCode, facts: StudentFacts, context: EvaluationContext): Evaluation | null {
  if (!expression) return null
  const reason = judge(expression, termOrder(at), facts, context)
  return { firmness: reason.firmness, reason, missing: reason.firmness === 'unmet' ? smallestSets(reason) : [] }
}

function judge(expression: Expression, at: number, facts: StudentFacts, context: EvaluationContext): Reason {
  const leaf = (firmness: Firmness, because: Because = { code: 'as stated' }): Reason => ({ expression, firmness, because, parts: [] })
  switch (expression.kind) {
    case 'course': return judgeCourse(expression, at, facts, context)
    case 'credits': return judgeCredits(expression, at, facts, context)
    case 'standing': {
      const needed = STANDING_CREDITS[expression.standing]
      const { firmness } = judgeCredits({ kind: 'credits', credits: needed }, at, facts, context)
      const now = classStanding(creditsAt(facts, at, context, 'passed'))
      return leaf(firmness, { code: 'standing now', standing: now })
    }
    case 'placement': {
      const score = facts.placements[expression.test] ?? null
      return leaf(score !== null && score >= expression.score ? 'passed' : 'unmet', { code: 'score', score })
    }
    case 'program': return leaf(facts.programs.includes(expression.program) ? 'passed' : 'unmet')
    case 'permission': return leaf(facts.permissions.includes(context.course) ? 'passed' : 'unmet')
    case 'all': return combine(expression, expression.of.length, at, facts, context)
    case 'any': return combine(expression, 1, at, facts, context)
    case 'atLeast': return combine(expression, expression.n, at, facts, context)
  }
}

function combine(expression: Extract<Expression, { of: Expression[] }>, n: number, at: number, facts: StudentFacts, context: EvaluationContext): Reason {
  const parts = expression.of.map(part => judge(part, at, facts, context))
  const best = parts.map(part => part.firmness).sort((a, b) => FIRMNESS.indexOf(a) - FIRMNESS.indexOf(b)).slice(0, n)
  return { expression, firmness: worst(best), because: { code: 'as stated' }, parts }
}

function judgeCourse(
  expression: Extract<Expression, { kind: 'course' }>, at: number, facts: StudentFacts, context: EvaluationContext,
): Reason {
  const { course, minGrade } = expression
  const accepted = new Set([course, ...context.courses.get(course)?.equivalents ?? []])
  const sameTerm = expression.alongside || context.corequisite === true
  let best: Firmness = 'unmet'
  let because: Because = { code: 'absent' }
  for (const item of facts.items) {
    if (!accepted.has(item.course)) continue
    const [firmness, decided] = judgeAttempt(item, at, sameTerm, minGrade, context)
    const better = FIRMNESS.indexOf(firmness) < FIRMNESS.indexOf(best)
    if (better || (best === 'unmet' && firmness === 'unmet')) [best, because] = [firmness, decided]
  }
  return { expression, firmness: best, because, parts: [] }
}

function judgeAttempt(
  item: CourseItem, at: number, sameTerm: boolean, minGrade: string | undefined, context: EvaluationContext,
): [Firmness, Because] {
  const when = item.term ? termOrder(item.term) : 0
  if (item.state === 'completed') {
    if (meetsGrade(context.scale, item.grade, minGrade)) return ['passed', { code: 'passed', course: item.course, grade: item.grade }]
    return ['unmet', { code: 'grade too low', course: item.course, grade: item.grade, minGrade: minGrade ?? null }]
  }
  if (when > at || (when === at && !sameTerm)) {
    return ['unmet', { code: 'not before', course: item.course, state: item.state, sameTerm: when === at, alongside: sameTerm }]
  }
  if (item.state === 'under way' || item.state === 'registered') {
    return ['if passed', { code: 'to be passed', course: item.course, state: item.state, minGrade: minGrade ?? null }]
  }
  return ['if planned', { code: 'intended', course: item.course, state: item.state }]
}

function creditsAt(facts: StudentFacts, at: number, context: EvaluationContext, upTo: Firmness, subject?: string, levelMin = 0): number {
  let sum = 0
  for (const item of facts.items) {
    const course = context.courses.get(item.course)
    if (subject && course?.subject !== subject) continue
    if (course && course.number < levelMin) continue
    if (item.state === 'completed') {
      if (earnsCredit(context.scale, item.grade)) sum += item.credits
      continue
    }
    const firmness: Firmness = item.state === 'under way' || item.state === 'registered' ? 'if passed' : 'if planned'
    const counted = FIRMNESS.indexOf(firmness) <= FIRMNESS.indexOf(upTo)
    if (counted && item.term && termOrder(item.term) < at) sum += item.credits
  }
  return sum
}

function judgeCredits(expression: Extract<Expression, { kind: 'credits' }>, at: number, facts: StudentFacts, context: EvaluationContext): Reason {
  const levels: Firmness[] = ['passed', 'if passed', 'if planned']
  const have = (upTo: Firmness) => creditsAt(facts, at, context, upTo, expression.subject, expression.levelMin)
  const firmness = levels.find(level => have(level) >= expression.credits) ?? 'unmet'
  return { expression, firmness, because: { code: 'credits by then', credits: have('if planned') }, parts: [] }
}

/** Smallest sets of unmet conditions whose satisfaction would satisfy the rule. */
function smallestSets(reason: Reason): Expression[][] {
  const sets = setsFor(reason).sort((a, b) => a.length - b.length)
  const seen = new Map<string, Expression[]>()
  for (const set of sets) {
    const keys = set.map(e => JSON.stringify(e)).sort()
    const smallerInside = [...seen.keys()].some(key => (JSON.parse(key) as string[]).every(k => keys.includes(k)))
    if (!smallerInside) seen.set(JSON.stringify(keys), set)
  }
  return [...seen.values()].slice(0, MISSING_LIMIT)
}

function setsFor(reason: Reason): Expression[][] {
  if (reason.firmness !== 'unmet') return [[]]
  const { expression, parts } = reason
  if (parts.length === 0) return [[expression]]
  const n = expression.kind === 'all' ? parts.length : expression.kind === 'atLeast' ? expression.n : 1
  const options = parts.map(setsFor)
  let chosen: Expression[][] = []
  for (const pick of combinations(parts.length, n)) {
    let sets: Expression[][] = [[]]
    for (const index of pick) {
      sets = sets.flatMap(set => options[index]!.map(extra => [...set, ...extra.filter(e => !set.includes(e))])).slice(0, 64)
    }
    chosen.push(...sets)
    if (chosen.length > 512) chosen = chosen.sort((a, b) => a.length - b.length).slice(0, 64)
  }
  return chosen
}

function* combinations(size: number, n: number, from = 0): Generator<number[]> {
  if (n === 0) {
    yield []
    return
  }
  for (let first = from; first <= size - n; first++) {
    for (const rest of combinations(size, n - 1, first + 1)) yield [first, ...rest]
  }
}

/** Every course named in a rule. */
export function coursesIn(expression: Expression | null): string[] {
  if (!expression) return []
  if (expression.kind === 'course') return [expression.course]
  return 'of' in expression ? [...new Set(expression.of.flatMap(coursesIn))] : []
}
