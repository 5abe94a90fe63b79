import type { Component } from './components'
import { openCredits } from './line-states'
import type { ProgramsPolicy } from './problem'

/**
 * The objective's parts folded into one whole number; the tiers' weights are for one `quantum` left open, the largest amount that divides
 * all credits. `tier` and `pin` are those of each program.
 */
export interface Weights {
  tier: [number, number, number, number][]
  pin: number[]
  tie: number
  rank: number
  quantum: number
  /** False where the programs are too large to be told apart in one number: later ones are weighed together then. */
  ordered: boolean
}

/** What the sums of a bound may come to, so that prices in 64ths are still exact. */
const LARGEST = 2 ** 46

const gcd = (a: number, b: number): number => b === 0 ? a : gcd(b, a % b)

/**
 * Weights that make "first this, then that" one comparison of whole numbers, for fills and pins: each weight is larger than all that can
 * come below it. What a tier adds to the fill is at most the credits of its own items, which keeps the weights small:
 * least (o₀, o₁, o₂, o₃) in order is least o₀, then most o₀ − o₁, and so on.
 */
export function foldFills(part: Component, policy: ProgramsPolicy): Weights {
  const { items, lines } = part
  const ofLines = lines.flatMap(line => [line.credits, line.courses || line.spread ? line.unit : 0])
  const quantum = [...items.map(item => item.credits), ...ofLines].reduce(gcd, 0) || 1
  const count = 1 + Math.max(0, ...lines.map(programOf))
  const groups = Array.from({ length: count }, (_, p) => [p])
  if (policy === 'in sum') groups.splice(0, count, Array.from({ length: count }, (_, p) => p))
  for (;;) {
    const folds = groups.map(programs => foldOf(part, quantum, programs))
    const total = folds.reduce((product, fold) => product * (fold.range + 1), 1)
    if (total > LARGEST && groups.length > 1) {
      const last = groups.pop()!
      groups.at(-1)!.push(...last)
      continue
    }
    const tier: Weights['tier'] = []
    const pin: number[] = []
    let scale = 1
    for (let g = groups.length - 1; g >= 0; g--) {
      for (const p of groups[g]!) {
        tier[p] = folds[g]!.tier.map(weight => weight * scale) as Weights['tier'][number]
        pin[p] = folds[g]!.pin * scale
      }
      scale *= folds[g]!.range + 1
    }
    return { tier, pin, tie: 0, rank: 0, quantum, ordered: policy === 'in sum' || groups.length === count }
  }
}

/** The weights of some programs' fills and pins among themselves, and the most that they come to. */
function foldOf({ items, lines }: Component, quantum: number, programs: readonly number[]) {
  const mine = lines.filter(line => programs.includes(programOf(line)))
  const inside = items.filter(item => item.fits.some(l => programs.includes(programOf(lines[l]!))))
  const need = mine.reduce((sum, line) => sum + openCredits(line, 0, 0, 0), 0) / quantum
  const largestUnit = Math.max(0, ...mine.map(line => line.courses || line.spread ? line.unit : 0))
  const fillOf = (tier: number) =>
    Math.min(need, inside.filter(item => item.tier === tier).reduce((sum, item) => sum + Math.max(item.credits, largestUnit), 0) / quantum)
  const pins = inside.filter(item => item.pinned !== undefined).length
  const w3 = pins + 1
  const w2 = w3 * (fillOf(3) + 1)
  const w1 = w2 * (fillOf(2) + 1)
  const w0 = w1 * (fillOf(1) + 1)
  return { tier: [w0 - w1, w1 - w2, w2 - w3, w3], pin: 1, range: w0 * need + pins }
}

/**
 * The same with the last two criteria below: fewest courses, then the order of the lines. Where that passes what can be summed exactly,
 * the last criteria are left out.
 */
export function foldAll(part: Component, fills: Weights): Weights {
  const { items, lines } = part
  const maxRank = Math.max(1, ...lines.map(line => line.rank))
  const worth = lines.reduce((sum, line) => sum + fills.tier[programOf(line)]!.reduce((a, b) => a + b, 0)
    * openCredits(line, 0, 0, 0) / fills.quantum, 0)
  for (const { tie, rank } of [{ tie: items.length * maxRank + 1, rank: 1 }, { tie: 1, rank: 0 }]) {
    const scale = tie * (items.length + 1) + 1
    if (worth * scale > LARGEST) continue
    return { ...fills, tie, rank, pin: fills.pin.map(pin => pin * scale),
      tier: fills.tier.map(weights => weights.map(weight => weight * scale) as Weights['tier'][number]) }
  }
  return fills
}

export const programOf = (line: { program?: number }): number => line.program ?? 0
