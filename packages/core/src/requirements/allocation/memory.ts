import type { Component, Solved } from './components'
import type { ProgramsPolicy } from './problem'
import { solveComponent } from './search'

/** Parts kept: those of some hundred students, or all that a board makes of its own in many moves; a few megabytes. */
const KEPT = 2000

/**
 * Parts of the problem that were solved before, by everything they say. A course that moves to another term leaves most parts as they
 * were, and students of one program have many parts alike; a part that says the same has the same answer. What was longest not asked for
 * is forgotten.
 */
export class SolvedParts {
  private readonly kept = new Map<string, Solved>()

  solve(part: Component, nodeLimit: number, policy: ProgramsPolicy, fillsOnly = false): Solved {
    const what = JSON.stringify([nodeLimit, policy, part.items, part.lines, part.tree, part.limits, [...part.choosing]])
    const key = `${fillsOnly} ${what}`
    const before = this.kept.get(key)
    const solved = before ?? solveComponent(part, nodeLimit, policy, fillsOnly, this.kept.get(`true ${what}`))
    if (before) this.kept.delete(key)
    else if (this.kept.size >= KEPT) this.kept.delete(this.kept.keys().next().value!)
    this.kept.set(key, solved)
    return solved
  }
}
