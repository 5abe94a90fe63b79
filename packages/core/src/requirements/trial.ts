import type { CourseItem, Credits } from '../catalog/types'
import type { Reach, EarliestFinish, Lost, ReachInput } from './reach'
import { earliestFinish, findUnreachable } from './reach'
import type { ReportInput } from './prepare'
import type { ProgramReport } from './report'
import { readProgram } from './together'

/** A program read against a record that may have been made for another one. */
export interface ProgramTrial {
  report: ProgramReport
  /** Completed and running courses that the program uses. */
  carriesOver: { items: CourseItem[], credits: Credits }
  /** Completed and running courses for which it has no line; they give credits towards the total at most. */
  lost: { items: CourseItem[], credits: Credits }
  /** Credits open with nothing but the record: what would have to be planned. */
  open: Credits
  /** Overlays that nothing on the record carries yet; base courses can carry them, so they are no credits of their own. */
  overlaysOpen: string[]
  unreachable: Record<string, Lost>
  finish: EarliestFinish
}

/** What would become of this record in that program; nothing is changed by asking. The plan is left out. */
export function tryProgram(input: Omit<ReportInput, 'pins' | 'forced'>, reach: Reach,
  known: Pick<ReachInput, 'courses' | 'scale'>): ProgramTrial {
  const items = input.items.filter(item => item.state !== 'planned' && item.state !== 'picked')
  const report = readProgram({ ...input, items })
  const usedIds = new Set(
    [...report.areas.flatMap(area => area.lines), ...report.overlays].flatMap(line => line.uses.map(use => use.item.id)),
  )
  // Only what could give credit at all can carry over or be lost.
  const counted = items.filter(item => item.id in report.couldCount)
  const part = (list: CourseItem[]) => ({ items: list, credits: list.reduce((sum, item) => sum + item.credits, 0) })
  return {
    report,
    open: report.open,
    overlaysOpen: report.overlays.filter(line => line.open > 0).map(line => line.title),
    carriesOver: part(counted.filter(item => usedIds.has(item.id))),
    lost: part(counted.filter(item => !usedIds.has(item.id))),
    unreachable: findUnreachable(report, items, reach, known),
    finish: earliestFinish(report, reach, { items, ...known }),
  }
}
