import type { CourseCode } from '../../catalog/types'
import type { Problem } from './compile'
import { CellTables } from './tables'

/** A week without clashes: for each course the place of its bundle among the choices, and what it costs. */
export interface Week {
  /** By course, in the order of the codes, the index of the option. */
  options: number[]
  /** Minutes × dates × weight, and the prices of what is not minutes; 0 when every wish is kept. */
  cost: number
}
export interface SearchOptions {
  /** How many of the best are wanted. */
  best: number
  /** By option an extra price, for finding what changes least. */
  extra?: (option: number) => number
  /** Asked every thousand steps; true stops the search. */
  stop?: () => boolean
  /** Called when a week better than all before is found. */
  found?: (week: Week) => void
}
export interface Search {
  weeks: Week[]
  /** Every week was looked at, or shown to be no better. */
  proved: boolean
  nodes: number
}

/** Whoever looks at the clock does so this often. */
const LOOK_EVERY = 1024
/** Ties between equal weeks are broken by the sum of the ranks, which stays below this. */
const RANKS = 1024
const ROUNDING = 1e-6

/**
 * The best weeks, exactly and in order: depth first, the course with the fewest options left first, its options by what they cost at
 * least. A branch is left when even its least is more than the worst of the weeks kept. Equal weeks stand by the sum of their ranks,
 * then by the ranks in the order of the courses' codes, so that the answer never depends on the order of the search.
 */
export function searchWeeks(problem: Problem, { best, extra = () => 0, stop = () => false, found = () => {} }: SearchOptions): Search {
  const { options, of, words, compatible } = problem
  const tables = new CellTables(problem)
  const courses = of.length
  const kept: { total: number, week: Week }[] = []
  const prices = options.map((option, i) => (option.own + extra(i)) * RANKS + option.rank)
  const filling = mostFilling(problem, tables)
  let nodes = 0
  let stopped = false
  if (of.some(list => list.length === 0)) return { weeks: [], proved: true, nodes }

  const state = new Int32Array(problem.cells.length)
  const chosen = new Array<number>(courses).fill(-1)
  const allowed: Uint32Array[] = [full(options.length, words), ...Array.from({ length: courses }, () => new Uint32Array(words))]

  const worst = () => kept.length < best ? Infinity : kept.at(-1)!.total
  function keep(total: number) {
    const week = { options: [...chosen], cost: 0 }
    const ranks = chosen.reduce((sum, option) => sum + options[option]!.rank, 0)
    week.cost = (total - ranks) / RANKS
    const at = kept.findIndex(other => total < other.total || (total === other.total && before(week, other.week, problem)))
    kept.splice(at < 0 ? kept.length : at, 0, { total, week })
    if (kept.length > best) kept.pop()
    if (kept[0]!.week === week) found(week)
  }

  /** `spent`: own prices and the rising part so far, in the unit of the totals; gaps are in the bound. */
  function go(depth: number, spent: number) {
    nodes++
    if (nodes % LOOK_EVERY === 0 && stop()) stopped = true
    if (stopped) return
    const bits = allowed[depth]!
    const open: number[] = []
    for (let c = 0; c < courses; c++) if (chosen[c] === -1) open.push(c)
    if (open.length === 0) return keep(spent + RANKS * gapsNow())

    // How many open courses can come to each cell, and how much they can fill there.
    const { touching, minutes, blocks } = filling.of(open)
    let base = spent
    for (let cell = 0; cell < state.length; cell++)
      base += RANKS * problem.cells[cell]!.days * tables.certainGaps(cell, state[cell]!, minutes[cell]!, blocks[cell]!)

    let least = base
    let pick = -1
    let fewest = Infinity
    let values: { option: number, value: number }[] = []
    for (const c of open) {
      const mine: { option: number, value: number }[] = []
      let cheapest = Infinity
      for (const option of of[c]!) {
        if (!(bits[option >>> 5]! & (1 << (option & 31)))) continue
        let value = prices[option]!
        for (const { cell, pattern } of options[option]!.cells) {
          const after = tables.after(cell, state[cell]!, pattern)
          const restMinutes = minutes[cell]! - filling.minutes[c]![cell]!
          const restBlocks = blocks[cell]! - filling.blocks[c]![cell]!
          const gapRise = tables.certainGaps(cell, after, restMinutes, restBlocks)
            - tables.certainGaps(cell, state[cell]!, minutes[cell]!, blocks[cell]!)
          const rise = tables.rising(cell, after) - tables.rising(cell, state[cell]!) + Math.max(0, gapRise)
          value += RANKS * problem.cells[cell]!.days * rise / touching[cell]!
        }
        mine.push({ option, value })
        if (value < cheapest) cheapest = value
      }
      if (mine.length === 0) return
      least += cheapest
      if (mine.length < fewest) {
        fewest = mine.length
        pick = c
        values = mine
      }
    }
    if (least > worst() + ROUNDING) return
    const pickLeast = Math.min(...values.map(one => one.value))
    values.sort((a, b) => a.value - b.value)
    const row = allowed[depth + 1]!
    for (const { option, value } of values) {
      if (least - pickLeast + value > worst() + ROUNDING) break
      const undo: number[] = []
      let rising = 0
      for (const { cell, pattern } of options[option]!.cells) {
        undo.push(state[cell]!)
        const after = tables.after(cell, state[cell]!, pattern)
        rising += problem.cells[cell]!.days * (tables.rising(cell, after) - tables.rising(cell, state[cell]!))
        state[cell] = after
      }
      for (let w = 0; w < words; w++) row[w] = bits[w]! & compatible[option]![w]!
      chosen[pick] = option
      go(depth + 1, spent + prices[option]! + RANKS * rising)
      chosen[pick] = -1
      options[option]!.cells.forEach(({ cell }, i) => state[cell] = undo[i]!)
      if (stopped) return
    }
  }
  const gapsNow = () => {
    let sum = 0
    for (let cell = 0; cell < state.length; cell++) sum += problem.cells[cell]!.days * tables.gaps(cell, state[cell]!)
    return sum
  }
  go(0, 0)
  return { weeks: kept.map(one => one.week), proved: !stopped, nodes }
}

/** A row of bits, all of them set. */
export function full(size: number, words: number): Uint32Array {
  const bits = new Uint32Array(words)
  for (let i = 0; i < size; i++) bits[i >>> 5]! |= 1 << (i & 31)
  return bits
}

/** Whether one of two weeks that cost the same stands before the other. */
function before(a: Week, b: Week, { options }: Problem): boolean {
  for (const [c, option] of a.options.entries()) {
    const difference = options[option]!.rank - options[b.options[c]!]!.rank
    if (difference !== 0) return difference < 0
  }
  return false
}

/** What courses can do in each cell at most: whether one of their options comes there, with how many minutes and blocks. */
function mostFilling(problem: Problem, tables: CellTables) {
  const cells = problem.cells.length
  const touches = problem.of.map(() => new Uint8Array(cells))
  const minutes = problem.of.map(() => new Int32Array(cells))
  const blocks = problem.of.map(() => new Int32Array(cells))
  for (const { course, cells: own } of problem.of.flat().map(i => problem.options[i]!))
    for (const { cell, pattern } of own) {
      touches[course]![cell] = 1
      minutes[course]![cell] = Math.max(minutes[course]![cell]!, tables.minutes[cell]![pattern]!)
      blocks[course]![cell] = Math.max(blocks[course]![cell]!, tables.blocks[cell]![pattern]!)
    }
  const sums = new Map<number, { touching: Int32Array, minutes: Int32Array, blocks: Int32Array }>()
  return { minutes, blocks,
    of(open: readonly number[]) {
      const key = open.reduce((bits, c) => bits + 2 ** c, 0)
      let sum = sums.get(key)
      if (!sum) {
        sum = { touching: new Int32Array(cells), minutes: new Int32Array(cells), blocks: new Int32Array(cells) }
        for (const c of open)
          for (let cell = 0; cell < cells; cell++) {
            sum.touching[cell]! += touches[c]![cell]!
            sum.minutes[cell]! += minutes[c]![cell]!
            sum.blocks[cell]! += blocks[c]![cell]!
          }
        sums.set(key, sum)
      }
      return sum
    } }
}

/** Bundles of a week by course. */
export const choicesOf = (problem: Problem, week: Week): Record<CourseCode, string> =>
  Object.fromEntries(week.options.map((option, c) => [problem.courses[c]!, problem.options[option]!.choice.id]))
