import { formatCredits } from '../../catalog/credits'
import { sayTerm } from '../../catalog/terms'
import type { CourseCode, Credits, LocalDate, TermCode } from '../../catalog/types'
import { evaluate } from '../../prerequisites/evaluate'
import { earliestFinish } from '../../requirements/reach'
import { newEntryId, ruleOf } from '../checks'
import { applyAll, EMPTY_PLAN, type Plan, type PlanOperation } from '../plan'
import { readPrograms, readStanding, type Catalog, type Standing, type StudentFile } from '../standing'
import { chooseCourses, leastCredits, type Choice } from './choose'
import { evenOut, type Taste } from './even-out'
import { finishBound } from './finish-bound'
import { isSound, shortestSchedule, type ScheduleResult } from './list-schedule'
import { findReason, type DraftReason } from './reason'
import { seeded } from './random'
import { problemOf, reachedSlot, settingOf, slotsFor, termAt, type DraftWishes, type Setting } from './setting'
import type { Schedule, ScheduleProblem } from './types'

export type DraftKind = 'soonest' | 'lighter' | 'suggested'

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
  loads: { term: TermCode, credits: Credits }[]
  /** The fullest term of fall and spring. */
  peak: Credits
}

export type DraftResult
  = | { kind: 'drafts', drafts: Draft[] }
    | { kind: 'nothing open' }
    | { kind: 'impossible', reason: DraftReason }

export interface DraftRequest {
  file: StudentFile
  catalog: Catalog
  today: LocalDate
  wishes: DraftWishes
  seed?: number
  /** How much of the work is done, 0 to 1, and what is being done. */
  progress?: (share: number, words: string) => void
}

const TASTES: Record<DraftKind, Taste> = {
  soonest: { even: 1, suggested: 0.3, stay: 1.5, target: null },
  lighter: { even: 2, suggested: 0.2, stay: 0.5, target: null },
  suggested: { even: 0.15, suggested: 6, stay: 0.5, target: null },
}
/** How many courses are exchanged for others in search of an earlier finish. */
const EXCHANGES = 6

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
  const rest = setting.facts.terms.length > 0 && choice.lacking.length === 0 ? placeSoonest(setting, choice, random) : null
  if (!rest) return { kind: 'impossible', reason: findReason(request) }
  if (choice.codes.length === 0 && before.checks.every(check => check.severity !== 'blocker')) return { kind: 'nothing open' }
  const bound = boundOf(setting)
  progress(0.3, 'looking for an earlier finish')
  const soonest = exchange(setting, choice, rest, bound, random)
  const drafts: Draft[] = []
  const keep = (kind: DraftKind, problem: ScheduleProblem, schedule: Schedule) => {
    const draft = toDraft(kind, setting, problem, schedule, Math.max(bound, -1))
    const sound = isSound(problem, schedule) && passes(draft, request, before)
    if (sound && !drafts.some(other => other.operations.length === draft.operations.length && sameAs(other, draft))) drafts.push(draft)
  }
  progress(0.5, 'evening out the loads')
  const { problem } = soonest
  const taste = (kind: DraftKind): Taste => ({ ...TASTES[kind], target: wishes.load === null ? null : Math.min(wishes.load, averageLoad(problem, soonest.result)) })
  keep('soonest', problem, evenOut(problem, soonest.result.schedule, soonest.result.end, taste('soonest'), random))
  progress(0.7, 'lighter terms')
  const later = laterEnd(setting, soonest.result.end)
  keep('lighter', problem, evenOut(problem, soonest.result.schedule, later, TASTES.lighter, random))
  progress(0.85, 'the suggested sequence')
  const bySequence = chooseCourses(setting, { suggested: true })
  const placed = bySequence.lacking.length === 0 ? placeSoonest(setting, bySequence, random) : null
  if (placed) keep('suggested', placed.problem, evenOut(placed.problem, placed.result.schedule, Math.max(placed.result.end, later), TASTES.suggested, random))
  progress(1, 'done')
  if (drafts.length === 0) return { kind: 'impossible', reason: { proved: false, constraints: [], words: 'Courses were found for everything that is open, but no way to place them keeps every rule. Take a pin off, or allow more terms or credits.' } }
  const first = drafts[0]!
  return { kind: 'drafts', drafts: drafts.filter(draft => draft === first || draft.kind !== 'lighter' || draft.peak < first.peak) }
}

interface Placed { choice: Choice, problem: ScheduleProblem, result: ScheduleResult }

export function placeSoonest(setting: Setting, choice: Choice, random: () => number, tries?: number): Placed | null {
  const problem = problemOf(setting, choice.codes)
  const result = shortestSchedule(problem, random, tries)
  return result && { choice, problem, result }
}

/** Exchanges chosen courses that stand last for others, while that brings the finish forward. */
function exchange(setting: Setting, first: Choice, placed: Placed, bound: number, random: () => number): Placed {
  let best = placed
  const banned = new Set<string>()
  for (let attempt = 0; attempt < EXCHANGES && best.result.end > bound; attempt++) {
    const last = best.problem.tasks.filter((task, i) => task.was === null && best.result.schedule[i] === best.result.end).flatMap(task => task.courses.map(one => one.code))
    const free = last.filter(code => !best.choice.certain.has(code) && !banned.has(code))
    if (free.length === 0) break
    free.forEach(code => banned.add(code))
    const choice = chooseCourses(setting, { suggested: false }, banned)
    const next = choice.lacking.length === 0 ? placeSoonest(setting, choice, random) : null
    if (next && next.result.end < best.result.end) best = next
  }
  return best
}

/**
 * The first slot in which any plan that keeps the wishes and what stays can be complete. Rests on what every such plan has:
 * its own courses, those that the programs name without alternative with what must come before them, the longest chain of each
 * open line over its soonest courses, and the credits that are lacking whatever is chosen.
 */
export function boundOf(setting: Setting): number {
  const { catalog, file, facts, entries, firm } = setting
  const programs = file.programs.flatMap(code => catalog.programs.find(program => program.code === code) ?? [])
  const own = entries.map(entry => ({ id: entry.id, course: entry.course, term: entry.term, credits: entry.credits, grade: null, state: 'planned' as const, source: 'here' as const }))
  const items = [...firm, ...own]
  const { reports } = readPrograms(programs, items, file, catalog)
  const isReplaceable = (code: string) => (facts.courses.get(code)?.equivalents.length ?? 0) > 0 || [...facts.courses.values()].some(course => course.equivalents.includes(code))
  const certain: string[] = []
  const addCertain = (code: string) => {
    if (certain.includes(code) || isReplaceable(code) || items.some(item => item.course === code) || slotsFor(code, setting).length === 0) return
    certain.push(code)
    if (file.permissions.includes(code)) return
    const found = evaluate(ruleOf(facts.courses.get(code)!.prerequisite), '9998FA', { items, programs: file.programs, placements: file.placements, permissions: file.permissions }, { courses: facts.courses, scale: facts.scale, course: code })
    // Only what every way to satisfy the rule asks for is certain.
    const ways = found?.missing ?? []
    const names = (way: typeof ways[number]) => way.flatMap(one => one.kind === 'course' ? [one.course] : [])
    ways.slice(0, 1).flatMap(names).filter(other => ways.every(way => names(way).includes(other))).forEach(addCertain)
  }
  const waived = new Set((file.exceptions ?? []).map(exception => `${exception.program}/${exception.line}`))
  programs.forEach((program, p) => {
    const under = new Set(choiceFreeLines(program))
    for (const area of reports[p]!.areas) for (const line of area.lines) if (under.has(line.id) && !line.setAside && !waived.has(`${program.code}/${line.id}`)) line.unfilled.forEach(addCertain)
  })
  const lacking = Math.max(0, ...programs.map((program, p) => {
    const counted = items.filter(item => reports[p]!.couldCount[item.id] !== undefined).reduce((sum, item) => sum + item.credits, 0)
    const total = reports[p]!.rules.some(rule => rule.kind === 'total') ? program.totalCredits - counted : 0
    const exempt = (file.exceptions ?? []).some(exception => exception.program === program.code)
    return Math.max(total, exempt || (file.placeholders ?? []).length > 0 ? 0 : leastCredits(program, facts.courses) - counted)
  }))
  const problem = problemOf(setting, certain, code => reachedSlot(code, setting))
  const more = Math.max(0, lacking - certain.reduce((sum, code) => sum + facts.courses.get(code)!.credits, 0) - heldCredits(file))
  const chain = programs.reduce((latest, program, p) => {
    const { at } = earliestFinish({ ...reports[p]!, rules: [], open: 0 }, setting.reach, { items, courses: facts.courses, scale: facts.scale })
    const code = at === null || at < 0 ? undefined : setting.reach.terms[at]?.code
    const placeholders = new Set((file.placeholders ?? []).map(one => one.line))
    return placeholders.size > 0 || code === undefined ? latest : Math.max(latest, facts.terms.findIndex(term => term.code === code))
  }, -1)
  return finishBound(problem, more, chain) ?? facts.terms.length
}

const heldCredits = (file: StudentFile) => (file.placeholders ?? []).reduce((sum, one) => sum + one.credits, 0)

function choiceFreeLines(program: Catalog['programs'][number]): string[] {
  const visit = (node: typeof program.areas[number]['children'][number]): string[] => node.kind === 'courses' ? [node.id] : node.kind === 'all' ? node.children.flatMap(visit) : []
  return program.areas.flatMap(visit)
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
  problem.tasks.forEach((task, i) => {
    const term = termAt(schedule[i]!, setting).code
    for (const { code, credits, entry } of task.courses) {
      if (entry === null) {
        const id = newEntryId(code, term)
        operations.push({ kind: 'place', entry: setting.file.entries.some(other => other.id === id) ? `${id}-again` : id, course: code, term, credits })
        draft.placed.push({ course: code, term, credits })
        continue
      }
      const from = entries.find(one => one.id === entry)!.term
      if (from === term) continue
      operations.push({ kind: 'move', entry, term })
      draft.moved.push({ course: code, from, to: term })
    }
  })
  const loads = facts.terms.map((term, slot) => ({ term: term.code, credits: base[slot]! + problem.tasks.reduce((sum, task, i) => sum + (schedule[i] === slot ? task.credits : 0), 0) }))
  const end = Math.max(0, loads.findLastIndex(load => load.credits > 0))
  const least = Math.max(0, Math.min(bound, end))
  const gap = facts.terms.filter((term, slot) => slot > least && slot <= end && term.season !== 'summer').length
  return {
    kind, operations, ...draft, finish: facts.terms[end]!.code, bound: facts.terms[least]!.code, shortest: end === bound, gap, loads: loads.slice(0, end + 1),
    peak: Math.max(...loads.map((load, slot) => facts.terms[slot]!.season === 'summer' ? 0 : load.credits)),
  }
}

/** Whether the plan with the draft covers everything and brings no problem that stops the student and was not there before. */
function passes(draft: Draft, { file, catalog, today }: DraftRequest, before: Standing): boolean {
  const plan = applyAll(planOf(file), draft.operations)
  if (typeof plan === 'string') return false
  const after = readStanding({ ...file, entries: plan.entries }, catalog, today)
  const known = new Set(before.checks.map(check => check.id))
  return after.open <= after.held && after.checks.every(check => check.severity !== 'blocker' || known.has(check.id))
}

const planOf = (file: StudentFile): Plan => ({ ...EMPTY_PLAN, entries: file.entries, placeholders: file.placeholders ?? [] })

const sameAs = (a: Draft, b: Draft) => {
  const key = (draft: Draft) => draft.operations.map(operation => JSON.stringify({ ...operation, entry: '' })).sort().join()
  return key(a) === key(b)
}

/** "18 courses placed, 2 moved; 12 to 16 credits a term": what one draft comes to. */
export function sayDraft(draft: Draft): string {
  const long = draft.loads.filter(load => !load.term.endsWith('SU') && load.credits > 0).map(load => load.credits)
  const range = long.length === 0 ? '' : Math.min(...long) === Math.max(...long) ? `${formatCredits(Math.max(...long))} credits a term` : `${formatCredits(Math.min(...long))} to ${formatCredits(Math.max(...long))} credits a term`
  return [`finish ${sayTerm(draft.finish)}`, range].filter(Boolean).join(', ')
}
