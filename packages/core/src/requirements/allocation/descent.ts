import type { Component } from './components'
import type { Domain } from './line-tables'
import type { Relaxation } from './relaxation'

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
  private readonly limitTail: Float64Array[]
  private readonly limitLeft: { courses: number, credits: number }[]
  private readonly uses: Int32Array
  private readonly seen = new Map<string, number>()
  private budget = 0
  private target = Infinity
  private onBetter: (uses: number[], cost: number) => number = () => 0

  constructor(private readonly part: Component, private readonly relaxation: Relaxation, private readonly domain: Domain) {
    const { items, lines, limits } = part
    this.n = items.length
    this.fills = new Int32Array(lines.length)
    this.positions = new Int32Array(lines.length)
    this.spent = new Float64Array(lines.length)
    this.spentIdle = new Float64Array(lines.length)
    this.cost = Float64Array.from(lines, (_, l) => relaxation.tables[l]!.after[0]!)
    this.idle = Float64Array.from(lines, (_, l) => relaxation.lines.idleFrom(l, 0))
    this.priceTail = new Float64Array(this.n + 1)
    for (let i = this.n - 1; i >= 0; i--)
      this.priceTail[i] = this.priceTail[i + 1]! + (relaxation.limitOf[i]! < 0 ? relaxation.prices[i]! : 0)
    this.limitTail = limits.map((_, q) => Float64Array.from({ length: this.n + 1 }, (__, k) => relaxation.limitValue(q, k)))
    this.limitLeft = limits.map(limit => ({ courses: limit.courses ?? Infinity, credits: limit.credits ?? Infinity }))
    this.uses = new Int32Array(this.n).fill(-1)
  }

  /** Looks for assignments cheaper than `target`; `onBetter` takes each and gives the new target. */
  run(target: number, budget: number, onBetter: (uses: number[], cost: number) => number): DescentEnd {
    this.target = target
    this.budget = budget
    this.onBetter = onBetter
    this.step(0)
    return this.budget > 0 ? 'complete' : 'out of budget'
  }

  /** Bound of everything below this point: lines as they stand, less the prices that later items may bring. */
  private bound(k: number): number {
    let sum = -this.priceTail[k]!
    for (const tail of this.limitTail) sum -= tail[k]!
    const { relaxation } = this
    for (let l = 0; l < this.cost.length; l++) sum += relaxation.inChoice[l] ? this.idle[l]! : this.cost[l]!
    for (const choice of relaxation.choices) sum += relaxation.netCostWith(choice, this.cost, this.idle)
    return sum
  }

  private step(k: number) {
    if (this.budget <= 0) return
    this.budget--
    if (k === this.n) {
      const cost = this.bound(k)
      if (cost < this.target - 0.5) this.target = this.onBetter([...this.uses], cost)
      return
    }
    const item = this.part.items[k]!
    const { tables, position } = this.relaxation
    const count = this.part.lines.length
    const saved: { l: number, position: number, fill: number, spent: number, spentIdle: number, cost: number, idle: number }[] = []
    // The item passes all its lines: what fell due is paid, and first it is in none of them.
    for (const l of item.fits) {
      const table = tables[l]!
      const p = position[k * count + l]!
      saved.push({ l, position: this.positions[l]!, fill: this.fills[l]!, spent: this.spent[l]!, spentIdle: this.spentIdle[l]!,
        cost: this.cost[l]!, idle: this.idle[l]! })
      this.spent[l]! += table.due[p]! * table.states.open[this.fills[l]!]!
      this.positions[l] = p + 1
      this.setCost(l)
    }
    const options: { line: number, bound: number }[] = []
    if (this.domain.rest[k]) options.push({ line: -1, bound: this.bound(k + 1) })
    if (this.withinLimits(k)) {
      for (const l of item.fits) {
        if (!this.domain.lines[k * count + l]) continue
        const table = tables[l]!
        const p = position[k * count + l]!
        const fill = this.fills[l]!
        const to = table.steps[p]![fill]!
        if (to < 0) continue
        this.use(l, to, table.low[p]!)
        options.push({ line: l, bound: this.bound(k + 1) })
        this.unuse(l, fill, table.low[p]!)
      }
    }
    options.sort((a, b) => a.bound - b.bound || a.line - b.line)
    for (const { line, bound } of options) {
      if (bound >= this.target - 0.5) break
      const table = line < 0 ? null : tables[line]!
      const p = line < 0 ? 0 : position[k * count + line]!
      const fill = line < 0 ? 0 : this.fills[line]!
      if (table) {
        this.use(line, table.steps[p]![fill]!, table.low[p]!)
        this.countLimits(k, -1)
      }
      this.uses[k] = line
      if (!this.seenBetter(k + 1)) this.step(k + 1)
      this.uses[k] = -1
      if (table) {
        this.unuse(line, fill, table.low[p]!)
        this.countLimits(k, 1)
      }
    }
    for (const old of saved) {
      this.positions[old.l] = old.position
      this.fills[old.l] = old.fill
      this.spent[old.l] = old.spent
      this.spentIdle[old.l] = old.spentIdle
      this.cost[old.l] = old.cost
      this.idle[old.l] = old.idle
    }
  }

  private setCost(l: number) {
    const { states, after } = this.relaxation.tables[l]!
    this.cost[l] = this.spent[l]! + after[this.positions[l]! * states.count + this.fills[l]!]!
    if (this.relaxation.inChoice[l]) this.idle[l] = this.spentIdle[l]! + this.relaxation.lines.idleFrom(l, this.positions[l]!)
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

  private withinLimits(k: number): boolean {
    return this.part.limits.every((limit, q) =>
      !limit.items.includes(k) || (this.limitLeft[q]!.courses >= 1 && this.limitLeft[q]!.credits >= this.part.items[k]!.credits),
    )
  }

  private countLimits(k: number, sign: number) {
    this.part.limits.forEach((limit, q) => {
      if (!limit.items.includes(k)) return
      this.limitLeft[q]!.courses += sign
      this.limitLeft[q]!.credits += sign * this.part.items[k]!.credits
    })
  }

  /** True when the same fills were reached before at no greater cost. */
  private seenBetter(k: number): boolean {
    // A line that no later item fits is over: only what it came to matters, all that fell due at its end included, and that is in the
    // total.
    // Under a choice it matters kept and idle, because other lines may yet decide which of the two it is.
    const { tables, inChoice } = this.relaxation
    let key = String.fromCharCode(k)
    let total = 0
    for (let l = 0; l < this.fills.length; l++) {
      const over = this.positions[l]! >= tables[l]!.members.length
      if (!over && this.fills[l] !== 0) key += String.fromCharCode(l + 1, this.fills[l]!)
      const [kept, idle] = over ? [this.cost[l]!, this.idle[l]!] : [this.spent[l]!, this.spentIdle[l]!]
      if (inChoice[l] === 0) total += kept
      else if (kept !== 0 || idle !== 0) key += `|${l}:${kept},${idle}`
    }
    for (const left of this.limitLeft) key += `/${left.courses},${left.credits}`
    const before = this.seen.get(key)
    if (before !== undefined && before <= total) return true
    this.seen.set(key, total)
    return false
  }
}
