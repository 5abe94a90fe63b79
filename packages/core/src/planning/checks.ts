import { isOffered, nameOf, termOrder, termPhase } from '../catalog/terms'
import type {
  Commitment, Course, CourseCode, CourseItem, Credits, LocalDate, OfferingPattern, Term, TermCode, TermName,
} from '../catalog/types'
import { earnsCredit, type GradeScale } from '../grades/scale'
import { evaluate, type Lack, lacksOf } from '../prerequisites/evaluate'
import { ruleOf } from '../prerequisites/rule-of'
import type { StudentFacts } from '../record/facts'
import type { ProgramReport } from '../requirements/report'
import type { RuleReport } from '../requirements/rules'
import { creditsIn } from './loads'
import { NO_WISHES, type Placeholder, type PlanEntry, type Wishes } from './plan'
import type { SignedTerm } from './student-file'

export interface CheckPlace {
  /** Stable while the problem stays: kind, item or term. */
  id: string
  severity: 'blocker' | 'caution'
  /** The item or placeholder it is about. */
  itemId: string | null
  course: CourseCode | null
  /** Null for what concerns the plan as a whole. */
  term: TermCode | null
}

/** What is wrong, by kind, with what its words need. */
export type CheckFinding
  = | { kind: 'term over', in: TermName }
    | { kind: 'not offered', in: TermName, offered: OfferingPattern }
    | { kind: 'prerequisite', in: TermName, needs: Lack[][] }
    | { kind: 'corequisite', needs: Lack[][] }
    | { kind: 'already passed' | 'repeat limit', state: Commitment, grade: string | null, times: number }
    | { kind: 'excluded', by: CourseCode, state: Commitment }
    | { kind: 'over the cap', in: TermName, credits: Credits, cap: Credits }
    | { kind: 'under the wish', in: TermName, credits: Credits, wish: Credits }
    | { kind: 'term off', in: TermName }
    | { kind: 'past the wished finish', in: TermName, finish: TermCode }
    | { kind: 'differs from sign-off', in: TermName, gone: CourseCode[], added: CourseCode[] }
    | { kind: 'differs from registration', in: TermName }
    | { kind: 'to choose', in: TermName, over: boolean }
    | { kind: 'counts for nothing' }
    /** Either an area's credits without a place, or a rule about the whole program. */
    | { kind: 'not reached', program: string, lacks: { open: Credits } | { rule: RuleReport } }
    | { kind: 'gpa', program: string, rule: RuleReport }

export type CheckKind = CheckFinding['kind']
export type PlanCheck = CheckPlace & CheckFinding

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
    // Everything here stops the student.
    const add = (finding: CheckFinding) =>
      found.push({ ...finding, id: `${finding.kind}:${item.id}`, severity: 'blocker', itemId: item.id, course: course.code, term: term.code })

    if (termPhase(term, input.today) !== 'future') add({ kind: 'term over', in: nameOf(term) })
    if (!isOffered(course, term)) add({ kind: 'not offered', in: nameOf(term), offered: course.offered })
    const context = { courses: input.courses, scale: input.scale, course: course.code }
    const rule = ruleOf(course.prerequisite)
    const before = evaluate(rule, term.code, facts, context)
    if (before?.firmness === 'unmet') add({ kind: 'prerequisite', in: nameOf(term), needs: lacksOf(before.missing, input.items) })
    const beside = evaluate(ruleOf(course.corequisite), term.code, facts, { ...context, corequisite: true })
    if (beside?.firmness === 'unmet') add({ kind: 'corequisite', needs: lacksOf(beside.missing, input.items) })
    const clash = alreadyHas(item, course, input)
    if (clash) add(clash)
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
  const here = nameOf(term)
  const add = (severity: PlanCheck['severity'], finding: CheckFinding, item?: Pick<CourseItem, 'id' | 'course'>) =>
    found.push({ ...finding, id: `${finding.kind}:${item?.id ?? term.code}`, severity, itemId: item?.id ?? null, course: item?.course ?? null, term: term.code })
  if (credits > cap) add('blocker', { kind: 'over the cap', in: here, credits, cap })
  if (target !== null && term.season !== 'summer' && credits > 0 && credits < target && isBeforeLast(term, input)) {
    add('caution', { kind: 'under the wish', in: here, credits, wish: target })
  }
  const intended = input.items.filter(item => item.term === term.code && isIntended(item))
  if (termsOff.includes(term.code)) for (const item of intended) add('caution', { kind: 'term off', in: here }, item)
  if (latestFinish && termOrder(term.code) > termOrder(latestFinish)) {
    for (const item of intended) add('caution', { kind: 'past the wished finish', in: here, finish: latestFinish }, item)
  }
  const signed = input.signedOff?.find(one => one.term === term.code)
  const difference = signed && differenceFrom(signed, input)
  if (difference && (difference.gone.length > 0 || difference.added.length > 0)) add('caution', { kind: 'differs from sign-off', in: here, ...difference })
  if (input.items.some(item => item.term === term.code && item.state === 'registered')) {
    for (const item of intended.filter(one => one.state === 'planned')) add('caution', { kind: 'differs from registration', in: here }, item)
  }
  return found
}

const isIntended = (item: CourseItem) => item.state === 'planned' || item.state === 'picked'
/** The last term of a plan takes what is left, however little. */
const isBeforeLast = (term: Term, { items, placeholders = [] }: CheckInput) =>
  [...items, ...placeholders].some(one => one.term && termOrder(one.term) > termOrder(term.code))

function differenceFrom({ term, copy }: SignedTerm, input: CheckInput): { gone: CourseCode[], added: CourseCode[] } {
  const now = input.items.filter(item => item.term === term && item.state !== 'completed').map(item => item.course)
  const agreed = copy.map(entry => entry.course)
  return { gone: agreed.filter(course => !now.includes(course)), added: now.filter(course => !agreed.includes(course)) }
}

/** Placeholders in terms whose sections are known: it is time to choose. */
function findUnchosen({ placeholders = [], terms, today }: CheckInput): PlanCheck[] {
  return placeholders.flatMap((placeholder): PlanCheck[] => {
    const term = terms.find(candidate => candidate.code === placeholder.term)
    const over = term !== undefined && termPhase(term, today) !== 'future'
    if (!term || (!term.scheduled && !over)) return []
    const place: CheckPlace = { id: `to choose:${placeholder.id}`, severity: over ? 'blocker' : 'caution', itemId: placeholder.id, course: null, term: term.code }
    return [{ ...place, kind: 'to choose', in: nameOf(term), over }]
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
    })),
    ...reports.flatMap(report => findUnreached(report, input.placeholders ?? [])),
  ]
}

/** What a program asks as a whole and the plan does not bring: areas with something open, totals, averages. */
function findUnreached(report: ProgramReport, placeholders: readonly Placeholder[]): PlanCheck[] {
  const about = (id: string, finding: CheckFinding): PlanCheck =>
    ({ ...finding, id: `${finding.kind}:${report.code}/${id}`, severity: 'caution', itemId: null, course: null, term: null })
  const held = heldCredits(report, placeholders)
  const open = report.open - held
  const rules = report.rules.flatMap((rule) => {
    if (rule.state !== 'open' || rule.reading.kind === 'milestone') return []
    if (rule.reading.kind === 'gpa') return rule.reading.now === null ? [] : [about(rule.id, { kind: 'gpa', program: report.title, rule })]
    // While lines are open, their credits are lacking in the total as well: one thing to mend, said once.
    return open > 0 ? [] : [about(rule.id, { kind: 'not reached', program: report.title, lacks: { rule } })]
  })
  return open > 0 ? [about('open', { kind: 'not reached', program: report.title, lacks: { open } }), ...rules] : rules
}

/** Credits that placeholders hold of what a program has open: never more than each line lacks. */
export function heldCredits(report: ProgramReport, placeholders: readonly Placeholder[]): Credits {
  return report.areas.flatMap(area => area.lines).reduce((sum, line) => {
    if (line.setAside) return sum
    const held = placeholders.filter(placeholder => placeholder.line === `${report.code}/${line.id}`).reduce((credits, placeholder) => credits + placeholder.credits, 0)
    return sum + Math.min(held, line.open)
  }, 0)
}

function alreadyHas(item: CourseItem, course: Course, input: CheckInput): CheckFinding | null {
  const others = input.items.filter(other => other.id !== item.id && (other.state !== 'completed' || earnsCredit(input.scale, other.grade)))
  const excluded = others.find(other => course.exclusions.includes(other.course))
  if (excluded) return { kind: 'excluded', by: excluded.course, state: excluded.state }
  const same = others.filter(other => other.course === course.code || course.equivalents.includes(other.course))
  // A retake to improve a grade below C is a plan of its own; only a sufficient grade is "already passed" (common practice, no source).
  const blocking = same.filter(other => other.state !== 'completed' || (input.scale[other.grade ?? '']?.standsFor ?? 0) >= 200)
  const first = blocking[0]
  if (!first || blocking.length < course.repeatLimit) return null
  return { kind: course.repeatLimit > 1 ? 'repeat limit' : 'already passed', state: first.state, grade: first.grade, times: course.repeatLimit }
}
