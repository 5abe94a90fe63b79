import { termOrder } from '../catalog/terms'
import type { CourseItem, Credits, LocalDate, TermCode } from '../catalog/types'
import { gpa, type Gpa } from '../grades/gpa'
import { averagedAttempts, earnedCredits } from '../record/attempts'
import { factsOf } from '../record/facts'
import { parseLineRef } from '../record/ids'
import { Reach, type ReachInput } from '../requirements/reach'
import type { ReportInput } from '../requirements/prepare'
import type { ProgramReport, ProgramSums } from '../requirements/report'
import { type ProgramsInput, readTogether, type SharingBetween } from '../requirements/together'
import type { Program, SharingRule } from '../requirements/types'
import { checkPlan, heldCredits, isCovered, lackingInTotal } from './check-plan'
import type { CheckInput, PlanCheck } from './checks'
import { loadOf, type TermLoad } from './loads'
import { findMoves, type PlanMove } from './moves'
import { findOffPath } from './off-path'
import { mergeItems } from './plan'
import { type Catalog, type ProgramRules, programsOf, type StudentFile } from './student-file'

export interface Standing {
  items: CourseItem[]
  reports: ProgramReport[]
  /** What the reports were read from, for asking what would change. */
  asked: ProgramsInput
  checks: PlanCheck[]
  gpa: Gpa
  earned: Credits
  loads: TermLoad[]
  /** Last term with a course in it, when nothing is left open, the totals included; null while something is. */
  finish: TermCode | null
  /** Credits of all programs together that nothing fills yet. */
  open: Credits
  /** Credits of that for which a placeholder stands in a term. */
  held: Credits
  /** Credits that have no place yet: what is open and not held, or what a total lacks beyond that. */
  unplaced: Credits
  offPath: string[]
}

/** The whole reading of a student: requirements, checks, loads and finish, from record and plan. Pure and deterministic. */
export function readStanding(onFile: StudentFile, catalog: Catalog, today: LocalDate): Standing {
  const file = asOf(onFile, catalog, today)
  const items = itemsOf(file)
  return standingWith(items, readPrograms(programsOf(file, catalog), items, file, catalog), file, catalog, today)
}

/** The same reading with other reports on its inputs: what was found by looking at them for longer. */
export const withReports = (standing: Standing, reports: ProgramReport[], file: StudentFile, catalog: Catalog,
  today: LocalDate): Standing =>
  standingWith(standing.items, { reports, asked: standing.asked }, file, catalog, today)

function standingWith(items: CourseItem[], { reports, asked }: Pick<Standing, 'reports' | 'asked'>, file: StudentFile,
  catalog: Catalog, today: LocalDate): Standing {
  const input: CheckInput = { file, items, catalog, today }
  const open = reports.reduce((sum, report) => sum + report.open + report.overlays.reduce((s, line) => s + line.open, 0), 0)
  const held = reports.reduce((sum, report) => sum + heldCredits(report, file.placeholders), 0)
  return {
    items,
    reports,
    asked,
    checks: checkPlan(input, reports),
    open,
    held,
    gpa: gpa(averagedAttempts(file.record, catalog), catalog.scale),
    earned: earnedCredits(file.record, catalog),
    loads: catalog.terms.map(term => loadOf(term, items, file, today)),
    finish: finishOf(reports, items, file),
    unplaced: Math.max(open - held, ...reports.map(report => lackingInTotal(report, file.placeholders))),
    offPath: findOffPath(input, reports).map(item => item.id),
  }
}

/** Last term with a course or a place held in it, when nothing of all programs is left open; null while something is. */
export const finishOf = (reports: readonly ProgramSums[], items: readonly CourseItem[],
  { placeholders }: Pick<StudentFile, 'placeholders'>): TermCode | null =>
  reports.every(report => isCovered(report, placeholders)) ? lastTerm([...items, ...placeholders]) : null

/** A file as it reads on a date: what is registered in a term that has begun is under way. */
export function asOf(file: StudentFile, { terms }: Pick<Catalog, 'terms'>, today: LocalDate): StudentFile {
  const begun = new Set(terms.filter(term => term.start <= today).map(term => term.code))
  if (!file.record.some(item => item.state === 'registered' && item.term && begun.has(item.term))) return file
  return { ...file, record: file.record.map(item => item.state === 'registered' && item.term && begun.has(item.term)
    ? { ...item, state: 'under way' }
    : item) }
}

/** Record, registrations and plan of a file as one list. */
export const itemsOf = (file: StudentFile): CourseItem[] => mergeItems(file.record, file.entries, new Set(file.picked))

/** Moves that mend one of the checks of a standing. */
export function movesFor(check: PlanCheck, file: StudentFile, catalog: Catalog, today: LocalDate): PlanMove[] {
  const picked = new Set(file.picked)
  return findMoves(check, {
    file,
    items: itemsOf(file),
    catalog,
    today,
    rebuild: entries => mergeItems(file.record, entries, picked),
    reports: readStanding(file, catalog, today).reports,
    recheck: plan =>
      readStanding({ ...file, entries: plan.entries, placeholders: plan.placeholders, wishes: plan.wishes }, catalog, today).checks,
  })
}

/** Reads all programs of a student as one, in the student's order, under their sharing rules. */
export function readPrograms(...asking: Parameters<typeof programsAsked>) {
  const asked = programsAsked(...asking)
  return { reports: readTogether(asked), asked }
}

/** What all programs of a student are read from. */
export function programsAsked(programs: readonly Program[], items: readonly CourseItem[],
  file: Pick<StudentFile, 'entries' | 'usePins' | 'exceptions' | 'milestones'>, catalog: ProgramRules, nodeLimit?: number): ProgramsInput {
  return {
    programs: programs.map((program): ReportInput => ({
      program,
      items,
      courses: catalog.courses,
      scale: catalog.scale,
      repeatPolicy: catalog.repeatPolicy,
      exceptions: file.exceptions,
      pins: pinsFor(program, items, file),
      milestones: milestonesDone(file, program.code),
    })),
    sharing: programs.flatMap((program, p) => programs.slice(0, p).flatMap((other, o) => sharingBetween([other, o], [program, p]))),
    ...(catalog.programsPolicy ? { policy: catalog.programsPolicy } : {}),
    ...(nodeLimit ? { nodeLimit } : {}),
  }
}

/** What the two programs say about each other: rules of either hold for both. */
function sharingBetween([other, o]: [Program, number], [program, p]: [Program, number]): SharingBetween[] {
  const about = (rules: readonly SharingRule[], target: Program) =>
    rules.filter(rule => rule.with === target.code || rule.with === target.kind)
  return [...about(program.sharing, other), ...about(other.sharing, program)].map(({ courses, credits }): SharingBetween => ({
    between: [o, p], ...(courses === undefined ? {} : { courses }), ...(credits === undefined ? {} : { credits }) }))
}

/** Pins of the plan's entries, also where a registration now stands for the entry, and of everything else by item. */
function pinsFor(program: Program, items: readonly CourseItem[], file: Pick<StudentFile, 'entries' | 'usePins'>): Record<string, string> {
  const pins: Record<string, string> = {}
  for (const entry of file.entries) {
    const pin = entry.pinnedUse && parseLineRef(entry.pinnedUse)
    if (!pin || pin.program !== program.code) continue
    const item = items.find(candidate => candidate.id === entry.id)
      ?? items.find(candidate => candidate.course === entry.course && candidate.term === entry.term)
    if (item) pins[item.id] = pin.line
  }
  for (const pin of file.usePins) if (pin.program === program.code) pins[pin.item] = pin.line
  return pins
}

/** Milestones of a program that are done. */
export const milestonesDone = ({ milestones }: Pick<StudentFile, 'milestones'>, program: string): string[] =>
  milestones.map(parseLineRef).flatMap(ref => ref.program === program ? [ref.line] : [])

/** What can still be reached from the record, whatever the plan says. */
export function reachOf(file: StudentFile, catalog: Catalog, today: LocalDate,
  programs: readonly string[] = file.programs): { reach: Reach, input: ReachInput } {
  const { courses, scale, repeatPolicy, terms } = catalog
  const input: ReachInput = { ...factsOf(file, file.record), programs, courses, scale, repeatPolicy, terms, today }
  return { reach: new Reach(input), input }
}

function lastTerm(items: readonly { term: TermCode | null }[]): TermCode | null {
  return items.reduce<TermCode | null>((last, { term }) => term && (!last || termOrder(term) > termOrder(last)) ? term : last, null)
}
