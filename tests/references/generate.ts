import { type AllocationItem, type AllocationLimit, type AllocationLine, type AllocationTree, limitsOn } from '@ridgeway/core/requirements'
import { Random } from '../../demo/random'

/** Credits that one missing course stands for, where a line asks for credits as well: whole ones, as the product counts them. */
const wholeUnit = (credits: number, courses: number) => Math.max(100, Math.floor(credits / courses / 100) * 100)

export interface Case {
  items: AllocationItem[]
  lines: AllocationLine[]
  tree: AllocationTree
  limits: AllocationLimit[]
}

export interface Shape {
  lines: number
  items: number
  fits: number
  /** Choices of n branches. */
  groups?: boolean
  /** Choices inside choices. */
  nested?: boolean
  pins?: boolean
  caps?: boolean
  spread?: boolean
  /** Some items are shared with another program, which allows few of them. */
  limits?: boolean
}

/** A random allocation problem: lines that ask for courses, credits or both, items of all tiers, and what the shape adds. */
export function generateCase(seed: number, shape: Shape): Case {
  const random = new Random(seed)
  const lines: AllocationLine[] = Array.from({ length: shape.lines }, (_, rank) => {
    const courses = random.between(1, 3)
    const kind = random.between(0, 2)
    const credits = kind === 0 ? 0 : courses * 300 + (random.chance(0.3) ? 100 : 0)
    return { courses: kind === 1 ? 0 : courses, credits, unit: kind === 0 ? 300 : kind === 1 ? 0 : wholeUnit(credits, courses),
      rank: rank + 1 }
  })
  const items: AllocationItem[] = Array.from({ length: shape.items }, () => {
    const fits = random.shuffle(lines.map((_, l) => l)).slice(0, random.between(1, Math.min(shape.fits, shape.lines))).sort((a, b) => a - b)
    const tier = random.between(0, 3) as AllocationItem['tier']
    const credits = random.pick([100, 200, 300, 300, 300, 400, 450])
    return shape.pins && random.chance(0.15) ? { tier, credits, fits, pinned: random.pick(fits) } : { tier, credits, fits }
  })
  for (const [l, line] of lines.entries()) {
    const members = items.flatMap((item, i) => item.fits.includes(l) ? [i] : [])
    if (shape.caps && random.chance(0.5))
      line.caps = [{ items: members.filter(() => random.chance(0.6)), ...(random.chance(0.5) ? { courses: 1 } : { credits: 400 }) }]
    if (shape.spread && random.chance(0.5)) {
      line.spread = { n: random.between(2, 3), groupOf: items.map(() => random.between(0, 3)) }
      line.unit = Math.max(line.unit, 100)
    }
  }
  const limits: AllocationLimit[] = shape.limits
    ? limitsOn(items.flatMap((_, i) => random.chance(0.5) ? [i] : []),
        random.chance(0.5) ? { courses: random.between(0, 3) } : { credits: random.between(0, 3) * 350 }, items)
    : []
  const leaves: AllocationTree[] = lines.map((_, line) => ({ line }))
  const of = shape.groups || shape.nested ? intoGroups(leaves, random) : leaves
  const tops = shape.nested ? intoGroups(of, random) : of
  return { items, lines, limits, tree: { n: tops.length, of: tops } }
}

function intoGroups(nodes: AllocationTree[], random: Random): AllocationTree[] {
  const of: AllocationTree[] = []
  for (let at = 0; at < nodes.length;) {
    const size = Math.min(nodes.length - at, random.between(1, 3))
    const group = nodes.slice(at, at + size)
    of.push(size === 1 ? group[0]! : { n: random.between(1, size), of: group })
    at += size
  }
  return of
}
