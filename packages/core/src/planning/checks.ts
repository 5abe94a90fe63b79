import { formatCredits } from '../catalog/credits'
import { describeOffering, isOffered, sayTerm, termOrder, termPhase } from '../catalog/terms'
import type { Course, CourseItem, Credits, LocalDate, Term, TermCode } from '../catalog/types'
import { earnsCredit, type GradeScale } from '../grades/scale'
import { evaluate } from '../prerequisites/evaluate'
import { sayMissing } from '../prerequisites/print'
import { ruleOf } from '../prerequisites/rule-of'
import type { StudentFacts } from '../record/facts'
import type { ProgramReport } from '../requirements/report'
import { creditsIn } from './loads'
import { NO_WISHES, type Placeholder, type PlanEntry, type Wishes } from './plan'
import type { SignedTerm } from './student-file'

export type CheckKind
  = | 'prerequisite' | 'corequisite' | 'not offered' | 'over the cap' | 'under the wish' | 'term off' | 'past the wished finish' | 'already passed' | 'repeat limit' | 'excluded'
    | 'counts for nothing' | 'not reached' | 'gpa' | 'term over' | 'differs from sign-off' | 'differs from registration' | 'to choose'

export interface PlanCheck {
  /** Stable while the problem stays: kind, item or term. */
  id: string
  kind: CheckKind
  severity: 'blocker' | 'caution'
  /** The item or placeholder it is about. */
  itemId: string | null
  course: string | null
  /** Null for what concerns the plan as a whole. */
  term: TermCode | null
  words: string
}

export interface CheckInput {
  entries: readonly PlanEntry[]
  placeholders?: readonly Placeholder[]
  wishes?: Wishes
  signedOff?: readonly SignedTerm[]
  /** Record, registrations and the entries, merged. */
  items: readonly CourseItem[]
  facts: Omit<StudentFacts, 'items'>
  courses: ReadonlyMap<string, Course>
  terms: readonly Term[]
  scale: GradeScale
  today: LocalDate
  /** Credits above which a term needs an exception, where one was granted. */
  capRaised: Readonly<Record<TermCode, number>>
}

/** What the catalog rules say about each planned or picked item. */
export function findProblems(input: CheckInput): PlanCheck[] {
  const found: PlanCheck[] = []
  const facts = { ...input.facts, items: input.items }
  const terms = new Map(input.terms.map(term => [term.code, term]))
  for (const item of input.items) {
    if ((item.state !== 'planned' && item.state !== 'picked') || !item.term) continue
    const course = input.courses.get(item.course)
    const term = terms.get(item.term)
    if (!course || !term) continue
    const add = (kind: CheckKind, severity: PlanCheck['severity'], words: string) =>
      found.push({ id: `${kind}:${item.id}`, kind, severity, itemId: item.id, course: course.code, term: term.code, words })

    if (termPhase(term, input.today) !== 'future') add('term over', 'blocker', `${term.name} has begun; ${course.code} was not taken.`)
    if (!isOffered(course, term)) add('not offered', 'blocker', `${course.code} is not offered in ${term.name}: ${describeOffering(course)} only.`)
    const context = { courses: input.courses, scale: input.scale, course: course.code }
    const rule = ruleOf(course.prerequisite)
    const before = evaluate(rule, term.code, facts, context)
    if (before?.firmness === 'unmet') add('prerequisite', 'blocker', `${course.code} is too early in ${term.name}: it needs ${sayMissing(before.missing, input.items)}.`)
    const beside = evaluate(ruleOf(course.corequisite), term.code, facts, { ...context, corequisite: true })
    if (beside?.firmness === 'unmet') add('corequisite', 'blocker', `${course.code} goes with ${sayMissing(beside.missing, input.items)}, in the same term or before.`)
    const clash = alreadyHas(item, course, input)
    if (clash) add(clash.kind, 'blocker', clash.words)
  }
  for (const term of input.terms) if (termPhase(term, input.today) === 'future') found.push(...findTermProblems(term, input))
  return [...found, ...findUnchosen(input)]
}

/** What the load of a term, the student's wishes, a sign-off and the registrations say about one term ahead. */
function findTermProblems(term: Term, input: CheckInput): PlanCheck[] {
  const found: PlanCheck[] = []
  const credits = creditsIn(input.items, term.code, input.placeholders)
  const cap = input.capRaised[term.code] ?? term.loadCap
  const { target, termsOff, latestFinish } = input.wishes ?? NO_WISHES
  const add = (kind: CheckKind, severity: PlanCheck['severity'], words: string, item?: Pick<CourseItem, 'id' | 'course'>) =>
    found.push({ id: `${kind}:${item?.id ?? term.code}`, kind, severity, itemId: item?.id ?? null, course: item?.course ?? null, term: term.code, words })
  if (credits > cap) add('over the cap', 'blocker', `${term.name} has ${formatCredits(credits)} credits, the cap is ${formatCredits(cap)}. Move a course, or ask your advisor for a load exception.`)
  if (target !== null && term.season !== 'summer' && credits > 0 && credits < target && isBeforeLast(term, input)) {
    add('under the wish', 'caution', `${term.name} has ${formatCredits(credits)} credits, fewer than the ${formatCredits(target)} you wish for in a term.`)
  }
  const intended = input.items.filter(item => item.term === term.code && isIntended(item))
  if (termsOff.includes(term.code)) for (const item of intended) add('term off', 'caution', `${item.course} stands in ${term.name}, a term you want off.`, item)
  if (latestFinish && termOrder(term.code) > termOrder(latestFinish)) {
    for (const item of intended) add('past the wished finish', 'caution', `${item.course} stands in ${term.name}; you want to finish by ${sayTerm(latestFinish)}.`, item)
  }
  const signed = input.signedOff?.find(one => one.term === term.code)
  const difference = signed ? sayDifference(signed, input) : ''
  if (difference) add('differs from sign-off', 'caution', `${term.name} is no longer what was signed off: ${difference}.`)
  if (input.items.some(item => item.term === term.code && item.state === 'registered')) {
    for (const item of intended.filter(one => one.state === 'planned')) add('differs from registration', 'caution', `${item.course} is planned for ${term.name}, and you registered without it.`, item)
  }
  return found
}

const isIntended = (item: CourseItem) => item.state === 'planned' || item.state === 'picked'
/** The last term of a plan takes what is left, however little. */
const isBeforeLast = (term: Term, { items, placeholders = [] }: CheckInput) =>
  [...items, ...placeholders].some(one => one.term && termOrder(one.term) > termOrder(term.code))

function sayDifference({ term, copy }: SignedTerm, input: CheckInput): string {
  const now = input.items.filter(item => item.term === term && item.state !== 'completed').map(item => item.course)
  const agreed = copy.map(entry => entry.course)
  const parts = [
    ...agreed.filter(course => !now.includes(course)).map(course => `${course} is gone`),
    ...now.filter(course => !agreed.includes(course)).map(course => `${course} is new`),
  ]
  return parts.join(', ')
}

/** Placeholders in terms whose sections are known: it is time to choose. */
function findUnchosen({ placeholders = [], terms, today }: CheckInput): PlanCheck[] {
  return placeholders.flatMap((placeholder): PlanCheck[] => {
    const term = terms.find(candidate => candidate.code === placeholder.term)
    const over = term && termPhase(term, today) !== 'future'
    if (!term || (!term.scheduled && !over)) return []
    const words = over ? `${term.name} has begun; no course was chosen for this place.` : `The sections of ${term.name} are known: choose a course for this place.`
    return [{ id: `to choose:${placeholder.id}`, kind: 'to choose', severity: over ? 'blocker' : 'caution', itemId: placeholder.id, course: null, term: term.code, words }]
  })
}

/** Courses that no line of any program uses. */
export function findOffPath(items: readonly CourseItem[], reports: readonly ProgramReport[]): CourseItem[] {
  return items.filter(item => item.state !== 'completed' && reports.every(report => report.unused.some(unused => unused.id === item.id)))
}

/** All checks: what the rules and wishes say, what counts for nothing, and what of the programs the plan does not reach. */
export function checkPlan(input: CheckInput, reports: readonly ProgramReport[]): PlanCheck[] {
  const offPath = findOffPath(input.items, reports).filter(isIntended)
  return [
    ...findProblems(input),
    ...offPath.map((item): PlanCheck => ({
      id: `counts for nothing:${item.id}`, kind: 'counts for nothing', severity: 'caution', itemId: item.id, course: item.course, term: item.term!,
      words: `${item.course} counts for nothing yet: no requirement line has room for it.`,
    })),
    ...reports.flatMap(report => findUnreached(report, input.placeholders ?? [])),
  ]
}

/** What a program asks as a whole and the plan does not bring: areas with something open, totals, averages. */
function findUnreached(report: ProgramReport, placeholders: readonly Placeholder[]): PlanCheck[] {
  const about = (kind: CheckKind, id: string, words: string): PlanCheck => ({ id: `${kind}:${report.code}/${id}`, kind, severity: 'caution', itemId: null, course: null, term: null, words })
  const held = heldCredits(report, placeholders)
  const open = report.open - held
  const rules = report.rules.flatMap((rule) => {
    if (rule.state !== 'open' || rule.kind === 'milestone') return []
    if (rule.kind === 'gpa') return rule.words.startsWith('no grades') ? [] : [about('gpa', rule.id, `${report.title}, ${rule.title}: ${rule.unreachable ?? rule.words}.`.replace('..', '.'))]
    // While lines are open, their credits are lacking in the total as well: one thing to mend, said once.
    return open > 0 ? [] : [about('not reached', rule.id, `${report.title}, ${rule.title}: ${rule.words}.`)]
  })
  return open > 0 ? [about('not reached', 'open', `${report.title}: ${formatCredits(open)} credits have no place in the plan yet.`), ...rules] : rules
}

/** Credits that placeholders hold of what a program has open: never more than each line lacks. */
export function heldCredits(report: ProgramReport, placeholders: readonly Placeholder[]): Credits {
  return report.areas.flatMap(area => area.lines).reduce((sum, line) => {
    if (line.setAside) return sum
    const held = placeholders.filter(placeholder => placeholder.line === `${report.code}/${line.id}`).reduce((credits, placeholder) => credits + placeholder.credits, 0)
    return sum + Math.min(held, line.open)
  }, 0)
}

function alreadyHas(item: CourseItem, course: Course, input: CheckInput): { kind: 'already passed' | 'repeat limit' | 'excluded', words: string } | null {
  const others = input.items.filter(other => other.id !== item.id && (other.state !== 'completed' || earnsCredit(input.scale, other.grade)))
  const excluded = others.find(other => course.exclusions.includes(other.course))
  if (excluded) return { kind: 'excluded', words: `No credit for both ${course.code} and ${excluded.course}, which is ${excluded.state}.` }
  const same = others.filter(other => other.course === course.code || course.equivalents.includes(other.course))
  // A retake to improve a grade below C is a plan of its own; only a sufficient grade is "already passed" (common practice, no source).
  const blocking = same.filter(other => other.state !== 'completed' || (input.scale[other.grade ?? '']?.standsFor ?? 0) >= 200)
  const first = blocking[0]
  if (!first || blocking.length < course.repeatLimit) return null
  const words = first.state === 'completed' ? `passed with ${first.grade}` : `${first.state} in another term`
  return { kind: course.repeatLimit > 1 ? 'repeat limit' : 'already passed', words: `${course.code} is ${words}; it gives credit ${course.repeatLimit === 1 ? 'once' : `${course.repeatLimit} times`}.` }
}
