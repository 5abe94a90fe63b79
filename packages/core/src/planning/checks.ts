import { formatCredits } from '../catalog/credits'
import { describeOffering, isOffered, termOrder, termPhase } from '../catalog/terms'
import type { Course, CourseItem, LocalDate, Term, TermCode } from '../catalog/types'
import { earnsCredit, type GradeScale } from '../grades/scale'
import { evaluate, type StudentFacts } from '../prerequisites/evaluate'
import { parseExpression } from '../prerequisites/parse'
import { sayCondition } from '../prerequisites/print'
import type { Expression } from '../prerequisites/types'
import type { ProgramReport } from '../requirements/report'
import { applyOperation, type PlanEntry, type PlanOperation } from './plan'

export type CheckKind
  = | 'prerequisite' | 'corequisite' | 'not offered' | 'over the cap' | 'already passed' | 'excluded' | 'counts for nothing' | 'term over'

export interface PlanMove { label: string, operations: PlanOperation[] }

export interface PlanCheck {
  /** Stable while the problem stays: kind, item or term. */
  id: string
  kind: CheckKind
  severity: 'blocker' | 'caution'
  itemId: string | null
  course: string | null
  term: TermCode
  words: string
}

export interface CheckInput {
  entries: readonly PlanEntry[]
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
    if (before?.firmness === 'unmet') add('prerequisite', 'blocker', `Too early in ${term.name}: needs ${sayMissing(before.missing, input.items)}.`)
    const beside = evaluate(ruleOf(course.corequisite), term.code, facts, { ...context, corequisite: true })
    if (beside?.firmness === 'unmet') add('corequisite', 'blocker', `Goes with ${sayMissing(beside.missing, input.items)}, in the same term or before.`)
    const clash = alreadyHas(item, course, input)
    if (clash) add(clash.kind, 'blocker', clash.words)
  }
  for (const term of input.terms) {
    const credits = creditsIn(input.items, term.code)
    const cap = input.capRaised[term.code] ?? term.loadCap
    if (termPhase(term, input.today) === 'future' && credits > cap) {
      found.push({
        id: `over the cap:${term.code}`, kind: 'over the cap', severity: 'blocker', itemId: null, course: null, term: term.code,
        words: `${term.name} has ${formatCredits(credits)} credits, the cap is ${formatCredits(cap)}. Move a course, or ask your advisor for a load exception.`,
      })
    }
  }
  return found
}

/** Courses that no line of any program uses. */
export function findOffPath(items: readonly CourseItem[], reports: readonly ProgramReport[]): CourseItem[] {
  return items.filter(item => item.state !== 'completed' && reports.every(report => report.unused.some(unused => unused.id === item.id)))
}

/** All checks: what the catalog rules say, and what counts for nothing. */
export function checkPlan(input: CheckInput, reports: readonly ProgramReport[]): PlanCheck[] {
  const offPath = findOffPath(input.items, reports).filter(item => item.state === 'planned' || item.state === 'picked')
  return [...findProblems(input), ...offPath.map((item): PlanCheck => ({
    id: `counts for nothing:${item.id}`, kind: 'counts for nothing', severity: 'caution', itemId: item.id, course: item.course, term: item.term!,
    words: `${item.course} counts for nothing yet: no requirement line has room for it.`,
  }))]
}

/** Up to three moves that make a problem go away without making a new blocker; each is tried before it is offered. */
export function findMoves(problem: PlanCheck, input: CheckInput, rebuild: (entries: PlanEntry[]) => CourseItem[]): PlanMove[] {
  if (problem.kind === 'counts for nothing') return problem.itemId ? [{ label: `Take ${problem.course} out`, operations: [{ kind: 'remove', entry: problem.itemId }] }] : []
  const known = new Set(findProblems(input).filter(other => other.severity === 'blocker').map(other => other.id))
  const moves: PlanMove[] = []
  for (const move of candidateMoves(problem, input)) {
    if (moves.length < 3 && helps(move, problem, known, input, rebuild)) moves.push(move)
  }
  return moves
}

function helps(move: PlanMove, problem: PlanCheck, known: ReadonlySet<string>, input: CheckInput, rebuild: (entries: PlanEntry[]) => CourseItem[]): boolean {
  let entries: PlanEntry[] = [...input.entries]
  for (const operation of move.operations) {
    const next = applyOperation(entries, operation)
    if (typeof next === 'string') return false
    entries = next
  }
  const after = findProblems({ ...input, entries, items: rebuild(entries) })
  return after.every(check => check.id !== problem.id && (check.severity !== 'blocker' || known.has(check.id)))
}

function candidateMoves(problem: PlanCheck, input: CheckInput): PlanMove[] {
  const future = input.terms.filter(term => termPhase(term, input.today) === 'future')
  const moves: PlanMove[] = []
  const entry = input.entries.find(e => e.id === problem.itemId)
  if (problem.kind === 'over the cap') {
    const movable = input.entries.filter(e => e.term === problem.term && !e.pinned).sort((a, b) => b.course.localeCompare(a.course))
    for (const e of movable) {
      for (const term of future.filter(t => termOrder(t.code) > termOrder(problem.term)).slice(0, 3)) {
        moves.push({ label: `Move ${e.course} to ${term.name}`, operations: [{ kind: 'move', entry: e.id, term: term.code }] })
      }
    }
    return moves
  }
  if (!entry) return moves
  if (problem.kind === 'prerequisite' || problem.kind === 'corequisite') moves.push(...placeMissing(problem, entry, input, future))
  if (problem.kind !== 'already passed' && problem.kind !== 'excluded') {
    const later = future.filter(term => term.code !== entry.term)
      .sort((a, b) => Math.abs(termOrder(a.code) - termOrder(entry.term)) - Math.abs(termOrder(b.code) - termOrder(entry.term)))
    moves.push(...later.map(term => ({ label: `Move to ${term.name}`, operations: [{ kind: 'move' as const, entry: entry.id, term: term.code }] })))
  }
  moves.push({ label: `Take ${entry.course} out`, operations: [{ kind: 'remove', entry: entry.id }] })
  return moves
}

/** Places what is missing into the latest earlier term in which it is offered (the same term for a corequisite). */
function placeMissing(problem: PlanCheck, entry: PlanEntry, input: CheckInput, future: Term[]): PlanMove[] {
  const course = input.courses.get(entry.course)!
  const corequisite = problem.kind === 'corequisite'
  const found = evaluate(ruleOf(corequisite ? course.corequisite : course.prerequisite), entry.term, { ...input.facts, items: input.items },
    { courses: input.courses, scale: input.scale, course: course.code, corequisite })
  const moves: PlanMove[] = []
  for (const set of found?.missing ?? []) {
    const only = set.length === 1 ? set[0]! : null
    if (only?.kind !== 'course') continue
    const needed = input.courses.get(only.course)
    if (!needed) continue
    const limit = termOrder(entry.term) + (corequisite || only.alongside ? 1 : 0)
    const places = future.filter(term => termOrder(term.code) < limit && isOffered(needed, term)).reverse()
    const placed = input.entries.find(e => e.course === needed.code)
    for (const term of places) {
      moves.push(placed
        ? { label: `Move ${needed.code} to ${term.name}`, operations: [{ kind: 'move', entry: placed.id, term: term.code }] }
        : { label: `Place ${needed.code} in ${term.name}`, operations: [{ kind: 'place', entry: newEntryId(needed.code, term.code), course: needed.code, term: term.code, credits: needed.credits }] })
    }
  }
  return moves
}

/** A plan entry's id is made of course and term at the time of placing: the same placement by two people is the same entry. */
export function newEntryId(course: string, term: TermCode): string {
  return `${course.replace(' ', '')}-${term}`
}

export function creditsIn(items: readonly CourseItem[], term: TermCode): number {
  return items.reduce((sum, item) => sum + (item.term === term && item.state !== 'completed' ? item.credits : 0), 0)
}

function alreadyHas(item: CourseItem, course: Course, input: CheckInput): { kind: 'already passed' | 'excluded', words: string } | null {
  const others = input.items.filter(other => other.id !== item.id && (other.state !== 'completed' || earnsCredit(input.scale, other.grade)))
  const excluded = others.find(other => course.exclusions.includes(other.course))
  if (excluded) return { kind: 'excluded', words: `No credit for both ${course.code} and ${excluded.course}, which is ${excluded.state}.` }
  const same = others.filter(other => other.course === course.code || course.equivalents.includes(other.course))
  // A retake to improve a grade below C is a plan of its own; only a sufficient grade is "already passed" (common practice, no source).
  const blocking = same.filter(other => other.state !== 'completed' || (input.scale[other.grade ?? '']?.standsFor ?? 0) >= 200)
  const first = blocking[0]
  if (!first || blocking.length < course.repeatLimit) return null
  const words = first.state === 'completed' ? `passed with ${first.grade}` : `${first.state} in another term`
  return { kind: 'already passed', words: `${course.code} is ${words}; it gives credit ${course.repeatLimit === 1 ? 'once' : `${course.repeatLimit} times`}.` }
}

const parsed = new Map<string, Expression | null>()

/** The rule of a catalog text; the catalog is checked when it is loaded, so an unreadable text here is a fault. */
export function ruleOf(text: string): Expression | null {
  const known = parsed.get(text)
  if (known !== undefined) return known
  const result = parseExpression(text)
  if (!result.ok) throw new Error(`the rule "${text}" cannot be read at ${result.problem.at}: ${result.problem.message}`)
  parsed.set(text, result.expression)
  return result.expression
}

/** Says the smallest missing sets: "CHY 120 with C or better; or MTH 140 and STT 201". */
export function sayMissing(missing: Expression[][], items: readonly CourseItem[]): string {
  return missing.slice(0, 2).map(set => set.map((expression) => {
    const words = sayCondition(expression)
    if (expression.kind !== 'course') return words
    const item = items.find(i => i.course === expression.course)
    if (!item) return `${words} first, which is not in the plan`
    return item.state === 'completed' ? `${words} (you have ${item.grade})` : `${words} first, which is ${item.state} for ${item.term}`
  }).join(' and ')).join('; or ')
}
