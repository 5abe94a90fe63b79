/**
 * The best use of courses by requirement lines, exactly.
 *
 * Every item (course attempt) may fill at most one line it fits. Items come in tiers, firmest first:
 * completed, under way, registered, planned. The objective is, in this order,
 *
 *   1. the least left open by items of tier 0; then by tiers 0–1; then 0–2; then 0–3,
 *   2. the fewest pins broken,
 *   3. the fewest items tied up,
 *   4. the smallest sum of the ranks of the lines used (specific lines first, then in printed order).
 *
 * The parts: `line-states` (what a line can still become), `objective` (the order above as one whole number),
 * `relaxation` (the bound), `search` (branch and bound on it), `components` (what does not touch is solved apart).
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
  /** At most so many credits or courses of these items (by index) may be used here. */
  caps?: { items: number[], credits?: number, courses?: number }[]
  /** The items used must come from at least `n` groups; `groupOf` gives the group of every item. */
  spread?: { n: number, groupOf: number[] }
}

/** At most so many of these items may be used at all: the sharing rule of two programs. */
export interface AllocationLimit { items: number[], credits?: number, courses?: number }

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

export interface AllocationOptions {
  limits?: AllocationLimit[]
  /** Nodes of the search, a component, before giving up the proof; each costs well under a millisecond. */
  nodeLimit?: number
}
