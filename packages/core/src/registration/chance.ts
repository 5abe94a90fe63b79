/** One who waited in an earlier term: their place when they joined, and whether a seat was offered to them. */
export interface WaitedBefore { place: number, offered: boolean }

/** Fewer than so many are told as too few to say anything by. */
const ENOUGH = 4

/**
 * How it went for those who stood where somebody stands now: of all who waited at this place or further back, how many were offered a
 * seat. Null where too few did. It tells what has been, not what will be.
 */
export function chanceOf(place: number, before: readonly WaitedBefore[]): { of: number, offered: number } | null {
  const there = before.filter(one => one.place >= place)
  return there.length < ENOUGH ? null : { of: there.length, offered: there.filter(one => one.offered).length }
}
