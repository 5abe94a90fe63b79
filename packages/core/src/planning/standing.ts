import { termOrder, termPhase } from '../catalog/terms'
import type { Course, CourseItem, Credits, LocalDate, Term, TermCode } from '../catalog/types'
import { weeklyHours } from '../catalog/credits'
import { earnedCredits, gpa, standingAttempts, type Gpa, type RepeatPolicy } from '../grades/gpa'
import type { GradeScale } from '../grades/scale'
import { enrolmentStatus, type EnrolmentStatus } from '../grades/status'
import type { StudentFacts } from '../prerequisites/evaluate'
import { readProgram, type ProgramReport } from '../requirements/report'
import type { Program } from '../requirements/types'
import { checkPlan, creditsIn, findMoves, type CheckInput, type PlanCheck, type PlanMove } from './checks'
import { mergeItems, type PlanEntry } from './plan'

/** Everything about one student that the rules read. */
export interface StudentFile {
  /** Completed, under way and registered items. */
  record: CourseItem[]
  entries: PlanEntry[]
  /** `HYD 230 2027SP` for each course whose bundle is chosen. */
  picked: string[]
  programs: string[]
  placements: Record<string, number>
  permissions: string[]
  capRaised: Record<TermCode, Credits>
}

export interface Catalog {
  courses: ReadonlyMap<string, Course>
  programs: readonly Program[]
  terms: readonly Term[]
  scale: GradeScale
  repeatPolicy: RepeatPolicy
}

export interface TermLoad {
  term: TermCode
  credits: Credits
  hours: number
  status: EnrolmentStatus
  overCap: boolean
}

export interface Standing {
  items: CourseItem[]
  reports: ProgramReport[]
  checks: PlanCheck[]
  gpa: Gpa
  earned: Credits
  loads: TermLoad[]
  /** Last term with a course in it, when nothing is left open; null while something is. */
  finish: TermCode | null
  /** Credits of all programs together that nothing fills yet. */
  open: Credits
  offPath: string[]
}

/** The whole reading of a student: requirements, checks, loads and finish, from record and plan. Pure and deterministic. */
export function readStanding(file: StudentFile, catalog: Catalog, today: LocalDate): Standing {
  const items = mergeItems(file.record, file.entries, new Set(file.picked))
  const reports = file.programs.flatMap((code) => {
    const program = catalog.programs.find(candidate => candidate.code === code)
    if (!program) return []
    const pins = pinsFor(program, file.entries)
    return [readProgram({ program, items, courses: catalog.courses, scale: catalog.scale, repeatPolicy: catalog.repeatPolicy, pins })]
  })
  const checks = checkPlan(checkInput(file, items, catalog, today), reports)
  const attempts = standingAttempts(file.record, catalog.courses, catalog.scale, catalog.repeatPolicy).standing
  const open = reports.reduce((sum, report) => sum + report.open + report.overlays.reduce((s, line) => s + line.open, 0), 0)
  return {
    items, reports, checks, gpa: gpa(attempts, catalog.scale), earned: earnedCredits(attempts, catalog.scale), open,
    loads: catalog.terms.map(term => loadOf(term, items, file, today)),
    finish: open === 0 ? lastTerm(items) : null,
    offPath: items.filter(item => reports.length > 0 && reports.every(report => report.unused.some(unused => unused.id === item.id))).map(item => item.id),
  }
}

/** Moves that mend one of the checks of a standing. */
export function movesFor(check: PlanCheck, file: StudentFile, catalog: Catalog, today: LocalDate): PlanMove[] {
  const picked = new Set(file.picked)
  const rebuild = (entries: PlanEntry[]) => mergeItems(file.record, entries, picked)
  return findMoves(check, checkInput(file, rebuild(file.entries), catalog, today), rebuild)
}

function checkInput(file: StudentFile, items: readonly CourseItem[], { courses, terms, scale }: Catalog, today: LocalDate): CheckInput {
  const facts: Omit<StudentFacts, 'items'> = { programs: file.programs, placements: file.placements, permissions: file.permissions }
  return { entries: file.entries, items, facts, courses, terms, scale, today, capRaised: file.capRaised }
}

function pinsFor(program: Program, entries: readonly PlanEntry[]): Record<string, string> {
  return Object.fromEntries(entries.flatMap(entry => entry.pinnedUse?.startsWith(`${program.code}/`) ? [[entry.id, entry.pinnedUse.slice(program.code.length + 1)]] : []))
}

function loadOf(term: Term, items: readonly CourseItem[], file: StudentFile, today: LocalDate): TermLoad {
  const past = termPhase(term, today) === 'past'
  const credits = past
    ? items.reduce((sum, item) => sum + (item.term === term.code && item.source === 'here' ? item.credits : 0), 0)
    : creditsIn(items, term.code)
  const weeks = Math.round((Date.parse(term.end) - Date.parse(term.start)) / 604_800_000)
  return {
    term: term.code, credits, hours: weeklyHours(credits, weeks), status: enrolmentStatus(credits, term.fullTime),
    overCap: !past && credits > (file.capRaised[term.code] ?? term.loadCap),
  }
}

function lastTerm(items: readonly CourseItem[]): TermCode | null {
  return items.reduce<TermCode | null>((last, { term }) => term && (!last || termOrder(term) > termOrder(last)) ? term : last, null)
}
