import type { Component } from './components'
import type { ProgramsPolicy } from './problem'
import { solveComponent, type Solved } from './search'

/** Parts kept; a board has a few of them, and each of its moves changes one or two. */
const KEPT = 200

/**
 * Parts of the problem that were solved before, by everything they say. A course that moves to another term leaves most parts as they
 * were, and a part that says the same has the same answer; the oldest are forgotten.
 */
export class SolvedParts {
  private readonly kept = new Map<string, Solved>()

  /** Keeps so many parts; with 0 everything is solved whenever it is asked, for whoever asks about each student once. */
  constructor(private readonly most = KEPT) {}

  solve(part: Component, nodeLimit: number, policy: ProgramsPolicy, fillsOnly = false): Solved {
    if (this.most === 0) return solveComponent(part, nodeLimit, policy, fillsOnly)
    const key = JSON.stringify([nodeLimit, policy, fillsOnly, part.items, part.lines, part.tree, part.limits])
    const before = this.kept.get(key)
    if (before) return before
    const solved = solveComponent(part, nodeLimit, policy, fillsOnly)
    if (this.kept.size >= this.most) this.kept.delete(this.kept.keys().next().value!)
    this.kept.set(key, solved)
    return solved
  }
}
