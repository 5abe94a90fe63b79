/**
 * The best use of courses by requirement lines, exactly.
 *
 * Every item (course attempt) may fill at most one line it fits. Items come in tiers, firmest first:
 * completed, under way, registered, planned. The objective is, in this order,
 *
 *   1. in a program with a choice the least left open by all items together: a choice is answered by the branch that can be finished,
 *      however little of it is completed,
 *   2. the least left open by items of tier 0; then by tiers 0–1; then 0–2; then 0–3,
 *   3. the fewest pins broken,
 *   4. the fewest items tied up,
 *   5. the smallest sum of the ranks of the lines used (specific lines first, then in printed order).
 *
 * With several programs an item has a copy in each, and these criteria are read program after program (or over all in sum).
 *
 * The parts: `components` (what does not touch is solved apart), `line-states` (what a line can still become), `objective` (the order
 * above as one whole number), `layout` (a component as flat arrays), `groups` (copies tied by limits), `relaxation`, `open-tables` and
 * `polish` (the bound), `local-search` and `descent` (good answers), `search` (branch and bound on all of it).
 */
export interface AllocationItem {
  tier: 0 | 1 | 2 | 3
  credits: number
  /** Indices of the lines it fits. */
  fits: number[]
  pinned?: number
  /** It must be used, whatever that costs: for asking what a use would change. */
  must?: boolean
}

export interface AllocationLine {
  /** Needs in credits and in courses; 0 where the line does not ask for it. At least one is positive. */
  credits: number
  courses: number
  /** Credits that one missing course, or one missing subject of a spread, stands for. */
  unit: number
  rank: number
  /** The program it belongs to, by number; all of one where none is said. */
  program?: number
  /** At most so many credits or courses of these items (by index) may be used here. */
  caps?: { items: number[], credits?: number, courses?: number }[]
  /** The items used must come from at least `n` groups; `groupOf` gives the group of every item. */
  spread?: { n: number, groupOf: number[] }
}

/**
 * At most so much may be in use: the sizes of the terms whose items are all used add up to `room` at most. A term of one item counts its
 * use, a term of two counts that both are used: a course in two programs, or two courses of which only one gives credit.
 */
export interface AllocationLimit {
  room: number
  terms: LimitTerm[]
}
export interface LimitTerm { of: readonly [number] | readonly [number, number], size: number }

/** At most so many of these items, or of their credits, may be used; a limit for each of the two that is given. */
export function limitsOn(members: readonly number[], most: { courses?: number | undefined, credits?: number | undefined },
  items: readonly Pick<AllocationItem, 'credits'>[]): AllocationLimit[] {
  const limit = (room: number | undefined, sizeOf: (i: number) => number): AllocationLimit[] =>
    room === undefined ? [] : [{ room, terms: members.map(i => ({ of: [i], size: sizeOf(i) })) }]
  return [...limit(most.courses, () => 1), ...limit(most.credits, i => items[i]!.credits)]
}

/** How lines join into the whole: a line, all of several, or the n best of several. */
export type AllocationTree = { line: number } | { n: number, of: AllocationTree[] }

export interface AllocationResult {
  /** For each item the line it fills, or -1. */
  uses: number[]
  /** Credits left open with items up to each tier. */
  open: [number, number, number, number]
  /** True when no other uses fill more or break fewer pins; false when the search stopped at its limit before that was shown. */
  proved: boolean
  /** True when the last two criteria are at their best as well. */
  settled: boolean
  nodes: number
}

/** Whether the first program never loses to a later one, or all programs are filled as one. */
export type ProgramsPolicy = 'in order' | 'in sum'

export interface AllocationOptions {
  limits?: AllocationLimit[]
  /** How several programs are weighed; `in order` unless it is said. */
  policy?: ProgramsPolicy
  /** Nodes of the search, a component, before giving up the proof; each costs well under a millisecond. */
  nodeLimit?: number
  /** Leaves out the last two criteria: as much is filled and as few pins are broken, by any of the uses that do so. */
  fillsOnly?: boolean
}
