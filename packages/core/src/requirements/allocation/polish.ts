import type { Branch } from './components'
import { GRAIN, type Relaxation } from './relaxation'

/** How much of the last direction goes on in the next. */
const MOMENTUM = 0.8
/** What the step is cut by after `patience` steps without a better bound. */
const CUT = 0.6
/** How fast the uses of earlier steps fade. */
const FADE = 0.9

/**
 * Improves all prices of a relaxation at once, by steps along the difference between what the lines take and what there is (subgradient
 * method with momentum; step length by the gap to the best known value: Polyak 1969, "Minimization of unsmooth functionals"). Sweeps stop
 * in corners of the dual that such steps leave.
 */
export class Polish {
  /** How often each edge was used lately; of an item the uses fade together. */
  readonly often: Float64Array
  private readonly used: Float64Array
  private readonly direction: Float64Array
  private readonly bestPrices: Float64Array
  private readonly bestMu: Float64Array
  private readonly kept: Uint8Array
  private readonly sets: Int32Array

  constructor(private readonly relaxation: Relaxation) {
    const { layout: { n, m, edges }, groups } = relaxation
    this.often = new Float64Array(edges)
    this.used = new Float64Array(edges)
    this.direction = new Float64Array(n)
    this.bestPrices = new Float64Array(n)
    this.bestMu = new Float64Array(groups.limits.length)
    this.kept = new Uint8Array(m)
    this.sets = new Int32Array(groups.groups.length)
  }

  /** At most so many steps towards `best`; false when the bound leaves nothing better than it. The tables must be built. */
  run(best: number, steps: number, patience: number): boolean {
    const { relaxation: { prices, groups, layout, domain }, direction } = this
    const { relaxation } = this
    let top = relaxation.bound
    this.keep()
    direction.fill(0)
    let reach = 1
    let stale = 0
    groups.freeze(true)
    for (let step = 0; step < steps; step++) {
      if (relaxation.isClosed(best)) {
        groups.freeze(false)
        return false
      }
      this.trace()
      for (let g = 0; g < this.sets.length; g++) this.sets[g] = groups.bestSet(g)
      let norm = 0
      for (let i = 0; i < layout.n; i++) {
        let g = -this.takenOf(i)
        for (let e = layout.itemStart[i]!; e < layout.itemStart[i + 1]!; e++) g += this.used[e]!
        // A price of nothing cannot fall.
        if (domain.rest[i] && g < 0 && prices[i]! <= 0) g = 0
        if (!domain.rest[i] && domain.ways(i) === 1) g = 0
        direction[i] = g + MOMENTUM * direction[i]!
        norm += direction[i]! * direction[i]!
      }
      if (norm === 0) break
      const length = reach * Math.max(GRAIN, best === Infinity ? 1 : best - relaxation.bound) / norm
      for (let i = 0; i < layout.n; i++) {
        if (direction[i] === 0) continue
        const price = Math.round((prices[i]! + length * direction[i]!) / GRAIN) * GRAIN
        prices[i] = domain.rest[i] ? Math.max(0, price) : price
      }
      for (let q = 0; q < groups.limits.length; q++) groups.setBestMu(q, GRAIN)
      relaxation.rebuild()
      if (relaxation.bound > top) {
        top = relaxation.bound
        stale = 0
        this.keep()
      }
      else if (++stale >= patience) {
        reach *= CUT
        stale = 0
        direction.fill(0)
        this.goBack()
      }
    }
    if (relaxation.bound < top) this.goBack()
    groups.freeze(false)
    return !relaxation.isClosed(best)
  }

  /** In what share of the last steps every item was used. */
  shares(): Float64Array {
    const { layout: { n, edgeItem } } = this.relaxation
    const shares = new Float64Array(n)
    this.often.forEach((often, e) => shares[edgeItem[e]!] = Math.min(1, shares[edgeItem[e]!]! + often * (1 - FADE)))
    return shares
  }

  private keep() {
    this.bestPrices.set(this.relaxation.prices)
    this.bestMu.set(this.relaxation.groups.mu)
  }

  private goBack() {
    this.relaxation.prices.set(this.bestPrices)
    this.bestMu.forEach((mu, q) => this.relaxation.groups.setMu(q, mu))
    this.relaxation.rebuild()
  }

  /** Whether the bound takes an item off as used. */
  private takenOf(i: number): number {
    const { prices, groups, domain } = this.relaxation
    const g = groups.of[i]!
    if (g < 0) return prices[i]! > 0 || !domain.rest[i] ? 1 : 0
    return this.sets[g]! >> groups.bit[i]! & 1
  }

  /** What every line takes at these prices, along the cheapest path through its tables. */
  private trace() {
    const { relaxation: { layout, costs, domain, prices, after, choices, choiceOf }, used, kept, often } = this
    for (let l = 0; l < layout.m; l++) kept[l] = choiceOf[l]! < 0 ? 1 : 0
    for (const choice of choices) this.markKept(choice)
    used.fill(0)
    for (let l = 0; l < layout.m; l++) {
      const first = layout.lineStart[l]!
      const states = layout.size[l]!
      let state = 0
      for (let k = first; k < layout.lineStart[l + 1]!; k++) {
        const e = layout.lineEdge[k]!
        if (!domain.edges[e]) continue
        const price = costs.low[e]! + prices[layout.edgeItem[e]!]!
        if (!kept[l]) {
          if (layout.pinned[e] && price < 0) used[e] = 1
          continue
        }
        const to = layout.steps[layout.stepAt[e]! + state]!
        if (to < 0) continue
        const next = layout.tableAt[l]! + (k - first + 1) * states
        const i = layout.edgeItem[e]!
        const isDecided = !domain.rest[i] && domain.ways(i) === 1
        if (isDecided || after[next + to]! + price < after[next + state]!) {
          used[e] = 1
          state = to
        }
      }
    }
    for (let e = 0; e < layout.edges; e++) often[e] = often[e]! * FADE + used[e]!
  }

  private markKept(node: Branch | { line: number }) {
    if ('line' in node) {
      this.kept[node.line] = 1
      return
    }
    if (node.base < 0) {
      for (const child of node.of) this.markKept(child)
      return
    }
    const { relaxation } = this
    const { branches } = relaxation.domain
    let places = node.n
    const open: { child: Branch | { line: number }, cost: number }[] = []
    for (const [c, child] of node.of.entries()) {
      const state = branches[node.base + c]
      if (state === 1) {
        places--
        this.markKept(child)
      }
      else if (state === 0) open.push({ child, cost: relaxation.netCost(child) })
    }
    open.sort((a, b) => a.cost - b.cost)
    for (const { child } of open.slice(0, places)) this.markKept(child)
  }
}
