import type { Component } from './components'
import { openCredits } from './line-states'

/**
 * The objective's parts folded into one whole number; the tiers' weights are for one `quantum` left open, the largest amount that divides
 * all credits.
 */
export interface Weights {
  tier: [number, number, number, number]
  pin: number
  tie: number
  rank: number
  quantum: number
}

const gcd = (a: number, b: number): number => b === 0 ? a : gcd(b, a % b)

/**
 * Weights that make "first this, then that" one comparison of whole numbers: each weight is larger than all that can come below it.
 * What a tier adds to the fill is at most the credits of its own items, which keeps the weights small:
 * least (o₀, o₁, o₂, o₃) in order is least o₀, then most o₀ − o₁, and so on.
 * Where the product still passes 2⁵³ the last criteria (order of lines, then fewest courses) are left to the local search.
 */
export function foldWeights(part: Component): Weights {
  const { items, lines } = part
  const ofLines = lines.flatMap(line => [line.credits, line.courses || line.spread ? line.unit : 0])
  const quantum = [...items.map(item => item.credits), ...ofLines].reduce(gcd, 0) || 1
  const need = lines.reduce((sum, line) => sum + openCredits(line, 0, 0, 0), 0) / quantum
  const largestUnit = Math.max(0, ...lines.map(line => line.courses || line.spread ? line.unit : 0))
  const fillOf = (tier: number) =>
    Math.min(need, items.filter(item => item.tier === tier).reduce((sum, item) => sum + Math.max(item.credits, largestUnit), 0) / quantum)
  const maxRank = Math.max(1, ...lines.map(line => line.rank))
  const pins = items.filter(item => item.pinned !== undefined).length
  for (const { ties, ranks } of [{ ties: true, ranks: true }, { ties: true, ranks: false }, { ties: false, ranks: false }]) {
    const rank = ranks ? 1 : 0
    const tie = ties ? rank * items.length * maxRank + 1 : 0
    const pin = tie * (items.length + 1) + 1
    const w3 = pin * (pins + 1)
    const w2 = w3 * (fillOf(3) + 1)
    const w1 = w2 * (fillOf(2) + 1)
    const w0 = w1 * (fillOf(1) + 1)
    if (w0 * (need + 1) < Number.MAX_SAFE_INTEGER / 4 || !ties) {
      return { tier: [w0 - w1, w1 - w2, w2 - w3, w3], pin, tie, rank, quantum }
    }
  }
  throw new RangeError('unreachable')
}
