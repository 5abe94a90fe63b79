import { findComponents } from './components'
import { openCredits } from './line-states'
import { SolvedParts } from './memory'
import { programsIn } from './objective'
import type { AllocationItem, AllocationLimit, AllocationLine, AllocationOptions, AllocationResult, AllocationTree } from './problem'

/** Nodes that a page waits for; a component over several programs has far dearer ones, and is settled in the background. */
const NODE_LIMIT = 250
const JOINT_NODE_LIMIT = 12

/**
 * `memory` holds what was solved before; what it holds is not solved again. Limits are looked at last: what is best without them and keeps
 * them is best with them.
 */
export function allocate(items: AllocationItem[], lines: AllocationLine[], tree: AllocationTree,
  options: AllocationOptions = {}, memory = new SolvedParts()): AllocationResult {
  const free = solveParts(items, lines, tree, [], options, memory)
  const limits = options.limits ?? []
  if (limits.length === 0 || keepsLimits(limits, free.uses)) return free
  return solveParts(items, lines, tree, limits, options, memory)
}

function solveParts(items: AllocationItem[], lines: AllocationLine[], tree: AllocationTree, limits: AllocationLimit[],
  { nodeLimit, policy = 'in order', fillsOnly = false }: AllocationOptions, memory: SolvedParts): AllocationResult {
  const uses = items.map(() => -1)
  let proved = true
  let settled = true
  let nodes = 0
  for (const part of findComponents(items, lines, tree, limits)) {
    const solved = memory.solve(part, nodeLimit ?? (programsIn(part).length > 1 ? JOINT_NODE_LIMIT : NODE_LIMIT), policy,
      fillsOnly)
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

/** Whether an answer keeps within all limits. */
export const keepsLimits = (limits: readonly AllocationLimit[], uses: readonly number[]): boolean =>
  limits.every(({ room, terms }) => terms.reduce((sum, { of, size }) => of.every(i => uses[i]! >= 0) ? sum + size : sum, 0) <= room)

/** Credits that a line leaves open at each tier with these uses of it. */
export function lineOpenByTier(line: AllocationLine, used: readonly { item: AllocationItem, index: number }[]): number[] {
  return [0, 1, 2, 3].map((tier) => {
    const filling = used.filter(({ item }) => item.tier <= tier)
    const groups = line.spread ? new Set(filling.map(({ index }) => line.spread!.groupOf[index])).size : Infinity
    return openCredits(line, filling.reduce((sum, { item }) => sum + item.credits, 0), filling.length, groups)
  })
}

export const compareTiers = (a: readonly number[], b: readonly number[]) => a.reduce((decided, value, t) => decided || value - b[t]!, 0)

/**
 * Which branch of a choice is better: the one that leaves less open when everything taken and planned is passed, then the one of which
 * more is met. Else a short branch that nobody began would win over a longer one that is in progress or planned.
 */
export const compareBranches = (a: readonly number[], b: readonly number[]) => a[3]! - b[3]! || compareTiers(a, b)

/** Whether a tree leaves some branch out: what is open at the end is then the first criterion. */
export const hasChoice = (node: AllocationTree): boolean =>
  !('line' in node) && (node.n < node.of.length || node.of.some(hasChoice))

/** Credits left open at each tier by a given assignment; choices take the best branches. */
export function openByTier(items: AllocationItem[], lines: AllocationLine[], tree: AllocationTree,
  uses: readonly number[]): [number, number, number, number] {
  const used = lines.map((): { item: AllocationItem, index: number }[] => [])
  items.forEach((item, index) => used[uses[index]!]?.push({ item, index }))
  const perLine = lines.map((line, l) => lineOpenByTier(line, used[l]!))
  const add = (a: number[], b: number[]) => a.map((value, t) => value + b[t]!)
  const evaluate = (node: AllocationTree): number[] =>
    'line' in node
      ? perLine[node.line]!
      : node.of.map(evaluate).sort(compareBranches).slice(0, node.n).reduce(add, [0, 0, 0, 0])
  return evaluate(tree) as [number, number, number, number]
}
