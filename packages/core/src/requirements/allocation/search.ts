import { solveAlone } from './alone'
import { type Branch, type Component, linesOf, type Prices, type Solved } from './components'
import { Descent } from './descent'
import { costsOf, Domain, Layout } from './layout'
import { LocalSearch, type Uses } from './local-search'
import { foldAll, foldPreferences, foldProgram, foldStage, foldTogether, programOf, programsIn, type Weights } from './objective'
import { Polish } from './polish'
import type { ProgramsPolicy } from './problem'
import { Relaxation } from './relaxation'

/** Double sweeps at the root before polishing. */
const START_SWEEPS = 3
/** Steps of the plain descent tried before polishing, after it at the root, and at every further node. */
const FIRST_DESCENT = 150
const ROOT_DESCENT = 400
const NODE_DESCENT = 100
/** Steps of polishing at the root, from no prices at all, and at every further node; and how long each goes on without success. */
const ROOT_POLISH = [80, 12] as const
const ZERO_POLISH = [400, 25] as const
const NODE_POLISH = [120, 20] as const
/** The same where only the last criteria are left. */
const PREFERENCE_POLISH = [30, 8] as const
/** Nodes spent on the last two criteria (fewest courses, order of lines) once it is proved that no more can be filled. */
const PREFERENCE_NODES = 8
/** They are spent only where the root left at most so many courses between bound and answer: what is further apart never met in them. */
const PREFERENCE_REACH = 12

/**
 * The best uses of one component, in two phases: first fills and pins, where one unit left to gain is all that keeps a node open, so that
 * most cases are proved at the root; then, unless only the fills are wanted, the last criteria among answers that fill as much, for a fixed
 * number of nodes. `filled` is what was found of the same part when only its fills were wanted: it goes on from there.
 */
export function solveComponent(part: Component, nodeLimit: number, policy: ProgramsPolicy = 'in order', fillsOnly = false,
  filled?: Solved): Solved {
  const alone = solveAlone(part)
  if (alone) return alone
  if (policy === 'in sum') return solveTogether(part, foldTogether(part), nodeLimit, fillsOnly, filled)
  const { weights, exact } = foldStage(part, programsIn(part).at(-1)!)
  return exact ? solveTogether(part, weights, nodeLimit, fillsOnly, filled) : solveInOrder(part, nodeLimit, fillsOnly)
}

function solveTogether(part: Component, fills: Weights, nodeLimit: number, fillsOnly: boolean, filled?: Solved): Solved {
  const layout = new Layout(part, fills.quantum)
  const found = filled?.prices
    ? { uses: usesOfLines(layout, filled.uses), complete: filled.proved, nodes: filled.nodes, prices: filled.prices }
    : new PhaseSearch(layout, fills, nodeLimit, true).run(null)
  if (fillsOnly)
    return { uses: linesOfUses(layout, found.uses), proved: found.complete, settled: false, nodes: found.nodes, prices: found.prices }
  const all = foldAll(part, fills)
  // Where all criteria in one number are too large to be summed exactly, the last ones are sought beside the fills that are kept.
  const second = all
    ? new PhaseSearch(layout, all, PREFERENCE_NODES, false)
    : new PhaseSearch(layout, foldPreferences(part), PREFERENCE_NODES, false, [guardOf(part, fills, linesOfUses(layout, found.uses))])
  if (all) second.startFrom(found.prices, scaleOf(part, all) / scaleOf(part, fills))
  const better = second.run(found.uses, found.complete)
  return { uses: linesOfUses(layout, better.uses), proved: found.complete, settled: found.complete && better.complete, nodes: found.nodes }
}

/** What one unit weighs that the last tier of the last program leaves open. */
const scaleOf = (part: Component, { tier }: Weights): number => tier[programsIn(part).at(-1)!]![3]

/** Program after program: the first as if it were alone, every further one as well as the ones before stay filled. */
function solveInOrder(part: Component, nodeLimit: number, fillsOnly: boolean): Solved {
  const programs = programsIn(part)
  const guards: Guard[] = []
  let lines = part.items.map(() => -1)
  let proved = true
  let nodes = 0
  for (const program of programs) {
    const isSoFar = (l: number) => programOf(part.lines[l]!) <= program
    const stage: Component = { ...part, items: part.items.map(item => ({ ...item, fits: item.fits.filter(isSoFar) })) }
    const { weights } = foldStage(part, program)
    const layout = new Layout(stage, weights.quantum)
    const found = new PhaseSearch(layout, weights, nodeLimit, true, guards).run(usesOfLines(layout, lines))
    proved &&= found.complete
    nodes += found.nodes
    lines = linesOfUses(layout, found.uses)
    guards.push(guardOf(part, foldProgram(part, program), lines))
  }
  if (fillsOnly) return { uses: lines, proved, settled: false, nodes }
  const weights = foldPreferences(part)
  const layout = new Layout(part, weights.quantum)
  const better = new PhaseSearch(layout, weights, PREFERENCE_NODES, false, guards).run(usesOfLines(layout, lines), proved)
  return { uses: linesOfUses(layout, better.uses), proved, settled: proved && better.complete, nodes }
}

/** How well a program must stay filled: its value under its own weights is at most so much. */
interface Guard { weights: Weights, most: number }

function guardOf(part: Component, weights: Weights, lines: readonly number[]): Guard {
  const layout = new Layout(part, weights.quantum)
  return { weights, most: new LocalSearch(layout, costsOf(layout, weights)).costOf(usesOfLines(layout, lines)) }
}

const linesOfUses = (layout: Layout, uses: Uses): number[] => [...uses].map(e => e < 0 ? -1 : layout.edgeLine[e]!)

const usesOfLines = ({ n, itemStart, edgeLine }: Layout, lines: readonly number[]): Uses => Int32Array.from({ length: n }, (_, i) => {
  for (let e = itemStart[i]!; e < itemStart[i + 1]!; e++) if (edgeLine[e] === lines[i]) return e
  return -1
})

/** Branch and bound on the bound of `Relaxation`, under some weights; every use that cannot be part of a better answer is struck out. */
class PhaseSearch {
  private readonly part: Component
  private readonly domain: Domain
  private readonly relaxation: Relaxation
  /** Made when the sweeps did not settle it. */
  private polish: Polish | null = null
  private readonly local: LocalSearch
  private twins: number[] = []
  private readonly guards: { local: LocalSearch, most: number }[]
  private best = Infinity
  private bestUses: Uses
  private nodes = 0
  private stopped = false
  private refined = false

  constructor(private readonly layout: Layout, private readonly weights: Weights, private readonly nodeLimit: number,
    private readonly thorough: boolean, guards: readonly Guard[] = []) {
    this.guards = guards.map(guard => ({ local: new LocalSearch(layout, costsOf(layout, guard.weights)), most: guard.most }))
    this.part = layout.part
    const costs = costsOf(layout, weights)
    this.domain = new Domain(layout)
    this.relaxation = new Relaxation(layout, costs, this.domain)
    this.local = new LocalSearch(layout, costs)
    this.bestUses = new Int32Array(layout.n).fill(-1)
    this.best = this.guards.length > 0 ? Infinity : this.local.costOf(this.bestUses)
  }

  /** For each item the one before it that is alike in everything, or -1: they can stand for each other. */
  private findTwins(): number[] {
    const { items, limits } = this.part
    const last = new Map<string, number>()
    return items.map((item, i) => {
      const edges = item.fits.map((l, k) => `${l}.${this.layout.kindOf(this.layout.itemStart[i]! + k)}`)
      // Items that a limit pairs with others are alike to none.
      const terms = limits.map(({ terms: all }) =>
        all.flatMap(({ of, size }) => (of as readonly number[]).includes(i) ? [of.length > 1 ? `${i}:${size}` : size] : []).join())
      const key = [item.tier, item.credits, item.pinned ?? '', item.must ?? '', edges.join(), terms.join(';')].join('|')
      const twin = last.get(key) ?? -1
      last.set(key, i)
      return twin
    })
  }

  /** Takes over the prices of an earlier phase, whose values are so many times smaller. */
  startFrom({ items, limits }: Prices, scale: number) {
    items.forEach((price, i) => this.relaxation.prices[i] = Math.round(price * scale))
    limits.forEach((mu, q) => this.relaxation.groups.setMu(q, mu * scale))
  }

  /** Searches from an answer, if one is known; `deeply` false only makes that answer better. */
  run(start: Uses | null, deeply = true): { uses: Uses, complete: boolean, nodes: number, prices: Prices } {
    if (start) {
      this.accept(start)
      this.refine()
    }
    if (deeply && !this.settleAtRoot()) {
      if (this.thorough || this.best - this.relaxation.bound <= PREFERENCE_REACH * this.weights.tie) this.explore(true)
      else this.stopped = true
    }
    const { prices, groups } = this.relaxation
    return { uses: this.bestUses, complete: deeply && !this.stopped, nodes: this.nodes, prices: { items: prices, limits: groups.mu } }
  }

  /** True when the root itself proves the best answer. */
  private settleAtRoot(): boolean {
    const { relaxation } = this
    relaxation.rebuild()
    if (this.isDone()) return true
    if (!this.sweeps(START_SWEEPS)) return true
    if (this.descend(FIRST_DESCENT)) return true
    if (!this.polishing(ROOT_POLISH)) return true
    if (!this.sweeps(1)) return true
    if (this.descend(ROOT_DESCENT)) return true
    if (!this.thorough) return false
    const kept = { prices: relaxation.prices.slice(), mu: relaxation.groups.mu.slice(), bound: relaxation.bound }
    relaxation.prices.fill(0)
    relaxation.groups.limits.forEach((_, q) => relaxation.groups.setMu(q, 0))
    relaxation.rebuild()
    if (!this.polishing(ZERO_POLISH)) return true
    if (relaxation.bound < kept.bound) {
      relaxation.prices.set(kept.prices)
      kept.mu.forEach((mu, q) => relaxation.groups.setMu(q, mu))
      relaxation.rebuild()
    }
    return !this.sweeps(1)
  }

  private isDone = (): boolean => this.relaxation.isClosed(this.best)

  /** Polishes the bound, and takes what its steps mostly used for an answer; false when nothing better is left. */
  private polishing([steps, patience]: readonly [number, number]): boolean {
    this.polish ??= new Polish(this.relaxation)
    const open = this.polish.run(this.best, steps, patience)
    if (!open) return false
    this.accept(this.local.fromWishes(this.polish.often, 0.5))
    this.refine()
    return !this.isDone()
  }

  /** Sweeps there and back; false when nothing better is left. */
  private sweeps(times: number): boolean {
    const { relaxation } = this
    let before = relaxation.bound
    for (let round = 0; round < times; round++) {
      if (!relaxation.sweep(true, this.best)) return false
      this.accept(relaxation.guess)
      if (!relaxation.sweep(false, this.best)) return false
      if (relaxation.bound <= before) break
      before = relaxation.bound
    }
    this.refine()
    if (this.isDone()) return false
    this.keepCertainBranches()
    return true
  }

  /** A plain descent with a budget; true when it saw everything. */
  private descend(budget: number): boolean {
    const end = new Descent(this.relaxation, this.domain).run(this.best, budget, (uses) => {
      this.accept(uses)
      return this.best
    })
    this.refine()
    return end === 'complete' || this.isDone()
  }

  private explore(atRoot: boolean) {
    if (this.stopped) return
    const { domain, relaxation } = this
    this.nodes++
    if (atRoot) this.twins = this.findTwins()
    else {
      relaxation.rebuild()
      if (this.isDone() || !this.sweeps(1) || !this.polishing(this.thorough ? NODE_POLISH : PREFERENCE_POLISH) || !this.sweeps(1)) return
    }
    const item = this.pickItem()
    if (item < 0) {
      this.accept(this.usesOfDomain())
      return
    }
    // What only makes better descends from a root as it was left.
    if (!(atRoot && !this.thorough) && this.descend(atRoot ? ROOT_DESCENT : NODE_DESCENT)) return
    if (this.nodes >= this.nodeLimit) {
      this.stopped = true
      return
    }
    const kept = { domain: domain.copy(), prices: relaxation.prices.slice(), mu: relaxation.groups.mu.slice() }
    const goBack = () => {
      domain.restore(kept.domain)
      relaxation.prices.set(kept.prices)
      kept.mu.forEach((mu, q) => relaxation.groups.setMu(q, mu))
    }
    const tied = this.pickTied()
    if (tied >= 0) {
      domain.rest[tied] = 0
      this.explore(false)
      goBack()
      domain.edges.fill(0, this.layout.itemStart[tied]!, this.layout.itemStart[tied + 1]!)
      this.explore(false)
      return
    }
    const choice = this.pickBranch()
    if (choice) {
      this.keepBranch(choice.node, choice.child)
      this.explore(false)
      goBack()
      this.dropBranch(choice.node, choice.child)
      this.explore(false)
      return
    }
    const { itemStart, edgeLine } = this.layout
    const options: number[] = domain.rest[item] ? [-1] : []
    for (let e = itemStart[item]!; e < itemStart[item + 1]!; e++) if (domain.edges[e]) options.push(e)
    const guess = relaxation.guess[item]!
    const rank = (e: number) => e < 0 ? Infinity : this.part.lines[edgeLine[e]!]!.rank
    options.sort((a, b) => Number(b === guess) - Number(a === guess) || rank(a) - rank(b))
    const closed: number[] = []
    for (const option of options) {
      goBack()
      this.assign(item, option, closed)
      this.explore(false)
      closed.push(option)
    }
  }

  /**
   * The item whose use a limit leaves in doubt, on whichever line: one of worth, in a limit whose room has a price, that the last steps
   * used about every other time.
   * -1 when none is.
   */
  private pickTied(): number {
    const { domain, relaxation: { prices, groups } } = this
    const share = this.polish!.shares()
    let best = -1
    let most = 0
    for (const [q, { terms }] of groups.limits.entries()) {
      if (groups.mu[q]! <= 0) continue
      for (const { of } of terms) {
        if (of.some(i => domain.isOut(i))) continue
        const open = of.filter(i => !domain.isForced(i))
        if (open.length === 0) continue
        for (const i of open) {
          const doubt = prices[i]! * (0.05 + Math.min(share[i]!, 1 - share[i]!))
          if (doubt <= most) continue
          most = doubt
          best = i
        }
      }
    }
    return best
  }

  /** The open branch whose place in its choice is least certain. */
  private pickBranch(): { node: Branch, child: number } | null {
    let best: { node: Branch, child: number } | null = null
    let least = Infinity
    for (const node of this.part.choices) {
      const { list, places } = this.openBranches(node)
      if (places === 0 || list.length <= places) continue
      const margin = list[places]!.cost - list[places - 1]!.cost
      if (margin < least) {
        least = margin
        best = { node, child: list[places - 1]!.child }
      }
    }
    return best
  }

  private keepBranch(node: Branch, child: number) {
    const { branches } = this.domain
    branches[node.base + child] = 1
    if (node.of.filter((_, c) => branches[node.base + c] === 1).length < node.n) return
    node.of.forEach((_, c) => {
      if (branches[node.base + c] === 0) this.dropBranch(node, c)
    })
  }

  /** A branch left out takes no course but what is pinned to it. */
  private dropBranch(node: Branch, child: number) {
    const { lineStart, lineEdge, pinned } = this.layout
    this.domain.branches[node.base + child] = 2
    for (const l of linesOf(node.of[child]!)) {
      for (let k = lineStart[l]!; k < lineStart[l + 1]!; k++) {
        if (!pinned[lineEdge[k]!] && !this.part.items[this.layout.edgeItem[lineEdge[k]!]!]!.must) this.domain.edges[lineEdge[k]!] = 0
      }
    }
  }

  /**
   * Gives the item one way to go. Ways tried before for the item are closed for its later twins as well: they would be the same answers.
   */
  private assign(item: number, option: number, closed: readonly number[]) {
    const { itemStart } = this.layout
    const { edges, rest } = this.domain
    for (let e = itemStart[item]!; e < itemStart[item + 1]!; e++) edges[e] = e === option ? 1 : 0
    rest[item] = option < 0 ? 1 : 0
    for (let twin = this.twins.indexOf(item); twin >= 0; twin = this.twins.indexOf(twin)) {
      for (const way of closed) {
        if (way < 0) rest[twin] = 0
        else edges[itemStart[twin]! + way - itemStart[item]!] = 0
      }
    }
  }

  /** Branches whose loss alone would reach the best known value are kept for certain. */
  private keepCertainBranches() {
    for (const node of this.part.choices) {
      const open = this.openBranches(node)
      if (open.places === 0 || open.list.length <= open.places) continue
      const margin = open.list[open.places]!.cost - open.list[open.places - 1]!.cost
      if (this.relaxation.bound + margin < this.best - 0.5) continue
      for (const { child } of open.list.slice(0, open.places)) this.keepBranch(node, child)
    }
  }

  /** The branches of a choice that are not decided, cheapest first, and how many of them are yet to be filled. */
  private openBranches(node: Branch): { list: { child: number, cost: number }[], places: number } {
    const { branches } = this.domain
    const list = node.of.flatMap((branch, child) =>
      branches[node.base + child] === 0 ? [{ child, cost: this.relaxation.netCost(branch) }] : [],
    )
    return { list: list.sort((a, b) => a.cost - b.cost), places: node.n - node.of.filter((_, c) => branches[node.base + c] === 1).length }
  }

  /**
   * The undecided item that most depends on: the dearest, for the ways it has. -1 when all are decided. (Found by trial: it proves more
   * cases than the largest regret.)
   */
  private pickItem(): number {
    let best = -1
    let most = -1
    for (let i = 0; i < this.layout.n; i++) {
      const ways = this.domain.ways(i)
      if (ways <= 1) continue
      const weight = Math.abs(this.relaxation.prices[i]!) / ways
      if (weight > most) {
        most = weight
        best = i
      }
    }
    // Twins are decided in order, so that closing what was tried is sound.
    while (best >= 0 && this.twins[best]! >= 0 && this.domain.ways(this.twins[best]!) > 1) best = this.twins[best]!
    return best
  }

  private usesOfDomain(): Uses {
    const { itemStart, n } = this.layout
    return Int32Array.from({ length: n }, (_, i) => {
      for (let e = itemStart[i]!; e < itemStart[i + 1]!; e++) if (this.domain.edges[e]) return e
      return -1
    })
  }

  private isGuarded = (uses: Uses): boolean => this.guards.every(({ local, most }) => local.costOf(uses) <= most)

  private accept(uses: Uses) {
    const cost = this.local.costOf(uses)
    if (cost >= this.best || !this.isGuarded(uses)) return
    this.best = cost
    this.bestUses = uses.slice()
    this.refined = false
  }

  /** Makes the best answer better by small moves. */
  private refine() {
    if (this.refined) return
    this.refined = true
    const better = this.bestUses.slice()
    const cost = this.local.improve(better)
    if (cost >= this.best || !this.isGuarded(better)) return
    this.best = cost
    this.bestUses = better
  }
}
