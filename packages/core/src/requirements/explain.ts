import { formatCredits } from '../catalog/credits'
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
  words: string
}

const baseLines = (report: ProgramReport) => report.areas.flatMap(area => area.lines)
const useOf = (report: ProgramReport, itemId: string): LineReport | undefined => baseLines(report).find(line => line.uses.some(use => use.item.id === itemId))

/**
 * Why a course counts where it does, or nowhere: for every other line it fits, the best that could be made of the rest if it counted there.
 * `report` is what `readProgram(input)` gave.
 */
export function explainUse(input: ReportInput, report: ProgramReport, itemId: string): UseChange[] {
  const now = useOf(report, itemId)
  const lines = baseLines(report).filter(line => line.id !== now?.id && report.couldCount[itemId]?.includes(line.id))
  return lines.map((line) => {
    const { pins, ...rest } = input
    const other = readProgram({ ...rest, ...(pins ? { pins: Object.fromEntries(Object.entries(pins).filter(([id]) => id !== itemId)) } : {}), forced: { itemId, lineId: line.id } })
    return compare(report, other, itemId, line)
  })
}

function compare(before: ProgramReport, after: ProgramReport, itemId: string, line: LineReport): UseChange {
  const lines = baseLines(before).flatMap((old) => {
    const now = baseLines(after).find(candidate => candidate.id === old.id)!
    return now.open !== old.open && !(now.setAside && old.setAside) ? [{ title: old.title, before: old.open, after: now.open }] : []
  })
  const all = [...new Set([...baseLines(before), ...baseLines(after)].flatMap(l => l.uses.map(use => use.item)))].filter(item => item.id !== itemId)
  const moved = all.flatMap((item) => {
    const [from, to] = [useOf(before, item.id), useOf(after, item.id)]
    return from?.id === to?.id ? [] : [{ course: item.course, from: from?.title ?? null, to: to?.title ?? null }]
  }).filter((move, i, list) => list.findIndex(other => other.course === move.course) === i)
  const firm = (report: ProgramReport) => [report.met, report.underWay, report.covered]
  const cost = after.open - before.open
  return { lineId: line.id, title: line.title, lines, moved, cost, words: say(useOf(before, itemId) ? `In ${line.title} instead` : `In ${line.title}`, lines, moved, cost, firm(before), firm(after)) }
}

function say(where: string, lines: UseChange['lines'], moved: UseChange['moved'], cost: number, before: number[], after: number[]): string {
  const worse = lines.filter(line => line.after > line.before).map(line => `${line.title} would have ${formatCredits(line.after)} cr open`)
  const shifts = moved.map(({ course, from, to }) => to ? `${course} would count in ${to}` : `${course} would have no use${from ? ` (now ${from})` : ''}`)
  const what = [...shifts, ...worse].slice(0, 4).join('; ')
  if (cost > 0) return `${where}: ${what || 'more would be open'}. ${formatCredits(cost)} cr more open in all.`
  if (after[0]! < before[0]!) return `${where}: ${what || 'the same is covered'}; less would be met by what is completed already.`
  if (moved.length > 0) return `${where}: ${what}. The same progress.`
  return `${where}: the same progress; the line that accepts fewer courses is served first.`
}
