import type { Component, Solved } from './components'
import { costsOf, Domain, Layout } from './layout'
import { openCredits } from './line-states'
import { foldAll, foldTogether, type Weights } from './objective'
import { Relaxation } from './relaxation'

/** A part of one line alone, which needs no search; null for any other. */
export const solveAlone = (part: Component): Solved | null => solveUse(part) ?? solveLine(part)

/** One course and one line, which is the most frequent part of all: used where it fills anything or is pinned there. Null for any other. */
function solveUse({ items, lines, limits, choices }: Component): Solved | null {
  if (items.length > 1 || lines.length > 1 || limits.length > 0 || choices.length > 0) return null
  const [item, line] = [items[0]!, lines[0]!]
  if (line.caps) return null
  const isUsed = item.must === true || item.pinned === 0 || openCredits(line, item.credits, 1, 1) < openCredits(line, 0, 0, 0)
  return { uses: [isUsed ? 0 : -1], proved: true, settled: true, nodes: 0 }
}

/**
 * One line, whatever may fill it: with nothing to share, its table alone is the answer, all criteria in one. Null for any other, and where
 * they cannot be summed exactly.
 */
function solveLine(part: Component): Solved | null {
  if (part.lines.length > 1 || part.limits.length > 0 || part.choices.length > 0) return null
  const weights = foldAll(part, foldTogether(part))
  if (!weights) return null
  const layout = new Layout(part, weights.quantum)
  const { after, costs: { low } } = relaxationOf(layout, weights)
  const states = layout.size[0]!
  let [state, here] = [0, layout.tableAt[0]!]
  // Every item has this line alone, so that edges go by items; of answers as good the one that uses the earlier item is taken.
  const uses = part.items.map(({ must }, e) => {
    here += states
    const to = layout.steps[layout.stepAt[e]! + state]!
    if (to < 0 || (!must && after[here + to]! + low[e]! > after[here + state]!)) return -1
    state = to
    return 0
  })
  return { uses, proved: true, settled: true, nodes: 0 }
}

/** The bound of a layout without prices, which one line alone reaches. */
function relaxationOf(layout: Layout, weights: Weights): Relaxation {
  const relaxation = new Relaxation(layout, costsOf(layout, weights), new Domain(layout))
  relaxation.rebuild()
  return relaxation
}
