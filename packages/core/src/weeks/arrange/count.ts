import type { Rows } from './compile'
import { full } from './search'

/** Whoever looks at the clock does so this often. */
const LOOK_EVERY = 1024

/** The options of one place as bits of their own, and of every option which of them can stand beside it. */
interface Bits {
  options: readonly number[]
  words: number
  /** By option of the problem, `words` words each. */
  beside: Int32Array
}

function bitsOf({ options, compatible }: Rows, list: readonly number[]): Bits {
  const words = Math.ceil(list.length / 32)
  const beside = new Int32Array(options.length * words)
  for (let option = 0; option < options.length; option++)
    list.forEach((other, n) => {
      if (compatible[option]![other >>> 5]! & (1 << (other & 31))) beside[option * words + (n >>> 5)]! |= 1 << (n & 31)
    })
  return { options: list, words, beside }
}

/**
 * How many weeks there are; `atLeast` when the count was stopped before its end.
 *
 * Places are chosen depth first, the smallest first, but for the last three. Of those it is known how many pairs the last two make and in
 * how many of them each option stands; an option of the third takes away the pairs of the few that it clashes with, and gives back those
 * that were taken away twice. So a week costs no step of its own, nor does a pair.
 */
export function countWeeks(problem: Rows, stop: () => boolean = () => false): { count: number, atLeast: boolean } {
  const { of, words, compatible, options } = problem
  const order = [...of].sort((a, b) => a.length - b.length)
  if (order.length === 0 || order[0]!.length === 0) return { count: 0, atLeast: false }
  if (order.length === 1) return { count: order[0]!.length, atLeast: false }
  const [a, b] = [bitsOf(problem, order.at(-2)!), bitsOf(problem, order.at(-1)!)]
  const allOf = (bits: Bits) => {
    const all = new Int32Array(bits.words)
    bits.options.forEach((_, n) => all[n >>> 5]! |= 1 << (n & 31))
    return all
  }
  const inA = new Int32Array(a.options.length)
  const inB = new Int32Array(b.options.length)
  /** In how many pairs each option of the last two stands, and how many there are in all. */
  function pairs(left: Int32Array, right: Int32Array): number {
    let sum = 0
    a.options.forEach((option, n) => sum += inA[n] = left[n >>> 5]! & (1 << (n & 31)) ? bitsBeside(b, option, right) : 0)
    b.options.forEach((option, n) => inB[n] = right[n >>> 5]! & (1 << (n & 31)) ? bitsBeside(a, option, left) : 0)
    return sum
  }
  if (order.length === 2) return { count: pairs(allOf(a), allOf(b)), atLeast: false }

  const masks = order.map((list) => {
    const bits = new Uint32Array(words)
    for (const option of list) bits[option >>> 5]! |= 1 << (option & 31)
    return { bits, from: list[0]! >>> 5, to: list.at(-1)! >>> 5 }
  })
  const rows = order.map(() => ({ all: new Uint32Array(words), left: new Int32Array(a.words), right: new Int32Array(b.words) }))
  const gone = { left: new Int32Array(a.words), right: new Int32Array(b.words) }
  const third = order.length - 3
  let steps = 0
  let stopped = false

  /** Pairs that an option of the third place leaves. */
  function pairsBeside(option: number, all: number, left: Int32Array, right: Int32Array): number {
    let sum = all
    for (let w = 0; w < b.words; w++) gone.right[w] = right[w]! & ~b.beside[option * b.words + w]!
    for (let w = 0; w < a.words; w++) gone.left[w] = left[w]! & ~a.beside[option * a.words + w]!
    for (let w = 0; w < b.words; w++)
      for (let bits = gone.right[w]!; bits !== 0; bits &= bits - 1) sum -= inB[(w << 5) + 31 - Math.clz32(bits & -bits)]!
    for (let w = 0; w < a.words; w++)
      for (let bits = gone.left[w]!; bits !== 0; bits &= bits - 1) {
        const n = (w << 5) + 31 - Math.clz32(bits & -bits)
        sum += bitsBeside(b, a.options[n]!, gone.right) - inA[n]!
      }
    return sum
  }
  function go(depth: number, { all, left, right }: { all: Uint32Array, left: Int32Array, right: Int32Array }): number {
    if (++steps % LOOK_EVERY === 0 && stop()) stopped = true
    if (stopped) return 0
    const { bits: own, from, to } = masks[depth]!
    const pairsHere = depth === third ? pairs(left, right) : 0
    let sum = 0
    for (let word = from; word <= to; word++) {
      for (let bits = all[word]! & own[word]!; bits !== 0; bits &= bits - 1) {
        const option = (word << 5) + 31 - Math.clz32(bits & -bits)
        if (depth === third) {
          sum += pairsBeside(option, pairsHere, left, right)
          continue
        }
        const row = rows[depth]!
        const beside = compatible[option]!
        let someLeft = 0
        let someRight = 0
        for (let w = 0; w < a.words; w++) someLeft |= row.left[w] = left[w]! & a.beside[option * a.words + w]!
        for (let w = 0; w < b.words; w++) someRight |= row.right[w] = right[w]! & b.beside[option * b.words + w]!
        if (someLeft === 0 || someRight === 0) continue
        for (let w = 0; w < words; w++) row.all[w] = all[w]! & beside[w]!
        sum += go(depth + 1, row)
      }
    }
    return sum
  }
  const count = go(0, { all: full(options.length, words), left: allOf(a), right: allOf(b) })
  return { count, atLeast: stopped }
}

/** How many of some options of a place can stand beside an option. */
function bitsBeside({ beside, words }: Bits, option: number, some: Int32Array): number {
  let sum = 0
  for (let w = 0; w < words; w++) sum += countBits(some[w]! & beside[option * words + w]!)
  return sum
}

/** How many bits of a word are set: added up in pairs, then in fours, then in bytes. */
function countBits(word: number): number {
  let n = word - ((word >>> 1) & 0x55555555)
  n = (n & 0x33333333) + ((n >>> 2) & 0x33333333)
  return Math.imul((n + (n >>> 4)) & 0x0F0F0F0F, 0x01010101) >>> 24
}

/** Whether a week stands: depth first, the place with the fewest options left first. */
export function hasWeek({ of, options, compatible, words }: Rows): boolean {
  const rows = of.map(() => new Uint32Array(words))
  function go(depth: number, all: Uint32Array, open: readonly (readonly number[])[]): boolean {
    const lists = open.map(list => list.filter(option => all[option >>> 5]! & (1 << (option & 31))))
    const next = lists.reduce((least, list) => list.length < least.length ? list : least, lists[0] ?? [])
    if (lists.length === 0) return true
    const rest = lists.filter(list => list !== next)
    return next.some((option) => {
      const row = rows[depth]!
      for (let w = 0; w < words; w++) row[w] = all[w]! & compatible[option]![w]!
      return go(depth + 1, row, rest)
    })
  }
  return go(0, full(options.length, words), of)
}
