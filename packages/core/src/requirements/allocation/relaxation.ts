import type { Branch, Component } from './components'
import type { LineStates } from './line-states'
import { type Domain, type LineTable, LineTables } from './line-tables'
import type { Weights } from './objective'

/** Where between the second-highest and the highest gain a price is set; found by trial, the middle is nearly as good. */
const LEAN = 0.75

/** What one line says about one item: its least cost without it and with it, and the cost at which a choice drops the line. */
interface Voice {
  line: number
  without: number
  with: number
  gain: number
  idle: number
  low: number
}

/**
 * The relaxation "every line chooses for itself", with a price λ on each item, over one component.
 *
 * Σ lines' least costs − Σ prices is a lower bound for every prices ≥ 0 (Lagrangian duality: Fisher 1981, "The Lagrangian relaxation
 * method for solving integer programming problems"). The prices are improved one item at a time, in sweeps along the item order
 * and back, so that the tables of all lines stay up to date (sequential message passing: Kolmogorov 2006, "Convergent tree-reweighted
 * message passing"): a price between the second-highest and the highest gain leaves the item to exactly one line.
 * On the way every use whose own bound reaches the best known value is struck out.
 */
export class Relaxation {
  readonly prices: Float64Array
  /** The value of the bound as it stands. */
  bound = -Infinity
  /** Greedy uses found on the way of the last forward sweep. */
  readonly guess: Int32Array
  private readonly n: number
  private readonly count: number
  readonly lines: LineTables
  readonly tables: readonly LineTable[]
  readonly position: Int32Array
  private readonly cost: Float64Array
  /** Cost of a line that a choice does not keep: what is pinned to it. */
  private readonly idle: Float64Array
  readonly inChoice: Uint8Array
  readonly limitOf: Int32Array
  /** The outermost choice above each line, and what it costs now. */
  readonly choices: Branch[]
  readonly choiceOf: Int32Array
  private readonly choiceCost: Float64Array
  private limitSum = 0

  constructor(private readonly part: Component, weights: Weights, states: LineStates[], private readonly domain: Domain) {
    this.n = part.items.length
    this.count = part.lines.length
    this.lines = new LineTables(part, weights, states, domain)
    this.prices = this.lines.prices
    this.tables = this.lines.tables
    this.position = this.lines.position
    this.guess = new Int32Array(this.n).fill(-1)
    this.cost = new Float64Array(this.count)
    this.idle = new Float64Array(this.count)
    this.limitOf = new Int32Array(this.n).fill(-1)
    part.limits.forEach((limit, q) =>
      limit.items.forEach((i) => {
        if (this.limitOf[i]! < 0) this.limitOf[i] = q
      }),
    )
    this.inChoice = Uint8Array.from(part.lines, (_, l) => part.choiceLines.has(l) ? 1 : 0)
    this.choices = [...new Set(part.paths.flatMap(path => path.slice(0, 1).map(step => step.node)))]
    this.choiceOf = Int32Array.from(part.paths, path => path.length > 0 ? this.choices.indexOf(path[0]!.node) : -1)
    this.choiceCost = new Float64Array(this.choices.length)
  }

  /** Builds all tables afresh from the prices, backwards. */
  rebuild() {
    for (let l = 0; l < this.count; l++) {
      this.lines.rebuild(l)
      this.cost[l] = this.tables[l]!.after[0]!
      this.idle[l] = this.lines.idleFrom(l, 0)
    }
    this.bound = this.total()
  }

  private voice(l: number, i: number): Voice {
    const { low: lows, pinned } = this.tables[l]!
    const p = this.position[i * this.count + l]!
    const low = lows[p]!
    const { without, with: used } = this.lines.leastCosts(l, i)
    if (!this.inChoice[l]) return { line: l, without, with: used, gain: without - used, idle: 0, low }
    // In a choice the line counts with at most what dropping it would cost.
    const drop = this.dropCost(l)
    const idle = pinned[p] ? this.idle[l]! - Math.min(0, low + this.prices[i]!) : this.idle[l]!
    const gain = Math.min(without, drop + idle) - Math.min(used, drop + idle + low)
    return { line: l, without, with: used, gain, idle, low }
  }

  /** How much more than when idle a line may cost and still be kept by the choices above it. */
  private dropCost(line: number): number {
    let room = Infinity
    for (const { node, child } of this.part.paths[line]!) {
      if (node.base < 0) {
        for (let c = 0; c < node.of.length; c++) if (c !== child) room -= this.netCost(node.of[c]!)
        continue
      }
      const state = this.domain.branches[node.base + child]
      if (state === 2) return 0
      const costs: number[] = []
      let places = node.n
      for (let c = 0; c < node.of.length; c++) {
        const other = this.domain.branches[node.base + c]
        if (c === child || other === 2) continue
        if (other === 1) {
          places--
          room -= this.netCost(node.of[c]!)
        }
        else costs.push(this.netCost(node.of[c]!))
      }
      if (costs.length > 1) costs.sort((x, y) => x - y)
      for (let c = 0; c < places - 1; c++) room -= costs[c] ?? 0
      if (state !== 1) room = Math.min(costs[places - 1] ?? Infinity, room)
    }
    return room
  }

  /** What keeping a branch costs more than leaving it idle. */
  netCost(node: Branch | { line: number }): number {
    return this.netCostWith(node, this.cost, this.idle)
  }

  netCostWith(node: Branch | { line: number }, cost: Float64Array, idle: Float64Array): number {
    if ('line' in node) return cost[node.line]! - idle[node.line]!
    let sum = 0
    if (node.base < 0) {
      for (const child of node.of) sum += this.netCostWith(child, cost, idle)
      return sum
    }
    const costs: number[] = []
    let places = node.n
    for (let c = 0; c < node.of.length; c++) {
      const state = this.domain.branches[node.base + c]
      if (state === 2) continue
      const net = this.netCostWith(node.of[c]!, cost, idle)
      if (state === 1) {
        places--
        sum += net
      }
      else costs.push(net)
    }
    if (costs.length > 1) costs.sort((a, b) => a - b)
    for (let c = 0; c < places; c++) sum += costs[c] ?? Infinity
    return sum
  }

  /** The bound from all its parts. */
  private total(): number {
    this.choices.forEach((choice, c) => this.choiceCost[c] = this.netCost(choice))
    this.limitSum = this.part.limits.reduce((sum, _, q) => sum + this.limitValue(q), 0)
    let sum = -this.limitSum
    for (let l = 0; l < this.count; l++) sum += this.inChoice[l] ? this.idle[l]! : this.cost[l]!
    for (const cost of this.choiceCost) sum += cost
    for (let i = 0; i < this.n; i++) if (this.limitOf[i]! < 0) sum -= this.prices[i]!
    return sum
  }

  /** Gives a line its cost, and the bound what changes by it. */
  private setLine(l: number, cost: number, idle: number) {
    if (!this.inChoice[l]) {
      this.bound += cost - this.cost[l]!
      this.cost[l] = cost
      return
    }
    const c = this.choiceOf[l]!
    this.bound += idle - this.idle[l]! - this.choiceCost[c]!
    this.cost[l] = cost
    this.idle[l] = idle
    this.choiceCost[c] = this.netCost(this.choices[c]!)
    this.bound += this.choiceCost[c]!
  }

  private setPrice(i: number, price: number) {
    const before = this.prices[i]!
    this.prices[i] = price
    if (this.limitOf[i]! < 0) this.bound += before - price
    else {
      const sum = this.part.limits.reduce((total, _, q) => total + this.limitValue(q), 0)
      this.bound += this.limitSum - sum
      this.limitSum = sum
    }
  }

  /** The most that the prices of a limit's items can bring within the limit; items whole by courses, in parts by credits. */
  limitValue(q: number, from = 0): number {
    const limit = this.part.limits[q]!
    const mine = limit.items.filter(i => i >= from && this.limitOf[i] === q && this.prices[i]! !== 0)
    // A negative price belongs to an item that must be used: it is paid in any case.
    const owed = mine.filter(i => this.prices[i]! < 0).reduce((sum, i) => sum + this.prices[i]!, 0)
    const gaining = mine.filter(i => this.prices[i]! > 0)
    if (limit.courses !== undefined) {
      return owed + gaining.map(i => this.prices[i]!).sort((a, b) => b - a).slice(0, limit.courses).reduce((a, b) => a + b, 0)
    }
    let left = limit.credits ?? Infinity
    let sum = owed
    for (const i of gaining.sort((a, b) => this.prices[b]! / this.part.items[b]!.credits - this.prices[a]! / this.part.items[a]!.credits)) {
      const share = Math.min(1, left / this.part.items[i]!.credits)
      sum += Math.ceil(this.prices[i]! * share)
      left -= this.part.items[i]!.credits * share
      if (left <= 0) break
    }
    return sum
  }

  /** The price at which a limit lets go of one of its items, seen from item i. */
  private limitPrice(i: number): number {
    const q = this.limitOf[i]!
    const { courses, items } = this.part.limits[q]!
    if (courses === undefined) return 0
    if (courses === 0) return Infinity
    const others = items.filter(other => other !== i && this.limitOf[other] === q).map(other => this.prices[other]!).sort((a, b) => b - a)
    return Math.max(0, others[courses - 1] ?? 0)
  }

  /**
   * One sweep over the items. Gives false when the node is done with: its bound reaches `target`, or an item has nowhere to go.
   * Forward sweeps need the `after` tables of the last backward sweep, and the reverse.
   */
  sweep(forward: boolean, target: number): boolean {
    const fills = forward ? new Int32Array(this.count) : null
    if (forward) this.lines.begin()
    for (let step = 0; step < this.n; step++) {
      const i = forward ? step : this.n - 1 - step
      if (!this.visit(i, target)) return false
      for (const l of this.part.items[i]!.fits) {
        const p = this.position[i * this.count + l]!
        if (forward) this.lines.stepForward(l, p)
        else this.lines.stepBack(l, p)
      }
      if (fills) this.guessUse(i, fills)
    }
    this.bound = this.total()
    return this.bound < target - 0.5
  }

  private readonly voices: Voice[] = []

  /** Sets the best price of one item and strikes out its hopeless uses; false when none is left. */
  private visit(i: number, target: number): boolean {
    const { fits } = this.part.items[i]!
    const voices = this.voices
    voices.length = 0
    let open = 0
    for (const l of fits) {
      if (!this.lines.allowed(i, l)) continue
      open++
      voices.push(this.voice(l, i))
    }
    const free = this.domain.rest[i] === 1
    if (open === 0) {
      this.setPrice(i, 0)
      return free
    }
    if (!free && open === 1) {
      // Decided: the line's tables hold it, a price would only be paid and refunded.
      if (voices[0]!.with === Infinity) return false
      this.setPrice(i, 0)
      this.settle(i, voices[0]!, 0, true)
      return true
    }
    // A line that cannot go without the item keeps it for itself.
    const bound = voices.find(voice => voice.without === Infinity)
    if (bound) {
      if (bound.with === Infinity) return false
      for (const { line } of voices) if (line !== bound.line) this.domain.lines[i * this.count + line] = 0
      this.domain.rest[i] = 0
      return true
    }
    let first = -Infinity
    let second = -Infinity
    for (const { gain } of voices) {
      if (gain > first) {
        second = first
        first = gain
      }
      else if (gain > second) second = gain
    }
    if (!Number.isFinite(first) && first < 0) first = -Infinity
    const floor = this.limitOf[i]! >= 0 ? this.limitPrice(i) : 0
    let price: number
    if (free) {
      const low = Math.max(floor, second, 0)
      price = first <= floor ? Math.max(0, first) : Math.floor(low + (first - low) * LEAN)
    }
    else price = Number.isFinite(second)
      ? Math.floor(second + (first - second) * LEAN)
      : second === -Infinity && Number.isFinite(first)
        ? first
        : 0
    if (!Number.isFinite(price)) price = 0
    this.setPrice(i, price)
    for (const voice of voices) this.settle(i, voice, price, false)
    if (this.limitOf[i]! < 0) return this.strike(i, voices, free, target)
    return true
  }

  /** Brings a line's cost up to date with the item's price. */
  private settle(i: number, { line, without, with: used, idle, low }: Voice, price: number, must: boolean) {
    this.setLine(line, must ? used + price : Math.min(without, used + price),
      idle + (this.part.items[i]!.pinned === line ? Math.min(0, low + price) : 0))
  }

  /** Strikes out uses of item i whose bound, with the item put there for certain, reaches the target. */
  private strike(i: number, voices: readonly Voice[], free: boolean, target: number): boolean {
    if (target === Infinity) return true
    const { pinned } = this.part.items[i]!
    const price = this.prices[i]!
    for (const { line, without, idle } of voices) this.setLine(line, without, idle)
    const base = this.bound + price
    let left = 0
    for (const { line, without, with: used, idle, low } of voices) {
      let bound = Infinity
      if (used < Infinity) {
        this.setLine(line, used, idle + low)
        bound = this.bound + price
        this.setLine(line, without, idle)
      }
      if (bound >= target - 0.5) this.domain.lines[i * this.count + line] = 0
      else left++
    }
    if (free && base >= target - 0.5) this.domain.rest[i] = 0
    for (const { line, without, with: used, idle, low } of voices) {
      this.setLine(line, Math.min(without, used + price), idle + (pinned === line ? Math.min(0, low + price) : 0))
    }
    return left > 0 || this.domain.rest[i] === 1
  }

  /** Where a sensible person would put the item, seeing what is filled and the tables of what is to come. */
  private guessUse(i: number, fills: Int32Array) {
    let best = 0
    let chosen = -1
    for (const l of this.part.items[i]!.fits) {
      if (!this.lines.allowed(i, l)) continue
      const { states, low, after, steps } = this.tables[l]!
      const p = this.position[i * this.count + l]!
      const to = steps[p]![fills[l]!]!
      if (to < 0) continue
      const next = (p + 1) * states.count
      let gain = after[next + fills[l]!]! - after[next + to]! - low[p]!
      if (this.inChoice[l]) gain = Math.min(gain, this.dropCost(l) + this.idle[l]! - this.cost[l]! + gain)
      if (gain > best || (chosen < 0 && !this.domain.rest[i])) {
        best = gain
        chosen = l
      }
    }
    this.guess[i] = chosen
    if (chosen >= 0) fills[chosen] = this.tables[chosen]!.steps[this.position[i * this.count + chosen]!]![fills[chosen]!]!
  }
}
