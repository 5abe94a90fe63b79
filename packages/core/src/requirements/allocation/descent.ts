import type { Domain } from './layout'
import type { Uses } from './local-search'
import { CLOSE, type Relaxation } from './relaxation'

/** How a descent ended: every better assignment was seen, or the budget ran out. */
export type DescentEnd = 'complete' | 'out of budget'

/**
 * Depth-first search in the order of the items, on the tables of a relaxation as they stand. A step costs almost nothing,
 * because placing an item changes the bound only through the lines it fits; equal partial fills are followed once.
 */
export class Descent {
  private readonly n: number
  private readonly fills: Int32Array
  private readonly positions: Int32Array
  /** Cost of each line so far: what fell due, and its uses; and of its uses alone. */
  private readonly spent: Float64Array
  private readonly spentIdle: Float64Array
  private readonly cost: Float64Array
  private readonly idle: Float64Array
  private readonly priceTail: Float64Array
  /** What groups take off once so many of their items came and these of them are used; how far each is, and its set. */
  private readonly tails: Float64Array[][]
  private readonly came: Int32Array
  private readonly usedSets: Int32Array
  private groupSum = 0
  /** Groups of which nothing can come any more that keeps within the limits. */
  private blocked = 0
  /** Items in terms that join more than one group. */
  private readonly loose: number[]
  private readonly left: Float64Array
  private roomSum: number
  private readonly uses: Uses
  private readonly seen = new Map<string, number>()
  private budget = 0
  private best = Infinity
  private onBetter: (uses: Uses) => number = () => 0

  constructor(private readonly relaxation: Relaxation, private readonly domain: Domain) {
    const { layout, groups, cost, prices } = relaxation
    this.n = layout.n
    this.fills = new Int32Array(layout.m)
    this.positions = new Int32Array(layout.m)
    this.spent = new Float64Array(layout.m)
    this.spentIdle = new Float64Array(layout.m)
    this.cost = cost.slice()
    this.idle = relaxation.idle.slice()
    this.priceTail = new Float64Array(this.n + 1)
    for (let i = this.n - 1; i >= 0; i--) this.priceTail[i] = this.priceTail[i + 1]! + (groups.of[i]! < 0 ? prices[i]! : 0)
    this.tails = groups.groups.map((_, g) => groups.tailsOf(g))
    this.came = new Int32Array(this.tails.length)
    this.usedSets = new Int32Array(this.tails.length)
    this.tails.forEach((_, g) => this.addTail(g, 1))
    this.loose = Array.from({ length: this.n }, (_, i) => i)
      .filter(i => groups.termsOf[i]!.some(({ other }) => other >= 0 && groups.of[other] !== groups.of[i]))
    this.left = Float64Array.from(groups.limits, ({ room }) => room)
    this.roomSum = groups.rooms()
    this.uses = new Int32Array(this.n).fill(-1)
  }

  /** Looks for assignments cheaper than `best`; `onBetter` takes each and gives the new best. */
  run(best: number, budget: number, onBetter: (uses: Uses) => number): DescentEnd {
    this.best = best
    this.budget = budget
    this.onBetter = onBetter
    this.step(0)
    return this.budget > 0 ? 'complete' : 'out of budget'
  }

  /** Bound of everything below this point: lines as they stand, less the prices that later items may bring. */
  private bound(k: number): number {
    if (this.blocked > 0) return Infinity
    const { relaxation, cost, idle } = this
    const { inChoice } = relaxation.layout
    let sum = -this.priceTail[k]! - this.groupSum - this.roomSum
    for (let l = 0; l < cost.length; l++) sum += inChoice[l] ? idle[l]! : cost[l]!
    for (const choice of relaxation.choices) sum += relaxation.netCost(choice, cost, idle)
    return sum
  }

  private step(k: number) {
    if (this.budget <= 0) return
    this.budget--
    const { relaxation: { layout, costs: { due, low } } } = this
    if (k === this.n) {
      this.best = this.onBetter(this.uses.slice())
      return
    }
    const [from, end] = [layout.itemStart[k]!, layout.itemStart[k + 1]!]
    const saved: number[] = []
    // The item passes all its lines: what fell due is paid, and first it is in none of them.
    for (let e = from; e < end; e++) {
      const l = layout.edgeLine[e]!
      saved.push(this.positions[l]!, this.fills[l]!, this.spent[l]!, this.spentIdle[l]!, this.cost[l]!, this.idle[l]!)
      this.spent[l]! += due[layout.dueAt[l]! + layout.edgeAt[e]!]! * layout.open[layout.openAt[l]! + this.fills[l]!]!
      this.positions[l] = layout.edgeAt[e]! + 1
      this.setCost(l)
    }
    const options: { edge: number, bound: number }[] = []
    if (this.domain.rest[k]) {
      this.pass(k, false)
      options.push({ edge: -1, bound: this.bound(k + 1) })
      this.unpass(k, false)
    }
    let open = false
    for (let e = from; e < end; e++) open ||= this.domain.edges[e] === 1
    if (open) {
      const fits = this.pass(k, true)
      if (fits) {
        for (let e = from; e < end; e++) {
          if (!this.domain.edges[e]) continue
          const l = layout.edgeLine[e]!
          const fill = this.fills[l]!
          const to = layout.steps[layout.stepAt[e]! + fill]!
          if (to < 0) continue
          this.use(l, to, low[e]!)
          options.push({ edge: e, bound: this.bound(k + 1) })
          this.unuse(l, fill, low[e]!)
        }
      }
      this.unpass(k, true)
    }
    options.sort((a, b) => a.bound - b.bound || a.edge - b.edge)
    for (const { edge, bound } of options) {
      if (bound > this.best - CLOSE) break
      const l = edge < 0 ? -1 : layout.edgeLine[edge]!
      const fill = l < 0 ? 0 : this.fills[l]!
      if (l >= 0) this.use(l, layout.steps[layout.stepAt[edge]! + fill]!, low[edge]!)
      this.pass(k, edge >= 0)
      this.uses[k] = edge
      if (!this.seenBetter(k + 1)) this.step(k + 1)
      this.uses[k] = -1
      this.unpass(k, edge >= 0)
      if (l >= 0) this.unuse(l, fill, low[edge]!)
    }
    for (let e = from, at = 0; e < end; e++, at += 6) {
      const l = layout.edgeLine[e]!
      this.positions[l] = saved[at]!
      this.fills[l] = saved[at + 1]!
      this.spent[l] = saved[at + 2]!
      this.spentIdle[l] = saved[at + 3]!
      this.cost[l] = saved[at + 4]!
      this.idle[l] = saved[at + 5]!
    }
  }

  private setCost(l: number) {
    const { layout, after } = this.relaxation
    this.cost[l] = this.spent[l]! + after[layout.tableAt[l]! + this.positions[l]! * layout.size[l]! + this.fills[l]!]!
    if (layout.inChoice[l]) this.idle[l] = this.spentIdle[l]! + this.relaxation.idleFrom(l, this.positions[l]!)
  }

  private use(l: number, fill: number, low: number) {
    this.fills[l] = fill
    this.spent[l]! += low
    this.spentIdle[l]! += low
    this.setCost(l)
  }

  private unuse(l: number, fill: number, low: number) {
    this.fills[l] = fill
    this.spent[l]! -= low
    this.spentIdle[l]! -= low
    this.setCost(l)
  }

  /** Lets an item of a group come, used or not; false where the limits have no room for it. */
  private pass(k: number, isUsed: boolean): boolean {
    const { groups } = this.relaxation
    const g = groups.of[k]!
    if (g < 0) return true
    this.addTail(g, -1)
    if (isUsed) this.usedSets[g]! |= 1 << groups.bit[k]!
    this.came[g]!++
    this.addTail(g, 1)
    return !isUsed || this.takeRoom(k, 1)
  }

  /** Puts what a group takes off as it stands into the sum, or takes it out. */
  private addTail(g: number, sign: number) {
    const tail = this.tails[g]![this.came[g]!]![this.usedSets[g]!]!
    if (tail === -Infinity) this.blocked += sign
    else this.groupSum += sign * tail
  }

  private unpass(k: number, isUsed: boolean) {
    const { groups } = this.relaxation
    const g = groups.of[k]!
    if (g < 0) return
    this.addTail(g, -1)
    this.came[g]!--
    if (isUsed) {
      this.usedSets[g]! &= ~(1 << groups.bit[k]!)
      this.takeRoom(k, -1)
    }
    this.addTail(g, 1)
  }

  /** Takes the room of the terms that an item completes; whether there was enough. */
  private takeRoom(k: number, sign: number): boolean {
    const { groups } = this.relaxation
    let enough = true
    for (const { limit, size, other } of groups.termsOf[k]!) {
      if (other >= k || (other >= 0 && this.uses[other]! < 0)) continue
      this.left[limit]! -= sign * size
      // A term outside of every group was never in the bound.
      if (other < 0 || groups.of[other] === groups.of[k]) this.roomSum -= sign * groups.mu[limit]! * size
      if (this.left[limit]! < 0) enough = false
    }
    return enough
  }

  /** True when the same fills were reached before at no greater cost. */
  private seenBetter(k: number): boolean {
    // A line that no later item fits is over: only what it came to matters, all that fell due at its end included, and that is in the
    // total.
    // Under a choice it matters kept and idle, because other lines may yet decide which of the two it is.
    const { layout: { lineStart, inChoice }, groups } = this.relaxation
    let key = String.fromCharCode(k)
    let total = 0
    for (let l = 0; l < this.fills.length; l++) {
      const over = this.positions[l]! >= lineStart[l + 1]! - lineStart[l]!
      if (!over && this.fills[l] !== 0) key += String.fromCharCode(l + 1, this.fills[l]!)
      const kept = over ? this.cost[l]! : this.spent[l]!
      const idle = over ? this.idle[l]! : this.spentIdle[l]!
      if (inChoice[l] === 0) total += kept
      else if (kept !== 0 || idle !== 0) key += `|${l}:${kept},${idle}`
    }
    for (const left of this.left) key += `/${left}`
    for (let g = 0; g < this.came.length; g++)
      if (this.came[g]! > 0 && this.came[g]! < groups.groups[g]!.items.length) key += `;${g}:${this.usedSets[g]!}`
    for (const i of this.loose) if (i < k) key += this.uses[i]! >= 0 ? 'u' : '.'
    const before = this.seen.get(key)
    if (before !== undefined && before <= total) return true
    this.seen.set(key, total)
    return false
  }
}
