import type { Branch } from './components'
import type { Costs, Layout } from './layout'

/** A whole answer: for each item the edge that it uses, -1 for none. */
export type Uses = Int32Array

/** What whole answers cost, and how a good one is made better by moving one item or two. */
export class LocalSearch {
  private readonly hasMust: boolean
  private readonly termsOf: { limit: number, size: number, other: number }[][]
  private readonly choices: Branch[]
  private readonly choiceOf: number[]
  /** State of the answer that is being made better. */
  private uses: Uses = new Int32Array(0)
  private readonly kept: Float64Array
  private readonly idle: Float64Array
  private choiceCosts: number[] = []
  private readonly loads: Float64Array
  private cost = Infinity
  /** The lines that a trial touches, with what they cost before; and the choices above them. */
  private touched = 0
  private readonly touchedLines = new Int32Array(6)
  private readonly keptBefore = new Float64Array(6)
  private readonly idleBefore = new Float64Array(6)
  private readonly touchedChoices = new Int32Array(6)
  private readonly costsThen = new Float64Array(6)
  private idleOfTree = 0
  private lastKept = 0
  private lastIdle = 0

  constructor(private readonly layout: Layout, private readonly costs: Costs) {
    const { part, m } = layout
    this.hasMust = part.items.some(item => item.must)
    this.termsOf = part.items.map(() => [])
    part.limits.forEach(({ terms }, limit) => terms.forEach(({ of: [a, b], size }) => {
      this.termsOf[a]!.push({ limit, size, other: b ?? -1 })
      if (b !== undefined) this.termsOf[b]!.push({ limit, size, other: a })
    }))
    this.choices = [...new Set(part.paths.flatMap(path => path.slice(0, 1).map(step => step.node)))]
    this.choiceOf = part.paths.map(path => path.length > 0 ? this.choices.indexOf(path[0]!.node) : -1)
    this.kept = new Float64Array(m)
    this.idle = new Float64Array(m)
    this.loads = new Float64Array(part.limits.length)
  }

  /** The objective of a whole answer; Infinity where a cap or a limit forbids it. */
  costOf(uses: Uses): number {
    const { part } = this.layout
    if (this.hasMust && part.items.some((item, i) => item.must && uses[i]! < 0)) return Infinity
    for (const { room, terms } of part.limits) {
      let load = 0
      for (const { of, size } of terms) if (of.every(i => uses[i]! >= 0)) load += size
      if (load > room) return Infinity
    }
    for (let l = 0; l < this.layout.m; l++) {
      if (!this.readLine(l, uses)) return Infinity
      this.kept[l] = this.lastKept
      this.idle[l] = this.lastIdle
    }
    return this.treeCost(part.tree)
  }

  /** What a branch costs when it is kept; `idleOfTree` is then what it costs when not. */
  private treeCost(node: Branch | { line: number }): number {
    if ('line' in node) {
      this.idleOfTree = this.idle[node.line]!
      return this.kept[node.line]!
    }
    let idle = 0
    let kept = 0
    if (node.base < 0) {
      for (const child of node.of) {
        kept += this.treeCost(child)
        idle += this.idleOfTree
      }
      this.idleOfTree = idle
      return kept
    }
    let least = Infinity
    for (const child of node.of) {
      const extra = this.treeCost(child) - this.idleOfTree
      idle += this.idleOfTree
      if (extra < least) least = extra
    }
    kept = idle + least
    if (node.n > 1) {
      const extras = node.of.map(child => this.treeCost(child) - this.idleOfTree).sort((a, b) => a - b)
      kept = idle
      for (let c = 0; c < node.n; c++) kept += extras[c]!
    }
    this.idleOfTree = idle
    return kept
  }

  /** Reads the cost of one line; false where its uses break a cap. */
  private readLine(l: number, uses: Uses): boolean {
    const { layout: { lineStart, lineEdge, edgeItem, stepAt, steps, openAt, open, dueAt }, costs: { low, due } } = this
    const first = lineStart[l]!
    const end = lineStart[l + 1]!
    let state = 0
    let kept = 0
    let idle = 0
    const opens = openAt[l]!
    const dues = dueAt[l]! - first
    for (let k = first; k < end; k++) {
      const weight = due[dues + k]!
      if (weight !== 0) kept += weight * open[opens + state]!
      const e = lineEdge[k]!
      if (uses[edgeItem[e]!] !== e) continue
      state = steps[stepAt[e]! + state]!
      if (state < 0) return false
      idle += low[e]!
    }
    this.lastKept = kept + due[dues + end]! * open[opens + state]! + idle
    this.lastIdle = idle
    return true
  }

  /** Makes an answer better in place as long as one move, or two together, help; gives its cost. */
  improve(uses: Uses): number {
    this.uses = uses
    this.cost = this.costOf(uses)
    if (this.cost === Infinity) return Infinity
    this.choiceCosts = this.choices.map(choice => this.treeCost(choice))
    this.loads.fill(0)
    this.layout.part.limits.forEach(({ terms }, q) => {
      for (const { of, size } of terms) if (of.every(i => uses[i]! >= 0)) this.loads[q]! += size
    })
    const { itemStart, n } = this.layout
    for (let better = true; better;) {
      better = false
      for (let i = 0; i < n; i++) {
        for (let to = itemStart[i]! - 1; to < itemStart[i + 1]!; to++) {
          const edge = to < itemStart[i]! ? -1 : to
          if (edge === uses[i]) continue
          if (this.attempt(i, edge) || this.pushOut(i, edge) || this.makeRoom(i, edge)) better = true
        }
      }
    }
    return this.cost
  }

  /** The same two moves with one other item pushed out of the line that is entered. */
  private pushOut(i: number, to: number): boolean {
    if (to < 0) return false
    const { layout: { edgeLine, lineStart, lineEdge, edgeItem, itemStart }, uses } = this
    const l = edgeLine[to]!
    for (let k = lineStart[l]!; k < lineStart[l + 1]!; k++) {
      const e = lineEdge[k]!
      const j = edgeItem[e]!
      if (j === i || uses[j] !== e) continue
      if (this.attempt(i, to, j, -1)) return true
      for (let other = itemStart[j]!; other < itemStart[j + 1]!; other++)
        if (other !== e && this.attempt(i, to, j, other)) return true
    }
    return false
  }

  /** Takes an item in and lets another one go that stands in the same limits, and puts a third where that one was. */
  private makeRoom(i: number, to: number): boolean {
    if (to < 0 || this.uses[i]! >= 0) return false
    const { layout: { edgeLine, lineStart, lineEdge, edgeItem, part }, uses } = this
    for (const { limit } of this.termsOf[i]!) {
      for (const { of } of part.limits[limit]!.terms) {
        for (const j of of) {
          const gone = uses[j]!
          if (j === i || gone < 0) continue
          if (this.attempt(i, to, j, -1)) return true
          const l = edgeLine[gone]!
          for (let k = lineStart[l]!; k < lineStart[l + 1]!; k++) {
            const e = lineEdge[k]!
            const third = edgeItem[e]!
            if (third !== j && third !== i && uses[third] !== e
              && this.attempt(i, to, j, -1, third, e)) return true
          }
        }
      }
    }
    return false
  }

  private shift(i: number, to: number) {
    const { uses } = this
    const was = uses[i]!
    uses[i] = to
    if ((was >= 0) === (to >= 0)) return
    for (const { limit, size, other } of this.termsOf[i]!)
      if (other < 0 || uses[other]! >= 0) this.loads[limit]! += to >= 0 ? size : -size
  }

  private isOverloaded(): boolean {
    const { limits } = this.layout.part
    for (let q = 0; q < limits.length; q++) if (this.loads[q]! > limits[q]!.room) return true
    return false
  }

  /** Puts up to three items elsewhere if that is cheaper; else leaves everything as it was. Only what the moves touch is counted again. */
  private attempt(i: number, to: number, j = -1, toJ = -1, k = -1, toK = -1): boolean {
    const { uses } = this
    const [oldI, oldJ, oldK] = [uses[i]!, j < 0 ? -1 : uses[j]!, k < 0 ? -1 : uses[k]!]
    if (this.hasMust && this.breaksMust(i, to, j, toJ)) return false
    this.shift(i, to)
    if (j >= 0) this.shift(j, toJ)
    if (k >= 0) this.shift(k, toK)
    this.touched = 0
    const better = !this.isOverloaded()
      && this.touch(oldI) && this.touch(to) && this.touch(oldJ) && this.touch(toJ) && this.touch(oldK) && this.touch(toK)
      && this.isCheaper()
    if (better) return true
    if (k >= 0) this.shift(k, oldK)
    if (j >= 0) this.shift(j, oldJ)
    this.shift(i, oldI)
    for (let t = 0; t < this.touched; t++) {
      this.kept[this.touchedLines[t]!] = this.keptBefore[t]!
      this.idle[this.touchedLines[t]!] = this.idleBefore[t]!
    }
    return false
  }

  private breaksMust(i: number, to: number, j: number, toJ: number): boolean {
    const { items } = this.layout.part
    return (to < 0 && items[i]!.must === true) || (j >= 0 && toJ < 0 && items[j]!.must === true)
  }

  /** Counts the line of an edge again, once; false where its uses break a cap. */
  private touch(e: number): boolean {
    if (e < 0) return true
    const l = this.layout.edgeLine[e]!
    for (let t = 0; t < this.touched; t++) if (this.touchedLines[t] === l) return true
    if (!this.readLine(l, this.uses)) return false
    this.touchedLines[this.touched] = l
    this.keptBefore[this.touched] = this.kept[l]!
    this.idleBefore[this.touched] = this.idle[l]!
    this.touched++
    this.kept[l] = this.lastKept
    this.idle[l] = this.lastIdle
    return true
  }

  /** Whether the lines that were counted again make the whole cheaper; then it is kept so. */
  private isCheaper(): boolean {
    let now = this.cost
    let choices = 0
    for (let t = 0; t < this.touched; t++) {
      const l = this.touchedLines[t]!
      const c = this.choiceOf[l]!
      if (c < 0) {
        now += this.kept[l]! - this.keptBefore[t]!
        continue
      }
      let seen = false
      for (let k = 0; k < choices; k++) if (this.touchedChoices[k] === c) seen = true
      if (seen) continue
      this.touchedChoices[choices] = c
      this.costsThen[choices] = this.treeCost(this.choices[c]!)
      now += this.costsThen[choices]! - this.choiceCosts[c]!
      choices++
    }
    if (!(now < this.cost)) return false
    this.cost = now
    for (let k = 0; k < choices; k++) this.choiceCosts[this.touchedChoices[k]!] = this.costsThen[k]!
    return true
  }

  /** An answer from wishes: each edge that is wished for more than to rest, the strongest first, where caps and limits let it. */
  fromWishes(wish: Float64Array, restWish: number): Uses {
    const { layout: { n, edges, edgeItem, edgeLine, lineStart, lineEdge, stepAt, steps, part } } = this
    const uses: Uses = new Int32Array(n).fill(-1)
    const order = Array.from({ length: edges }, (_, e) => e).filter(e => wish[e]! > restWish).sort((a, b) => wish[b]! - wish[a]! || a - b)
    const loads = new Float64Array(part.limits.length)
    for (const e of order) {
      const i = edgeItem[e]!
      if (uses[i]! >= 0) continue
      const adds = this.termsOf[i]!.filter(({ other }) => other < 0 || uses[other]! >= 0)
      for (const { limit, size } of adds) loads[limit]! += size
      uses[i] = e
      let state = 0
      for (let k = lineStart[edgeLine[e]!]!; k < lineStart[edgeLine[e]! + 1]! && state >= 0; k++) {
        const other = lineEdge[k]!
        if (uses[edgeItem[other]!] === other) state = steps[stepAt[other]! + state]!
      }
      if (state >= 0 && adds.every(({ limit }) => loads[limit]! <= part.limits[limit]!.room)) continue
      uses[i] = -1
      for (const { limit, size } of adds) loads[limit]! -= size
    }
    return uses
  }
}
