import { sameCourse } from '../catalog/linked'
import { isOffered, nameOf, termOrder, termPhase } from '../catalog/terms'
import type { CourseCode, CourseItem, Term, TermCode, TermName } from '../catalog/types'
import { readCourseRules } from '../prerequisites/evaluate'
import { factsOf } from '../record/facts'
import { freshEntryId } from '../record/ids'
import type { ProgramReport } from '../requirements/report'
import type { CheckInput, PlanCheck } from './checks'
import { findProblems } from './find-problems'
import { applyAll, EMPTY_PLAN, type Plan, type PlanEntry, type PlanOperation } from './plan'

export interface PlanMove {
  move: MoveName
  operations: PlanOperation[]
}

/** What a move does. */
export type MoveName
  = | { code: 'take out', course: CourseCode }
    | { code: 'take the place out' }
  /** The course or the place that the problem is about. */
    | { code: 'move here', term: TermName }
    | { code: 'move', course: CourseCode, term: TermName }
    | { code: 'place', course: CourseCode, term: TermName }
    | { code: 'put back', term: TermName, without: CourseCode[] }

/** How many moves are offered for one problem. */
const MOST = 3

export interface MoveInput extends CheckInput {
  /** The whole list of items that would come of other entries. */
  rebuild: (entries: PlanEntry[]) => CourseItem[]
  /** All checks of another plan, requirements included. */
  recheck: (plan: Plan) => PlanCheck[]
  reports: readonly ProgramReport[]
}

/** Up to three moves that make a problem go away without making a new blocker; each is tried before it is offered. */
export function findMoves(problem: PlanCheck, input: MoveInput): PlanMove[] {
  const known = new Set(input.recheck(planOf(input)).filter(other => other.severity === 'blocker').map(other => other.id))
  const moves: PlanMove[] = []
  for (const move of candidateMoves(problem, input)) {
    if (moves.length < MOST && helpsAtFirstSight(move, problem, known, input) && helps(move, problem, known, input)) moves.push(move)
  }
  return moves
}

const planOf = ({ file: { entries, placeholders, wishes } }: CheckInput): Plan => ({ ...EMPTY_PLAN, entries, placeholders, wishes })

const mends = (after: readonly PlanCheck[], problem: PlanCheck, known: ReadonlySet<string>) =>
  after.every(check => check.id !== problem.id && (check.severity !== 'blocker' || known.has(check.id)))

/** Without reading the requirements, which takes longest: most moves that do not help are known by then. */
function helpsAtFirstSight(move: PlanMove, problem: PlanCheck, known: ReadonlySet<string>, input: MoveInput): boolean {
  const plan = applyAll(planOf(input), move.operations)
  return typeof plan !== 'string'
    && mends(
      findProblems({ ...input, file: { ...input.file, entries: plan.entries, placeholders: plan.placeholders },
        items: input.rebuild(plan.entries) }),
      problem,
      known,
    )
}

function helps(move: PlanMove, problem: PlanCheck, known: ReadonlySet<string>, input: MoveInput): boolean {
  const plan = applyAll(planOf(input), move.operations)
  return typeof plan !== 'string' && mends(input.recheck(plan), problem, known)
}

function candidateMoves(problem: PlanCheck, input: MoveInput): PlanMove[] {
  const future = input.catalog.terms.filter(term => termPhase(term, input.today) === 'future')
  const held = input.file.placeholders.find(placeholder => placeholder.id === problem.itemId)
  if (held) return [...elsewhere(held, future), { move: { code: 'take the place out' }, operations: [{ kind: 'remove', entry: held.id }] }]
  switch (problem.kind) {
    case 'over the cap':
      return lighten(problem.term!, input, future)
    case 'under the wish':
      return fillUp(problem.term!, input)
    case 'differs from sign-off':
      return putBack(problem.term!, input)
    case 'not reached':
      return placeOpen(input, future)
    case 'gpa':
      return []
  }
  const entry = input.file.entries.find(e => e.id === problem.itemId)
  if (!entry) return []
  const out: PlanMove = { move: { code: 'take out', course: entry.course }, operations: [{ kind: 'remove', entry: entry.id }] }
  if (
    problem.kind === 'already passed' || problem.kind === 'repeat limit' || problem.kind === 'excluded'
    || problem.kind === 'counts for nothing'
  ) return [out]
  const first = problem.kind === 'prerequisite' || problem.kind === 'corequisite' ? placeMissing(problem, entry, input, future) : []
  return [...first, ...elsewhere(entry, future), out]
}

/** The same course in another term, nearest first. */
function elsewhere(entry: { id: string, term: TermCode }, future: readonly Term[]): PlanMove[] {
  const distance = (term: Term) => Math.abs(termOrder(term.code) - termOrder(entry.term))
  return future.filter(term => term.code !== entry.term).sort((a, b) => distance(a) - distance(b))
    .map(term => ({ move: { code: 'move here', term: nameOf(term) }, operations: [{ kind: 'move', entry: entry.id, term: term.code }] }))
}

function lighten(code: TermCode, input: MoveInput, future: readonly Term[]): PlanMove[] {
  const later = future.filter(term => termOrder(term.code) > termOrder(code)).slice(0, 4)
  const movable = input.file.entries.filter(e => e.term === code && !e.pinned).sort((a, b) => b.course.localeCompare(a.course))
  return movable.flatMap(e =>
    later.map((term): PlanMove => ({ move: { code: 'move', course: e.course, term: nameOf(term) },
      operations: [{ kind: 'move', entry: e.id, term: term.code }] }),
    ),
  )
}

/** Brings a later course into a term that is lighter than wished. */
function fillUp(code: TermCode, input: MoveInput): PlanMove[] {
  const name = nameOf(input.catalog.terms.find(term => term.code === code)!)
  return input.file.entries.filter(e => !e.pinned && termOrder(e.term) > termOrder(code)).sort((a, b) =>
    termOrder(b.term) - termOrder(a.term) || a.course.localeCompare(b.course),
  )
    .map(e => ({ move: { code: 'move', course: e.course, term: name }, operations: [{ kind: 'move', entry: e.id, term: code }] }))
}

/** What was agreed for the term, and only that; what came to it since is moved to a later term where it can stand, or taken out. */
function putBack(code: TermCode, input: MoveInput): PlanMove[] {
  const copy = input.file.signedOff.find(signed => signed.term === code)?.copy ?? []
  const here = input.file.entries.filter(entry => entry.term === code)
  const back = copy.filter(agreed => !input.items.some(item => item.course === agreed.course && item.term === code)).map(
    (agreed): PlanOperation => {
      const moved = input.file.entries.find(entry => entry.course === agreed.course)
      return moved
        ? { kind: 'move', entry: moved.id, term: code }
        : { kind: 'place', entry: freshId(agreed.course, code, input), course: agreed.course, term: code, credits: agreed.credits }
    },
  )
  const extra = here.filter(entry => !copy.some(agreed => agreed.course === entry.course))
  const name = nameOf(input.catalog.terms.find(term => term.code === code)!)
  const later = input.catalog.terms.filter(term => termOrder(term.code) > termOrder(code)).sort((a, b) =>
    termOrder(a.code) - termOrder(b.code),
  )
  const moveOut = extra.map((entry): PlanOperation => {
    const term = later.find(candidate => isOffered(input.catalog.courses.get(entry.course)!, candidate))
    return term ? { kind: 'move', entry: entry.id, term: term.code } : { kind: 'remove', entry: entry.id }
  })
  const moves: PlanMove[] = [{ move: { code: 'put back', term: name, without: [] }, operations: [...moveOut, ...back] }]
  if (extra.length > 0)
    moves.push({ move: { code: 'put back', term: name, without: extra.map(entry => entry.course) },
      operations: [...extra.map((entry): PlanOperation => ({ kind: 'remove', entry: entry.id })), ...back] })
  return moves
}

/** One course that covers all that is open: anything more is for a draft. */
function placeOpen(input: MoveInput, future: readonly Term[]): PlanMove[] {
  const open = input.reports.flatMap(report => report.areas.flatMap(area => area.lines.filter(line => line.open > 0 && !line.setAside)))
  const codes = [...new Set(open.flatMap(line => line.unfilled))]
  return codes.flatMap(code => placesFor(code, input, future))
}

function placesFor(code: string, input: MoveInput, terms: readonly Term[]): PlanMove[] {
  const course = input.catalog.courses.get(code)
  return terms.filter(term => course && isOffered(course, term)).map(term => ({
    move: { code: 'place', course: code, term: nameOf(term) },
    operations: [{ kind: 'place', entry: freshId(code, term.code, input), course: code, term: term.code, credits: course!.credits }],
  }))
}

const freshId = (course: string, term: TermCode, { file }: CheckInput) =>
  freshEntryId(course, term, id => file.entries.some(entry => entry.id === id))

/** Places what is missing into the latest earlier term in which it is offered (the same term for a corequisite). */
function placeMissing(problem: PlanCheck, entry: PlanEntry, input: MoveInput, future: Term[]): PlanMove[] {
  const { file, items, catalog } = input
  const corequisite = problem.kind === 'corequisite'
  const rules = readCourseRules(catalog.courses.get(entry.course)!, entry.term, factsOf(file, items), catalog)
  const missing = (corequisite ? rules.beside : rules.before)?.missing ?? []
  return missing.flatMap((set): PlanMove[] => {
    const only = set.length === 1 ? set[0]! : null
    if (only?.kind !== 'course') return []
    // Any course that gives the same credit will do; the one that the rule names comes first.
    return sameCourse(only.course, catalog.courses).flatMap((code): PlanMove[] => {
      const course = catalog.courses.get(code)
      if (!course) return []
      const limit = termOrder(entry.term) + (corequisite || only.alongside ? 1 : 0)
      const places = future.filter(term => termOrder(term.code) < limit && isOffered(course, term)).reverse()
      const placed = file.entries.find(e => e.course === code)
      return placed
        ? places.map(term => ({ move: { code: 'move', course: code, term: nameOf(term) },
            operations: [{ kind: 'move', entry: placed.id, term: term.code }] }),
          )
        : placesFor(code, input, places)
    })
  })
}
