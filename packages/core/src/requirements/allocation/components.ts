import type { AllocationItem, AllocationLimit, AllocationLine, AllocationTree, LimitTerm } from './problem'

/** A node of the tree; `base + c` numbers the branches of a choice, -1 where all are needed. */
export interface Branch {
  n: number
  of: (Branch | { line: number })[]
  base: number
}

/** A part of the problem that no item, choice or limit ties to the rest; numbered from 0 on its own. */
export interface Component {
  items: AllocationItem[]
  lines: AllocationLine[]
  tree: Branch
  limits: AllocationLimit[]
  /** Lines under a choice that may leave them out. */
  choiceLines: Set<number>
  /** For each line the nodes above it that a choice depends on, from the outermost choice, each with the child that leads to the line. */
  paths: { node: Branch, child: number }[][]
  /** Choices that may leave branches out; a branch by its number. */
  choices: Branch[]
  branches: number
  /** Programs that contain a choice, here or in another part of the problem: see the objective in `problem.ts`. */
  choosing: ReadonlySet<number>
  /** Numbers in the whole problem. */
  itemIds: number[]
  lineIds: number[]
}

/** What is known of a part once it was solved. */
export interface Solved {
  /** For each item the line it fills, or -1. */
  uses: number[]
  proved: boolean
  settled: boolean
  nodes: number
  /** Where only the fills were sought: what seeking the rest begins with. */
  prices?: Prices
}

/** What the bound paid for each item, and for the room of each limit, when a search ended. */
export interface Prices { items: Float64Array, limits: Float64Array }

export function linesOf(node: AllocationTree | Branch): number[] {
  return 'line' in node ? [node.line] : node.of.flatMap(linesOf)
}

/** Splits the problem where no item, no choice and no limit ties lines together. */
export function findComponents(items: AllocationItem[], lines: AllocationLine[], tree: AllocationTree,
  limits: AllocationLimit[]): Component[] {
  const parent = lines.map((_, l) => l)
  const find = (l: number): number => parent[l] === l ? l : parent[l] = find(parent[l]!)
  const join = (all: readonly number[]) => all.forEach(l => parent[find(l)] = find(all[0]!))
  items.forEach(item => join(item.fits))
  // A limit that everything together keeps within ties nothing.
  const binding = limits.filter(({ room, terms }) =>
    terms.reduce((sum, { of, size }) => of.every(i => items[i]!.fits.length > 0) ? sum + size : sum, 0) > room)
  binding.forEach(limit => join(limit.terms.flatMap(({ of }) => of.flatMap(i => items[i]!.fits))))
  const roots: AllocationTree[] = []
  const choosing = new Set<number>()
  const collect = (node: AllocationTree) => {
    if (!('line' in node) && node.n === node.of.length) node.of.forEach(collect)
    else {
      roots.push(node)
      join(linesOf(node))
      if (!('line' in node)) linesOf(node).forEach(l => choosing.add(lines[l]!.program ?? 0))
    }
  }
  collect(tree)
  const groups = new Map<number, Members>()
  lines.forEach((_, l) => {
    const group = groups.get(find(l))
    if (group) group.lineIds.push(l)
    else groups.set(find(l), { lineIds: [l], itemIds: [], roots: [] })
  })
  items.forEach((item, i) => item.fits.length > 0 && groups.get(find(item.fits[0]!))!.itemIds.push(i))
  roots.forEach(node => groups.get(find(linesOf(node)[0]!))!.roots.push(node))
  return [...groups.values()].flatMap(group => group.itemIds.length > 0 ? [makeComponent(group, items, lines, binding, choosing)] : [])
}

interface Members { itemIds: number[], lineIds: number[], roots: AllocationTree[] }

function makeComponent({ itemIds, lineIds, roots }: Members, items: AllocationItem[], lines: AllocationLine[],
  limits: AllocationLimit[], choosing: ReadonlySet<number>): Component {
  const lineOf = new Map(lineIds.map((l, i) => [l, i]))
  // The tables need items in order of tier; alike items stand together, so that their prices are found together.
  const alike = new Map(itemIds.map(i => [i, `${items[i]!.fits.length}`.padStart(3, '0') + items[i]!.fits.join() + items[i]!.credits]))
  const inOrder = (a: string, b: string) => a < b ? -1 : a > b ? 1 : 0
  itemIds.sort((a, b) => items[a]!.tier - items[b]!.tier || inOrder(alike.get(a)!, alike.get(b)!) || a - b)
  const itemOf = new Map(itemIds.map((i, k) => [i, k]))
  const choices: Branch[] = []
  let branches = 0
  const relabel = (node: AllocationTree): Branch | { line: number } => {
    if ('line' in node) return { line: lineOf.get(node.line)! }
    const made: Branch = { n: node.n, of: node.of.map(relabel), base: -1 }
    if (node.n < node.of.length) {
      made.base = branches
      branches += node.of.length
      choices.push(made)
    }
    return made
  }
  const mine = roots.map(relabel)
  const tree: Branch = { n: mine.length, of: mine, base: -1 }
  const paths: Component['paths'] = lineIds.map(() => [])
  const choiceLines = new Set<number>()
  const walk = (node: Branch | { line: number }, path: { node: Branch, child: number }[], inChoice: boolean) => {
    if ('line' in node) {
      paths[node.line] = path
      if (inChoice) choiceLines.add(node.line)
    }
    else {
      const chosen = inChoice || node.n < node.of.length
      node.of.forEach((child, c) => walk(child, chosen ? [...path, { node, child: c }] : [], chosen))
    }
  }
  walk(tree, [], false)
  const local = (list: number[]) => list.flatMap(i => itemOf.get(i) ?? [])
  return {
    itemIds,
    lineIds,
    tree,
    paths,
    choiceLines,
    choices,
    branches,
    choosing,
    limits: limits.flatMap(({ room, terms }) => {
      const mine = terms.filter(({ of }) => of.every(i => itemOf.has(i)))
        .map(({ of, size }): LimitTerm => ({ of: of.map(i => itemOf.get(i)!) as [number] | [number, number], size }))
      return mine.length > 0 ? [{ room: reachable(room, mine), terms: mine }] : []
    }),
    items: itemIds.map((i) => {
      const { tier, credits, fits, pinned, must } = items[i]!
      const pin = pinned === undefined ? undefined : lineOf.get(pinned)
      return { tier, credits, fits: fits.map(l => lineOf.get(l)!), ...(pin === undefined ? {} : { pinned: pin }),
        ...(must ? { must } : {}) }
    }),
    lines: lineIds.map(l => ({
      ...lines[l]!,
      ...(lines[l]!.caps ? { caps: lines[l]!.caps!.map(cap => ({ ...cap, items: local(cap.items) })) } : {}),
      ...(lines[l]!.spread
        ? { spread: { n: lines[l]!.spread!.n, groupOf: renumbered(itemIds.map(i => lines[l]!.spread!.groupOf[i]!)) } }
        : {}),
    })),
  }
}

/** The most of a room that the sizes can fill exactly: with courses of three credits, six of seven. */
function reachable(room: number, terms: readonly LimitTerm[]): number {
  let sums = new Set([0])
  for (const { size } of terms) {
    sums = new Set([...sums].flatMap(sum => sum + size <= room ? [sum, sum + size] : [sum]))
    if (sums.has(room) || sums.size > 2000) return room
  }
  return Math.max(...sums)
}

/** The same groups, numbered in the order in which they come. */
function renumbered(groups: readonly number[]): number[] {
  const order = [...new Set(groups)]
  return groups.map(group => order.indexOf(group))
}
