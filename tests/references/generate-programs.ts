import type { AllocationItem, AllocationLimit, AllocationLine, AllocationTree } from '@ridgeway/core/requirements'
import { Random } from '../../demo/random'
import type { Case } from './generate'

export interface ProgramsShape {
  /** Lines of each program, the first one first. */
  lines: number[]
  courses: number
  /** At most so many lines of one program that a course fits. */
  fits: number
  pins?: boolean
  /** Choices of one of two lines. */
  choices?: boolean
}

/**
 * A student with several programs: every course has a copy in each that has a line for it, and what two programs share is limited by
 * courses or by credits, so tightly that it often decides.
 */
export function generatePrograms(seed: number, shape: ProgramsShape): Case {
  const random = new Random(seed)
  const lines: AllocationLine[] = []
  const trees: AllocationTree[] = []
  const ofProgram = shape.lines.map((count, program) => {
    const mine = Array.from({ length: count }, () => {
      const courses = random.between(1, program === 0 ? 3 : 2)
      const byCredits = random.chance(0.3)
      return lines.push({ courses: byCredits ? 0 : courses, credits: byCredits ? courses * 300 : 0, unit: byCredits ? 0 : 300,
        rank: lines.length + 1, ...(program > 0 ? { program } : {}) }) - 1
    })
    const leaves = mine.map((line): AllocationTree => ({ line }))
    const pair = shape.choices && leaves.length > 2 && random.chance(0.5) ? [{ n: 1, of: leaves.splice(-2) }] : []
    trees.push({ n: leaves.length + pair.length, of: [...leaves, ...pair] })
    return mine
  })
  const items: AllocationItem[] = []
  const copies: number[][] = Array.from({ length: shape.courses }, () => {
    const tier = random.pick([0, 0, 0, 1, 2, 3, 3]) as AllocationItem['tier']
    const credits = random.pick([300, 300, 300, 400, 100])
    return ofProgram.map((mine, program) => {
      const isFor = program === 0 ? random.chance(0.9) : random.chance(0.6)
      const fits = isFor ? random.shuffle([...mine]).slice(0, random.between(1, shape.fits)).sort((a, b) => a - b) : []
      return items.push({ tier, credits, fits, ...(shape.pins && fits.length > 0 && random.chance(0.1)
        ? { pinned: random.pick(fits) }
        : {}) }) - 1
    })
  })
  const limits: AllocationLimit[] = []
  for (let q = 1; q < shape.lines.length; q++) {
    for (let p = 0; p < q; p++) {
      const byCredits = random.chance(0.3)
      limits.push({ room: byCredits ? random.between(0, 2) * 350 : random.between(0, 2), terms: copies.flatMap((all) => {
        const [a, b] = [all[p]!, all[q]!]
        return items[a]!.fits.length > 0 && items[b]!.fits.length > 0
          ? [{ of: [a, b] as const, size: byCredits
              ? items[a]!.credits
              : 1 }]
          : []
      }) })
    }
  }
  return { items, lines, limits, tree: { n: trees.length, of: trees } }
}

/** The tree of one program within such a case. */
export const treeOfProgram = ({ tree }: Case, program: number): AllocationTree => (tree as { of: AllocationTree[] }).of[program]!
