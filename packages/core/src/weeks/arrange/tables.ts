import type { Block, Problem } from './compile'
import { PRICE, type Wish } from './wishes'

/** What a cell costs with some blocks in it: `rising` never falls when a class is added, `gaps` may. */
interface State {
  blocks: readonly Block[]
  /** Minutes × weight on one date, without the gaps. */
  rising: number
  gaps: number
}
type Weighted = Exclude<Wish['weight'], 'hard'>

/**
 * The cells of a problem with their costs, each state worked out once: a state is which patterns stand in a cell, whatever the order.
 * State 0 is empty.
 */
export class CellTables {
  private readonly states: State[][]
  private readonly next: Map<number, number>[]
  private readonly wishes: { wish: Wish, weight: Weighted }[]
  /** Minutes of a gap that cost nothing, and what each further one costs; 0 where gaps are of no matter. */
  readonly pass: number
  readonly gapWeight: number
  /** By cell and pattern the minutes of its blocks and how many they are: the most that it can fill of a gap. */
  readonly minutes: number[][]
  readonly blocks: number[][]

  constructor(private readonly problem: Problem) {
    this.states = problem.cells.map(() => [{ blocks: [], rising: 0, gaps: 0 }])
    this.next = problem.cells.map(() => new Map())
    this.wishes = problem.wishes.flatMap(wish => wish.weight === 'hard' ? [] : [{ wish, weight: wish.weight }])
    const gap = this.wishes.find(({ wish }) => wish.kind === 'fewer gaps')
    this.pass = gap?.wish.kind === 'fewer gaps' ? gap.wish.pass : 0
    this.gapWeight = gap?.weight ?? 0
    this.minutes = problem.patterns.map(list => list.map(blocks => blocks.reduce((sum, one) => sum + one.end - one.start, 0)))
    this.blocks = problem.patterns.map(list => list.map(blocks => blocks.length))
  }

  rising = (cell: number, state: number) => this.states[cell]![state]!.rising
  gaps = (cell: number, state: number) => this.states[cell]![state]!.gaps

  /** The least that the gaps of a cell can still cost when classes of so many minutes in so many blocks may come into them. */
  certainGaps(cell: number, state: number, minutes: number, blocks: number): number {
    // A class of f minutes takes at most f and one more pass off what its gap costs, since it makes two of one.
    return Math.max(0, this.states[cell]![state]!.gaps - this.gapWeight * (minutes + this.pass * blocks))
  }

  /** The state of a cell after a pattern came to it. */
  after(cell: number, state: number, pattern: number): number {
    const key = state * this.problem.patterns[cell]!.length + pattern
    const known = this.next[cell]!.get(key)
    if (known !== undefined) return known
    const blocks = [...this.states[cell]![state]!.blocks, ...this.problem.patterns[cell]![pattern]!].sort((a, b) => a.start - b.start)
    const made = this.states[cell]!.push(this.cost(cell, blocks)) - 1
    this.next[cell]!.set(key, made)
    return made
  }

  private cost(cell: number, blocks: readonly Block[]): State {
    const { follows } = this.problem.cells[cell]!
    const onSite = blocks.filter(block => block.onSite)
    const last = Math.max(...blocks.map(block => block.end))
    let rising = 0
    let gaps = 0
    for (const { wish, weight } of this.wishes) {
      if (wish.kind === 'earliest') rising += weight * Math.max(0, wish.at - blocks[0]!.start)
      else if (wish.kind === 'latest') rising += weight * Math.max(0, last - wish.at)
      else if (wish.kind === 'day off') rising += wish.day === follows ? weight * PRICE.dayOff : 0
      else if (wish.kind === 'fewer days') rising += onSite.length > 0 ? weight * PRICE.campusDay : 0
      else if (wish.kind === 'less travel')
        onSite.slice(1).forEach((block, i) => rising += weight * this.problem.travel(onSite[i]!.site, block.site))
      else if (wish.kind === 'fewer gaps')
        blocks.slice(1).forEach((block, i) => gaps += weight * Math.max(0, block.start - blocks[i]!.end - wish.pass))
    }
    return { blocks, rising, gaps }
  }
}
