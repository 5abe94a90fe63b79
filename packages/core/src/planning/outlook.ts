import type { CourseItem, Credits, LocalDate, TermCode } from '../catalog/types'
import { earnedCredits } from '../record/attempts'
import { glanceTogether, type ProgramsInput, readTogether, sumTogether } from '../requirements/together'
import type { ProgramSums } from '../requirements/report'
import { isBelow } from '../requirements/rules'
import { findProblems } from './find-problems'
import { type Catalog, programsOf, type StudentFile } from './student-file'
import { asOf, finishOf, itemsOf, programsAsked } from './standing'

/** What is asked of everybody's file at once. */
export interface Outlook {
  /** Credits earned. */
  earned: Credits
  /** As `Standing.finish` has it. */
  finish: TermCode | null
  /** Checks of the plan that forbid something. */
  blockers: number
  /** An average that a program asks for is below it now. */
  isLow: boolean
}

/**
 * The same figures as the whole reading of a file has, without what takes most of its time: nobody asks which of several equally good uses
 * each course is put to, and where a line is open whatever is used there, none are sought at all. Where a figure does depend on the uses,
 * the whole reading is made.
 */
export function readOutlook(onFile: StudentFile, catalog: Catalog, today: LocalDate): Outlook {
  const file = asOf(onFile, catalog, today)
  const items = itemsOf(file)
  const asked = programsAsked(programsOf(file, catalog), items, file, catalog)
  return {
    // What is intended earns what is left: it changes nothing about what is earned.
    earned: earnedCredits(items, catalog),
    ...readPrograms(asked, items, file),
    blockers: findProblems({ file, items, catalog, today }).filter(check => check.severity === 'blocker').length,
  }
}

function readPrograms(asked: ProgramsInput, items: readonly CourseItem[], file: StudentFile): Pick<Outlook, 'finish' | 'isLow'> {
  // Places held may be for what is open.
  const glance = file.placeholders.length === 0 ? glanceTogether(asked) : null
  if (glance) return { finish: null, ...glance }
  const reports = readSums(asked, file)
  return { finish: finishOf(reports, items, file), isLow: reports.some(report => report.rules.some(isBelow)) }
}

/** Places held are for lines, and which line an open credit stands on is told by the whole reading alone. */
function readSums(asked: ProgramsInput, { placeholders }: StudentFile): readonly ProgramSums[] {
  const sums = sumTogether(asked)
  const isOpen = (report: ProgramSums) => report.open > 0 || report.overlays.some(line => line.open > 0)
  return sums && !(placeholders.length > 0 && sums.some(isOpen)) ? sums : readTogether(asked)
}
