import { type Branch, type Component, linesOf } from './components'
import { Descent } from './descent'
import { LineStates } from './line-states'
import type { Domain } from './line-tables'
import { foldWeights, type Weights } from './objective'
import { Relaxation } from './relaxation'

/** Sweeps at the root and at every further node; more find better bounds, fewer look at more nodes. */
const START_SWEEPS = 10
const ROOT_SWEEPS = 60
const NODE_SWEEPS = 4
/** Steps of the plain descent tried before a node is split. */
const ROOT_DESCENT = 400
const NODE_DESCENT = 100
/** Nodes spent on the last two criteria (fewest courses, order of lines) once it is proved that no more can be filled. */
const PREFERENCE_NODES = 8

/** Branch and bound over one component, on the bound of `Relaxation`; every use that cannot be part of a better answer is struck out. */
export class ComponentSearch {
  private readonly weights: Weights
  private readonly states: LineStates[]
  private readonly members: number[][]
  private readonly kindOf: Int32Array
  private readonly domain: Domain
  private readonly relaxation: Relaxation
  private readonly twins: number[]
  private best = Infinity
  private bestUses: number[]
  private nodes = 0
  private stopped = false
  private preferenceNodes = 0
  private readonly hasMust: boolean
  private settled = true

  constructor(private readonly part: Component, private readonly nodeLimit: number) {
    const { items, lines } = part
    this.weights = foldWeights(part)
    this.members = lines.map((_, l) => items.flatMap((item, i) => item.fits.includes(l) ? [i] : []))
    this.states = lines.map((line, l) =>
      new LineStates(line, this.members[l]!.map(index => ({ item: items[index]!, index })), this.weights.quantum),
    )
    this.kindOf = new Int32Array(items.length * lines.length).fill(-1)
    this.members.forEach((members, l) => members.forEach((i, p) => this.kindOf[i * lines.length + l] = this.states[l]!.kinds[p]!))
    this.domain = { lines: new Uint8Array(items.length * lines.length), rest: Uint8Array.from(items, item => item.must ? 0 : 1),
      branches: new Uint8Array(part.branches) }
    items.forEach((item, i) => item.fits.forEach(l => this.domain.lines[i * lines.length + l] = 1))
    this.relaxation = new Relaxation(part, this.weights, this.states, this.domain)
    this.twins = this.findTwins()
    this.hasMust = items.some(item => item.must)
    this.bestUses = items.map(() => -1)
    this.best = this.costOf(this.bestUses)
  }

  /** For each item the one before it that is alike in everything, or -1: they can stand for each other. */
  private findTwins(): number[] {
    const { items, lines, limits } = this.part
    const last = new Map<string, number>()
    return items.map((item, i) => {
      const key = [item.tier, item.credits, item.pinned ?? '', item.fits.map(l => `${l}.${this.kindOf[i * lines.length + l]}`).join(),
        limits.map(limit => limit.items.includes(i)).join()].join('|')
      const twin = last.get(key) ?? -1
      last.set(key, i)
      return twin
    })
  }

  /**
   * Two places to start from: no prices, which suits courses in plenty, and every item's full worth, where the bound starts at
   * "everything asked, less everything there is", which is nearly right where courses are scarce. The better of the two goes on.
   * False when one of them settled everything.
   */
  private chooseStart(): boolean {
    const { prices } = this.relaxation
    const { tier, quantum } = this.weights
    const starts = [
      this.part.items.map(() => 0),
      this.part.items.map(item => item.must ? 0 : item.credits / quantum * tier.slice(item.tier).reduce((a, b) => a + b, 0)),
    ]
    let better = { bound: -Infinity, prices: prices.slice() }
    for (const start of starts) {
      prices.set(start)
      if (!this.tighten(START_SWEEPS)) return false
      if (this.relaxation.bound > better.bound) better = { bound: this.relaxation.bound, prices: prices.slice() }
    }
    prices.set(better.prices)
    return true
  }

  run(): { uses: number[], proved: boolean, settled: boolean, nodes: number } {
    if (this.chooseStart()) this.explore(ROOT_SWEEPS)
    return { uses: this.bestUses, proved: !this.stopped, settled: this.settled && !this.stopped, nodes: this.nodes }
  }

  /** Below this cost, more would be filled or fewer pins broken; from it up, only the last two criteria differ. */
  private fillTarget(): number {
    const { tie, rank } = this.weights
    return this.best - this.bestUses.reduce((sum, l) => sum + (l < 0 ? 0 : tie + rank * this.part.lines[l]!.rank), 0)
  }

  private explore(sweeps: number) {
    if (this.stopped) return
    this.nodes++
    const open = this.tighten(sweeps)
    if (!open) return
    if (this.relaxation.bound >= this.fillTarget() - 0.5 && ++this.preferenceNodes > PREFERENCE_NODES) {
      this.settled = false
      return
    }
    const item = this.pickItem()
    if (item < 0) {
      this.accept(this.usesOfDomain())
      return
    }
    const end = new Descent(this.part, this.relaxation, this.domain).run(this.best, this.nodes === 1 ? ROOT_DESCENT : NODE_DESCENT,
      (uses) => {
        this.accept(uses)
        return this.best
      })
    if (end === 'complete') return
    if (this.nodes >= this.nodeLimit) {
      this.stopped = true
      return
    }
    const { lines, rest, branches } = this.domain
    const count = this.part.lines.length
    const kept = { lines: lines.slice(), rest: rest.slice(), branches: branches.slice(), prices: this.relaxation.prices.slice() }
    const goBack = () => {
      lines.set(kept.lines)
      rest.set(kept.rest)
      branches.set(kept.branches)
      this.relaxation.prices.set(kept.prices)
    }
    const choice = this.pickBranch()
    if (choice) {
      this.keepBranch(choice.node, choice.child)
      this.explore(NODE_SWEEPS)
      goBack()
      this.dropBranch(choice.node, choice.child)
      this.explore(NODE_SWEEPS)
      return
    }
    const options = this.part.items[item]!.fits.filter(l => lines[item * count + l])
    const guess = this.relaxation.guess[item]!
    const order = [...(rest[item] ? [-1] : []), ...options].sort((a, b) =>
      Number(b === guess) - Number(a === guess) || this.rankOf(a) - this.rankOf(b),
    )
    const closed: number[] = []
    for (const option of order) {
      goBack()
      this.assign(item, option, closed)
      this.explore(NODE_SWEEPS)
      closed.push(option)
    }
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
    this.domain.branches[node.base + child] = 1
    if (node.of.filter((_, c) => this.domain.branches[node.base + c] === 1).length < node.n) return
    node.of.forEach((_, c) => {
      if (this.domain.branches[node.base + c] === 0) this.dropBranch(node, c)
    })
  }

  /** A branch left out takes no course but what is pinned to it. */
  private dropBranch(node: Branch, child: number) {
    this.domain.branches[node.base + child] = 2
    const count = this.part.lines.length
    for (const l of linesOf(node.of[child]!)) {
      for (const i of this.members[l]!) if (this.part.items[i]!.pinned !== l) this.domain.lines[i * count + l] = 0
    }
  }

  private rankOf = (line: number) => line < 0 ? Infinity : this.part.lines[line]!.rank

  /**
   * Gives the item one way to go. Ways tried before for the item are closed for its later twins as well: they would be the same answers.
   */
  private assign(item: number, option: number, closed: readonly number[]) {
    const count = this.part.lines.length
    for (const l of this.part.items[item]!.fits) this.domain.lines[item * count + l] = l === option ? 1 : 0
    this.domain.rest[item] = option < 0 ? 1 : 0
    for (let twin = this.twins.indexOf(item); twin >= 0; twin = this.twins.indexOf(twin)) {
      for (const way of closed) {
        if (way < 0) this.domain.rest[twin] = 0
        else this.domain.lines[twin * count + way] = 0
      }
    }
  }

  /** Improves the bound until the node is settled (false) or nothing moves any more. */
  private tighten(sweeps: number): boolean {
    const { relaxation } = this
    relaxation.rebuild()
    if (!(relaxation.bound < this.best - 0.5)) return false
    let stale = 0
    let before = relaxation.bound
    for (let round = 0; round < sweeps; round++) {
      if (!relaxation.sweep(true, this.best)) return false
      this.accept([...relaxation.guess])
      if (!relaxation.sweep(false, this.best)) return false
      stale = relaxation.bound > before + Math.abs(this.best - before) * 0.002 ? 0 : stale + 1
      before = Math.max(before, relaxation.bound)
      if (stale >= 4) break
    }
    this.keepCertainBranches()
    return true
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
    const list = node.of.flatMap((branch, child) =>
      this.domain.branches[node.base + child] === 0 ? [{ child, cost: this.relaxation.netCost(branch) }] : [],
    )
    return { list: list.sort((a, b) => a.cost - b.cost),
      places: node.n - node.of.filter((_, c) => this.domain.branches[node.base + c] === 1).length }
  }

  /**
   * The undecided item that most depends on: the dearest, for the ways it has. -1 when all are decided. (Found by trial: it proves more
   * cases than the largest regret.)
   */
  private pickItem(): number {
    let best = -1
    let most = -1
    for (let i = 0; i < this.part.items.length; i++) {
      if (!this.isOpen(i)) continue
      const weight = this.relaxation.prices[i]! / this.ways(i)
      if (weight > most) {
        most = weight
        best = i
      }
    }
    // Twins are decided in order, so that closing what was tried is sound.
    while (best >= 0 && this.twins[best]! >= 0 && this.isOpen(this.twins[best]!)) best = this.twins[best]!
    return best
  }

  private isOpen = (i: number): boolean => this.ways(i) > 1

  private ways(i: number): number {
    const count = this.part.lines.length
    let ways = this.domain.rest[i]!
    for (const l of this.part.items[i]!.fits) ways += this.domain.lines[i * count + l]!
    return ways
  }

  private usesOfDomain(): number[] {
    const count = this.part.lines.length
    return this.part.items.map((item, i) => item.fits.find(l => this.domain.lines[i * count + l]) ?? -1)
  }

  private accept(uses: number[]) {
    const cost = this.costOf(uses)
    if (cost >= this.best) return
    this.best = cost
    this.bestUses = uses
    this.improve([...uses])
  }

  /** The objective of a whole assignment; Infinity where a cap or a limit forbids it. */
  private costOf(uses: readonly number[]): number {
    if (!this.withinLimits(uses)) return Infinity
    const costs = this.part.lines.map((_, l) => this.lineCost(l, uses))
    return costs.includes(BROKEN) ? Infinity : this.treeCost(this.part.tree, costs).kept
  }

  private withinLimits(uses: readonly number[]): boolean {
    if (this.part.limits.length === 0 && !this.hasMust) return true
    if (this.part.items.some((item, i) => item.must && uses[i]! < 0)) return false
    return this.part.limits.every((limit) => {
      const used = limit.items.filter(i => uses[i]! >= 0)
      return used.length <= (limit.courses ?? Infinity)
        && used.reduce((sum, i) => sum + this.part.items[i]!.credits, 0) <= (limit.credits ?? Infinity)
    })
  }

  private treeCost(node: Branch | { line: number }, lines: readonly LineCost[]): LineCost {
    if ('line' in node) return lines[node.line]!
    let idle = 0
    let kept = 0
    if (node.base < 0) {
      for (const child of node.of) {
        const cost = this.treeCost(child, lines)
        idle += cost.idle
        kept += cost.kept
      }
      return { idle, kept }
    }
    const extra = node.of.map((child) => {
      const cost = this.treeCost(child, lines)
      idle += cost.idle
      return cost.kept - cost.idle
    }).sort((a, b) => a - b)
    return { idle, kept: extra.slice(0, node.n).reduce((a, b) => a + b, idle) }
  }

  private lineCost(l: number, uses: readonly number[]): LineCost {
    const { items, lines } = this.part
    const states = this.states[l]!
    const count = lines.length
    let state = 0
    let tier = 0
    let kept = 0
    let idle = 0
    for (const i of this.members[l]!) {
      if (uses[i] !== l) continue
      for (; tier < items[i]!.tier; tier++) kept += this.weights.tier[tier]! * states.open[state]!
      state = states.step[this.kindOf[i * count + l]!]![state]!
      if (state < 0) return BROKEN
      idle += this.weights.tie + this.weights.rank * lines[l]!.rank - (items[i]!.pinned === l ? this.weights.pin : 0)
    }
    for (; tier < 4; tier++) kept += this.weights.tier[tier]! * states.open[state]!
    return { kept: kept + idle, idle }
  }

  /** Local search: one item moved, or moved with one other pushed out of the line it enters, as long as that helps. */
  private improve(uses: number[]) {
    const { choices, choiceOf } = this.relaxation
    const costs = this.part.lines.map((_, l) => this.lineCost(l, uses))
    const choiceCosts = choices.map(choice => this.treeCost(choice, costs).kept)
    let cost = this.withinLimits(uses) ? this.treeCost(this.part.tree, costs).kept : Infinity
    /** Puts items elsewhere if that is cheaper; else leaves everything as it was. Only what the moves touch is counted again. */
    const attempt = (moves: { i: number, to: number }[]): boolean => {
      const old = moves.map(({ i }) => uses[i]!)
      const touched: number[] = []
      for (const l of [...old, ...moves.map(({ to }) => to)]) if (l >= 0 && !touched.includes(l)) touched.push(l)
      const before = touched.map(l => costs[l]!)
      for (const { i, to } of moves) uses[i] = to
      let now = cost
      const touchedChoices: { c: number, kept: number }[] = []
      let broken = false
      for (const l of touched) {
        const fresh = this.lineCost(l, uses)
        broken ||= fresh === BROKEN
        if (choiceOf[l]! < 0) now += fresh.kept - costs[l]!.kept
        else if (!touchedChoices.some(({ c }) => c === choiceOf[l]))
          touchedChoices.push({ c: choiceOf[l]!, kept: choiceCosts[choiceOf[l]!]! })
        costs[l] = fresh
      }
      for (const { c, kept } of touchedChoices) {
        choiceCosts[c] = this.treeCost(choices[c]!, costs).kept
        now += choiceCosts[c]! - kept
      }
      if (Number.isNaN(now) || cost === Infinity) now = this.treeCost(this.part.tree, costs).kept
      if (!broken && now < cost && this.withinLimits(uses)) {
        cost = now
        return true
      }
      moves.forEach(({ i }, m) => uses[i] = old[m]!)
      touched.forEach((l, t) => costs[l] = before[t]!)
      for (const { c, kept } of touchedChoices) choiceCosts[c] = kept
      return false
    }
    for (let better = true; better;) {
      better = false
      for (let i = 0; i < uses.length; i++) {
        for (const to of [...this.part.items[i]!.fits, -1]) {
          if (to !== uses[i] && (attempt([{ i, to }]) || this.pushOut(uses, i, to, attempt))) better = true
        }
      }
    }
    if (cost < this.best) {
      this.best = cost
      this.bestUses = [...uses]
    }
  }

  private pushOut(uses: readonly number[], i: number, to: number, attempt: (moves: { i: number, to: number }[]) => boolean): boolean {
    if (to < 0) return false
    for (const j of this.members[to]!) {
      if (uses[j] !== to || j === i) continue
      for (const elsewhere of [...this.part.items[j]!.fits, -1]) {
        if (elsewhere !== to && attempt([{ i, to }, { i: j, to: elsewhere }])) return true
      }
    }
    return false
  }
}

/** Cost of a line or branch when a choice keeps it, and when not. */
interface LineCost {
  kept: number
  idle: number
}
/** The uses of a line break one of its caps: they cannot be, whether a choice keeps the line or not. */
const BROKEN: LineCost = { kept: Infinity, idle: Infinity }
