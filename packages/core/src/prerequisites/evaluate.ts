import { familyOf, sameCourse } from '../catalog/linked'
import { termOrder } from '../catalog/terms'
import type { Commitment, Course, CourseCode, CourseItem, Credits, TermCode } from '../catalog/types'
import { gpa } from '../grades/gpa'
import { meetsGrade } from '../grades/scale'
import { type ClassStanding, classStanding, STANDING_CREDITS } from '../grades/status'
import { averagedAttempts, comparedGrade, isPassed, readCredit, type RecordRules } from '../record/attempts'
import type { StudentFacts } from '../record/facts'
import { ruleOf } from './rule-of'
import type { Closed, Expression } from './types'

/** How firmly a rule is met, best first. */
type Firmness = 'passed' | 'if passed' | 'if planned' | 'unmet'
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
type Because /** The condition itself says it all. */
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
    /** In hundredths of a grade point; null before the first grade. */
    | { code: 'average now', value: number | null }

/** One condition that is not met, with the attempt at it or the intention that does not meet it; null when there is neither. */
export interface Lack {
  condition: Expression
  held: { state: Commitment, term: TermCode | null, grade: string | null } | null
}

/** What is missing, set by set, with what there is of each. */
export function lacksOf(missing: readonly Expression[][], items: readonly CourseItem[]): Lack[][] {
  return missing.map(set =>
    set.map((condition) => {
      const item = condition.kind === 'course' ? items.find(one => one.course === condition.course) : undefined
      return { condition, held: item ? { state: item.state, term: item.term, grade: item.grade } : null }
    }),
  )
}

export interface EvaluationContext extends RecordRules {
  /** The course the rule belongs to: permission is looked up under it. */
  course: CourseCode
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
    case 'course':
      return judgeCourse(expression, at, facts, context)
    case 'credits':
      return judgeCredits(expression, at, facts, context)
    case 'standing': {
      const needed = STANDING_CREDITS[expression.standing]
      const { firmness } = judgeCredits({ kind: 'credits', credits: needed }, at, facts, context)
      const now = classStanding(creditsAt(facts, at, context, 'passed', {}))
      return leaf(firmness, { code: 'standing now', standing: now })
    }
    case 'placement': {
      const score = facts.placements[expression.test] ?? null
      return leaf(score !== null && score >= expression.score ? 'passed' : 'unmet', { code: 'score', score })
    }
    case 'program':
      return leaf(facts.programs.includes(expression.program) ? 'passed' : 'unmet')
    case 'gpa': {
      const { value } = gpa(averagedAttempts(facts.items, context), context.scale)
      return leaf(value !== null && value >= expression.minimum ? 'passed' : 'unmet', { code: 'average now', value })
    }
    case 'not':
      return leaf(judgeClosed(expression.condition, at, facts, context))
    case 'permission':
      return leaf(facts.permissions.includes(context.course) ? 'passed' : 'unmet')
    case 'all':
      return combine(expression, expression.of.length, at, facts, context)
    case 'any':
      return combine(expression, 1, at, facts, context)
    case 'atLeast':
      return combine(expression, expression.n, at, facts, context)
  }
}

/**
 * Whether a course is open at a term to somebody to whom a condition may close it: by the class standing and the courses that they will
 * have then, from the record and from the plan. It is as firm as what keeps it open: a freshman who will be a sophomore when what is in
 * progress is passed finds it open `if passed`.
 */
function judgeClosed(condition: Closed, at: number, facts: StudentFacts, context: EvaluationContext): Firmness {
  if (condition.kind === 'program') return facts.programs.includes(condition.program) ? 'unmet' : 'passed'
  if (condition.kind === 'course') return (closedFrom(condition, facts, context) ?? Infinity) <= at ? 'unmet' : 'passed'
  const levels: Firmness[] = ['passed', 'if passed', 'if planned']
  const lastClosed = levels.findLastIndex(level => classStanding(creditsAt(facts, at, context, level, {})) === condition.standing)
  return levels[lastClosed + 1] ?? 'unmet'
}

/**
 * The term, as `termOrder` counts, from which on a course closes another one: that in which it is taken, or before all terms where it is
 * passed; null while it is neither passed, going on nor intended.
 */
export function closedFrom(condition: Extract<Closed, { kind: 'course' }>, { items }: Pick<StudentFacts, 'items'>,
  { courses, scale }: Pick<RecordRules, 'courses' | 'scale'>): number | null {
  const same = sameCourse(condition.course, courses)
  const terms = items.filter(item => same.includes(item.course)).flatMap((item) => {
    if (item.state !== 'completed') return [item.term ? termOrder(item.term) : 0]
    const counts = isPassed(item, scale)
      && (condition.minGrade === undefined || meetsGrade(scale, comparedGrade(item), condition.minGrade))
    return counts ? [0] : []
  })
  return terms.length > 0 ? Math.min(...terms) : null
}

/**
 * The parts of "at least n of": names of one course are one part, since a course that is listed under two names counts once.
 */
export function apartByCourse(of: readonly Expression[], courses: RecordRules['courses']): readonly Expression[] {
  const before = partsApart.get(of)
  if (before?.courses === courses) return before.parts
  const families = new Map<string, Expression[]>()
  of.forEach((part, i) => {
    const name = part.kind === 'course' ? familyOf(part.course, courses) : `part ${i}`
    families.set(name, [...families.get(name) ?? [], part])
  })
  const parts = [...families.values()].map((same): Expression => same.length === 1 ? same[0]! : { kind: 'any', of: same })
  partsApart.set(of, { courses, parts })
  return parts
}
const partsApart = new WeakMap<readonly Expression[], { courses: RecordRules['courses'], parts: readonly Expression[] }>()

function combine(expression: Extract<Expression, { of: Expression[] }>, n: number, at: number, facts: StudentFacts,
  context: EvaluationContext): Reason {
  const of = expression.kind === 'atLeast' ? apartByCourse(expression.of, context.courses) : expression.of
  const parts = of.map(part => judge(part, at, facts, context))
  // Two names of one course can ask for more than there are courses: nothing meets that.
  if (n > parts.length) return { expression, firmness: 'unmet', because: { code: 'as stated' }, parts }
  const best = parts.map(part => part.firmness).sort((a, b) => FIRMNESS.indexOf(a) - FIRMNESS.indexOf(b)).slice(0, n)
  return { expression, firmness: worst(best), because: { code: 'as stated' }, parts }
}

function judgeCourse(
  expression: Extract<Expression, { kind: 'course' }>,
  at: number,
  facts: StudentFacts,
  context: EvaluationContext,
): Reason {
  const { course, minGrade } = expression
  const accepted = sameCourse(course, context.courses)
  const sameTerm = expression.alongside || context.corequisite === true
  let best: Firmness = 'unmet'
  let because: Because = { code: 'absent' }
  for (const item of facts.items) {
    if (!accepted.includes(item.course) || (item.state === 'completed' && isReplaced(item, accepted, facts, context))) continue
    const [firmness, decided] = judgeAttempt(item, at, sameTerm, minGrade, context)
    const better = FIRMNESS.indexOf(firmness) < FIRMNESS.indexOf(best)
    if (better || (best === 'unmet' && firmness === 'unmet')) [best, because] = [firmness, decided]
  }
  return { expression, firmness: best, because, parts: [] }
}

/** Whether another attempt stands instead; where there is no other attempt at the course, nobody need ask. */
const isReplaced = (item: CourseItem, same: readonly CourseCode[], { items }: StudentFacts, rules: RecordRules) =>
  items.some(other => other.id !== item.id && other.state === 'completed' && same.includes(other.course))
  && readCredit(items, rules).replaced.has(item.id)

function judgeAttempt(
  item: CourseItem,
  at: number,
  sameTerm: boolean,
  minGrade: string | undefined,
  context: EvaluationContext,
): [Firmness, Because] {
  const when = item.term ? termOrder(item.term) : 0
  if (item.state === 'completed') {
    // A minimum that is not on the scale is met by nothing; the catalog's own check names it.
    if ((minGrade === undefined || minGrade in context.scale) && meetsGrade(context.scale, comparedGrade(item), minGrade))
      return ['passed', { code: 'passed', course: item.course, grade: comparedGrade(item) }]
    return ['unmet', { code: 'grade too low', course: item.course, grade: comparedGrade(item), minGrade: minGrade ?? null }]
  }
  if (when > at || (when === at && !sameTerm)) {
    return ['unmet', { code: 'not before', course: item.course, state: item.state, sameTerm: when === at, alongside: sameTerm }]
  }
  if (item.state === 'under way' || item.state === 'registered') {
    return ['if passed', { code: 'to be passed', course: item.course, state: item.state, minGrade: minGrade ?? null }]
  }
  return ['if planned', { code: 'intended', course: item.course, state: item.state }]
}

/** Credits that are there before a term: each credit once, whatever is repeated. */
function creditsAt(facts: StudentFacts, at: number, context: EvaluationContext, upTo: Firmness,
  rule: Pick<CreditsRule, 'subject' | 'levelMin'>): Credits {
  return readCredit(facts.items, context).earning.reduce((sum, item) => {
    if (!countsFor(rule, context.courses.get(item.course))) return sum
    if (item.state === 'completed') return sum + item.credits
    const firmness: Firmness = item.state === 'under way' || item.state === 'registered' ? 'if passed' : 'if planned'
    const counted = FIRMNESS.indexOf(firmness) <= FIRMNESS.indexOf(upTo)
    return counted && item.term && termOrder(item.term) < at ? sum + item.credits : sum
  }, 0)
}

export type CreditsRule = Extract<Expression, { kind: 'credits' }>

/**
 * Whether credits of a course count for a rule on credits; a course that is not in the catalog counts where no subject and level is
 * asked.
 */
export function countsFor({ subject, levelMin }: Pick<CreditsRule, 'subject' | 'levelMin'>, course: Course | undefined): boolean {
  return (!subject || course?.subject === subject) && (levelMin === undefined || (course?.number ?? 0) >= levelMin)
}

function judgeCredits(expression: CreditsRule, at: number, facts: StudentFacts, context: EvaluationContext): Reason {
  const levels: Firmness[] = ['passed', 'if passed', 'if planned']
  const have = (upTo: Firmness) => creditsAt(facts, at, context, upTo, expression)
  const firmness = levels.find(level => have(level) >= expression.credits) ?? 'unmet'
  return { expression, firmness, because: { code: 'credits by then', credits: have('if planned') }, parts: [] }
}

type ConditionSet = ReadonlyMap<string, Expression>

/** Smallest sets of unmet conditions whose satisfaction would satisfy the rule; the same condition in two places is one. */
function smallestSets(reason: Reason): Expression[][] {
  const sets = setsFor(reason).sort((a, b) => a.size - b.size)
  const kept: ConditionSet[] = []
  for (const set of sets) {
    if (!kept.some(smaller => [...smaller.keys()].every(key => set.has(key)))) kept.push(set)
  }
  return kept.slice(0, MISSING_LIMIT).map(set => [...set.values()])
}

function setsFor(reason: Reason): ConditionSet[] {
  if (reason.firmness !== 'unmet') return [new Map()]
  const { expression, parts } = reason
  if (parts.length === 0) return [new Map([[JSON.stringify(expression), expression]])]
  const n = expression.kind === 'all' ? parts.length : expression.kind === 'atLeast' ? expression.n : 1
  const options = parts.map(setsFor)
  let chosen: ConditionSet[] = []
  for (const pick of combinations(parts.length, n)) {
    let sets: ConditionSet[] = [new Map()]
    for (const index of pick) {
      sets = smallestFirst(sets.flatMap(set => options[index]!.map(extra => new Map([...set, ...extra]))), 64)
    }
    chosen.push(...sets)
    if (chosen.length > 512) chosen = smallestFirst(chosen, 64)
  }
  return chosen
}

/** At most so many sets, the smallest: what is cut off is never smaller than what stays. */
const smallestFirst = (sets: ConditionSet[], most: number) =>
  sets.length <= most ? sets : sets.sort((a, b) => a.size - b.size).slice(0, most)

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
export function coursesIn(expression: Expression | null): readonly CourseCode[] {
  if (!expression) return []
  if (expression.kind === 'course') return [expression.course]
  if (!('of' in expression)) return []
  const before = named.get(expression)
  if (before) return before
  const found = [...new Set(expression.of.flatMap(coursesIn))]
  named.set(expression, found)
  return found
}

const named = new WeakMap<Expression, readonly CourseCode[]>()

/** Every course that a rule names, those that close it ("not open to") among them. */
export function coursesMentioned(expression: Expression | null): readonly CourseCode[] {
  if (!expression) return []
  if (expression.kind === 'not') return coursesIn(expression.condition)
  return 'of' in expression ? expression.of.flatMap(coursesMentioned) : coursesIn(expression)
}

/** Every course that the rules of a course mention, those that close it among them. */
export const coursesMentionedBy = ({ prerequisite, corequisite }: Pick<Course, 'prerequisite' | 'corequisite'>): CourseCode[] =>
  [ruleOf(prerequisite), ruleOf(corequisite)].flatMap(coursesMentioned)

/** Every course named in the prerequisite or the corequisite of a course. */
export const coursesNamed = ({ prerequisite, corequisite }: Pick<Course, 'prerequisite' | 'corequisite'>): CourseCode[] =>
  [ruleOf(prerequisite), ruleOf(corequisite)].flatMap(coursesIn)

/** The conditions on which a rule that holds rests: of alternatives, the firmest that suffice; nothing for what is passed. */
export function restsOn(reason: Reason): Reason[] {
  if (reason.firmness === 'passed') return []
  if (reason.parts.length === 0) return [reason]
  const { expression } = reason
  const n = expression.kind === 'any' ? 1 : expression.kind === 'atLeast' ? expression.n : reason.parts.length
  return [...reason.parts].sort((a, b) => FIRMNESS.indexOf(a.firmness) - FIRMNESS.indexOf(b.firmness)).slice(0, n).flatMap(restsOn)
}

/** What a course's rules come to at a term. */
export interface CourseRules {
  /** The prerequisite; null where there is none, or it was lifted by an exception. */
  before: Evaluation | null
  beside: Evaluation | null
  /** The prerequisite is lifted for this student. */
  lifted: boolean
}

/** Reads the prerequisite and the corequisite of a course; an exception lifts the prerequisite, and only that. */
export function readCourseRules(course: Pick<Course, 'code' | 'prerequisite' | 'corequisite'>, at: TermCode, facts: StudentFacts,
  rules: RecordRules): CourseRules {
  const context = { ...rules, course: course.code }
  const lifted = facts.permissions.includes(course.code)
  return {
    before: lifted ? null : evaluate(ruleOf(course.prerequisite), at, facts, context),
    beside: evaluate(ruleOf(course.corequisite), at, facts, { ...context, corequisite: true }),
    lifted,
  }
}
