import type { Relaxation } from './relaxation'

/**
 * The backward tables of a relaxation's lines over the edges that are left, while nothing is struck out: polishing builds them again and
 * again, and most edges are gone by then. What falls due between two edges that are left is paid at the later one.
 */
export class OpenTables {
  /** Whether the cheapest way through its line uses an edge, as last traced. */
  readonly used: Uint8Array
  /** The first edge of every line, and the edges that are left, in their order. */
  readonly start: Int32Array
  readonly edge: Int32Array
  /** Edges that are the only way of their item. */
  private readonly must: Uint8Array
  /** What falls due before each edge, and at the end of every line. */
  private readonly weight: Float64Array
  private readonly tableAt: Int32Array
  private readonly after: Float64Array

  constructor(private readonly relaxation: Relaxation) {
    const { m, edges, tableLength } = relaxation.layout
    this.used = new Uint8Array(edges)
    this.start = new Int32Array(m + 1)
    this.edge = new Int32Array(edges)
    this.must = new Uint8Array(edges)
    this.weight = new Float64Array(edges + m)
    this.tableAt = new Int32Array(m)
    this.after = new Float64Array(tableLength)
  }

  /** Reads which edges are left. */
  read() {
    const { layout: { m, lineStart, lineEdge, size, dueAt }, costs: { due }, domain } = this.relaxation
    let count = 0
    let table = 0
    this.used.fill(0)
    for (let l = 0; l < m; l++) {
      this.start[l] = count
      this.tableAt[l] = table
      let weight = 0
      const edges = lineStart[l + 1]! - lineStart[l]!
      for (let p = 0; p < edges; p++) {
        const e = lineEdge[lineStart[l]! + p]!
        weight += due[dueAt[l]! + p]!
        if (!domain.edges[e]) continue
        this.edge[count] = e
        this.must[count] = this.relaxation.mustUse(e) ? 1 : 0
        this.weight[count + l] = weight
        weight = 0
        count++
      }
      this.weight[count + l] = weight + due[dueAt[l]! + edges]!
      table += (count - this.start[l]! + 1) * size[l]!
    }
    this.start[m] = count
  }

  /** Builds the table of one line from the prices; gives its least cost. */
  build(l: number): number {
    const { layout: { size, openAt, open, stepAt, steps, edgeItem }, costs: { low }, prices } = this.relaxation
    const { after, edge, must, weight } = this
    const states = size[l]!
    const opens = openAt[l]!
    const first = this.start[l]!
    const count = this.start[l + 1]! - first
    let here = this.tableAt[l]! + count * states
    const last = weight[first + count + l]!
    for (let s = 0; s < states; s++) after[here + s] = last * open[opens + s]!
    for (let k = first + count - 1; k >= first; k--) {
      const next = here
      here -= states
      const e = edge[k]!
      const price = low[e]! + prices[edgeItem[e]!]!
      const step = stepAt[e]!
      const due = weight[k + l]!
      const forced = must[k] === 1
      for (let s = 0; s < states; s++) {
        let best = forced ? Infinity : after[next + s]!
        const to = steps[step + s]!
        if (to >= 0) {
          const taken = after[next + to]! + price
          if (taken < best) best = taken
        }
        after[here + s] = due === 0 ? best : best + due * open[opens + s]!
      }
    }
    return after[here]!
  }

  /** Finds what a line takes at these prices, along the cheapest way through its table; one that is not kept takes what is pinned to it. */
  trace(l: number, kept: boolean) {
    const { layout: { size, stepAt, steps, edgeItem, pinned }, costs: { low }, prices } = this.relaxation
    const { after, edge, must, used } = this
    const states = size[l]!
    let state = 0
    let next = this.tableAt[l]!
    for (let k = this.start[l]!; k < this.start[l + 1]!; k++) {
      next += states
      const e = edge[k]!
      used[e] = 0
      const price = low[e]! + prices[edgeItem[e]!]!
      if (!kept) {
        if (pinned[e] && price < 0) used[e] = 1
        continue
      }
      const to = steps[stepAt[e]! + state]!
      if (to < 0) continue
      if (must[k] || after[next + to]! + price < after[next + state]!) {
        used[e] = 1
        state = to
      }
    }
  }
}
