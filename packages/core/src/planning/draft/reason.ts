import { formatCredits } from '../../catalog/credits'
import { joinWords } from '../../catalog/filter'
import { sayTerm } from '../../catalog/terms'
import { findUnreachable } from '../../requirements/reach'
import { readStanding } from '../standing'
import { FinishBounds } from './bound'
import { type Choice, chooseCourses } from './choose'
import { shortestSchedule } from './list-schedule'
import { seeded } from './random'
import { isHeld, problemOf, type Setting, settingOf } from './setting'
import type { DraftRequest } from './types'

/** Why no draft is possible: the fewest wishes and pins that cannot hold together, or what no wish can help. */
export interface DraftReason {
  /** False when it was searched for and not found, and no bound says that it cannot be. */
  proved: boolean
  /** The wishes and pins, each in words; lifting any one of them makes a draft possible. Empty when it is not up to them. */
  constraints: string[]
  words: string
}

/** One wish or pin that can be lifted. */
interface Constraint { words: string, lift: (request: DraftRequest) => DraftRequest }

const TRIES = 80
const LARGEST = 3

/**
 * Lifts everything first: if it is impossible even so, no wish is at fault. Otherwise looks for the smallest set of wishes and pins
 * that is impossible by itself, one, then two, then three of them.
 */
export function findReason(request: DraftRequest): DraftReason {
  const constraints = constraintsOf(request)
  const choices = new Map<string, Choice>()
  const attempt = (kept: readonly Constraint[]) => tryWith(constraints.filter(one => !kept.includes(one)).reduce((now, one) => one.lift(now), request), choices)
  const free = attempt([])
  if (!free.possible) return intrinsic(request, free)
  for (let size = 1; size <= Math.min(LARGEST, constraints.length); size++) {
    for (const set of subsets(constraints, size)) {
      const tried = attempt(set)
      if (tried.possible) continue
      const words = set.map(one => one.words)
      const together = words.length === 1 ? `${words[0]} alone makes it impossible` : `${joinWords(words, 'and')} cannot hold together`
      return { proved: tried.proved, constraints: words, words: `${together.charAt(0).toUpperCase()}${together.slice(1)}${tried.lacking.length > 0 ? `: nothing comes in time for ${tried.lacking.join(', ')}` : ''}.${tried.proved ? '' : ' That is as far as was searched; there may be a way that was not found.'}` }
    }
  }
  return { proved: false, constraints: constraints.map(one => one.words), words: `No way was found that keeps all of this: ${joinWords(constraints.map(one => one.words), 'and')}.` }
}

function constraintsOf({ file, catalog, today, wishes }: DraftRequest): Constraint[] {
  const setting = settingOf(file, catalog, today, wishes)
  const held = setting.entries.filter(entry => isHeld(entry, wishes))
  const lifted = (change: Partial<DraftRequest['wishes']>) => (request: DraftRequest): DraftRequest => ({ ...request, wishes: { ...request.wishes, ...change } })
  const pins = held.filter(entry => entry.pinned)
  return [
    ...(wishes.latestFinish ? [{ words: `finishing by ${sayTerm(wishes.latestFinish)}`, lift: lifted({ latestFinish: null }) }] : []),
    ...(wishes.load === null ? [] : [{ words: `at most ${formatCredits(wishes.load)} credits a term`, lift: lifted({ load: null }) }]),
    ...wishes.termsOff.map(term => ({ words: `nothing in ${sayTerm(term)}`, lift: (request: DraftRequest) => lifted({ termsOff: request.wishes.termsOff.filter(other => other !== term) })(request) })),
    ...(wishes.summers === 'when needed' ? [{ words: 'keeping summers free', lift: lifted({ summers: 'freely' }) }] : []),
    ...(wishes.around === 'placed' ? [{ words: 'leaving everything placed where it is', lift: lifted({ around: 'pinned' }) }] : []),
    ...pins.map(entry => ({
      words: `${entry.course} pinned in ${sayTerm(entry.term)}`,
      lift: (request: DraftRequest): DraftRequest => ({ ...request, file: { ...request.file, entries: request.file.entries.map(other => other.id === entry.id ? { ...other, pinned: false } : other) } }),
    })),
  ]
}

interface Attempt { possible: boolean, proved: boolean, lacking: string[] }

function tryWith({ file, catalog, today, wishes, seed }: DraftRequest, choices: Map<string, Choice>): Attempt {
  const setting = settingOf(file, catalog, today, wishes)
  // Loads and pins do not change what can be chosen; which terms there are does.
  const key = JSON.stringify([wishes.latestFinish, wishes.termsOff, wishes.summers])
  const choice = choices.get(key) ?? chooseCourses(setting, { suggested: false })
  choices.set(key, choice)
  const possible = choice.lacking.length === 0 && shortestSchedule(problemOf(setting, choice.codes), seeded(seed ?? 1), TRIES) !== null
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
  const lost = standing.reports.flatMap(report => Object.entries(findUnreachable(report, standing.items, setting.reach, catalog)).map(([id, words]) => {
    const line = [...report.areas.flatMap(area => area.lines), ...report.overlays].find(candidate => candidate.id === id)
    return `${line?.title ?? id} (${report.title}): ${words}`
  }))
  if (lost.length > 0) return { proved: true, constraints: [], words: lost.join(' ') }
  const last = setting.facts.terms.at(-1)
  if (attempt.lacking.length > 0) {
    const shared = standing.reports.flatMap(report => report.notShared ? [report.notShared.words] : [])
    return { proved: false, constraints: [], words: [`No course was found for ${joinWords(attempt.lacking, 'and')}${last ? ` in the terms up to ${last.name}, the last in the academic calendar` : ''}.`, ...shared].join(' ') }
  }
  return { proved: attempt.proved, constraints: [], words: last ? `What is open does not fit into the terms up to ${last.name}, the last in the academic calendar.` : 'The academic calendar has no term ahead.' }
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
