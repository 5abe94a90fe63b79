import type { CourseItem } from '@ridgeway/core/catalog'
import { type CaseCatalog, CaseProblem, mergeGiven, worldOf } from './case-given'
import { readStanding } from '@ridgeway/core/planning'
import { compareCase, type Mismatch } from './case-outcome'
import { type CasesFile, casesSchema, type Given } from './case-schema'
import { checkShape, type FormatProblem, readJson } from './json'

/** One case of a file, worked out. `problem` says why it could not be. */
export interface CaseResult { name: string, source: string, mismatches: Mismatch[], problem: string | null }

/** Reads a file of worked cases; all of it is right, or every problem is named with its place. */
export function readCases(text: string): { ok: true, file: CasesFile } | { ok: false, problems: FormatProblem[] } {
  const read = readJson(text)
  if (!read.ok) return read
  const shape = checkShape(casesSchema, read.json)
  return shape.ok ? { ok: true, file: shape.data } : shape
}

/** Works out every case of a file and compares it with what it expects; in a college's catalog where one is given. */
export function runCases(file: CasesFile, around?: CaseCatalog): CaseResult[] {
  return file.cases.map(({ name, source, given, expect }) => {
    try {
      return { name, source, mismatches: compareCase(worldOf(mergeGiven(file.given ?? {}, given), around), expect), problem: null }
    }
    catch (problem) {
      if (!(problem instanceof CaseProblem || problem instanceof RangeError)) throw problem
      return { name, source, mismatches: [], problem: problem.message }
    }
  })
}

type Case = CasesFile['cases'][number]
interface OnRecord { items: readonly CourseItem[], milestones: readonly string[], placements: Record<string, number> }

type Entry = NonNullable<Given['record']>[number]
/** A course of a record as a case writes it. */
const entryOf = ({ course, term, grade, credits, state, source, earnedGrade, gradedAt, topic }: CourseItem): Entry => ({
  course, term, grade, credits: credits / 100, state, source, ...earnedGrade ? { earnedGrade } : {}, ...gradedAt ? { gradedAt } : {},
  ...topic ? { topic } : {} })

/**
 * A record with a plan as a worked case of a program that expects what the program comes to now: the state of every line and what is open.
 * Nothing of whose record it is stays in it.
 */
export function caseOfRecord(name: string, { items, milestones, placements }: OnRecord, around: CaseCatalog, today: string): Case {
  const given: Given = {
    today, record: items.filter(item => item.state !== 'planned' && item.state !== 'picked').map(entryOf),
    plan: items.filter(item => (item.state === 'planned' || item.state === 'picked') && item.term !== null).map(item => ({
      course: item.course, term: item.term!, credits: item.credits / 100, pinned: false, picked: false })),
    ...milestones.length > 0 ? { milestones: [...milestones] } : {}, ...Object.keys(placements).length > 0 ? { placements } : {},
  }
  return { name, source: 'a record of this college, read when it was kept', given, expect: expectationOf(given, around) }
}

/** What a case comes to in a catalog, as the least that a later change must keep. @throws CaseProblem where it contradicts itself. */
export function expectationOf(given: Given, around: CaseCatalog): Case['expect'] {
  const world = worldOf(given, around)
  const { reports } = readStanding(world.file, world.catalog, world.today)
  return {
    lines: Object.fromEntries(reports.flatMap(report => [...report.areas.flatMap(area => area.lines), ...report.overlays].map(line =>
      [`${report.code}/${line.id}`, { state: line.state, ...line.open > 0 ? { open: line.open / 100 } : {} }] as const))),
    programs: Object.fromEntries(reports.map(report => [report.code, { open: report.open / 100 }])),
  }
}
