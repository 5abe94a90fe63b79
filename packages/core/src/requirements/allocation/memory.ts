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

  solve(part: Component, nodeLimit: number, policy: ProgramsPolicy): Solved {
    const key = JSON.stringify([nodeLimit, policy, part.items, part.lines, part.tree, part.limits])
    const before = this.kept.get(key)
    if (before) return before
    const solved = solveComponent(part, nodeLimit, policy)
    if (this.kept.size >= KEPT) this.kept.delete(this.kept.keys().next().value!)
    this.kept.set(key, solved)
    return solved
  }
}
