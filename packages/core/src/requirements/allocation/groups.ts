import type { AllocationLimit } from './problem'
import type { Domain } from './layout'

/** As many items as one group may have; a term that would join more is left to the check of whole answers. */
const LARGEST_GROUP = 8

/** A limit's size on a group, for every set of its items. */
interface Load { limit: number, sizes: Float64Array }

interface Group {
  items: number[]
  loads: Load[]
  /** What the limits' prices take from every set; Infinity where a set alone passes a limit. */
  toll: Float64Array
}

/**
 * Items that limits tie together, with a price μ on the room of every limit. Of a group, the bound takes off at most
 * `max over its sets S of Σ λ − Σ μ · (size of the terms inside S)`, because any allowed use is such a set and sizes fit the rooms in sum.
 */
export class Groups {
  readonly mu: Float64Array
  /** The group of each item, -1 for none, and its bit there. */
  readonly of: Int32Array
  readonly bit: Int32Array
  readonly groups: Group[]
  /** The terms of each item. */
  readonly termsOf: { limit: number, size: number, other: number }[][]

  constructor(readonly limits: readonly AllocationLimit[], private readonly domain: Domain, private readonly prices: Float64Array) {
    const n = prices.length
    this.mu = new Float64Array(limits.length)
    this.of = new Int32Array(n).fill(-1)
    this.bit = new Int32Array(n)
    this.termsOf = Array.from({ length: n }, () => [])
    const root = Int32Array.from({ length: n }, (_, i) => i)
    const count = new Int32Array(n).fill(1)
    const find = (i: number): number => root[i] === i ? i : root[i] = find(root[i]!)
    const tied = new Set<number>()
    limits.forEach(({ terms }, limit) => terms.forEach(({ of, size }) => {
      const [a, b] = of
      tied.add(a)
      this.termsOf[a]!.push({ limit, size, other: b ?? -1 })
      if (b === undefined) return
      tied.add(b)
      this.termsOf[b]!.push({ limit, size, other: a })
      const [x, y] = [find(a), find(b)]
      if (x === y || count[x]! + count[y]! > LARGEST_GROUP) return
      root[y] = x
      count[x]! += count[y]!
    }))
    const byRoot = new Map<number, number[]>()
    for (const i of [...tied].sort((a, b) => a - b)) byRoot.set(find(i), [...byRoot.get(find(i)) ?? [], i])
    this.groups = [...byRoot.values()].map((items, g) => {
      items.forEach((i, bit) => {
        this.of[i] = g
        this.bit[i] = bit
      })
      return { items, loads: this.loadsOf(items), toll: new Float64Array(1 << items.length) }
    })
    this.groups.forEach((_, g) => this.setTolls(g))
  }

  private loadsOf(items: readonly number[]): Load[] {
    const sets = 1 << items.length
    return this.limits.flatMap(({ terms }, limit) => {
      const mine = terms.flatMap(({ of, size }) => of.every(i => items.includes(i))
        ? [{ mask: of.reduce((mask, i) => mask | 1 << items.indexOf(i), 0), size }]
        : [])
      if (mine.length === 0) return []
      const sizes = new Float64Array(sets)
      for (let set = 0; set < sets; set++)
        for (const { mask, size } of mine) if ((set & mask) === mask) sizes[set]! += size
      return [{ limit, sizes }]
    })
  }

  private setTolls(g: number) {
    const { loads, toll } = this.groups[g]!
    for (let set = 0; set < toll.length; set++) {
      let sum = 0
      for (const { limit, sizes } of loads) sum += sizes[set]! > this.limits[limit]!.room ? Infinity : this.mu[limit]! * sizes[set]!
      toll[set] = sum
    }
  }

  /** Items used for certain, and items without any line, as sets. */
  private masks(g: number): [force: number, forbid: number] {
    let force = 0
    let forbid = 0
    for (const [bit, i] of this.groups[g]!.items.entries()) {
      if (this.domain.isForced(i)) force |= 1 << bit
      else if (this.domain.isOut(i)) forbid |= 1 << bit
    }
    return [force, forbid]
  }

  private sumOf(g: number, set: number): number {
    const { items, toll } = this.groups[g]!
    let sum = -toll[set]!
    for (let bit = 0; bit < items.length; bit++) if (set & 1 << bit) sum += this.prices[items[bit]!]!
    return sum
  }

  /** The most that a group takes off, with some of its items used for certain or not at all; -Infinity where that cannot be. */
  value(g: number, alsoForce = 0, alsoForbid = 0): number {
    const [force, forbid] = this.masks(g)
    return this.best(g, force | alsoForce, forbid | alsoForbid)
  }

  private best(g: number, force: number, forbid: number): number {
    const { toll } = this.groups[g]!
    let best = -Infinity
    for (let set = 0; set < toll.length; set++) {
      if ((set & force) !== force || set & forbid) continue
      const sum = this.sumOf(g, set)
      if (sum > best) best = sum
    }
    return best
  }

  /** The set that takes off the most; of equal ones the smallest. */
  bestSet(g: number): number {
    const { toll } = this.groups[g]!
    const [force, forbid] = this.masks(g)
    let best = -Infinity
    let chosen = force
    for (let set = 0; set < toll.length; set++) {
      if ((set & force) !== force || set & forbid) continue
      const sum = this.sumOf(g, set)
      if (sum > best) {
        best = sum
        chosen = set
      }
    }
    return chosen
  }

  /**
   * The most that the items still to come take off, for every number of items that came and every set of those that were used.
   * Terms between what came are in the room that is left.
   */
  tailsOf(g: number): Float64Array[] {
    const { items, toll, loads } = this.groups[g]!
    const [force, forbid] = this.masks(g)
    return Array.from({ length: items.length + 1 }, (_, came) => Float64Array.from({ length: 1 << came }, (__, used) => {
      let spent = 0
      for (const { limit, sizes } of loads) spent += this.mu[limit]! * sizes[used]!
      let best = -Infinity
      const before = (1 << came) - 1
      for (let set = 0; set < toll.length; set++) {
        if ((set & before) !== used || ((set | before) & force) !== force || set & forbid & ~before) continue
        let sum = spent - toll[set]!
        for (let bit = came; bit < items.length; bit++) if (set & 1 << bit) sum += this.prices[items[bit]!]!
        if (sum > best) best = sum
      }
      return best
    }))
  }

  /** What the limits' rooms take off the bound. */
  rooms(): number {
    let sum = 0
    for (let q = 0; q < this.mu.length; q++) sum += this.mu[q]! * this.limits[q]!.room
    return sum
  }

  /** Gives one limit the price at which the bound is highest, everything else as it stands: where its takers come down to its room. */
  setBestMu(q: number, grain: number) {
    const touched = this.groups.flatMap((group, g) => group.loads.some(({ limit }) => limit === q) ? [g] : [])
    this.mu[q] = 0
    for (const g of touched) this.setTolls(g)
    const { room } = this.limits[q]!
    const drops: { at: number, by: number }[] = []
    let load = 0
    for (const g of touched) {
      const { sizes } = this.groups[g]!.loads.find(({ limit }) => limit === q)!
      const [force, forbid] = this.masks(g)
      const lines: { worth: number, size: number }[] = []
      for (let set = 0; set < sizes.length; set++)
        if ((set & force) === force && !(set & forbid)) lines.push({ worth: this.sumOf(g, set), size: sizes[set]! })
      let now = lines.reduce((best, one) => one.worth > best.worth || (one.worth === best.worth && one.size < best.size) ? one : best,
        { worth: -Infinity, size: 0 })
      load += now.size
      while (now.size > 0 && now.worth > -Infinity) {
        let next: typeof now | null = null
        let at = Infinity
        for (const one of lines) {
          if (one.size >= now.size || one.worth === -Infinity) continue
          const cross = (now.worth - one.worth) / (now.size - one.size)
          if (cross < at || (cross === at && one.size < next!.size)) {
            at = cross
            next = one
          }
        }
        if (!next) break
        drops.push({ at, by: now.size - next.size })
        now = next
      }
    }
    drops.sort((a, b) => a.at - b.at)
    let mu = 0
    for (const { at, by } of drops) {
      if (load <= room) break
      mu = at
      load -= by
    }
    this.setMu(q, Math.max(0, Math.round(mu / grain) * grain))
  }

  setMu(q: number, mu: number) {
    if (this.mu[q] === mu && mu !== 0) return
    this.mu[q] = mu
    this.groups.forEach((group, g) => {
      if (group.loads.some(({ limit }) => limit === q)) this.setTolls(g)
    })
  }

  /** Closes what the items used for certain leave no room for; false where they alone pass a limit. */
  propagate(): boolean {
    for (const { room, terms } of this.limits) {
      let left = room
      for (const { of, size } of terms) if (of.every(i => this.domain.isForced(i))) left -= size
      if (left < 0) return false
      for (const { of, size } of terms) {
        if (size <= left) continue
        const open = of.filter(i => !this.domain.isForced(i))
        if (open.length !== 1) continue
        this.domain.edges.fill(0, this.domain.layout.itemStart[open[0]!]!, this.domain.layout.itemStart[open[0]! + 1]!)
      }
    }
    return true
  }
}
