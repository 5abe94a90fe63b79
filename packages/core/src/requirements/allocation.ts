/**
 * The best use of courses by requirement lines: an exact search.
 *
 * Every item (course attempt) may fill at most one line it fits. Items come in tiers, firmest first:
 * completed, under way, registered, planned. The objective is, in this order,
 *
 *   1. the least left open by items of tier 0; then by tiers 0–1; then 0–2; then 0–3,
 *   2. the fewest pins broken,
 *   3. the fewest items tied up,
 *   4. the smallest sum of the ranks of the lines used (specific lines first, then in printed order).
 *
 * These are folded into whole numbers, so that "better" is a comparison and nothing is lost to rounding.
 *
 * Method: the rule "an item counts at most once" is relaxed with multipliers λ; what is left falls apart into one
 * small dynamic programme a line, run backwards over the items:
 *
 *   table[k][fill] = least cost of this line from item k on, when items before k have filled it to `fill`
 *
 * Σ table − Σ λ is then a lower bound for *every* partial assignment, not only for the empty one, which makes a
 * depth-first search with the same item order cheap to prune. Equal partial fills are visited once.
 * (Lagrangian relaxation: Fisher 1981, "The Lagrangian relaxation method for solving integer programming problems".)
 */
export interface AllocationItem {
  tier: 0 | 1 | 2 | 3
  credits: number
  /** Indices of the lines it fits. */
  fits: number[]
  pinned?: number
}

export interface AllocationLine {
  /** Needs in credits and in courses; 0 where the line does not ask for it. At least one is positive. */
  credits: number
  courses: number
  /** Credits that one missing course stands for. */
  unit: number
  rank: number
}

/** How lines join into the whole: a line, all of several, or the n best of several. */
export type AllocationTree = { line: number } | { n: number, of: AllocationTree[] }

export interface AllocationResult {
  /** For each item the line it fills, or -1. */
  uses: number[]
  /** Credits left open with items up to each tier. */
  open: [number, number, number, number]
  /** False when the search stopped at its limit: the result is then the best found, with no claim that it is the best. */
  proved: boolean
  nodes: number
}

export interface AllocationOptions {
  /** Partial assignments looked at before giving up the proof, a component. */
  nodeLimit?: number
}

/** What a line still lacks, in credits, at a fill of `credits` and `courses`. */
export function openCredits(line: AllocationLine, credits: number, courses: number): number {
  return Math.max(0, line.credits - credits, (line.courses - courses) * line.unit)
}

export function allocate(items: AllocationItem[], lines: AllocationLine[], tree: AllocationTree, options: AllocationOptions = {}): AllocationResult {
  const uses = fixCertain(items, lines, tree)
  const left = items.map((item, i) => uses[i]! < 0 ? { ...item, fits: item.fits.filter(l => !uses.includes(l)) } : { ...item, fits: [] })
  let proved = true
  let nodes = 0
  for (const part of components(left, lines, tree)) {
    const solved = new ComponentSearch(part, options.nodeLimit ?? 60_000).run()
    proved &&= solved.proved
    nodes += solved.nodes
    part.itemIds.forEach((item, i) => {
      const line = solved.uses[i]!
      uses[item] = line < 0 ? -1 : part.lineIds[line]!
    })
  }
  return { uses, open: openByTier(items, lines, tree, uses), proved, nodes }
}

/**
 * Uses that some best assignment has for certain. When only one item fits a line that is always needed, the item goes there,
 * provided that the line gains at least what any other line could lose by it, and that no other line is preferred by rank or pin:
 * moving the item there from wherever it is then never makes any criterion worse.
 */
function fixCertain(items: AllocationItem[], lines: AllocationLine[], tree: AllocationTree): number[] {
  const uses = items.map(() => -1)
  const always = new Set(linesAlwaysNeeded(tree))
  for (let found = true; found;) {
    found = false
    lines.forEach((line, l) => {
      if (!always.has(l) || uses.includes(l)) return
      const fitting = items.flatMap((item, i) => uses[i]! < 0 && item.fits.includes(l) ? [i] : [])
      if (fitting.length !== 1) return
      const item = items[fitting[0]!]!
      const others = item.fits.filter(other => other !== l && !uses.includes(other))
      const gain = openCredits(line, 0, 0) - openCredits(line, item.credits, 1)
      const certain = gain > 0 && (item.pinned === undefined || item.pinned === l || !others.includes(item.pinned))
        && others.every(other => line.rank < lines[other]!.rank && gain >= Math.max(item.credits, lines[other]!.courses > 0 ? lines[other]!.unit : 0))
      if (certain) {
        uses[fitting[0]!] = l
        found = true
      }
    })
  }
  return uses
}

/** Lines that no choice can leave out. */
function linesAlwaysNeeded(node: AllocationTree): number[] {
  if ('line' in node) return [node.line]
  return node.n === node.of.length ? node.of.flatMap(linesAlwaysNeeded) : []
}

/** Credits left open at each tier by a given assignment; choices take the branches that leave least open, firmest tier first. */
export function openByTier(items: AllocationItem[], lines: AllocationLine[], tree: AllocationTree, uses: number[]): [number, number, number, number] {
  const perLine = lines.map((line, l) => [0, 1, 2, 3].map((tier) => {
    const used = items.filter((item, i) => uses[i] === l && item.tier <= tier)
    return openCredits(line, used.reduce((sum, item) => sum + item.credits, 0), used.length)
  }))
  const add = (a: number[], b: number[]) => a.map((value, t) => value + b[t]!)
  const compare = (a: number[], b: number[]) => a.reduce((decided, value, t) => decided || value - b[t]!, 0)
  const evaluate = (node: AllocationTree): number[] => 'line' in node
    ? perLine[node.line]!
    : node.of.map(evaluate).sort(compare).slice(0, node.n).reduce(add, [0, 0, 0, 0])
  return evaluate(tree) as [number, number, number, number]
}

interface Component {
  items: AllocationItem[]
  lines: AllocationLine[]
  tree: AllocationTree
  itemIds: number[]
  lineIds: number[]
}

/** Splits the problem where no item and no choice ties lines together. */
function components(items: AllocationItem[], lines: AllocationLine[], tree: AllocationTree): Component[] {
  const parent = lines.map((_, l) => l)
  const find = (l: number): number => parent[l] === l ? l : parent[l] = find(parent[l]!)
  const join = (all: number[]) => all.forEach(l => parent[find(l)] = find(all[0]!))
  items.forEach(item => join(item.fits))
  const roots: AllocationTree[] = []
  const collect = (node: AllocationTree) => {
    if (!('line' in node) && node.n === node.of.length) node.of.forEach(collect)
    else {
      roots.push(node)
      join(linesOf(node))
    }
  }
  collect(tree)
  const groups = new Map<number, number[]>()
  lines.forEach((_, l) => groups.set(find(l), [...groups.get(find(l)) ?? [], l]))
  const result: Component[] = []
  for (const [root, lineIds] of groups) {
    const local = new Map(lineIds.map((l, i) => [l, i]))
    const itemIds = items.flatMap((item, i) => item.fits.length > 0 && find(item.fits[0]!) === root ? [i] : [])
    if (itemIds.length === 0) continue
    itemIds.sort((a, b) => items[a]!.tier - items[b]!.tier || items[a]!.fits.length - items[b]!.fits.length || a - b)
    const relabel = (node: AllocationTree): AllocationTree => 'line' in node ? { line: local.get(node.line)! } : { n: node.n, of: node.of.map(relabel) }
    const mine = roots.filter(node => local.has(linesOf(node)[0]!)).map(relabel)
    result.push({
      itemIds, lineIds,
      items: itemIds.map((i) => {
        const { tier, credits, fits, pinned } = items[i]!
        const pin = pinned === undefined ? undefined : local.get(pinned)
        return { tier, credits, fits: fits.map(l => local.get(l)!), ...(pin === undefined ? {} : { pinned: pin }) }
      }),
      lines: lineIds.map(l => lines[l]!),
      tree: { n: mine.length, of: mine },
    })
  }
  return result
}

function linesOf(node: AllocationTree): number[] {
  return 'line' in node ? [node.line] : node.of.flatMap(linesOf)
}

const gcd = (a: number, b: number): number => b === 0 ? a : gcd(b, a % b)

/** Some of the objective's parts folded into one whole number, each weight larger than all that can come below it. */
interface Weights { tier: number[], pin: number, tie: number, rank: number }

/**
 * The whole objective in one number where it stays exact (below 2^53); else in two, one after the other:
 * first the completed and the courses under way, then the rest.
 */
function foldWeights(part: Component, unit: number): Weights[] {
  const need = part.lines.reduce((sum, line) => sum + openCredits(line, 0, 0) / unit, 0)
  const maxRank = Math.max(1, ...part.lines.map(line => line.rank))
  const tie = part.items.length * maxRank + 1
  const pin = tie * (part.items.length + 1)
  const last = pin * (part.items.filter(item => item.pinned !== undefined).length + 1)
  const base = need + 1
  if (last * base ** 4 < Number.MAX_SAFE_INTEGER) return [{ tier: [last * base ** 3, last * base ** 2, last * base, last], pin, tie, rank: 1 }]
  return [{ tier: [base, 1, 0, 0], pin: 0, tie: 0, rank: 0 }, { tier: [0, 0, last * base, last], pin, tie, rank: 1 }]
}

/** One line's fill as a small number, and what each fill leaves open. */
class FillStates {
  readonly count: number
  readonly open: Float64Array
  private readonly width: number
  private readonly maxCredits: number
  private readonly maxCourses: number

  constructor(line: AllocationLine, unit: number) {
    this.maxCredits = Math.ceil(line.credits / unit)
    this.maxCourses = line.courses
    this.width = this.maxCredits + 1
    this.count = this.width * (this.maxCourses + 1)
    this.open = new Float64Array(this.count)
    for (let courses = 0; courses <= this.maxCourses; courses++) {
      for (let credits = 0; credits <= this.maxCredits; credits++) {
        this.open[courses * this.width + credits] = Math.round(openCredits(line, credits * unit, courses) / unit)
      }
    }
  }

  /** The fill after one more course of so many units. */
  after(fill: number, units: number): number {
    const credits = Math.min(this.maxCredits, fill % this.width + units)
    const courses = Math.min(this.maxCourses, Math.floor(fill / this.width) + 1)
    return courses * this.width + credits
  }
}

/** One folded objective over a component: its costs, its multipliers, and the tables that bound it from below. */
class Objective {
  private readonly n: number
  /** Weight of "left open" that falls due on arriving at item k. */
  readonly due: number[]
  /** Cost of putting item i into line l, apart from what is left open. */
  readonly low: number[][]
  private lambda: Float64Array
  private readonly lambdaTail: Float64Array
  private tables: Float64Array[][] = []
  private readonly worth: number[]

  constructor(private readonly part: Component, private readonly weights: Weights, private readonly states: FillStates[], private readonly after: (Int32Array | null)[][], units: number[]) {
    const { items, lines } = part
    this.n = items.length
    this.due = Array.from({ length: this.n + 1 }, (_, k) => [0, 1, 2, 3].reduce((sum, tier) => {
      const end = items.filter(item => item.tier <= tier).length
      return sum + (end === k ? weights.tier[tier]! : 0)
    }, 0))
    this.low = items.map(item => lines.map((line, l) => weights.tie + weights.rank * line.rank - (item.pinned === l ? weights.pin : 0)))
    this.lambda = new Float64Array(this.n)
    this.lambdaTail = new Float64Array(this.n + 1)
    this.worth = items.map((item, i) => units[i]! * weights.tier.slice(item.tier).reduce((a, b) => a + b, 0))
  }

  /** Moves the multipliers towards the largest lower bound; each moves on the scale of its item's own worth. */
  searchMultipliers(steps: number, decay: number, best: number) {
    const { items } = this.part
    const zero = this.states.map(() => 0)
    let bestBound = -Infinity
    let bestLambda = this.lambda
    let size = 0.5
    for (let step = 0; step <= steps; step++) {
      this.buildTables()
      const bound = this.bound(0, zero, zero, 0)
      if (bound > bestBound) {
        bestBound = bound
        bestLambda = this.lambda.slice()
      }
      const used = this.relaxedUses()
      const settled = used.every((count, i) => items[i]!.fits.length < 2 || count === 1 || (count === 0 && this.lambda[i] === 0))
      // A bound that reaches the best known proves it: nothing more can be learned.
      if (settled || bound > best - 0.5) break
      for (let i = 0; i < this.n; i++) {
        if (items[i]!.fits.length > 1) this.lambda[i] = Math.max(0, Math.round(this.lambda[i]! + size * this.worth[i]! * (used[i]! - 1)))
      }
      size *= decay
    }
    this.lambda = bestLambda
    this.buildTables()
  }

  private buildTables() {
    for (let k = this.n - 1; k >= 0; k--) this.lambdaTail[k] = this.lambdaTail[k + 1]! + this.lambda[k]!
    this.tables = this.states.map((states, l) => {
      const rows: Float64Array[] = Array.from({ length: this.n + 1 })
      rows[this.n] = states.open.map(open => open * this.due[this.n]!)
      for (let k = this.n - 1; k >= 0; k--) rows[k] = this.tableRow(states, l, k, rows[k + 1]!)
      return rows
    })
  }

  private tableRow(states: FillStates, l: number, k: number, next: Float64Array): Float64Array {
    const after = this.after[l]![k]!
    const due = this.due[k]!
    if (!after && due === 0) return next
    const price = this.low[k]![l]! + this.lambda[k]!
    const row = new Float64Array(states.count)
    for (let fill = 0; fill < states.count; fill++) {
      const skip = next[fill]!
      const take = after ? next[after[fill]!]! + price : Infinity
      row[fill] = (take < skip ? take : skip) + due * states.open[fill]!
    }
    return row
  }

  /** How often each item is used when every line chooses for itself (only branches that the choice keeps). */
  private relaxedUses(): number[] {
    const used = this.part.items.map(() => 0)
    for (const l of this.keptLines()) {
      const rows = this.tables[l]!
      let fill = 0
      for (let k = 0; k < this.n; k++) {
        const after = this.after[l]![k]
        if (!after) continue
        const next = rows[k + 1]!
        if (next[after[fill]!]! + this.low[k]![l]! + this.lambda[k]! < next[fill]!) {
          used[k]!++
          fill = after[fill]!
        }
      }
    }
    return used
  }

  private keptLines(): number[] {
    const cost = (node: AllocationTree): number => 'line' in node ? this.tables[node.line]![0]![0]! : kept(node).reduce((sum, child) => sum + cost(child), 0)
    const kept = (node: Exclude<AllocationTree, { line: number }>) => [...node.of].sort((a, b) => cost(a) - cost(b)).slice(0, node.n)
    const collect = (node: AllocationTree): number[] => 'line' in node ? [node.line] : kept(node).flatMap(collect)
    return collect(this.part.tree)
  }

  /** Lower bound on the cost of every completion; exact at the last item. */
  bound(k: number, fills: readonly number[], accrued: readonly number[], settled: number): number {
    const { tree } = this.part
    const children = 'line' in tree ? [tree] : tree.of
    let sum = settled - this.lambdaTail[k]!
    for (const child of children) sum += this.nodeBound(child, k, fills, accrued)
    return sum
  }

  private nodeBound(node: AllocationTree, k: number, fills: readonly number[], accrued: readonly number[]): number {
    if ('line' in node) return accrued[node.line]! + this.tables[node.line]![k]![fills[node.line]!]!
    const costs = node.of.map(child => this.nodeBound(child, k, fills, accrued))
    const order = costs.map((_, c) => c).sort((a, b) => costs[a]! - costs[b]!)
    // A branch that is not kept leaves nothing open, but may still hold what is pinned to it.
    return order.reduce((sum, c, position) => sum + (position < node.n ? costs[c]! : -this.weights.pin * this.pinsLeft(node.of[c]!, k)), 0)
  }

  private pinsLeft(node: AllocationTree, from: number): number {
    const lines = linesOf(node)
    return this.part.items.reduce((pins, item, i) => pins + (i >= from && item.pinned !== undefined && lines.includes(item.pinned) ? 1 : 0), 0)
  }
}

/** Costs of a partial assignment under one objective: line by line what fell due, and what items cost apart from that. */
interface Cost { accrued: number[], settled: number }

class ComponentSearch {
  private readonly n: number
  private readonly units: number[]
  private readonly states: FillStates[]
  /** after[l][i][fill], only where item i fits line l. */
  private readonly after: (Int32Array | null)[][]
  private readonly objectives: Objective[]
  private readonly inChoice: boolean[]
  /** The objectives searched so far, the last one is being minimised, the others stay at their optimum. */
  private active: Objective[] = []
  private optima: number[] = []

  private best = Infinity
  private bestUses: number[] = []
  private nodes = 0
  private stopped = false
  private stopAt = 0
  private readonly seen = new Map<string, number>()

  constructor(private readonly part: Component, private readonly nodeLimit: number) {
    const { items, lines, tree } = part
    this.n = items.length
    const unit = [...items.map(item => item.credits), ...lines.flatMap(line => [line.credits, line.courses ? line.unit : 0])].reduce(gcd, 0) || 1
    this.units = items.map(item => item.credits / unit)
    this.states = lines.map(line => new FillStates(line, unit))
    this.after = lines.map((_, l) => items.map((item, i) => {
      if (!item.fits.includes(l)) return null
      const states = this.states[l]!
      return Int32Array.from({ length: states.count }, (__, fill) => states.after(fill, this.units[i]!))
    }))
    this.objectives = foldWeights(part, unit).map(weights => new Objective(part, weights, this.states, this.after, this.units))
    const top = 'line' in tree ? [tree] : tree.of
    this.inChoice = lines.map((_, l) => !top.some(node => 'line' in node && node.line === l))
  }

  run(): { uses: number[], proved: boolean, nodes: number } {
    let proved = true
    for (const objective of this.objectives) {
      this.active.push(objective)
      // The best so far keeps the earlier optima, so it is where the next objective starts from.
      this.best = Infinity
      proved &&= this.minimise(objective)
      if (!proved) break
      this.optima.push(this.best)
    }
    return { uses: this.bestUses, proved, nodes: this.nodes }
  }

  /** Real records are settled by a rough bound; only what is not gets the costly one. */
  private minimise(objective: Objective): boolean {
    for (const { steps, decay, limit } of [{ steps: 25, decay: 0.8, limit: 600 }, { steps: 400, decay: 0.95, limit: this.nodeLimit }]) {
      objective.searchMultipliers(steps, decay, this.best)
      this.seen.clear()
      this.stopped = false
      this.stopAt = this.nodes + Math.min(limit, this.nodeLimit)
      this.descend(0, this.states.map(() => 0), this.active.map(() => ({ accrued: this.states.map(() => 0), settled: 0 })), this.part.items.map(() => -1))
      if (!this.stopped) return true
    }
    return false
  }

  private descend(k: number, fills: number[], costs: Cost[], uses: number[]) {
    if (this.stopped) return
    const last = this.active.length - 1
    if (k === this.n) {
      const cost = this.active[last]!.bound(k, fills, costs[last]!.accrued, costs[last]!.settled)
      if (cost < this.best) {
        this.best = cost
        this.bestUses = [...uses]
      }
      return
    }
    if (++this.nodes > this.stopAt && this.bestUses.length > 0) {
      this.stopped = true
      return
    }
    if (this.visitedBetter(k, fills, costs)) return

    const here = this.active.map((objective, o): Cost => objective.due[k] === 0
      ? costs[o]!
      : { settled: costs[o]!.settled, accrued: costs[o]!.accrued.map((cost, l) => cost + objective.due[k]! * this.states[l]!.open[fills[l]!]!) })
    const options = this.optionsAt(k, fills, here)
    for (const option of options) {
      if (option.bound > this.best - 0.5) return
      const before = option.line < 0 ? 0 : fills[option.line]!
      if (option.line >= 0) fills[option.line] = option.fill
      uses[k] = option.line
      this.descend(k + 1, fills, here.map((cost, o) => option.line < 0 ? cost : { accrued: cost.accrued, settled: cost.settled + this.active[o]!.low[k]![option.line]! }), uses)
      uses[k] = -1
      if (option.line >= 0) fills[option.line] = before
    }
  }

  /** Where item k can go, the most promising first; what would spoil an earlier optimum is left out. */
  private optionsAt(k: number, fills: number[], costs: readonly Cost[]): { line: number, fill: number, bound: number }[] {
    const item = this.part.items[k]!
    const options: { line: number, fill: number, bound: number }[] = []
    const consider = (line: number, fill: number) => {
      const before = line < 0 ? 0 : fills[line]!
      if (line >= 0) fills[line] = fill
      const bounds = this.active.map((objective, o) => objective.bound(k + 1, fills, costs[o]!.accrued, costs[o]!.settled + (line < 0 ? 0 : objective.low[k]![line]!)))
      if (line >= 0) fills[line] = before
      if (this.optima.every((optimum, o) => bounds[o]! < optimum + 0.5)) options.push({ line, fill, bound: bounds.at(-1)! })
    }
    for (const line of item.fits) {
      const fill = this.after[line]![k]![fills[line]!]!
      if (fill !== fills[line] || item.pinned === line) consider(line, fill)
    }
    consider(-1, 0)
    return options.sort((a, b) => a.bound - b.bound || a.line - b.line)
  }

  /** True when the same fills were reached before at no greater cost. */
  private visitedBetter(k: number, fills: readonly number[], costs: readonly Cost[]): boolean {
    let key = `${k}:${fills.join()}`
    let total = 0
    costs.forEach(({ accrued, settled }, o) => {
      total = settled
      for (let l = 0; l < accrued.length; l++) {
        if (this.inChoice[l]) key += `|${accrued[l]}`
        else total += accrued[l]!
      }
      if (o < costs.length - 1) key += `/${total}`
    })
    const before = this.seen.get(key)
    if (before !== undefined && before <= total) return true
    this.seen.set(key, total)
    return false
  }
}
