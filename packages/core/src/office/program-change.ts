import { termOrder } from '../catalog/terms'
import type { CourseCode, CourseItem, Credits, LocalDate, TermCode } from '../catalog/types'
import { itemsOf, reachOf, readPrograms } from '../planning/standing'
import type { Catalog, StudentFile } from '../planning/student-file'
import { earliestFinish } from '../requirements/reach'
import type { LineReport, ProgramReport } from '../requirements/report'
import type { LineState, Program } from '../requirements/types'

/** A line of a program as it stands for one student. */
interface LineNow { id: string, title: string, state: LineState, open: Credits, uses: CourseCode[] }

/** One reading of a program for one student. */
export interface ProgramNow {
  /** Credits that nothing fills yet, overlays included. */
  open: Credits
  /** No sooner can it be complete; null where a line cannot be filled any more, or nothing is left. */
  finish: TermCode | null
  /** A line that nothing left can fill. */
  lost: boolean
  lines: LineNow[]
}

/** A line that a change of the rules moves for a student; null where there was none, or is none any more. */
export interface LineMoved {
  id: string
  title: string
  before: Pick<LineNow, 'state' | 'open'> | null
  after: Pick<LineNow, 'state' | 'open'> | null
}

export interface ProgramEffect {
  kind: 'gains' | 'loses' | 'both' | 'same'
  open: { before: Credits, after: Credits }
  finish: { before: TermCode | null, after: TermCode | null }
  lost: { before: boolean, after: boolean }
  lines: LineMoved[]
}

/** A program read for one student, beside the other programs that they are in. */
export function readProgramFor(program: Program, file: StudentFile, catalog: Catalog, today: LocalDate, others: readonly Program[] = []):
ProgramNow {
  const items = itemsOf(file)
  const programs = others.some(one => one.code === program.code)
    ? others.map(one => one.code === program.code ? program : one)
    : [program, ...others]
  const { reports } = readPrograms(programs, items, file, catalog)
  const report = reports.find(one => one.code === program.code)!
  const finish = finishOf(report, program, file, catalog, today)
  const lines = linesOf(report)
  return {
    open: report.open + report.overlays.reduce((sum, line) => sum + line.open, 0),
    finish: finish.term?.code ?? null, lost: finish.decidedBy === 'unreachable',
    lines: lines.map(line => ({ id: line.id, title: line.title, state: line.state, open: line.open,
      uses: line.uses.map(use => use.item.course) })),
  }
}

const linesOf = (report: ProgramReport): LineReport[] => [...report.areas.flatMap(area => area.lines), ...report.overlays]

/** The finish is told from the record alone, as when another program is tried: a plan for other rules says nothing of these. */
function finishOf(withPlan: ProgramReport, program: Program, file: StudentFile, catalog: Catalog, today: LocalDate) {
  const items: CourseItem[] = itemsOf(file).filter(item => item.state !== 'planned' && item.state !== 'picked')
  const hasPlan = items.length < itemsOf(file).length
  const report = hasPlan ? readPrograms([program], items, file, catalog).reports[0]! : withPlan
  const { reach, input } = reachOf(file, catalog, today)
  return earliestFinish(report, reach, { items, courses: input.courses, scale: input.scale })
}

/** What a change of a program's rules comes to for a student: more open or a later finish is a loss, the other way round a gain. */
export function effectOf(before: ProgramNow, after: ProgramNow): ProgramEffect {
  const was = new Map(before.lines.map(line => [line.id, line]))
  const is = new Map(after.lines.map(line => [line.id, line]))
  const part = (line: LineNow | undefined) => line ? { state: line.state, open: line.open } : null
  const lines = [...new Set([...was.keys(), ...is.keys()])].flatMap((id): LineMoved[] => {
    const [a, b] = [was.get(id), is.get(id)]
    return a && b && a.state === b.state && a.open === b.open
      ? []
      : [{ id, title: (b ?? a)!.title, before: part(a), after: part(b) }]
  })
  const later = laterBy(before, after)
  const gains = after.open < before.open || later < 0
  const loses = after.open > before.open || later > 0
  return {
    kind: gains && loses ? 'both' : gains ? 'gains' : loses ? 'loses' : 'same',
    open: { before: before.open, after: after.open }, finish: { before: before.finish, after: after.finish },
    lost: { before: before.lost, after: after.lost }, lines,
  }
}

/** Above zero when the finish moves back, below when it comes forward; a program that can be complete beats one that cannot. */
function laterBy(before: ProgramNow, after: ProgramNow): number {
  if (before.lost !== after.lost) return after.lost ? 1 : -1
  const at = ({ finish }: ProgramNow) => finish === null ? 0 : termOrder(finish)
  return at(after) - at(before)
}
