import type { CourseCode, Credits, TermCode } from '../../catalog/types'
import { coursesIn } from '../../prerequisites/evaluate'
import { ruleOf } from '../../prerequisites/rule-of'
import { freshEntryId } from '../../record/ids'
import { applyAll, EMPTY_PLAN, type Plan, type PlanOperation } from '../plan'
import { readStanding, type Standing } from '../standing'
import type { StudentFile } from '../student-file'
import { FinishBounds } from './bound'
import { type Choice, chooseCourses } from './choose'
import { evenOut, type ScheduleTaste } from './even-out'
import { earliestSlots, latestSlots } from './finish-bound'
import { isSound, type ScheduleResult, shortestSchedule } from './list-schedule'
import { seeded } from './random'
import { type DraftReason, findReason } from './reason'
import { problemOf, type Setting, settingOf, termAt } from './setting'
import type { DraftRequest, Schedule, ScheduleProblem } from './types'

type DraftKind = 'soonest' | 'lighter' | 'suggested'

/** One way to fill the rest of the plan; nothing is changed until its operations are applied. */
export interface Draft {
  kind: DraftKind
  operations: PlanOperation[]
  placed: { course: CourseCode, term: TermCode, credits: Credits }[]
  moved: { course: CourseCode, from: TermCode, to: TermCode }[]
  finish: TermCode
  /** No plan that keeps the wishes and what stays can finish sooner than this. */
  bound: TermCode
  /** The finish is that bound: it is the shortest possible. */
  shortest: boolean
  /** Terms of fall and spring between the bound and the finish. */
  gap: number
  loads: { term: TermCode, credits: Credits, summer: boolean }[]
  /** The fullest term of fall and spring. */
  peak: Credits
}

export type DraftResult
  = | { kind: 'drafts', drafts: Draft[] }
    | { kind: 'nothing open' }
    | { kind: 'impossible', reason: DraftReason }

const TASTES: Record<DraftKind, ScheduleTaste> = {
  soonest: { even: 1, suggested: 0.3, stay: 1.5, target: null },
  lighter: { even: 2, suggested: 0.2, stay: 0.5, target: null },
  suggested: { even: 0.15, suggested: 6, stay: 0.5, target: null },
}
/** How many courses are exchanged for others in search of an earlier finish. */
const EXCHANGES = 6
/** How many other ways into a course are tried when the chosen ones come too late. */
const OTHER_WAYS = 6

/** The shortest finish that was found, with the courses and terms that reach it. */
interface Finish {
  placed: Placed
  /** No choice of courses finishes before this slot. */
  bound: number
}

/** The finish alone: the last term in use and whether a bound proves that none is sooner; null when no way was found. */
export interface ShortestFinish {
  /** Null when nothing has to be placed. */
  finish: TermCode | null
  shortest: boolean
}

/** Finds the shortest finish and proves it where it can, without drafting the terms before it. */
export function shortestFinish({ file, catalog, today, wishes, seed }: DraftRequest): ShortestFinish | null {
  const setting = settingOf(file, catalog, today, wishes)
  const found = findFinish(setting, chooseCourses(setting, { suggested: false }), seeded(seed ?? 1))
  if (!found) return null
  const { end } = found.placed.result
  return { finish: end < 0 ? null : termAt(end, setting).code, shortest: end === found.bound }
}

/** Places the chosen courses soonest, exchanges some for others while that helps, and bounds what is possible. */
function findFinish(setting: Setting, choice: Choice, random: () => number, progress: DraftRequest['progress'] = () => {}): Finish | null {
  const rest = setting.facts.terms.length > 0 && choice.lacking.length === 0
    ? placeSoonest(setting, choice, random) ?? placeOtherwise(setting, choice, random)
    : null
  if (!rest) return null
  const bounds = new FinishBounds(setting)
  const first = bounds.first()
  progress(0.3, 'looking for an earlier finish')
  const placed = exchange(setting, choice, rest, first, random)
  progress(0.4, 'proving the finish')
  const { end } = placed.result
  return { placed, bound: end > first && bounds.refutes(end - 1) ? end : first }
}

/**
 * Fills what is open: chooses courses, places them around what stays, and gives up to three drafts by different priorities.
 * Each is checked whole, requirements included, before it is offered. Says "shortest" only where a bound proves it.
 */
export function draftRest(request: DraftRequest): DraftResult {
  const { file, catalog, today, wishes, progress = () => {} } = request
  const random = seeded(request.seed ?? 1)
  const setting = settingOf(file, catalog, today, wishes)
  const before = readStanding(file, catalog, today)
  progress(0.05, 'choosing courses')
  const choice = chooseCourses(setting, { suggested: false })
  const found = findFinish(setting, choice, random, progress)
  if (!found) return { kind: 'impossible', reason: findReason(request) }
  if (choice.chosen.length === 0 && before.checks.every(check => check.severity !== 'blocker')) return { kind: 'nothing open' }
  const { placed: soonest, bound } = found
  const drafts: Draft[] = []
  const keep = (kind: DraftKind, problem: ScheduleProblem, schedule: Schedule) => {
    const draft = toDraft(kind, setting, problem, schedule, Math.max(bound, -1))
    const sound = isSound(problem, schedule) && passes(draft, request, before)
    if (sound && !drafts.some(other => other.operations.length === draft.operations.length && sameAs(other, draft))) drafts.push(draft)
  }
  progress(0.5, 'evening out the loads')
  const { problem } = soonest
  const taste = (kind: DraftKind): ScheduleTaste => ({ ...TASTES[kind],
    target: wishes.load === null ? null : Math.min(wishes.load, averageLoad(problem, soonest.result)) })
  keep('soonest', problem, evenOut(problem, soonest.result.schedule, soonest.result.end, taste('soonest'), random))
  progress(0.7, 'lighter terms')
  const later = laterEnd(setting, soonest.result.end)
  keep('lighter', problem, evenOut(problem, soonest.result.schedule, later, TASTES.lighter, random))
  progress(0.85, 'the suggested sequence')
  const bySequence = chooseCourses(setting, { suggested: true })
  const placed = bySequence.lacking.length === 0 ? placeSoonest(setting, bySequence, random) : null
  if (placed)
    keep('suggested', placed.problem,
      evenOut(placed.problem, placed.result.schedule, Math.max(placed.result.end, later), TASTES.suggested, random))
  progress(1, 'done')
  if (drafts.length === 0) return { kind: 'impossible', reason: { code: 'no place found', proved: false } }
  const best = drafts[0]!
  return { kind: 'drafts', drafts: drafts.filter(draft => draft === best || draft.kind !== 'lighter' || draft.peak < best.peak) }
}

/**
 * Where the chosen courses do not fit: what a course that comes too late waits for may have another way in, which would be in time.
 * Each such course is tried, one after the other.
 */
function placeOtherwise(setting: Setting, choice: Choice, random: () => number): Placed | null {
  const { tasks, ...problem } = problemOf(setting, choice.chosen)
  const early = earliestSlots({ tasks, ...problem })
  const late = latestSlots({ tasks, ...problem }, problem.room.length - 1)
  const known = new Set([...choice.chosen.map(one => one.code), ...setting.entries.map(entry => entry.course),
    ...setting.firm.map(item => item.course)])
  const ways = tasks.flatMap((task, i) =>
    early[i]! > late[i]! || early[i] === Infinity
      ? task.courses.flatMap(({ code }) => coursesIn(ruleOf(setting.facts.courses.get(code)!.prerequisite)))
      : [],
  )
  for (const code of [...new Set(ways)].filter(one => !known.has(one)).slice(0, OTHER_WAYS)) {
    const other = chooseCourses(setting, { suggested: false, also: [code] })
    const placed = other.lacking.length === 0 ? placeSoonest(setting, other, random) : null
    if (placed) return placed
  }
  return null
}

interface Placed {
  choice: Choice
  problem: ScheduleProblem
  result: ScheduleResult
}

function placeSoonest(setting: Setting, choice: Choice, random: () => number, tries?: number): Placed | null {
  const problem = problemOf(setting, choice.chosen)
  const result = shortestSchedule(problem, random, tries)
  return result && { choice, problem, result }
}

/** Exchanges chosen courses that stand last for others, while that brings the finish forward. */
function exchange(setting: Setting, first: Choice, placed: Placed, bound: number, random: () => number): Placed {
  let soFar = placed
  const banned = new Set<string>()
  for (let attempt = 0; attempt < EXCHANGES && soFar.result.end > bound; attempt++) {
    const last = soFar.problem.tasks.filter((task, i) => task.was === null && soFar.result.schedule[i] === soFar.result.end).flatMap(task =>
      task.courses.map(one => one.code),
    )
    const free = last.filter(code => !soFar.choice.certain.has(code) && !banned.has(code))
    if (free.length === 0) break
    free.forEach(code => banned.add(code))
    const choice = chooseCourses(setting, { suggested: false, banned })
    const next = choice.lacking.length === 0 ? placeSoonest(setting, choice, random) : null
    if (next && next.result.end < soFar.result.end) soFar = next
  }
  return soFar
}

/** One more long term than the shortest, where the wishes leave one. */
function laterEnd({ facts, wishes }: Setting, end: number): number {
  if (wishes.latestFinish) return facts.terms.length - 1
  const next = facts.terms.findIndex((term, slot) => slot > end && term.season !== 'summer' && !wishes.termsOff.includes(term.code))
  return next < 0 ? facts.terms.length - 1 : next
}

function averageLoad(problem: ScheduleProblem, { schedule, end }: ScheduleResult): Credits {
  const long = problem.room.filter((_, slot) => slot <= end && !problem.summer[slot]).length
  return problem.tasks.reduce((sum, task, i) => sum + (problem.summer[schedule[i]!] ? 0 : task.credits), 0) / Math.max(1, long)
}

function toDraft(kind: DraftKind, setting: Setting, problem: ScheduleProblem, schedule: Schedule, bound: number): Draft {
  const { facts, base, entries } = setting
  const operations: PlanOperation[] = []
  const draft: Pick<Draft, 'placed' | 'moved'> = { placed: [], moved: [] }
  const ids = new Set([...setting.file.entries, ...setting.file.placeholders].map(one => one.id))
  problem.tasks.forEach((task, i) => {
    const term = termAt(schedule[i]!, setting).code
    for (const { code, credits, entry } of task.courses) {
      if (entry === null) {
        const id = freshEntryId(code, term, other => ids.has(other))
        ids.add(id)
        operations.push({ kind: 'place', entry: id, course: code, term, credits })
        draft.placed.push({ course: code, term, credits })
        continue
      }
      const from = entries.find(one => one.id === entry)!.term
      if (from === term) continue
      operations.push({ kind: 'move', entry, term })
      draft.moved.push({ course: code, from, to: term })
    }
  })
  const loads = facts.terms.map((term, slot) => ({ term: term.code, summer: term.season === 'summer',
    credits: base[slot]! + problem.tasks.reduce((sum, task, i) => sum + (schedule[i] === slot ? task.credits : 0), 0) }),
  )
  // A course without credit takes its time as well.
  const end = Math.max(0, ...schedule, loads.findLastIndex(({ term, credits }) => credits > 0
    || setting.firm.some(item => item.state !== 'completed' && item.term === term)))
  const least = Math.max(0, Math.min(bound, end))
  const gap = facts.terms.filter((term, slot) => slot > least && slot <= end && term.season !== 'summer').length
  return {
    kind,
    operations,
    ...draft,
    finish: facts.terms[end]!.code,
    bound: facts.terms[least]!.code,
    shortest: end === bound,
    gap,
    loads: loads.slice(0, end + 1),
    peak: Math.max(...loads.map((load, slot) => facts.terms[slot]!.season === 'summer' ? 0 : load.credits)),
  }
}

/** Whether the plan with the draft covers everything and brings no problem that stops the student and was not there before. */
function passes(draft: Draft, { file, catalog, today }: DraftRequest, before: Standing): boolean {
  const plan = applyAll(planOf(file), draft.operations)
  if (typeof plan === 'string') return false
  const after = readStanding({ ...file, entries: plan.entries }, catalog, today)
  const known = new Set(before.checks.map(check => check.id))
  return after.finish !== null
    && after.checks.every(check => check.kind !== 'not reached' && (check.severity !== 'blocker' || known.has(check.id)))
}

const planOf = (file: StudentFile): Plan => ({ ...EMPTY_PLAN, entries: file.entries, placeholders: file.placeholders })

const sameAs = (a: Draft, b: Draft) => {
  const key = (draft: Draft) => draft.operations.map(operation => JSON.stringify({ ...operation, entry: '' })).sort().join()
  return key(a) === key(b)
}
