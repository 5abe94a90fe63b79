import { nameOf } from '../../catalog/terms'
import type { CourseCode, Credits, TermCode, TermName } from '../../catalog/types'
import { findUnreachable, type Lost } from '../../requirements/reach'
import type { SharedRule } from '../../requirements/report'
import { readStanding } from '../standing'
import { FinishBounds } from './bound'
import { type Choice, chooseCourses, type Unfound } from './choose'
import { shortestSchedule } from './list-schedule'
import { seeded } from './random'
import { isHeld, problemOf, type Setting, settingOf } from './setting'
import type { DraftRequest } from './types'

/** Why no draft is possible. */
export type DraftReason /** The fewest wishes and pins that cannot hold together; lifting any one of them makes a draft possible. */
  = | { code: 'conflict', proved: boolean, constraints: DraftConstraint[], lacking: Unfound[] }
/** No small set of them was found; all of them together leave no way that was found. */
    | { code: 'no way found', proved: false, constraints: DraftConstraint[] }
/** Lines that nothing left can fill. */
    | { code: 'lost', proved: true, lines: { title: string, program: string, lost: Lost }[] }
    | { code: 'no course found', proved: false, lacking: Unfound[], last: TermName | null, shared: SharedRule[] }
    | { code: 'calendar too short', proved: boolean, last: TermName | null }
/** Courses were found for everything, and no way to place them. */
    | { code: 'no place found', proved: false }

/** One wish or pin. */
export type DraftConstraint
  = | { code: 'finish by', term: TermCode }
    | { code: 'load', credits: Credits }
    | { code: 'term off', term: TermCode }
    | { code: 'summers free' | 'all as placed' }
    | { code: 'pinned', course: CourseCode, term: TermCode }

/** One wish or pin that can be lifted. */
interface Constraint {
  name: DraftConstraint
  lift: (request: DraftRequest) => DraftRequest
}

const TRIES = 80
const LARGEST = 3

/**
 * Lifts everything first: if it is impossible even so, no wish is at fault. Otherwise looks for the smallest set of wishes and pins
 * that is impossible by itself, one, then two, then three of them.
 */
export function findReason(request: DraftRequest): DraftReason {
  const constraints = constraintsOf(request)
  const choices = new Map<string, Choice>()
  const attempt = (kept: readonly Constraint[]) =>
    tryWith(constraints.filter(one => !kept.includes(one)).reduce((now, one) => one.lift(now), request), choices)
  const free = attempt([])
  if (!free.possible) return intrinsic(request, free)
  for (let size = 1; size <= Math.min(LARGEST, constraints.length); size++) {
    for (const set of subsets(constraints, size)) {
      const tried = attempt(set)
      if (tried.possible) continue
      return { code: 'conflict', proved: tried.proved, constraints: set.map(one => one.name), lacking: tried.lacking }
    }
  }
  return { code: 'no way found', proved: false, constraints: constraints.map(one => one.name) }
}

function constraintsOf({ file, catalog, today, wishes }: DraftRequest): Constraint[] {
  const setting = settingOf(file, catalog, today, wishes)
  const held = setting.entries.filter(entry => isHeld(entry, wishes))
  const lifted = (change: Partial<DraftRequest['wishes']>) => (request: DraftRequest): DraftRequest => ({ ...request,
    wishes: { ...request.wishes, ...change } })
  const pins = held.filter(entry => entry.pinned)
  return [
    ...(wishes.latestFinish
      ? [{ name: { code: 'finish by' as const, term: wishes.latestFinish }, lift: lifted({ latestFinish: null }) }]
      : []),
    ...(wishes.load === null ? [] : [{ name: { code: 'load' as const, credits: wishes.load }, lift: lifted({ load: null }) }]),
    ...wishes.termsOff.map(term => ({ name: { code: 'term off' as const, term },
      lift: (request: DraftRequest) => lifted({ termsOff: request.wishes.termsOff.filter(other => other !== term) })(request) }),
    ),
    ...(wishes.summers === 'when needed' ? [{ name: { code: 'summers free' as const }, lift: lifted({ summers: 'freely' }) }] : []),
    ...(wishes.around === 'placed' ? [{ name: { code: 'all as placed' as const }, lift: lifted({ around: 'pinned' }) }] : []),
    ...pins.map(entry => ({
      name: { code: 'pinned' as const, course: entry.course, term: entry.term },
      lift: (request: DraftRequest): DraftRequest => ({ ...request,
        file: { ...request.file,
          entries: request.file.entries.map(other => other.id === entry.id ? { ...other, pinned: false } : other) } }),
    })),
  ]
}

interface Attempt {
  possible: boolean
  proved: boolean
  lacking: Unfound[]
}

function tryWith({ file, catalog, today, wishes, seed }: DraftRequest, choices: Map<string, Choice>): Attempt {
  const setting = settingOf(file, catalog, today, wishes)
  // Loads and pins do not change what can be chosen; which terms there are does.
  const key = JSON.stringify([wishes.latestFinish, wishes.termsOff, wishes.summers])
  const choice = choices.get(key) ?? chooseCourses(setting, { suggested: false })
  choices.set(key, choice)
  const possible = choice.lacking.length === 0 && shortestSchedule(problemOf(setting, choice.chosen), seeded(seed ?? 1), TRIES) !== null
  // Other courses might do where these do not: only the bound, which holds for any, proves that nothing does.
  return { possible, proved: !possible && isProved(setting), lacking: choice.lacking }
}

/** Nothing that could be chosen is complete within the terms ahead. */
function isProved(setting: Setting): boolean {
  const bounds = new FinishBounds(setting)
  const last = setting.facts.terms.length - 1
  return bounds.first() > last || bounds.refutes(last)
}

/** No wish is at fault: a line that nothing left can fill, or the end of the academic calendar. */
function intrinsic({ file, catalog, today, wishes }: DraftRequest, attempt: Attempt): DraftReason {
  const setting = settingOf(file, catalog, today, { ...wishes, latestFinish: null, termsOff: [], load: null, summers: 'freely' })
  const standing = readStanding(file, catalog, today)
  const lost = standing.reports.flatMap(report =>
    Object.entries(findUnreachable(report, standing.items, setting.reach, catalog)).map(([id, why]) => {
      const line = [...report.areas.flatMap(area => area.lines), ...report.overlays].find(candidate => candidate.id === id)
      return { title: line?.title ?? id, program: report.title, lost: why }
    }),
  )
  if (lost.length > 0) return { code: 'lost', proved: true, lines: lost }
  const last = setting.facts.terms.at(-1)
  if (attempt.lacking.length > 0) {
    const shared = standing.reports.flatMap(report => report.notShared?.rules ?? [])
    return { code: 'no course found', proved: false, lacking: attempt.lacking, last: last ? nameOf(last) : null, shared }
  }
  return { code: 'calendar too short', proved: attempt.proved, last: last ? nameOf(last) : null }
}

function* subsets<T>(list: readonly T[], size: number, from = 0): Generator<T[]> {
  if (size === 0) {
    yield []
    return
  }
  for (let first = from; first <= list.length - size; first++) {
    for (const rest of subsets(list, size - 1, first + 1)) yield [list[first]!, ...rest]
  }
}
