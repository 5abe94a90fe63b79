import { describe, expect, it } from 'vitest'
import { seeded } from '@ridgeway/core/planning'
import {
  allocate, type AllocationItem, type AllocationLimit, type AllocationLine, type AllocationTree, compareBranches, compareTiers, hasChoice,
  limitsOn,
  openByTier,
} from '@ridgeway/core/requirements'

/**
 * The best use under limits ("at most so many of these may count"), against every assignment there is: complete enumeration of small cases,
 * which needs no reference library to be right.
 */
interface Case {
  items: AllocationItem[]
  lines: AllocationLine[]
  tree: AllocationTree
  limits: AllocationLimit[]
}

function generate(random: () => number): Case {
  const pick = (n: number) => Math.floor(random() * n)
  const lines = Array.from({ length: 2 + pick(3) }, (_, rank): AllocationLine => {
    const byCourses = random() < 0.4
    const courses = byCourses ? 1 + pick(2) : 0
    return { credits: byCourses ? 0 : 300 * (1 + pick(3)), courses, unit: byCourses ? 300 : 0, rank }
  })
  const items = Array.from({ length: 4 + pick(3) }, (): AllocationItem => ({
    tier: pick(4) as AllocationItem['tier'],
    credits: [100, 300, 300, 400][pick(4)]!,
    fits: lines.flatMap((_, l) => random() < 0.6 ? [l] : []),
  }))
  const leaves = lines.map((_, line): AllocationTree => ({ line }))
  const tree: AllocationTree = random() < 0.5 || leaves.length < 3
    ? { n: leaves.length, of: leaves }
    : { n: leaves.length - 1, of: [...leaves.slice(0, -2), { n: 1, of: leaves.slice(-2) }] }
  const limit = (): AllocationLimit => {
    const mine = items.flatMap((_, i) => random() < 0.6 ? [i] : [])
    // Some limits count that two of the items are both used.
    if (random() < 0.4)
      return { room: pick(2), terms: mine.flatMap((a, k) => k % 2 === 1 ? [{ of: [mine[k - 1]!, a], size: 1 }] : []) }
    return limitsOn(mine, random() < 0.5 ? { courses: 1 + pick(2) } : { credits: 300 * (1 + pick(2)) }, items)[0]!
  }
  return { items, lines, tree, limits: Array.from({ length: 1 + pick(2) }, limit) }
}

const keeps = (uses: readonly number[], { limits }: Case) =>
  limits.every(({ room, terms }) => terms.reduce((sum, { of, size }) => of.every(i => uses[i]! >= 0) ? sum + size : sum, 0) <= room)

/** The least that can be left open, tier by tier, over all assignments. */
function leastOpen(one: Case): number[] {
  let best: number[] | null = null
  const uses = one.items.map(() => -1)
  const visit = (i: number) => {
    if (i === one.items.length) {
      if (!keeps(uses, one)) return
      const open = openByTier(one.items, one.lines, one.tree, uses)
      if (!best || (hasChoice(one.tree) ? compareBranches : compareTiers)(open, best) < 0) best = open
      return
    }
    for (const line of [-1, ...one.items[i]!.fits]) {
      uses[i] = line
      visit(i + 1)
    }
    uses[i] = -1
  }
  visit(0)
  return best!
}

describe('the best use under limits', () => {
  it('is the best of all assignments wherever it is called proved, in 1200 generated cases', () => {
    const random = seeded(27)
    let proved = 0
    for (let n = 0; n < 1200; n++) {
      const one = generate(random)
      const found = allocate(one.items, one.lines, one.tree, { limits: one.limits })
      expect(keeps(found.uses, one)).toBe(true)
      if (!found.proved) continue
      proved++
      expect({ n, open: found.open }).toEqual({ n, open: leastOpen(one) })
    }
    expect(proved).toBeGreaterThan(1150)
  })
})

describe('a branch that is set aside', () => {
  /** Choices of capped lines, with and without pins. */
  const generateChoice = (random: () => number): Case => {
    const pick = (n: number) => Math.floor(random() * n)
    const count = 6 + pick(5)
    const lines = Array.from({ length: 3 + pick(3) }, (_, rank): AllocationLine => ({
      credits: 300 * (1 + pick(4)),
      courses: 0,
      unit: 0,
      rank,
      caps: [{ items: Array.from({ length: count }, (__, i) => i).filter(() => random() < 0.6),
        ...(random() < 0.5 ? { courses: pick(2) } : { credits: 300 * pick(2) }) }],
    }))
    const items = Array.from({ length: count }, (): AllocationItem => {
      const fits = lines.flatMap((_, l) => random() < 0.6 ? [l] : [])
      return { tier: pick(4) as AllocationItem['tier'], credits: [100, 300, 400][pick(3)]!, fits,
        ...(random() < 0.3 && fits.length > 0 ? { pinned: fits[pick(fits.length)]! } : {}) }
    })
    return { items, lines, tree: { n: 1 + pick(lines.length - 1), of: lines.map((_, line) => ({ line })) }, limits: [] }
  }

  it('takes no more than its own caps allow, in 3000 generated cases', () => {
    const random = seeded(7)
    for (let n = 0; n < 3000; n++) {
      const { items, lines, tree, limits } = generateChoice(random)
      const { uses } = allocate(items, lines, tree, { limits })
      const broken = lines.flatMap((line, l) =>
        line.caps!.filter(({ items: capped, courses, credits }) => {
          const mine = capped.filter(i => uses[i] === l)
          return mine.length > (courses ?? Infinity) || mine.reduce((sum, i) => sum + items[i]!.credits, 0) > (credits ?? Infinity)
        }).map(() => l),
      )
      expect({ n, broken }).toEqual({ n, broken: [] })
    }
  })
})
