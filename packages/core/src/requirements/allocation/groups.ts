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
  /** The sums of the prices of every set, and those less the toll. */
  sum: Float64Array
  worth: Float64Array
  /** Items used for certain, and items without any line, as sets; -1 before they were first read. */
  force: number
  forbid: number
  /** The sets that these leave, from the smallest on: the first `count` of `sets`, each with the item it adds to an earlier one. */
  sets: Int32Array
  adds: Int32Array
  count: number
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
  /** The groups that each limit has terms in. */
  private readonly ofLimit: { g: number, sizes: Float64Array }[][]
  /** Groups of which a price moved, and limits whose own price may not be its best any more for that: for whoever reads only those. */
  readonly moved: Uint8Array
  readonly stale: Uint8Array
  private readonly dropAt: Float64Array
  private readonly dropBy: Float64Array
  /** While nothing is struck out, what is certain of the groups stays as it was read. */
  private frozen = false
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
      const sets = 1 << items.length
      return { items, loads: this.loadsOf(items), toll: new Float64Array(sets), sum: new Float64Array(sets), worth: new Float64Array(sets),
        force: -1, forbid: -1, sets: new Int32Array(sets), adds: new Int32Array(sets), count: 0 }
    })
    this.moved = new Uint8Array(this.groups.length).fill(1)
    this.stale = new Uint8Array(limits.length).fill(1)
    this.groups.forEach((_, g) => this.setTolls(g))
    this.ofLimit = limits.map((_, q) => this.groups.flatMap((group, g) => {
      const load = group.loads.find(({ limit }) => limit === q)
      return load ? [{ g, sizes: load.sizes }] : []
    }))
    const most = Math.max(1, ...this.ofLimit.map(list => list.reduce((sum, { sizes }) => sum + sizes.length, 0)))
    this.dropAt = new Float64Array(most)
    this.dropBy = new Float64Array(most)
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

  /** Reads what is certain of every group once, until it is let go again: for steps that strike nothing out. */
  freeze(on: boolean) {
    this.frozen = false
    if (on) for (let g = 0; g < this.groups.length; g++) this.readMasks(g)
    this.frozen = on
  }

  private readMasks(g: number) {
    if (this.frozen) return
    const group = this.groups[g]!
    let force = 0
    let forbid = 0
    for (let bit = 0; bit < group.items.length; bit++) {
      const i = group.items[bit]!
      if (this.domain.isForced(i)) force |= 1 << bit
      else if (this.domain.isOut(i)) forbid |= 1 << bit
    }
    if (force === group.force && forbid === group.forbid) return
    group.force = force
    group.forbid = forbid
    group.count = 0
    for (let set = 0; set < group.toll.length; set++) {
      if ((set & force) !== force || (set & forbid) !== 0) continue
      const added = set & ~force
      group.adds[group.count] = added === 0 ? -1 : group.items[31 - Math.clz32(added & -added)]!
      group.sets[group.count++] = set
    }
  }

  /** What every set that is left to a group brings at the prices as they are. */
  private read(g: number): Group {
    const group = this.groups[g]!
    this.readMasks(g)
    const { items, toll, sum, worth, force, sets, adds, count } = group
    for (let k = 0; k < count; k++) {
      const set = sets[k]!
      const added = set & ~force
      if (added === 0) {
        let forced = 0
        for (let bit = 0; bit < items.length; bit++) if (force & 1 << bit) forced += this.prices[items[bit]!]!
        sum[set] = forced
      }
      else sum[set] = sum[set ^ (added & -added)]! + this.prices[adds[k]!]!
      worth[set] = sum[set]! - toll[set]!
    }
    return group
  }

  /** The most that a group takes off, with some of its items used for certain or not at all; -Infinity where that cannot be. */
  value(g: number, alsoForce = 0, alsoForbid = 0): number {
    const { worth, sets, count } = this.read(g)
    let best = -Infinity
    for (let k = 0; k < count; k++) {
      const set = sets[k]!
      if ((set & alsoForce) === alsoForce && (set & alsoForbid) === 0 && worth[set]! > best) best = worth[set]!
    }
    return best
  }

  /** The set that takes off the most; of equal ones the smallest. */
  bestSet(g: number): number {
    const { worth, sets, count, force } = this.read(g)
    let best = -Infinity
    let chosen = force
    for (let k = 0; k < count; k++) {
      const set = sets[k]!
      if (worth[set]! <= best) continue
      best = worth[set]!
      chosen = set
    }
    return chosen
  }

  /**
   * The most that the items still to come take off, for every number of items that came and every set of those that were used.
   * Terms between what came are in the room that is left.
   */
  tailsOf(g: number): Float64Array[] {
    const { items, toll, loads, force, forbid } = this.read(g)
    return Array.from({ length: items.length + 1 }, (_, came) => Float64Array.from({ length: 1 << came }, (__, used) => {
      let spent = 0
      for (const { limit, sizes } of loads) spent += this.mu[limit]! * sizes[used]!
      let best = -Infinity
      const before = (1 << came) - 1
      for (let set = 0; set < toll.length; set++) {
        if ((set & before) !== used || ((set | before) & force) !== force || (set & forbid & ~before) !== 0) continue
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
    const before = this.mu[q]!
    this.shiftMu(q, 0)
    this.stale[q] = 0
    const { room } = this.limits[q]!
    const { dropAt, dropBy } = this
    let load = 0
    let drops = 0
    for (const { g, sizes } of this.ofLimit[q]!) {
      const { worth, sets, count } = this.read(g)
      let now = -1
      for (let k = 0; k < count; k++) {
        const set = sets[k]!
        if (worth[set] === -Infinity) continue
        if (now < 0 || worth[set]! > worth[now]! || (worth[set] === worth[now] && sizes[set]! < sizes[now]!)) now = set
      }
      if (now < 0) continue
      load += sizes[now]!
      // From set to smaller set along the upper envelope, as the price rises.
      while (sizes[now]! > 0) {
        let next = -1
        let at = Infinity
        for (let k = 0; k < count; k++) {
          const set = sets[k]!
          if (sizes[set]! >= sizes[now]! || worth[set] === -Infinity) continue
          const cross = (worth[now]! - worth[set]!) / (sizes[now]! - sizes[set]!)
          if (cross < at || (cross === at && sizes[set]! < sizes[next]!)) {
            at = cross
            next = set
          }
        }
        if (next < 0) break
        let place = drops++
        for (; place > 0 && dropAt[place - 1]! > at; place--) {
          dropAt[place] = dropAt[place - 1]!
          dropBy[place] = dropBy[place - 1]!
        }
        dropAt[place] = at
        dropBy[place] = sizes[now]! - sizes[next]!
        now = next
      }
    }
    let mu = 0
    for (let d = 0; d < drops && load > room; d++) {
      mu = dropAt[d]!
      load -= dropBy[d]!
    }
    this.shiftMu(q, Math.max(0, Math.round(mu / grain) * grain))
    if (this.mu[q] === before) return
    for (const { g } of this.ofLimit[q]!) this.touch(g, q)
  }

  setMu(q: number, mu: number) {
    this.shiftMu(q, mu)
    for (const { g } of this.ofLimit[q]!) this.touch(g)
  }

  /** Notes that a price in a group moved, which one limit knows already. */
  touch(g: number, known = -1) {
    this.moved[g] = 1
    for (const { limit } of this.groups[g]!.loads) if (limit !== known) this.stale[limit] = 1
  }

  touchAll() {
    this.moved.fill(1)
    this.stale.fill(1)
  }

  private shiftMu(q: number, mu: number) {
    const change = mu - this.mu[q]!
    if (change === 0) return
    this.mu[q] = mu
    for (const { g, sizes } of this.ofLimit[q]!) {
      const { toll } = this.groups[g]!
      for (let set = 0; set < toll.length; set++) toll[set]! += change * sizes[set]!
    }
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
