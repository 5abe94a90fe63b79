import { type LineReport, type ProgramReport, readProgram, type ReportInput } from './report'

/** What would change if a course counted on another line than it does. */
export interface UseChange {
  lineId: string
  title: string
  /** Lines that would have more or less open, in hundredths of a credit. */
  lines: { title: string, before: number, after: number }[]
  /** Other courses that would count elsewhere. */
  moved: { course: string, from: string | null, to: string | null }[]
  /** Credits of the program that would be open more than now. */
  cost: number
  /** It counts somewhere now. */
  instead: boolean
  /** The line is a branch of a choice that another branch answers better. */
  aside: boolean
  /** Less would be met by what is completed already. */
  lessMet: boolean
}

const baseLines = (report: ProgramReport) => report.areas.flatMap(area => area.lines)
const useOf = (report: ProgramReport, itemId: string): LineReport | undefined =>
  baseLines(report).find(line => line.uses.some(use => use.item.id === itemId))

/**
 * Why a course counts where it does, or nowhere: for every other line it fits, the best that could be made of the rest if it counted there.
 * `report` is what `readProgram(input)` gave.
 */
export function explainUse(input: ReportInput, report: ProgramReport, itemId: string): UseChange[] {
  const now = useOf(report, itemId)
  const lines = baseLines(report).filter(line => line.id !== now?.id && report.couldCount[itemId]?.includes(line.id))
  return lines.flatMap((line) => {
    const { pins, ...rest } = input
    const other = readProgram({ ...rest,
      ...(pins ? { pins: Object.fromEntries(Object.entries(pins).filter(([id]) => id !== itemId)) } : {}),
      forced: { itemId, lineId: line.id } })
    // A cap, or a limit of another program, may keep the course out whatever else is done: then there is no such change.
    return useOf(other, itemId)?.id === line.id ? [compare(report, other, itemId, line)] : []
  })
}

function compare(before: ProgramReport, after: ProgramReport, itemId: string, line: LineReport): UseChange {
  const lines = baseLines(before).flatMap((old) => {
    const now = baseLines(after).find(candidate => candidate.id === old.id)!
    // What a choice leaves out is not asked any more.
    return now.open !== old.open && !now.setAside ? [{ title: old.title, before: old.open, after: now.open }] : []
  })
  const all = [...new Set([...baseLines(before), ...baseLines(after)].flatMap(l => l.uses.map(use => use.item)))].filter(item =>
    item.id !== itemId,
  )
  const moved = all.flatMap((item) => {
    const [from, to] = [useOf(before, item.id), useOf(after, item.id)]
    return from?.id === to?.id ? [] : [{ course: item.course, from: from?.title ?? null, to: to?.title ?? null }]
  }).filter((move, i, list) => list.findIndex(other => other.course === move.course) === i)
  const cost = after.open - before.open
  return { lineId: line.id, title: line.title, lines, moved, cost, instead: useOf(before, itemId) !== undefined, aside: line.setAside,
    lessMet: after.met < before.met }
}
