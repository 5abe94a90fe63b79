import type { Branch } from './components'
import { Groups } from './groups'
import type { Costs, Domain, Layout } from './layout'

/** Where between the second-highest and the highest gain a price is set; found by trial, the middle is nearly as good. */
const LEAN = 0.75
/** Prices are whole 64ths, so that sums of them are exact. */
export const GRAIN = 1 / 64
/** The values of answers are whole: a bound above `best − 1` leaves nothing better. */
export const CLOSE = 1 - 1 / 128

const toGrain = (price: number) => Math.floor(price / GRAIN) * GRAIN

/**
 * The relaxation "every line chooses for itself", with a price λ on each item and a price μ on the room of each limit, over one component.
 *
 * Σ lines' least costs − Σ what groups take off − Σ μ · room is a lower bound for all prices (Lagrangian duality: Fisher 1981, "The
 * Lagrangian relaxation method for solving integer programming problems"). A line's least cost is a dynamic programme over the items that
 * fit it, in order of their tiers, as two tables that meet at every item: `before` is built forwards, `after` backwards. Prices are
 * improved one item at a time, in sweeps along the item order and back, so that the tables of all lines stay up to date (sequential message
 * passing: Kolmogorov 2006, "Convergent tree-reweighted message passing"): a price between the second-highest and the highest gain leaves
 * the item to exactly one line. On the way every use whose own bound reaches the best known value is struck out.
 */
export class Relaxation {
  readonly prices: Float64Array
  readonly groups: Groups
  /** The value of the bound as it stands. */
  bound = -Infinity
  /** Greedy uses found on the way of the last forward sweep: an edge for each item, -1 for none. */
  readonly guess: Int32Array
  readonly before: Float64Array
  readonly after: Float64Array
  readonly cost: Float64Array
  /** Cost of a line that a choice does not keep: what is pinned to it. */
  readonly idle: Float64Array
  /** The outermost choices, the one above each line, and what each costs now. */
  readonly choices: Branch[]
  readonly choiceOf: Int32Array
  private readonly choiceCost: Float64Array
  private readonly groupCost: Float64Array
  private readonly fills: Int32Array
  /** What the lines of one item say: least cost without it, with it, the gain, and the cost of the line when it is idle. */
  private readonly without: Float64Array
  private readonly with: Float64Array
  private readonly gain: Float64Array
  private readonly idleHere: Float64Array
  private readonly scratch: Float64Array

  constructor(readonly layout: Layout, readonly costs: Costs, readonly domain: Domain) {
    const { n, m, part, tableLength, edges } = layout
    this.prices = new Float64Array(n)
    this.groups = new Groups(part.limits, domain, this.prices)
    this.groupCost = new Float64Array(this.groups.groups.length)
    this.guess = new Int32Array(n).fill(-1)
    this.fills = new Int32Array(m)
    this.before = new Float64Array(tableLength)
    this.after = new Float64Array(tableLength)
    this.cost = new Float64Array(m)
    this.idle = new Float64Array(m)
    this.choices = [...new Set(part.paths.flatMap(path => path.slice(0, 1).map(step => step.node)))]
    this.choiceOf = Int32Array.from(part.paths, path => path.length > 0 ? this.choices.indexOf(path[0]!.node) : -1)
    this.choiceCost = new Float64Array(this.choices.length)
    this.without = new Float64Array(edges)
    this.with = new Float64Array(edges)
    this.gain = new Float64Array(edges)
    this.idleHere = new Float64Array(edges)
    this.scratch = new Float64Array(4)
  }

  /** Builds all tables afresh from the prices, backwards. */
  rebuild() {
    for (let l = 0; l < this.layout.m; l++) this.rebuildLine(l)
    this.sum()
  }

  private rebuildLine(l: number) {
    const { layout: { lineStart, lineEdge, size, tableAt, openAt, dueAt, open, inChoice }, costs: { due }, after } = this
    const states = size[l]!
    const count = lineStart[l + 1]! - lineStart[l]!
    const end = tableAt[l]! + count * states
    const weight = due[dueAt[l]! + count]!
    for (let s = 0; s < states; s++) after[end + s] = weight * open[openAt[l]! + s]!
    for (let p = count - 1; p >= 0; p--) this.stepBack(lineEdge[lineStart[l]! + p]!)
    this.cost[l] = after[tableAt[l]!]!
    this.idle[l] = inChoice[l] ? this.idleFrom(l, 0) : 0
  }

  /** The least that a line costs which no choice keeps, from its edge `from` on: what is pinned to it may still stand there. */
  idleFrom(l: number, from: number): number {
    const { layout: { lineStart, lineEdge, pinned, edgeItem }, costs: { low }, domain: { edges }, prices } = this
    let sum = 0
    for (let k = lineStart[l]! + from; k < lineStart[l + 1]!; k++) {
      const e = lineEdge[k]!
      if (pinned[e] && edges[e]) sum += Math.min(0, low[e]! + prices[edgeItem[e]!]!)
    }
    return sum
  }

  /** Whether the item of an allowed edge has this edge as its only way to go. */
  mustUse(e: number): boolean {
    const { domain: { rest, edges }, layout: { edgeItem, itemStart } } = this
    const i = edgeItem[e]!
    if (rest[i]) return false
    for (let other = itemStart[i]!; other < itemStart[i + 1]!; other++) if (other !== e && edges[other]) return false
    return true
  }

  private stepBack(e: number) {
    const { layout: { edgeLine, edgeAt, edgeItem, size, tableAt, openAt, dueAt, open, stepAt, steps }, costs: { low, due }, after } = this
    const l = edgeLine[e]!
    const states = size[l]!
    const p = edgeAt[e]!
    const allowed = this.domain.edges[e] === 1
    const must = allowed && this.mustUse(e)
    const price = low[e]! + this.prices[edgeItem[e]!]!
    const here = tableAt[l]! + p * states
    const next = here + states
    const weight = due[dueAt[l]! + p]!
    const step = stepAt[e]!
    const opens = openAt[l]!
    for (let s = 0; s < states; s++) {
      let best = must ? Infinity : after[next + s]!
      const to = steps[step + s]!
      if (allowed && to >= 0) {
        const taken = after[next + to]! + price
        if (taken < best) best = taken
      }
      after[here + s] = weight === 0 ? best : best + weight * open[opens + s]!
    }
  }

  private stepForward(e: number) {
    const { layout: { edgeLine, edgeAt, edgeItem, size, tableAt, openAt, dueAt, open, stepAt, steps, lineStart },
      costs: { low, due }, before } = this
    const l = edgeLine[e]!
    const states = size[l]!
    const p = edgeAt[e]!
    const allowed = this.domain.edges[e] === 1
    const must = allowed && this.mustUse(e)
    const price = low[e]! + this.prices[edgeItem[e]!]!
    const here = tableAt[l]! + p * states
    const next = here + states
    const step = stepAt[e]!
    if (must) before.fill(Infinity, next, next + states)
    else before.copyWithin(next, here, next)
    if (allowed) {
      for (let s = 0; s < states; s++) {
        const to = steps[step + s]!
        if (to >= 0 && before[here + s]! + price < before[next + to]!) before[next + to] = before[here + s]! + price
      }
    }
    if (p + 1 >= lineStart[l + 1]! - lineStart[l]!) return
    const weight = due[dueAt[l]! + p + 1]!
    if (weight > 0) for (let s = 0; s < states; s++) before[next + s]! += weight * open[openAt[l]! + s]!
  }

  /** Empties the tables that are built forwards. */
  private begin() {
    const { layout: { m, size, tableAt, openAt, dueAt, open, lineStart }, costs: { due }, before } = this
    for (let l = 0; l < m; l++) {
      before.fill(Infinity, tableAt[l]!, tableAt[l]! + size[l]!)
      before[tableAt[l]!] = lineStart[l + 1]! > lineStart[l]! ? due[dueAt[l]!]! * open[openAt[l]!]! : 0
    }
  }

  /** Reads what the line of an edge costs at least without the item and with it, and what the item is worth to it. */
  private listen(e: number) {
    const { layout: { edgeLine, edgeAt, edgeItem, size, tableAt, stepAt, steps, inChoice, pinned }, costs: { low }, before, after } = this
    const l = edgeLine[e]!
    const states = size[l]!
    const here = tableAt[l]! + edgeAt[e]! * states
    const next = here + states
    const step = stepAt[e]!
    let without = Infinity
    let used = Infinity
    for (let s = 0; s < states; s++) {
      const reach = before[here + s]!
      if (reach === Infinity) continue
      const left = reach + after[next + s]!
      if (left < without) without = left
      const to = steps[step + s]!
      if (to >= 0) {
        const taken = reach + after[next + to]!
        if (taken < used) used = taken
      }
    }
    used += low[e]!
    this.without[e] = without
    this.with[e] = used
    if (!inChoice[l]) {
      this.gain[e] = without - used
      this.idleHere[e] = 0
      return
    }
    // In a choice the line counts with at most what dropping it would cost.
    const drop = this.dropCost(l)
    const idle = pinned[e] ? this.idle[l]! - Math.min(0, low[e]! + this.prices[edgeItem[e]!]!) : this.idle[l]!
    this.idleHere[e] = idle
    this.gain[e] = Math.min(without, drop + idle) - Math.min(used, drop + idle + low[e]!)
  }

  /** How much more than when idle a line may cost and still be kept by the choices above it. */
  private dropCost(line: number): number {
    let room = Infinity
    for (const { node, child } of this.layout.part.paths[line]!) {
      if (node.base < 0) {
        for (let c = 0; c < node.of.length; c++) if (c !== child) room -= this.netCost(node.of[c]!)
        continue
      }
      const state = this.domain.branches[node.base + child]
      if (state === 2) return 0
      const costs = node.of.length <= 3 ? this.scratch : new Float64Array(node.of.length)
      let count = 0
      let places = node.n
      for (let c = 0; c < node.of.length; c++) {
        const other = this.domain.branches[node.base + c]
        if (c === child || other === 2) continue
        const net = this.netCost(node.of[c]!)
        if (other === 1) {
          places--
          room -= net
        }
        else count = insert(costs, count, net)
      }
      for (let c = 0; c < places - 1 && c < count; c++) room -= costs[c]!
      if (state !== 1) room = Math.min(places - 1 < count ? costs[places - 1]! : Infinity, room)
    }
    return room
  }

  /** What keeping a branch costs more than leaving it idle. */
  netCost(node: Branch | { line: number }, cost = this.cost, idle = this.idle): number {
    if ('line' in node) return cost[node.line]! - idle[node.line]!
    let sum = 0
    if (node.base < 0) {
      for (const child of node.of) sum += this.netCost(child, cost, idle)
      return sum
    }
    let places = node.n
    let count = 0
    let least = Infinity
    let all = 0
    let most = -Infinity
    const { branches } = this.domain
    for (let c = 0; c < node.of.length; c++) {
      const state = branches[node.base + c]
      if (state === 2) continue
      const net = this.netCost(node.of[c]!, cost, idle)
      if (state === 1) {
        places--
        sum += net
        continue
      }
      count++
      all += net
      if (net < least) least = net
      if (net > most) most = net
    }
    if (places <= 0) return sum
    if (places > count) return Infinity
    if (places === count) return sum + all
    if (places === 1) return sum + least
    if (places === count - 1 && Number.isFinite(most)) return sum + all - most
    const costs: number[] = []
    for (let c = 0; c < node.of.length; c++) if (branches[node.base + c] === 0) costs.push(this.netCost(node.of[c]!, cost, idle))
    costs.sort((a, b) => a - b)
    for (let c = 0; c < places; c++) sum += costs[c]!
    return sum
  }

  /** Adds the bound up from all its parts; of the groups only those that moved are read again where that is said. */
  sum(onlyMoved = false) {
    const { groups, layout: { n, m, inChoice } } = this
    let sum = -groups.rooms()
    for (let c = 0; c < this.choices.length; c++) sum += this.choiceCost[c] = this.netCost(this.choices[c]!)
    for (let g = 0; g < this.groupCost.length; g++) {
      if (!onlyMoved || groups.moved[g]) this.groupCost[g] = groups.value(g)
      sum -= this.groupCost[g]!
    }
    for (let l = 0; l < m; l++) sum += inChoice[l] ? this.idle[l]! : this.cost[l]!
    for (let i = 0; i < n; i++) if (groups.of[i]! < 0) sum -= this.prices[i]!
    this.bound = sum
  }

  /** Gives a line its cost, and the bound what changes by it. */
  private setLine(l: number, cost: number, idle: number) {
    const c = this.choiceOf[l]!
    if (!this.layout.inChoice[l]) {
      this.bound += cost - this.cost[l]!
      this.cost[l] = cost
      return
    }
    this.bound += idle - this.idle[l]! - this.choiceCost[c]!
    this.cost[l] = cost
    this.idle[l] = idle
    this.choiceCost[c] = this.netCost(this.choices[c]!)
    this.bound += this.choiceCost[c]!
  }

  private setPrice(i: number, price: number) {
    const g = this.groups.of[i]!
    if (g < 0) {
      this.bound += this.prices[i]! - price
      this.prices[i] = price
      return
    }
    this.prices[i] = price
    const cost = this.groups.value(g)
    this.bound += this.groupCost[g]! - cost
    this.groupCost[g] = cost
  }

  /** What the group of an item takes off without it, and beside it when it is used; nothing for an item without limits. */
  private beside(i: number): { without: number, with: number } {
    const { groups } = this
    const g = groups.of[i]!
    if (g < 0) return { without: 0, with: 0 }
    const bit = 1 << groups.bit[i]!
    return { without: groups.value(g, 0, bit), with: groups.value(g, bit) - this.prices[i]! }
  }

  /**
   * One sweep over the items. Gives false when the node is done with: its bound leaves nothing better than `best`, or an item has nowhere
   * to go. Forward sweeps need the `after` tables of the last backward sweep, and the reverse.
   */
  sweep(forward: boolean, best: number): boolean {
    const { layout: { n, itemStart } } = this
    if (this.groups.limits.length > 0 && !this.groups.propagate()) return false
    if (forward) {
      this.begin()
      this.fills.fill(0)
    }
    for (let step = 0; step < n; step++) {
      const i = forward ? step : n - 1 - step
      if (!this.visit(i, best)) return false
      for (let e = itemStart[i]!; e < itemStart[i + 1]!; e++) {
        if (forward) this.stepForward(e)
        else this.stepBack(e)
      }
      if (forward) this.guessUse(i)
    }
    for (let q = 0; q < this.groups.limits.length; q++) this.groups.setBestMu(q, GRAIN)
    this.sum()
    return !this.isClosed(best)
  }

  /** Whether the bound leaves nothing better than `best`. */
  isClosed = (best: number): boolean => !(this.bound <= best - CLOSE)

  /** Sets the best price of one item and strikes out its hopeless uses; false when none is left. */
  private visit(i: number, best: number): boolean {
    const { layout: { itemStart }, domain: { edges, rest }, gain } = this
    const [from, end] = [itemStart[i]!, itemStart[i + 1]!]
    let open = 0
    let only = -1
    for (let e = from; e < end; e++) {
      if (!edges[e]) continue
      open++
      only = e
      this.listen(e)
    }
    const free = rest[i] === 1
    if (open === 0) {
      this.setPrice(i, 0)
      return free
    }
    if (!free && open === 1) {
      // Decided: the line's tables hold it, a price would only be paid and refunded.
      if (this.with[only] === Infinity) return false
      this.setPrice(i, 0)
      this.settle(i, only, 0, true)
      return this.groups.of[i]! < 0 || this.groupCost[this.groups.of[i]!]! > -Infinity
    }
    // A line that cannot go without the item keeps it for itself.
    for (let e = from; e < end; e++) {
      if (!edges[e] || this.without[e] !== Infinity) continue
      if (this.with[e] === Infinity) return false
      for (let other = from; other < end; other++) if (other !== e) edges[other] = 0
      rest[i] = 0
      return true
    }
    let first = -Infinity
    let second = -Infinity
    for (let e = from; e < end; e++) {
      if (!edges[e]) continue
      if (gain[e]! > first) {
        second = first
        first = gain[e]!
      }
      else if (gain[e]! > second) second = gain[e]!
    }
    const beside = this.beside(i)
    const floor = beside.without - beside.with
    let price: number
    if (free) price = first <= floor ? Math.max(0, first) : toGrain(Math.max(floor, second, 0) * (1 - LEAN) + first * LEAN)
    else price = Number.isFinite(second) ? toGrain(second + (first - second) * LEAN) : first
    if (!Number.isFinite(price)) price = 0
    this.setPrice(i, price)
    for (let e = from; e < end; e++) if (edges[e]) this.settle(i, e, price, false)
    return this.strike(i, free, best)
  }

  /** Brings a line's cost up to date with the item's price. */
  private settle(i: number, e: number, price: number, must: boolean) {
    const used = this.with[e]! + price
    this.setLine(this.layout.edgeLine[e]!, must ? used : Math.min(this.without[e]!, used),
      this.idleHere[e]! + (this.layout.pinned[e] ? Math.min(0, this.costs.low[e]! + price) : 0))
  }

  /** Strikes out uses of item i whose bound, with the item put there for certain, leaves nothing better. */
  private strike(i: number, free: boolean, best: number): boolean {
    if (best === Infinity) return true
    const { layout: { itemStart, edgeLine }, domain: { edges, rest }, costs: { low } } = this
    const [from, end] = [itemStart[i]!, itemStart[i + 1]!]
    const price = this.prices[i]!
    const g = this.groups.of[i]!
    for (let e = from; e < end; e++) if (edges[e]) this.setLine(edgeLine[e]!, this.without[e]!, this.idleHere[e]!)
    const beside = this.beside(i)
    const base = this.bound + (g < 0 ? price : this.groupCost[g]!)
    const restBound = base - beside.without
    let left = 0
    const struck: number[] = []
    for (let e = from; e < end; e++) {
      if (!edges[e]) continue
      let bound = Infinity
      if (this.with[e]! < Infinity && beside.with > -Infinity) {
        const before = this.bound
        this.setLine(edgeLine[e]!, this.with[e]!, this.idleHere[e]! + low[e]!)
        bound = base + this.bound - before - beside.with
        this.setLine(edgeLine[e]!, this.without[e]!, this.idleHere[e]!)
      }
      if (bound > best - CLOSE) struck.push(e)
      else left++
    }
    for (let e = from; e < end; e++) if (edges[e]) this.settle(i, e, price, false)
    for (const e of struck) edges[e] = 0
    if (free && restBound > best - CLOSE) rest[i] = 0
    return left > 0 || rest[i] === 1
  }

  /** Where a sensible person would put the item, seeing what is filled and the tables of what is to come. */
  private guessUse(i: number) {
    const { layout: { itemStart, edgeLine, edgeAt, size, tableAt, stepAt, steps, inChoice }, costs: { low }, after, fills } = this
    let best = 0
    let chosen = -1
    for (let e = itemStart[i]!; e < itemStart[i + 1]!; e++) {
      if (!this.domain.edges[e]) continue
      const l = edgeLine[e]!
      const to = steps[stepAt[e]! + fills[l]!]!
      if (to < 0) continue
      const next = tableAt[l]! + (edgeAt[e]! + 1) * size[l]!
      let gain = after[next + fills[l]!]! - after[next + to]! - low[e]!
      if (inChoice[l]) gain = Math.min(gain, this.dropCost(l) + this.idle[l]! - this.cost[l]! + gain)
      if (gain > best || (chosen < 0 && !this.domain.rest[i])) {
        best = gain
        chosen = e
      }
    }
    this.guess[i] = chosen
    if (chosen >= 0) fills[edgeLine[chosen]!] = steps[stepAt[chosen]! + fills[edgeLine[chosen]!]!]!
  }
}

/** Puts a value into a short sorted list; gives its new length. */
function insert(list: Float64Array, count: number, value: number): number {
  let at = count
  while (at > 0 && list[at - 1]! > value) {
    list[at] = list[at - 1]!
    at--
  }
  list[at] = value
  return count + 1
}
