import { matchesFilter } from '../../catalog/filter'
import type { Course, CourseCode, CourseItem, Credits } from '../../catalog/types'
import { evaluate } from '../../prerequisites/evaluate'
import { ruleOf } from '../../prerequisites/rule-of'
import type { Expression } from '../../prerequisites/types'
import { isTaken } from '../../record/repeats'
import type { LineReport, ProgramReport } from '../../requirements/report'
import type { CourseLine, Program, RequirementNode } from '../../requirements/types'
import { readPrograms } from '../standing'
import { reachedSlot, type Setting, slotsFor } from './setting'

/** How often what is open is read again; each round places a course for every line that lacks one. */
const MOST_ROUNDS = 40
/** Steps of the search for the best use, while choosing: a draft is read at full length before it is offered. */
const QUICK = 25
/** A term after all others: what is asked there is only whether a course comes at all. */
const EVER = '9998FA'

/** A line, or what a course of the plan needs first, for which nothing was found. */
export type Unfound = { code: 'line', title: string, program: string } | { code: 'before', course: CourseCode }

export interface Choice {
  /** Courses to place besides the plan's own. */
  codes: string[]
  /** What no course could be found for; empty when everything is covered. */
  lacking: Unfound[]
  /** Courses that had no alternative. */
  certain: ReadonlySet<string>
}

/**
 * Chooses courses for all that the plan leaves open, with what must come before them. Lines that name their courses are filled first;
 * among several, a course is preferred that carries an overlay or a line of another program as well, needs nothing else first,
 * can be had early, and stands in the suggested sequence. `banned` courses are passed over where something else is left; those in `also` are taken whatever they fill.
 */
export function chooseCourses(setting: Setting, taste: { suggested: boolean }, banned: ReadonlySet<string> = new Set(), also: readonly string[] = []): Choice {
  const { catalog, file, facts } = setting
  const programs = file.programs.flatMap(code => catalog.programs.find(program => program.code === code) ?? [])
  const chosen: string[] = []
  const certain = new Set<string>()
  const inSequence = new Set(programs.flatMap(program => program.suggested.flatMap(step => step.courses)))
  const items = (): CourseItem[] => [
    ...setting.firm,
    ...setting.entries.map((entry): CourseItem => ({ id: entry.id, course: entry.course, term: entry.term, credits: entry.credits, grade: null, state: 'planned', source: 'here' })),
    ...chosen.map((code): CourseItem => ({ id: `draft ${code}`, course: code, term: facts.terms.at(-1)?.code ?? null, credits: catalog.courses.get(code)!.credits, grade: null, state: 'planned', source: 'here' })),
  ]
  const read = () => readPrograms(programs, items(), file, catalog, QUICK).reports

  /** What else must be chosen for a course to be possible; null when that cannot be had. */
  function needed(code: string, seen: readonly string[] = []): string[] | null {
    const course = facts.courses.get(code)
    if (!course || seen.includes(code)) return null
    const mine = [...seen, code]
    const more: string[] = []
    for (const [rule, corequisite] of [[course.prerequisite, false], [course.corequisite, true]] as const) {
      if (file.permissions.includes(code)) continue
      const soFar = [...items(), ...more.map((other): CourseItem => ({ id: other, course: other, term: '9997SP', credits: 0, grade: null, state: 'planned', source: 'here' }))]
      const found = evaluate(ruleOf(rule), EVER, { items: soFar, programs: file.programs, placements: file.placements, permissions: file.permissions }, { courses: catalog.courses, scale: catalog.scale, course: code, corequisite })
      if (found?.firmness !== 'unmet') continue
      const ways = found.missing.flatMap((set) => {
        const codes = courseCodes(set)
        const all = codes?.map(other => slotsFor(other, setting).length === 0 ? null : mine.includes(other) ? [] : needed(other, mine))
        return codes && all && all.every(part => part !== null) ? [[...all.flat(), ...codes.filter(other => !mine.includes(other))]] : []
      })
      const best = ways.sort((a, b) => a.length - b.length || lateness(a) - lateness(b))[0]
      if (!best) return null
      more.push(...best.filter(other => !more.includes(other)))
    }
    return more
  }
  const lateness = (codes: readonly string[]) => Math.max(-1, ...codes.map(code => reachedSlot(code, setting)))
  const add = (code: string, isCertain: boolean): boolean => {
    if (chosen.includes(code)) return true
    const before = needed(code)
    if (before === null) return false
    for (const one of [...before, code]) {
      if (!chosen.includes(one)) chosen.push(one)
      if (isCertain) certain.add(one)
    }
    return true
  }

  // What stands in the plan already may lack something that must come first.
  const stuck = setting.entries.flatMap(({ course }) => {
    const before = needed(course)
    before?.forEach(code => add(code, true))
    return before === null ? [{ code: 'before' as const, course }] : []
  })
  for (const code of also) if (isPossible(code)) add(code, false)
  const lost = new Set<string>()
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const reports = read()
    const open = reports.flatMap(report => openLines(report, file.placeholders ?? []).map(line => ({ line, report }))).filter(({ line, report }) => !lost.has(`${report.code}/${line.id}`))
    const listed = open.filter(({ line }) => line.unfilled.length > 0)
    const taken = (code: string, minGrade?: string) => isTaken(facts.courses.get(code)!, items(), catalog.scale, minGrade)
    const before = chosen.length
    for (const { line, report } of listed) {
      for (const code of line.unfilled) {
        if (taken(code, line.minGrade)) continue
        if (!isPossible(code) || !add(code, isSure(report, line, programs))) lost.add(`${report.code}/${line.id}`)
      }
    }
    if (chosen.length > before) continue
    const base = open.filter(({ line }) => !line.overlay)
    const overlays = open.filter(({ line }) => line.overlay)
    const choices = base.filter(({ line }) => line.unfilled.length === 0)
    // A course that a line names and another line uses: the other needs one more, and gives it up.
    const lenders = choices.length > 0
      ? []
      : listed.flatMap(({ line, report }) => {
          const lender = report.areas.flatMap(area => area.lines).find(other => other.unfilled.length === 0 && other.uses.some(use => line.unfilled.includes(use.item.course)))
          if (!lender || round > MOST_ROUNDS / 2) lost.add(`${report.code}/${line.id}`)
          return lender ? [{ line: lender, report }] : []
        })
    const wanted = choices.length > 0 ? choices : lenders.length > 0 ? lenders : overlays
    if (wanted.length === 0 && listed.length > 0) continue
    if (wanted.length === 0) {
      const total = reports.find(report => report.rules.some(rule => rule.reading.kind === 'total' && rule.state === 'open'))
      if (!total || lost.has('total')) break
      const best = rank(pool({ filter: {} }), overlays.map(one => one.line), [])[0]
      if (!best || !add(best.code, false)) lost.add('total')
      continue
    }
    for (const { line, report } of wanted) {
      const others = base.filter(one => one.report !== report).map(one => one.line)
      const best = rank(pool(line), overlays.map(one => one.line), others, line).find(course => add(course.code, false))
      if (!best) lost.add(`${report.code}/${line.id}`)
    }
  }
  dropIdle()
  const reports = read()
  const lacking = reports.flatMap(report => openLines(report, file.placeholders ?? []).map((line): Unfound => ({ code: 'line', title: line.title, program: report.title })))
  return { codes: [...chosen], lacking: [...stuck, ...lacking], certain }

  function isPossible(code: string): boolean {
    return slotsFor(code, setting).length > 0 && reachedSlot(code, setting) < Infinity
  }
  function pool(line: Pick<LineReport, 'filter' | 'minGrade'>): Course[] {
    const now = items()
    return [...catalog.courses.values()].filter(course => matchesFilter(course, line.filter) && !chosen.includes(course.code) && course.credits > 0
      && !isTaken(course, now, catalog.scale, line.minGrade) && !now.some(item => course.exclusions.includes(item.course)) && isPossible(course.code))
  }
  function rank(courses: readonly Course[], overlays: readonly LineReport[], others: readonly LineReport[], line?: LineReport): Course[] {
    const known = new Set(items().map(item => item.course))
    const cost = (course: Course) => {
      const extra = setting.reach.chain(course.code).filter(code => code !== course.code && !known.has(code)).length
      const carries = overlays.filter(overlay => matchesFilter(course, overlay.filter)).length
      const shared = others.filter(other => matchesFilter(course, other.filter)).length
      const over = line ? Math.max(0, course.credits - line.open) / 100 : 0
      return (banned.has(course.code) ? 100 : 0) + extra * 3 + reachedSlot(course.code, setting) * 0.5 - carries * 2.5 - shared * 2 + over * 0.6
        + Math.abs(course.credits - 300) / 200 + (inSequence.has(course.code) ? (taste.suggested ? -4 : -0.8) : 0)
    }
    return courses.map(course => ({ course, at: cost(course) })).sort((a, b) => a.at - b.at || a.course.code.localeCompare(b.course.code)).map(({ course }) => course)
  }
  /** Takes back chosen courses that count for nothing and that nothing chosen waits for. */
  function dropIdle() {
    const reports = read()
    if (reports.some(report => report.rules.some(rule => rule.reading.kind === 'total'))) return
    for (const code of [...chosen].reverse()) {
      if (!reports.every(report => report.unused.some(item => item.id === `draft ${code}`))) continue
      const rest = chosen.filter(other => other !== code)
      if (!also.includes(code) && rest.every(other => !(facts.courses.get(other)!.prerequisite + facts.courses.get(other)!.corequisite).includes(code))) chosen.splice(chosen.indexOf(code), 1)
    }
  }
}

/** Courses of a set of conditions; null when it asks for something that no course brings. Credits come by themselves. */
function courseCodes(set: readonly Expression[]): string[] | null {
  const codes: string[] = []
  for (const one of set) {
    if (one.kind === 'course') codes.push(one.course)
    else if (one.kind !== 'credits' && one.kind !== 'standing') return null
  }
  return codes
}

/** Lines that still lack something and for which no placeholder stands. */
export function openLines(report: ProgramReport, placeholders: readonly { line: string, credits: Credits }[]): LineReport[] {
  const held = (line: LineReport) => placeholders.filter(one => one.line === `${report.code}/${line.id}`).reduce((sum, one) => sum + one.credits, 0)
  return [...report.areas.flatMap(area => area.lines), ...report.overlays].filter(line => !line.setAside && line.open > held(line))
}

/** Lines that every way to complete the program needs: those under no choice. */
export function certainLines(program: Program): CourseLine[] {
  const visit = (node: RequirementNode): CourseLine[] => node.kind === 'courses' ? [node] : node.kind === 'all' || node.n === node.children.length ? node.children.flatMap(visit) : []
  return program.areas.flatMap(visit)
}

function isSure(report: ProgramReport, line: LineReport, programs: readonly Program[]): boolean {
  const program = programs.find(candidate => candidate.code === report.code)!
  return certainLines(program).some(one => one.id === line.id)
}

/** The fewest credits that a complete program can have in its certain lines, over any courses. */
export function leastCredits(program: Program, courses: ReadonlyMap<string, Course>): Credits {
  return certainLines(program).reduce((sum, line) => sum + leastOfLine(line, courses), 0)
}

function leastOfLine(line: CourseLine, courses: ReadonlyMap<string, Course>): Credits {
  const all = !line.courses && !line.credits
  const fitting = [...courses.values()].filter(course => matchesFilter(course, line.filter)).map(course => course.credits).sort((a, b) => a - b)
  if (all) return fitting.length === line.filter.list?.length ? fitting.reduce((sum, credits) => sum + credits, 0) : 0
  const byCount = fitting.slice(0, line.courses ?? 0).reduce((sum, credits) => sum + credits, 0)
  return Math.max(line.credits ?? 0, byCount)
}
