import type { Component } from './components'
import type { LineStates } from './line-states'
import type { Weights } from './objective'

/**
 * What a node of the search still allows: `lines[i * lineCount + l]`, whether item i may stay without use,
 * and for every branch of a choice whether it is open (0), kept for certain (1) or left out (2).
 */
export interface Domain {
  lines: Uint8Array
  rest: Uint8Array
  branches: Uint8Array
}

/** The tables of one line, over the items that fit it. */
export interface LineTable {
  states: LineStates
  /** Items that fit, in order, and the step table of each. */
  members: number[]
  steps: Int32Array[]
  /** due[p]: weight of "left open" that falls due before member p; the last one at the end. */
  due: Float64Array
  /** Cost of each member's use apart from what is left open. */
  low: Float64Array
  /** Least cost up to member p (after what fell due there), and from member p on. */
  before: Float64Array
  after: Float64Array
  pinned: Int32Array
}

/**
 * The cheapest use of items by every line, under a price on each: a dynamic programme a line over the items that fit it, in order of their
 * tiers, as two tables that meet at every item. `before` is built forwards and `after` backwards, one item at a time.
 */
export class LineTables {
  readonly tables: LineTable[]
  /** position[i * count + l]: where item i stands among the members of l. */
  readonly position: Int32Array
  readonly prices: Float64Array
  private readonly count: number

  constructor(private readonly part: Component, private readonly weights: Weights, states: LineStates[], private readonly domain: Domain) {
    this.count = part.lines.length
    this.prices = new Float64Array(part.items.length)
    this.position = new Int32Array(part.items.length * this.count).fill(-1)
    this.tables = part.lines.map((_, l) => this.makeTable(l, states[l]!))
  }

  private makeTable(l: number, states: LineStates): LineTable {
    const { items, lines } = this.part
    const members = items.flatMap((item, i) => item.fits.includes(l) ? [i] : [])
    members.forEach((i, p) => this.position[i * this.count + l] = p)
    const due = new Float64Array(members.length + 1)
    for (let tier = 0; tier < 4; tier++) {
      const end = members.filter(i => items[i]!.tier <= tier).length
      due[end]! += this.weights.tier[tier]!
    }
    return {
      states,
      members,
      steps: states.kinds.map(kind => states.step[kind]!),
      due,
      low: Float64Array.from(members,
        i => this.weights.tie + this.weights.rank * lines[l]!.rank - (items[i]!.pinned === l ? this.weights.pin : 0)),
      pinned: Int32Array.from(members, i => items[i]!.pinned === l ? 1 : 0),
      before: new Float64Array((members.length + 1) * states.count),
      after: new Float64Array((members.length + 1) * states.count),
    }
  }

  allowed = (i: number, l: number) => this.domain.lines[i * this.count + l] === 1

  /** 1 when item i has this line as its only way to go. */
  private mustUse(i: number, l: number): boolean {
    if (this.domain.rest[i]) return false
    for (const other of this.part.items[i]!.fits) if (other !== l && this.allowed(i, other)) return false
    return this.allowed(i, l)
  }

  /** Builds a line's table afresh from the prices, backwards. */
  rebuild(l: number) {
    const { states, members, due, after } = this.tables[l]!
    const end = members.length * states.count
    for (let s = 0; s < states.count; s++) after[end + s] = due[members.length]! * states.open[s]!
    for (let p = members.length - 1; p >= 0; p--) this.stepBack(l, p)
  }

  /** Empties the tables that are built forwards. */
  begin() {
    for (const { states, before, due, members } of this.tables) {
      before.fill(Infinity, 0, states.count)
      before[0] = members.length > 0 ? due[0]! * states.open[0]! : 0
    }
  }

  /** The least that a line costs which no choice keeps, from member `from` on: what is pinned to it may still stand there. */
  idleFrom(l: number, from: number): number {
    const { members, pinned, low } = this.tables[l]!
    let sum = 0
    for (let p = from; p < members.length; p++)
      if (pinned[p] && this.allowed(members[p]!, l)) sum += Math.min(0, low[p]! + this.prices[members[p]!]!)
    return sum
  }

  stepBack(l: number, p: number) {
    const { states, members, due, low, after, steps } = this.tables[l]!
    const size = states.count
    const i = members[p]!
    const allowed = this.allowed(i, l)
    const must = allowed && this.mustUse(i, l)
    const price = low[p]! + this.prices[i]!
    const step = steps[p]!
    const here = p * size
    const next = here + size
    const weight = due[p]!
    for (let s = 0; s < size; s++) {
      let best = must ? Infinity : after[next + s]!
      if (allowed && step[s]! >= 0) {
        const taken = after[next + step[s]!]! + price
        if (taken < best) best = taken
      }
      after[here + s] = best + weight * states.open[s]!
    }
  }

  stepForward(l: number, p: number) {
    const { states, members, due, low, before, steps } = this.tables[l]!
    const size = states.count
    const i = members[p]!
    const allowed = this.allowed(i, l)
    const must = allowed && this.mustUse(i, l)
    const price = low[p]! + this.prices[i]!
    const step = steps[p]!
    const here = p * size
    const next = here + size
    const weight = p + 1 < members.length ? due[p + 1]! : 0
    for (let s = 0; s < size; s++) before[next + s] = must ? Infinity : before[here + s]!
    if (allowed) {
      for (let s = 0; s < size; s++) {
        const to = step[s]!
        if (to >= 0 && before[here + s]! + price < before[next + to]!) before[next + to] = before[here + s]! + price
      }
    }
    if (weight > 0) { for (let s = 0; s < size; s++) before[next + s]! += weight * states.open[s]! }
  }

  /** The least that a line costs without an item, and with it (its price left out). */
  leastCosts(l: number, i: number): { without: number, with: number } {
    const { states, low, before, after, steps } = this.tables[l]!
    const p = this.position[i * this.count + l]!
    const here = p * states.count
    const next = here + states.count
    const step = steps[p]!
    let without = Infinity
    let used = Infinity
    for (let s = 0; s < states.count; s++) {
      const reach = before[here + s]!
      if (reach === Infinity) continue
      if (reach + after[next + s]! < without) without = reach + after[next + s]!
      const to = step[s]!
      if (to >= 0 && reach + after[next + to]! < used) used = reach + after[next + to]!
    }
    return { without, with: used + low[p]! }
  }
}
