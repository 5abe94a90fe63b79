import type { AllocationItem, AllocationLine, AllocationTree } from '@ridgeway/core'
import { Random } from '../../demo/random'

export interface Case { items: AllocationItem[], lines: AllocationLine[], tree: AllocationTree }

export interface Shape { lines: number, items: number, fits: number, groups?: boolean, pins?: boolean }

/** A random allocation problem: lines that ask for courses, credits or both, items of all tiers. */
export function generateCase(seed: number, shape: Shape): Case {
  const random = new Random(seed)
  const lines: AllocationLine[] = Array.from({ length: shape.lines }, (_, rank) => {
    const courses = random.between(1, 3)
    const kind = random.between(0, 2)
    const credits = kind === 0 ? 0 : courses * 300 + (random.chance(0.3) ? 100 : 0)
    return { courses: kind === 1 ? 0 : courses, credits, unit: kind === 0 ? 300 : kind === 1 ? 0 : Math.ceil(credits / courses), rank: rank + 1 }
  })
  const items: AllocationItem[] = Array.from({ length: shape.items }, () => {
    const fits = random.shuffle(lines.map((_, l) => l)).slice(0, random.between(1, Math.min(shape.fits, shape.lines))).sort((a, b) => a - b)
    const tier = random.between(0, 3) as AllocationItem['tier']
    const credits = random.pick([100, 200, 300, 300, 300, 400, 450])
    return shape.pins && random.chance(0.15) ? { tier, credits, fits, pinned: random.pick(fits) } : { tier, credits, fits }
  })
  const leaves: AllocationTree[] = lines.map((_, line) => ({ line }))
  if (!shape.groups) return { items, lines, tree: { n: leaves.length, of: leaves } }
  const of: AllocationTree[] = []
  for (let at = 0; at < leaves.length;) {
    const size = Math.min(leaves.length - at, random.between(1, 3))
    const group = leaves.slice(at, at + size)
    of.push(size === 1 ? group[0]! : { n: random.between(1, size), of: group })
    at += size
  }
  return { items, lines, tree: { n: of.length, of } }
}
