import { termOrder } from '../catalog/terms'
import type { CourseItem, Credits, LocalDate, TermCode } from '../catalog/types'
import { earnedCredits, gpa, type Gpa } from '../grades/gpa'
import { standingAttempts } from '../record/attempts'
import type { StudentFacts } from '../record/facts'
import { Reach, type ReachInput } from '../requirements/reach'
import { type ProgramReport, readProgram, type ReportInput, type SharedUse } from '../requirements/report'
import type { Program, SharingRule } from '../requirements/types'
import { type CheckInput, checkPlan, heldCredits, type PlanCheck } from './checks'
import { loadOf, type TermLoad } from './loads'
import { findMoves, type PlanMove } from './moves'
import { mergeItems, type PlanEntry } from './plan'
import type { Catalog, StudentFile } from './student-file'

export interface Standing {
  items: CourseItem[]
  reports: ProgramReport[]
  /** What each report was read from, for asking what would change. */
  inputs: ReportInput[]
  checks: PlanCheck[]
  gpa: Gpa
  earned: Credits
  loads: TermLoad[]
  /** Last term with a course in it, when nothing is left open; null while something is. */
  finish: TermCode | null
  /** Credits of all programs together that nothing fills yet. */
  open: Credits
  /** Credits of that for which a placeholder stands in a term. */
  held: Credits
  offPath: string[]
}

/** The whole reading of a student: requirements, checks, loads and finish, from record and plan. Pure and deterministic. */
export function readStanding(file: StudentFile, catalog: Catalog, today: LocalDate): Standing {
  const items = mergeItems(file.record, file.entries, new Set(file.picked))
  const programs = file.programs.flatMap(code => catalog.programs.find(candidate => candidate.code === code) ?? [])
  const { reports, inputs } = readPrograms(programs, items, file, catalog)
  const checks = checkPlan(checkInput(file, items, catalog, today), reports)
  const attempts = standingAttempts(file.record, catalog.courses, catalog.scale, catalog.repeatPolicy).standing
  const open = reports.reduce((sum, report) => sum + report.open + report.overlays.reduce((s, line) => s + line.open, 0), 0)
  const placeholders = file.placeholders ?? []
  const held = reports.reduce((sum, report) => sum + heldCredits(report, placeholders), 0)
  return {
    items, reports, inputs, checks, gpa: gpa(attempts, catalog.scale), earned: earnedCredits(attempts, catalog.scale), open, held,
    loads: catalog.terms.map(term => loadOf(term, items, file, today)),
    finish: open - held === 0 ? lastTerm([...items, ...placeholders]) : null,
    offPath: items.filter(item => reports.length > 0 && reports.every(report => report.unused.some(unused => unused.id === item.id))).map(item => item.id),
  }
}

/** Moves that mend one of the checks of a standing. */
export function movesFor(check: PlanCheck, file: StudentFile, catalog: Catalog, today: LocalDate): PlanMove[] {
  const picked = new Set(file.picked)
  const rebuild = (entries: PlanEntry[]) => mergeItems(file.record, entries, picked)
  return findMoves(check, {
    ...checkInput(file, rebuild(file.entries), catalog, today), rebuild, reports: readStanding(file, catalog, today).reports,
    recheck: plan => readStanding({ ...file, entries: plan.entries, placeholders: plan.placeholders, wishes: plan.wishes }, catalog, today).checks,
  })
}

function checkInput(file: StudentFile, items: readonly CourseItem[], { courses, terms, scale }: Catalog, today: LocalDate): CheckInput {
  const facts: Omit<StudentFacts, 'items'> = { programs: file.programs, placements: file.placements, permissions: file.permissions }
  return {
    entries: file.entries, items, facts, courses, terms, scale, today, capRaised: file.capRaised,
    ...(file.placeholders ? { placeholders: file.placeholders } : {}), ...(file.wishes ? { wishes: file.wishes } : {}), ...(file.signedOff ? { signedOff: file.signedOff } : {}),
  }
}

/**
 * Reads the programs one after the other, in the student's order: the first is served first,
 * and what it uses may count in a later one only within their sharing rules.
 */
export function readPrograms(programs: readonly Program[], items: readonly CourseItem[], file: Pick<StudentFile, 'entries' | 'usePins' | 'exceptions' | 'milestones'>, catalog: Omit<Catalog, 'programs' | 'terms'>, nodeLimit?: number) {
  const reports: ProgramReport[] = []
  const inputs: ReportInput[] = []
  programs.forEach((program, p) => {
    const input: ReportInput = {
      program, items, ...(nodeLimit ? { nodeLimit } : {}), courses: catalog.courses, scale: catalog.scale, repeatPolicy: catalog.repeatPolicy, exceptions: file.exceptions ?? [],
      pins: pinsFor(program, items, file),
      milestones: (file.milestones ?? []).flatMap(name => name.startsWith(`${program.code}/`) ? [name.slice(program.code.length + 1)] : []),
      shared: programs.slice(0, p).flatMap((other, o) => sharedWith(program, other, reports[o]!)),
    }
    inputs.push(input)
    reports.push(readProgram(input))
  })
  return { reports, inputs }
}

/** What the two programs say about each other: rules of either hold for both. */
function sharedWith(program: Program, other: Program, report: ProgramReport): SharedUse[] {
  const about = (rules: readonly SharingRule[], target: Program) => rules.filter(rule => rule.with === target.code || rule.with === target.kind)
  const itemIds = new Set(report.areas.flatMap(area => area.lines.flatMap(line => line.uses.map(use => use.item.id))))
  return [...about(program.sharing, other), ...about(other.sharing, program)].map(({ courses, credits }): SharedUse =>
    ({ itemIds, ...(courses === undefined ? {} : { courses }), ...(credits === undefined ? {} : { credits }), programs: [other.title, program.title] }))
}

/** Pins of the plan's entries, also where a registration now stands for the entry, and of everything else by item. */
function pinsFor(program: Program, items: readonly CourseItem[], file: Pick<StudentFile, 'entries' | 'usePins'>): Record<string, string> {
  const pins: Record<string, string> = {}
  for (const entry of file.entries) {
    if (!entry.pinnedUse?.startsWith(`${program.code}/`)) continue
    const item = items.find(candidate => candidate.id === entry.id) ?? items.find(candidate => candidate.course === entry.course && candidate.term === entry.term)
    if (item) pins[item.id] = entry.pinnedUse.slice(program.code.length + 1)
  }
  for (const pin of file.usePins ?? []) if (pin.program === program.code) pins[pin.item] = pin.line
  return pins
}

/** What can still be reached from the record, whatever the plan says. */
export function reachOf(file: StudentFile, catalog: Pick<Catalog, 'courses' | 'terms' | 'scale'>, today: LocalDate, programs: readonly string[] = file.programs): { reach: Reach, input: ReachInput } {
  const input: ReachInput = {
    items: file.record, programs, placements: file.placements, permissions: file.permissions, courses: catalog.courses, terms: catalog.terms, scale: catalog.scale, today,
  }
  return { reach: new Reach(input), input }
}

function lastTerm(items: readonly { term: TermCode | null }[]): TermCode | null {
  return items.reduce<TermCode | null>((last, { term }) => term && (!last || termOrder(term) > termOrder(last)) ? term : last, null)
}
