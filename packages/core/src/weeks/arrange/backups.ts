import type { CourseCode } from '../../catalog/types'
import { narrowed, type Problem } from './compile'
import type { Week } from './search'
import { CellTables } from './tables'

/** How many backups are proposed for a course at most, unless said otherwise. */
const MOST = 2

/**
 * For each place of a week the bundles to take when the first choice is full, the best first: of the same course, keeping every hard wish,
 * and each fitting beside all the other choices. Where it can be, a place's first backup fits beside the first backups of the others too,
 * so that two seats may be lost; the places with the fewest to choose from come first. A pin is no matter: what is pinned may be full.
 */
export function backupsFor(problem: Problem, week: Week, most = MOST): Record<CourseCode, string[]> {
  const { options, compatible, courses } = problem
  const tables = new CellTables(problem)
  const fits = (a: number, b: number) => (compatible[a]![b >>> 5]! & (1 << (b & 31))) !== 0
  const codeOf = (option: number) => options[option]!.choice.sections[0]?.course
  const { of } = narrowed(problem, { place: () => true, wish: () => true, pin: () => false })
  const places = week.options.map((chosen, c) => {
    const beside = week.options.filter((_, other) => other !== c)
    const fit = of[c]!.filter(option => option !== chosen && codeOf(option) === codeOf(chosen) && beside.every(one => fits(option, one)))
      .map(option => ({ option, cost: costOf(problem, tables, [...beside, option]) }))
      .sort((a, b) => a.cost - b.cost || options[a.option]!.rank - options[b.option]!.rank)
    return { c, fit: fit.map(one => one.option) }
  }).sort((a, b) => a.fit.length - b.fit.length || a.c - b.c)
  const first = new Map<number, number>()
  for (const { c, fit } of places) {
    const others = [...first.values()]
    const chosen = fit.find(option => others.every(one => fits(option, one))) ?? fit[0]
    if (chosen !== undefined) first.set(c, chosen)
  }
  return Object.fromEntries(places.flatMap(({ c, fit }) => {
    const chosen = first.get(c)
    if (chosen === undefined) return []
    const list = [chosen, ...fit.filter(option => option !== chosen)].slice(0, most)
    return [[courses[c]!, list.map(option => options[option]!.choice.id)]]
  }))
}

/** What a week costs against the wishes, as the search prices it. */
function costOf({ cells, options }: Problem, tables: CellTables, week: readonly number[]): number {
  const state = new Int32Array(cells.length)
  let cost = 0
  for (const option of week) {
    cost += options[option]!.own
    for (const { cell, pattern } of options[option]!.cells) state[cell] = tables.after(cell, state[cell]!, pattern)
  }
  cells.forEach(({ days }, cell) => cost += days * (tables.rising(cell, state[cell]!) + tables.gaps(cell, state[cell]!)))
  return cost
}
