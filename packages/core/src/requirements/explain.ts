import type { Credits } from '../catalog/types'
import type { LineReport, ProgramReport } from './report'
import { type ProgramsInput, readTogether } from './together'

/** What would change if a course counted on another line than it does. */
export interface UseChange {
  lineId: string
  title: string
  /** Lines that would have more or less open, in hundredths of a credit. */
  lines: { title: string, before: number, after: number }[]
  /** Other courses that would count elsewhere. */
  moved: { course: string, from: string | null, to: string | null }[]
  /** Credits that would be open more than now, in all programs together. */
  cost: number
  /** Other programs in which more or less would be open. */
  others: { title: string, before: Credits, after: Credits }[]
  /** How the course would count in other programs, where that changes: the line there now and then, null for none. */
  elsewhere: { program: string, from: string | null, to: string | null }[]
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
 * Why a course counts where it does in a program, or nowhere: for every other line it fits there, the best that could be made of all
 * programs if it counted on that line. `reports` are what `readTogether(input)` gave.
 */
export function explainUse(input: ProgramsInput, reports: readonly ProgramReport[], index: number, itemId: string): UseChange[] {
  const report = reports[index]!
  const now = useOf(report, itemId)
  const lines = baseLines(report).filter(line => line.id !== now?.id && report.couldCount[itemId]?.includes(line.id))
  return lines.flatMap((line) => {
    const others = readTogether({ ...input, programs: input.programs.map((program, p) => {
      if (p !== index) return program
      const { pins, ...rest } = program
      return { ...rest, ...(pins ? { pins: Object.fromEntries(Object.entries(pins).filter(([id]) => id !== itemId)) } : {}),
        forced: { itemId, lineId: line.id } }
    }) })
    // A cap, or a limit of another program, may keep the course out whatever else is done: then there is no such change.
    return useOf(others[index]!, itemId)?.id === line.id ? [compare(reports, others, index, itemId, line)] : []
  })
}

function compare(reports: readonly ProgramReport[], then: readonly ProgramReport[], index: number, itemId: string,
  line: LineReport): UseChange {
  const [before, after] = [reports[index]!, then[index]!]
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
  const others = reports.flatMap((other, p) =>
    p !== index && other.open !== then[p]!.open ? [{ title: other.title, before: other.open, after: then[p]!.open }] : [])
  const elsewhere = reports.flatMap((other, p) => {
    const [from, to] = [useOf(other, itemId), useOf(then[p]!, itemId)]
    return p === index || from?.id === to?.id ? [] : [{ program: other.title, from: from?.title ?? null, to: to?.title ?? null }]
  })
  const total = (list: readonly ProgramReport[]) => list.reduce((sum, report) => sum + report.open, 0)
  return { lineId: line.id, title: line.title, lines, moved, cost: total(then) - total(reports), others, elsewhere,
    instead: useOf(before, itemId) !== undefined, aside: line.setAside, lessMet: after.met < before.met }
}
