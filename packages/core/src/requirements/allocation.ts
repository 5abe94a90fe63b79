import { findComponents } from './components'
import { openCredits } from './line-states'
import { ComponentSearch } from './search'

/**
 * The best use of courses by requirement lines, exactly.
 *
 * Every item (course attempt) may fill at most one line it fits. Items come in tiers, firmest first:
 * completed, under way, registered, planned. The objective is, in this order,
 *
 *   1. the least left open by items of tier 0; then by tiers 0–1; then 0–2; then 0–3,
 *   2. the fewest pins broken,
 *   3. the fewest items tied up,
 *   4. the smallest sum of the ranks of the lines used (specific lines first, then in printed order).
 *
 * The parts: `line-states` (what a line can still become), `objective` (the order above as one whole number),
 * `relaxation` (the bound), `search` (branch and bound on it), `components` (what does not touch is solved apart).
 */
export interface AllocationItem {
  tier: 0 | 1 | 2 | 3
  credits: number
  /** Indices of the lines it fits. */
  fits: number[]
  pinned?: number
  /** It must be used, whatever that costs: for asking what a use would change. */
  must?: boolean
}

export interface AllocationLine {
  /** Needs in credits and in courses; 0 where the line does not ask for it. At least one is positive. */
  credits: number
  courses: number
  /** Credits that one missing course, or one missing subject of a spread, stands for. */
  unit: number
  rank: number
  /** At most so many credits or courses of these items (by index) may be used here. */
  caps?: { items: number[], credits?: number, courses?: number }[]
  /** The items used must come from at least `n` groups; `groupOf` gives the group of every item. */
  spread?: { n: number, groupOf: number[] }
}

/** At most so many of these items may be used at all: the sharing rule of two programs. */
export interface AllocationLimit { items: number[], credits?: number, courses?: number }

/** How lines join into the whole: a line, all of several, or the n best of several. */
export type AllocationTree = { line: number } | { n: number, of: AllocationTree[] }

export interface AllocationResult {
  /** For each item the line it fills, or -1. */
  uses: number[]
  /** Credits left open with items up to each tier. */
  open: [number, number, number, number]
  /** True when no other uses fill more or break fewer pins; false when the search stopped at its limit before that was shown. */
  proved: boolean
  /** True when the last two criteria are at their best as well. */
  settled: boolean
  nodes: number
}

export interface AllocationOptions {
  limits?: AllocationLimit[]
  /** Nodes of the search, a component, before giving up the proof; each costs well under a millisecond. */
  nodeLimit?: number
}

const NODE_LIMIT = 250

export function allocate(items: AllocationItem[], lines: AllocationLine[], tree: AllocationTree, options: AllocationOptions = {}): AllocationResult {
  const uses = items.map(() => -1)
  let proved = true
  let settled = true
  let nodes = 0
  for (const part of findComponents(items, lines, tree, options.limits ?? [])) {
    const solved = new ComponentSearch(part, options.nodeLimit ?? NODE_LIMIT).run()
    proved &&= solved.proved
    settled &&= solved.settled
    nodes += solved.nodes
    part.itemIds.forEach((item, i) => {
      const line = solved.uses[i]!
      uses[item] = line < 0 ? -1 : part.lineIds[line]!
    })
  }
  return { uses, open: openByTier(items, lines, tree, uses), proved, settled, nodes }
}

/** Credits that a line leaves open at each tier with these uses of it. */
export function lineOpenByTier(line: AllocationLine, used: readonly { item: AllocationItem, index: number }[]): number[] {
  return [0, 1, 2, 3].map((tier) => {
    const filling = used.filter(({ item }) => item.tier <= tier)
    const groups = line.spread ? new Set(filling.map(({ index }) => line.spread!.groupOf[index])).size : Infinity
    return openCredits(line, filling.reduce((sum, { item }) => sum + item.credits, 0), filling.length, groups)
  })
}

export const compareTiers = (a: readonly number[], b: readonly number[]) => a.reduce((decided, value, t) => decided || value - b[t]!, 0)

/** Credits left open at each tier by a given assignment; choices take the branches that leave least open, firmest tier first. */
export function openByTier(items: AllocationItem[], lines: AllocationLine[], tree: AllocationTree, uses: readonly number[]): [number, number, number, number] {
  const perLine = lines.map((line, l) => lineOpenByTier(line, items.flatMap((item, index) => uses[index] === l ? [{ item, index }] : [])))
  const add = (a: number[], b: number[]) => a.map((value, t) => value + b[t]!)
  const evaluate = (node: AllocationTree): number[] => 'line' in node
    ? perLine[node.line]!
    : node.of.map(evaluate).sort(compareTiers).slice(0, node.n).reduce(add, [0, 0, 0, 0])
  return evaluate(tree) as [number, number, number, number]
}

export { openCredits }
