import type { Credits } from '../catalog/types'
import { openCredits } from './allocation/line-states'
import type { AllocationLine, AllocationTree } from './allocation/problem'
import type { Prepared } from './prepare'

/** Credits that the lines of a program need where choices take the branches that need least. */
export const leastNeeded = (tree: AllocationTree, needs: readonly AllocationLine[]): Credits =>
  leastOver(tree, l => openCredits(needs[l]!, 0, 0, 0))

/** Credits of a program that stay open whatever is used where: as if every line could have all that fits it. */
export function leastOpen({ allocated, needs, ready: { tree } }: Prepared): Credits {
  const there = needs.map(() => ({ credits: 0, courses: 0 }))
  for (const { credits, fits } of allocated) {
    for (const l of fits) {
      there[l]!.credits += credits
      there[l]!.courses++
    }
  }
  return leastOver(tree, l => openCredits(needs[l]!, there[l]!.credits, there[l]!.courses))
}

/**
 * Some uses of a program by itself that break no rule, made at once: the firmest courses first, of these those that fit the fewest lines,
 * each where it fills most. Lines with a cap or a spread, and courses that may only count so often, are left out.
 */
export function quickUses({ allocated, needs, maxima }: Prepared): number[] {
  const limited = new Set(maxima.flatMap(({ terms }) => terms.flatMap(({ of }) => [...of])))
  const open = needs.map(line => ({ line, credits: 0, courses: 0, takes: !line.caps && !line.spread }))
  const uses = allocated.map(() => -1)
  const order = [...allocated.keys()].filter(i => !limited.has(i))
    .sort((a, b) => allocated[a]!.tier - allocated[b]!.tier || allocated[a]!.fits.length - allocated[b]!.fits.length || a - b)
  for (const i of order) {
    const { credits, fits } = allocated[i]!
    let most = 0
    for (const l of fits) {
      const { line, takes, credits: there, courses } = open[l]!
      if (!takes) continue
      const fills = openCredits(line, there, courses) - openCredits(line, there + credits, courses + 1)
      if (fills <= most) continue
      most = fills
      uses[i] = l
    }
    if (most === 0) continue
    open[uses[i]!]!.credits += credits
    open[uses[i]!]!.courses++
  }
  return uses
}

/** The sum of what is said of each line, where choices take the branches for which it is least. */
function leastOver(tree: AllocationTree, ofLine: (line: number) => Credits): Credits {
  if ('line' in tree) return ofLine(tree.line)
  return tree.of.map(branch => leastOver(branch, ofLine)).sort((a, b) => a - b).slice(0, tree.n).reduce((sum, one) => sum + one, 0)
}
