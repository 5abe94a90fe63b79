/** Answers of one route, as a histogram counts them: how many took at most so long, the bounds in seconds and ascending. */
export interface Timed {
  bounds: readonly number[]
  /** For each bound, how many took at most that; they never fall. */
  upTo: readonly number[]
  count: number
}

/**
 * The time that a share of the answers kept within, in seconds: between two bounds in proportion, as is common for such histograms (common
 * practice, no source). Where it lies beyond the last bound, that bound; null where nothing was counted.
 */
export function timeOf({ bounds, upTo, count }: Timed, share: number): number | null {
  if (count === 0) return null
  const wanted = share * count
  const at = upTo.findIndex(so => so >= wanted)
  if (at < 0) return bounds.at(-1) ?? null
  const [low, below] = at === 0 ? [0, 0] : [bounds[at - 1]!, upTo[at - 1]!]
  const here = upTo[at]! - below
  return here === 0 ? bounds[at]! : Math.min(bounds[at]!, low + (bounds[at]! - low) * (wanted - below) / here)
}
