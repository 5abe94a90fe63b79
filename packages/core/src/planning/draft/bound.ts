import { matchesFilter } from '../../catalog/filter'
import { evaluate } from '../../prerequisites/evaluate'
import type { Expression } from '../../prerequisites/types'
import { earliestFinish } from '../../requirements/reach'
import type { Program } from '../../requirements/types'
import { ruleOf } from '../checks'
import { readPrograms, type StudentFile } from '../standing'
import { certainLines, leastCredits } from './choose'
import { finishBound } from './finish-bound'
import type { Task } from './types'
import { NOW } from './waits'
import { problemOf, reachedSlot, slotsFor, type Setting } from './setting'

/**
 * The first slot in which any plan that keeps the wishes and what stays can be complete. Rests on what every such plan has:
 * its own courses, those that the programs name without alternative with what must come before them, the longest chain of each
 * open line over its soonest courses, and the credits that are lacking whatever is chosen. As many slots as there are: no plan can.
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
    certainOf(found?.missing ?? []).forEach(addCertain)
  }
  // What the plan's own courses lack comes with them.
  for (const { course } of own) {
    const found = evaluate(ruleOf(facts.courses.get(course)?.prerequisite ?? ''), '9998FA', { items, programs: file.programs, placements: file.placements, permissions: file.permissions }, { courses: facts.courses, scale: facts.scale, course })
    certainOf(found?.missing ?? []).forEach(code => !file.permissions.includes(course) && addCertain(code))
  }
  const waived = new Set((file.exceptions ?? []).map(exception => `${exception.program}/${exception.line}`))
  programs.forEach((program, p) => {
    const under = new Set(certainLines(program).map(line => line.id))
    for (const area of reports[p]!.areas) for (const line of area.lines) if (under.has(line.id) && !line.setAside && !waived.has(`${program.code}/${line.id}`)) line.unfilled.forEach(addCertain)
  })
  const lacking = Math.max(0, ...programs.map((program, p) => {
    const counted = items.filter(item => reports[p]!.couldCount[item.id] !== undefined).reduce((sum, item) => sum + item.credits, 0)
    const total = reports[p]!.rules.some(rule => rule.kind === 'total') ? program.totalCredits - counted : 0
    const exempt = (file.exceptions ?? []).some(exception => exception.program === program.code)
    return Math.max(total, exempt || (file.placeholders ?? []).length > 0 ? 0 : leastCredits(program, facts.courses) - counted)
  }))
  const named = problemOf(setting, certain, code => reachedSlot(code, setting))
  const exempt = (file.exceptions ?? []).length > 0 || (file.placeholders ?? []).length > 0
  // A course counts once in a program, and may count again in another: the program that asks most is taken.
  const toChoose = exempt
    ? []
    : programs.map(program => chosenTasks(program, setting, new Set([...items.map(item => item.course), ...certain])))
      .sort((a, b) => creditsOf(b) - creditsOf(a))[0] ?? []
  const problem = { ...named, tasks: [...named.tasks, ...toChoose], waits: [...named.waits, ...toChoose.map(() => NOW)] }
  const more = Math.max(0, lacking - certain.reduce((sum, code) => sum + facts.courses.get(code)!.credits, 0) - creditsOf(toChoose) - heldCredits(file))
  const chain = programs.reduce((latest, program, p) => {
    const { at } = earliestFinish({ ...reports[p]!, rules: [], open: 0 }, setting.reach, { items, courses: facts.courses, scale: facts.scale })
    const code = at === null || at < 0 ? undefined : setting.reach.terms[at]?.code
    const placeholders = new Set((file.placeholders ?? []).map(one => one.line))
    return placeholders.size > 0 || code === undefined ? latest : Math.max(latest, facts.terms.findIndex(term => term.code === code))
  }, -1)
  return finishBound(problem, more, chain) ?? facts.terms.length
}

const heldCredits = (file: StudentFile) => (file.placeholders ?? []).reduce((sum, one) => sum + one.credits, 0)

const creditsOf = (tasks: readonly Task[]) => tasks.reduce((sum, task) => sum + task.credits, 0)

/** Courses that every one of the ways names. */
function certainOf(ways: readonly (readonly Expression[])[]): string[] {
  const names = (way: readonly Expression[]) => way.flatMap(one => one.kind === 'course' ? [one.course] : [])
  return ways.slice(0, 1).flatMap(names).filter(code => ways.every(way => names(way).includes(code)))
}

/**
 * For each course still to be chosen on a line that asks for a number of them: the least that any choice comes to. The n-th of them
 * has at least as few credits as the line's smallest course, and comes no sooner than the n-th soonest of its courses.
 * Courses that are there or certain are taken off the number, whether they count there or not.
 */
function chosenTasks(program: Program, setting: Setting, known: ReadonlySet<string>): Task[] {
  return certainLines(program).flatMap((line) => {
    if (!line.courses || line.credits || line.filter.list?.length === line.courses) return []
    const fitting = [...setting.facts.courses.values()].filter(course => matchesFilter(course, line.filter))
    const free = fitting.filter(course => !known.has(course.code) && slotsFor(course.code, setting).length > 0)
    const open = line.courses - fitting.filter(course => known.has(course.code)).reduce((sum, course) => sum + course.repeatLimit, 0)
    // A course that may be repeated could be all of them.
    if (open <= 0 || free.length === 0 || free.some(course => course.repeatLimit > 1)) return []
    const soonest = free.map(course => reachedSlot(course.code, setting)).sort((a, b) => a - b)
    const least = Math.min(...free.map(course => course.credits))
    const slots = [...new Set(free.flatMap(course => slotsFor(course.code, setting)))].sort((a, b) => a - b)
    return Array.from({ length: open }, (_, i): Task => ({ courses: [], credits: least, was: null, suggested: null, slots: slots.filter(slot => slot >= (soonest[i] ?? Infinity)) }))
  })
}
