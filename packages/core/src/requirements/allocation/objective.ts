import type { Component } from './components'
import { openCredits } from './line-states'

/**
 * The objective's parts folded into one whole number; the tiers' weights are for one `quantum` left open, the largest amount that divides
 * all credits. `tier` and `pin` are those of each program.
 */
export interface Weights {
  tier: Tiers[]
  pin: number[]
  tie: number
  rank: number
  quantum: number
}
type Tiers = [number, number, number, number]

/** What the sums of a bound may come to, so that prices in 64ths are still exact. */
const LARGEST = 2 ** 46

const gcd = (a: number, b: number): number => b === 0 ? a : gcd(b, a % b)

function quantumOf({ items, lines }: Component): number {
  const ofLines = lines.flatMap(line => [line.credits, line.courses || line.spread ? line.unit : 0])
  return [...items.map(item => item.credits), ...ofLines].reduce(gcd, 0) || 1
}

/** The programs of a component, in order. */
export const programsIn = ({ lines }: Pick<Component, 'lines'>): number[] => [...new Set(lines.map(programOf))].sort((a, b) => a - b)

const perProgram = <T>(part: Component, of: (program: number) => T): T[] =>
  Array.from({ length: 1 + Math.max(0, ...part.lines.map(programOf)) }, (_, p) => of(p))

/**
 * Weights that make "first this, then that" one comparison of whole numbers, for fills and pins of all programs together: each weight is
 * larger than all that can come below it. What a tier adds to the fill is at most the credits of its own items, which keeps the weights
 * small: least (o₀, o₁, o₂, o₃) in order is least o₀, then most o₀ − o₁, and so on.
 */
export function foldTogether(part: Component): Weights {
  const quantum = quantumOf(part)
  const { tier, pin } = foldOf(part, quantum, programsIn(part))
  return { tier: perProgram(part, () => tier), pin: perProgram(part, () => pin), tie: 0, rank: 0, quantum }
}

/** The same for one program alone; the others count for nothing. */
export function foldProgram(part: Component, program: number): Weights {
  const quantum = quantumOf(part)
  const { tier, pin } = foldOf(part, quantum, [program])
  return { tier: perProgram(part, (p): Tiers => p === program ? tier : [0, 0, 0, 0]), pin: perProgram(part, p => p === program ? pin : 0),
    tie: 0, rank: 0, quantum }
}

/**
 * Weights for a program and those before it, each more than all the later ones can gain; programs after it count for nothing. Where that
 * passes what can be summed exactly, the earliest are weighed tier by tier alike: nearly always the best fill is the best in every tier,
 * and then this is exact as well. Where it may not be (`exact` false), answers that fill an earlier program worse must be refused besides;
 * the bound is one in any case.
 */
export function foldStage(part: Component, program: number): { weights: Weights, exact: boolean } {
  const weights: Weights = { ...foldProgram(part, program) }
  let exact = true
  let scale = 1 + foldOf(part, weights.quantum, [program]).range
  for (let p = program - 1; p >= 0; p--) {
    const own = foldOf(part, weights.quantum, [p])
    const isExact: boolean = exact && scale * (own.range + 1) <= LARGEST
    const range = isExact ? own.range : own.need * 4 + own.pins
    exact &&= isExact
    weights.tier[p] = (isExact ? own.tier : equal(1)).map(weight => weight * scale) as Tiers
    weights.pin[p] = scale
    if (scale * (range + 1) <= LARGEST) scale *= range + 1
  }
  return { weights, exact }
}

const equal = (weight: number): Tiers => [weight, weight, weight, weight]

/** The last criteria, fewest courses and then the order of the lines, where all programs are to stay as well filled as they are. */
export function foldPreferences(part: Component): Weights {
  const tie = tieOf(part)
  const keep = tie * (part.items.length + 1) + 1
  return { tier: perProgram(part, () => equal(keep)), pin: perProgram(part, () => keep), tie, rank: 1, quantum: quantumOf(part) }
}

const tieOf = ({ items, lines }: Component) => items.length * Math.max(1, ...lines.map(line => line.rank)) + 1

/** The weights of some programs' fills and pins among themselves, and the most that they come to. */
function foldOf({ items, lines, choosing }: Component, quantum: number, programs: readonly number[]) {
  const mine = lines.filter(line => programs.includes(programOf(line)))
  const inside = items.filter(item => item.fits.some(l => programs.includes(programOf(lines[l]!))))
  const need = mine.reduce((sum, line) => sum + openCredits(line, 0, 0, 0), 0) / quantum
  const largestUnit = Math.max(0, ...mine.map(line => line.courses || line.spread ? line.unit : 0))
  const fillOf = (tier: number) =>
    Math.min(need, inside.filter(item => item.tier === tier).reduce((sum, item) => sum + Math.max(item.credits, largestUnit), 0) / quantum)
  const pins = inside.filter(item => item.pinned !== undefined).length
  const w3 = pins + 1
  if (programs.some(program => choosing.has(program))) {
    // Least o₃ comes before all others; then least o₀, then most o₀ − o₁, and most o₁ − o₂.
    const w1 = w3 * (fillOf(2) + 1)
    const w0 = w1 * (fillOf(1) + 1)
    const first = w0 * (need + 1)
    return { tier: [w0 - w1, w1 - w3, w3, first] as Tiers, pin: 1, range: (w0 + first) * need + pins, need, pins }
  }
  const w2 = w3 * (fillOf(3) + 1)
  const w1 = w2 * (fillOf(2) + 1)
  const w0 = w1 * (fillOf(1) + 1)
  return { tier: [w0 - w1, w1 - w2, w2 - w3, w3] as Tiers, pin: 1, range: w0 * need + pins, need, pins }
}

/** Fills with the last two criteria below: fewest courses, then the order of the lines; null where that passes what is summed exactly. */
export function foldAll(part: Component, fills: Weights): Weights | null {
  const { items, lines } = part
  const worth = lines.reduce((sum, line) => sum + fills.tier[programOf(line)]!.reduce((a, b) => a + b, 0)
    * openCredits(line, 0, 0, 0) / fills.quantum, 0)
  const tie = tieOf(part)
  const scale = tie * (items.length + 1) + 1
  return worth * scale > LARGEST
    ? null
    : { ...fills, tie, rank: 1, pin: fills.pin.map(pin => pin * scale),
        tier: fills.tier.map(weights => weights.map(weight => weight * scale) as Tiers) }
}

export const programOf = (line: { program?: number }): number => line.program ?? 0
