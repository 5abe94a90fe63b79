import type { Component } from './components'
import { LineStates } from './line-states'
import { programOf, type Weights } from './objective'

/**
 * A component as flat arrays. An edge is an item on a line that it fits; the edges of an item stand together, and every line has a list of
 * its edges in the order of the items. States, steps and tables of all lines stand one behind the other.
 */
export class Layout {
  readonly n: number
  readonly m: number
  readonly edges: number
  /** Edges of item i: from itemStart[i] to itemStart[i + 1]. */
  readonly itemStart: Int32Array
  readonly edgeItem: Int32Array
  readonly edgeLine: Int32Array
  /** Where an edge stands among those of its line. */
  readonly edgeAt: Int32Array
  /** Edges of line l: lineEdge[lineStart[l]] and on. */
  readonly lineStart: Int32Array
  readonly lineEdge: Int32Array
  /** How many states a line has, where its tables, what its states leave open, and what falls due begin. */
  readonly size: Int32Array
  readonly tableAt: Int32Array
  readonly openAt: Int32Array
  readonly dueAt: Int32Array
  readonly tableLength: number
  readonly open: Float64Array
  /** The step of an edge: steps[stepAt[e] + state] is the state it leads to, -1 where a cap forbids it. */
  readonly stepAt: Int32Array
  readonly steps: Int32Array
  readonly pinned: Uint8Array
  /** Whether a choice may leave the line out, and which outermost choice that is. */
  readonly inChoice: Uint8Array

  constructor(readonly part: Component, quantum: number) {
    const { items, lines } = part
    this.n = items.length
    this.m = lines.length
    this.itemStart = new Int32Array(this.n + 1)
    items.forEach((item, i) => this.itemStart[i + 1] = this.itemStart[i]! + item.fits.length)
    this.edges = this.itemStart[this.n]!
    this.edgeItem = new Int32Array(this.edges)
    this.edgeLine = new Int32Array(this.edges)
    this.edgeAt = new Int32Array(this.edges)
    this.pinned = new Uint8Array(this.edges)
    this.stepAt = new Int32Array(this.edges)
    const ofLine: number[][] = lines.map(() => [])
    items.forEach((item, i) => item.fits.forEach((l, k) => {
      const e = this.itemStart[i]! + k
      this.edgeItem[e] = i
      this.edgeLine[e] = l
      this.edgeAt[e] = ofLine[l]!.length
      this.pinned[e] = item.pinned === l ? 1 : 0
      ofLine[l]!.push(e)
    }))
    this.lineStart = new Int32Array(this.m + 1)
    this.size = new Int32Array(this.m)
    this.tableAt = new Int32Array(this.m)
    this.openAt = new Int32Array(this.m)
    this.dueAt = new Int32Array(this.m)
    const open: number[] = []
    const steps: number[] = []
    let tables = 0
    let due = 0
    ofLine.forEach((edges, l) => {
      const states = new LineStates(lines[l]!, edges.map(e => ({ item: items[this.edgeItem[e]!]!, index: this.edgeItem[e]! })), quantum)
      this.lineStart[l + 1] = this.lineStart[l]! + edges.length
      this.size[l] = states.count
      this.tableAt[l] = tables
      tables += (edges.length + 1) * states.count
      this.dueAt[l] = due
      due += edges.length + 1
      this.openAt[l] = open.length
      open.push(...states.open)
      const kindAt = states.step.map((row) => {
        const at = steps.length
        steps.push(...row)
        return at
      })
      edges.forEach((e, p) => this.stepAt[e] = kindAt[states.kinds[p]!]!)
    })
    this.tableLength = tables
    this.lineEdge = Int32Array.from(ofLine.flat())
    this.open = Float64Array.from(open)
    this.steps = Int32Array.from(steps)
    this.inChoice = Uint8Array.from(lines, (_, l) => part.choiceLines.has(l) ? 1 : 0)
  }

  /** Whether two items are the same to a line. */
  kindOf = (e: number): number => this.stepAt[e]!
}

/** What uses cost under some weights: each edge apart from what its line leaves open, and what falls due before each edge of a line. */
export interface Costs {
  low: Float64Array
  due: Float64Array
}

export function costsOf(layout: Layout, weights: Weights): Costs {
  const { items, lines } = layout.part
  const low = new Float64Array(layout.edges)
  for (let e = 0; e < layout.edges; e++) {
    const line = lines[layout.edgeLine[e]!]!
    low[e] = weights.tie + weights.rank * line.rank - (layout.pinned[e] ? weights.pin[programOf(line)]! : 0)
  }
  const due = new Float64Array(layout.edges + layout.m)
  for (let l = 0; l < layout.m; l++) {
    const tiers = weights.tier[programOf(lines[l]!)]!
    for (let tier = 0; tier < 4; tier++) {
      let end = layout.lineStart[l]!
      while (end < layout.lineStart[l + 1]! && items[layout.edgeItem[layout.lineEdge[end]!]!]!.tier <= tier) end++
      due[layout.dueAt[l]! + end - layout.lineStart[l]!]! += tiers[tier]!
    }
  }
  return { low, due }
}

/**
 * What a node of the search still allows: an edge, an item to stay without use, and for every branch of a choice whether it is open (0),
 * kept for certain (1) or left out (2).
 */
export class Domain {
  readonly edges: Uint8Array
  readonly rest: Uint8Array
  readonly branches: Uint8Array

  constructor(readonly layout: Layout) {
    this.edges = new Uint8Array(layout.edges).fill(1)
    this.rest = Uint8Array.from(layout.part.items, item => item.must ? 0 : 1)
    this.branches = new Uint8Array(layout.part.branches)
  }

  /** How many ways an item still has, rest included. */
  ways(i: number): number {
    let ways = this.rest[i]!
    for (let e = this.layout.itemStart[i]!; e < this.layout.itemStart[i + 1]!; e++) ways += this.edges[e]!
    return ways
  }

  /** Whether an item is used for certain, on whichever line. */
  isForced = (i: number): boolean => this.rest[i] === 0

  /** Whether no line is left to an item. */
  isOut(i: number): boolean {
    for (let e = this.layout.itemStart[i]!; e < this.layout.itemStart[i + 1]!; e++) if (this.edges[e]) return false
    return true
  }

  copy = () => ({ edges: this.edges.slice(), rest: this.rest.slice(), branches: this.branches.slice() })

  restore(kept: ReturnType<Domain['copy']>) {
    this.edges.set(kept.edges)
    this.rest.set(kept.rest)
    this.branches.set(kept.branches)
  }
}
