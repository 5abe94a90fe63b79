import type { Branch } from './components'
import { OpenTables } from './open-tables'
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
 * in corners of the dual that such steps leave. Nothing is struck out meanwhile, so that only what a step changes is worked out again.
 */
export class Polish {
  /** How often each edge was used lately; of an item the uses fade together. */
  readonly often: Float64Array
  private readonly tables: OpenTables
  private readonly direction: Float64Array
  private readonly bestPrices: Float64Array
  private readonly bestMu: Float64Array
  private readonly kept: Uint8Array
  private readonly wasKept: Uint8Array
  /** Lines whose prices changed since they were last traced. */
  private readonly changed: Uint8Array
  private readonly sets: Int32Array
  /** The items whose price may still move: the first `liveCount`. */
  private readonly live: Int32Array
  private liveCount = 0

  constructor(private readonly relaxation: Relaxation) {
    const { layout: { n, m, edges }, groups } = relaxation
    this.often = new Float64Array(edges)
    this.tables = new OpenTables(relaxation)
    this.direction = new Float64Array(n)
    this.bestPrices = new Float64Array(n)
    this.bestMu = new Float64Array(groups.limits.length)
    this.kept = new Uint8Array(m)
    this.wasKept = new Uint8Array(m)
    this.changed = new Uint8Array(m)
    this.sets = new Int32Array(groups.groups.length)
    this.live = new Int32Array(n)
  }

  /**
   * At most so many steps towards `best`; false when the bound leaves nothing better than it. The bound must be up to date before, and the
   * tables are after.
   */
  run(best: number, steps: number, patience: number): boolean {
    const { relaxation, relaxation: { groups } } = this
    if (relaxation.isClosed(best)) return false
    groups.freeze(true)
    this.tables.read()
    this.findLive()
    const done = this.climb(best, steps, patience)
    groups.freeze(false)
    const left = FADE ** done
    const { layout: { edges }, domain } = relaxation
    for (let e = 0; e < edges; e++) if (!domain.edges[e]) this.often[e]! *= left
    relaxation.rebuild()
    return !relaxation.isClosed(best)
  }

  /** The steps themselves; gives how many were made. */
  private climb(best: number, steps: number, patience: number): number {
    const { relaxation, direction } = this
    let top = relaxation.bound
    this.keep()
    this.rebuildAll()
    direction.fill(0)
    let reach = 1
    let stale = 0
    for (let step = 0; step < steps; step++) {
      if (relaxation.isClosed(best)) return step
      this.trace()
      const norm = this.turn()
      if (norm === 0) {
        if (relaxation.bound < top) this.goBack()
        return step + 1
      }
      this.move(reach * Math.max(GRAIN, best === Infinity ? 1 : best - relaxation.bound) / norm)
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
    return steps
  }

  private findLive() {
    const { layout: { n }, domain, prices } = this.relaxation
    this.liveCount = 0
    for (let i = 0; i < n; i++) {
      const ways = domain.ways(i)
      // Decided: used on one line for certain, or out and without a price that could fall.
      if (domain.rest[i] ? ways > 1 || prices[i]! > 0 : ways !== 1) this.live[this.liveCount++] = i
    }
  }

  /** Sets the direction of the next step; gives the square of its length. */
  private turn(): number {
    const { relaxation: { prices, layout: { itemStart }, domain }, direction, tables: { used } } = this
    let norm = 0
    for (let k = 0; k < this.liveCount; k++) {
      const i = this.live[k]!
      let g = -this.takenOf(i)
      for (let e = itemStart[i]!; e < itemStart[i + 1]!; e++) g += used[e]!
      // A price of nothing cannot fall.
      if (domain.rest[i] && g < 0 && prices[i]! <= 0) g = 0
      direction[i] = g + MOMENTUM * direction[i]!
      norm += direction[i]! * direction[i]!
    }
    return norm
  }

  /** Goes so far along the direction, and brings lines, limits and bound up to date with it. */
  private move(length: number) {
    const { relaxation, relaxation: { prices, groups, layout: { m, itemStart, edgeLine }, domain }, direction, changed } = this
    for (let k = 0; k < this.liveCount; k++) {
      const i = this.live[k]!
      if (direction[i] === 0) continue
      const moved = Math.round((prices[i]! + length * direction[i]!) / GRAIN) * GRAIN
      const price = domain.rest[i] ? Math.max(0, moved) : moved
      if (price === prices[i]) continue
      prices[i] = price
      for (let e = itemStart[i]!; e < itemStart[i + 1]!; e++) if (domain.edges[e]) changed[edgeLine[e]!] = 1
      if (groups.of[i]! >= 0) groups.touch(groups.of[i]!)
    }
    for (let q = 0; q < groups.limits.length; q++) if (groups.stale[q]) groups.setBestMu(q, GRAIN)
    for (let l = 0; l < m; l++) if (changed[l]) this.rebuildLine(l)
    relaxation.sum(true)
  }

  private rebuildLine(l: number) {
    const { relaxation } = this
    relaxation.cost[l] = this.tables.build(l)
    relaxation.idle[l] = relaxation.layout.inChoice[l] ? relaxation.idleFrom(l, 0) : 0
  }

  private rebuildAll() {
    const { relaxation, relaxation: { groups, layout: { m } }, changed } = this
    changed.fill(1)
    groups.touchAll()
    for (let l = 0; l < m; l++) this.rebuildLine(l)
    relaxation.sum()
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
    this.rebuildAll()
  }

  /** Whether the bound takes an item off as used. */
  private takenOf(i: number): number {
    const { prices, groups, domain } = this.relaxation
    const g = groups.of[i]!
    if (g < 0) return prices[i]! > 0 || !domain.rest[i] ? 1 : 0
    return this.sets[g]! >> groups.bit[i]! & 1
  }

  /** What every line takes at these prices, and which sets of the groups are taken off. */
  private trace() {
    const { layout: { m }, choices, choiceOf, groups } = this.relaxation
    const { tables, tables: { used, edge, start }, kept, wasKept, changed, often } = this
    wasKept.set(kept)
    for (let l = 0; l < m; l++) kept[l] = choiceOf[l]! < 0 ? 1 : 0
    for (const choice of choices) this.markKept(choice)
    for (let l = 0; l < m; l++) if (changed[l] || kept[l] !== wasKept[l]) tables.trace(l, kept[l] === 1)
    changed.fill(0)
    for (let k = 0; k < start[m]!; k++) {
      const e = edge[k]!
      often[e] = often[e]! * FADE + used[e]!
    }
    for (let g = 0; g < this.sets.length; g++) {
      if (!groups.moved[g]) continue
      this.sets[g] = groups.bestSet(g)
      groups.moved[g] = 0
    }
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
