/** Something that takes one slot of time, and may stand in some slots only. */
export interface Activity {
  id: string
  /** Slots, by number, in which it may stand, in order. */
  slots: readonly number[]
  /** It stands here and is not to be moved. */
  fixed?: number
}

/** `after` stands at least `lag` slots later than `before`; 0 lets them share a slot. */
export interface Dependency {
  before: string
  after: string
  lag: number
}

export interface Window {
  /** First slot in which it can stand; null when there is none. */
  earliest: number | null
  /** Last slot that does not move the end; null when it cannot be kept at all. */
  latest: number | null
  /** The activity that decides its earliest slot. */
  decidedBy: string | null
}

/**
 * Earliest and latest slots of activities that wait for each other: the forward and the backward pass of the critical path method
 * (Kelley & Walker 1959, "Critical-path planning and scheduling"), with slots in which an activity may not stand left out.
 * How many activities share a slot is not looked at. Activities that wait for each other in a ring, and what waits for those, have no
 * window.
 */
export function criticalPath(activities: readonly Activity[], dependencies: readonly Dependency[], end: number): Map<string, Window> {
  const byId = new Map(activities.map(activity => [activity.id, activity]))
  const known = dependencies.filter(({ before, after }) => byId.has(before) && byId.has(after))
  const order = inOrder(activities, known)
  const windows = new Map<string, Window>(activities.map(({ id }) => [id, { earliest: null, latest: null, decidedBy: null }]))
  for (const id of order) {
    const { slots, fixed } = byId.get(id)!
    let from = -Infinity
    let decidedBy: string | null = null
    for (const { before, lag } of known.filter(dependency => dependency.after === id)) {
      const at = windows.get(before)!.earliest
      const free = at === null ? Infinity : at + lag
      if (free > from) [from, decidedBy] = [free, before]
    }
    const earliest = fixed ?? slots.find(slot => slot >= from) ?? null
    // What it waits for decides nothing where it could not have stood sooner anyway.
    const alone = fixed ?? slots[0]
    windows.set(id, { earliest, latest: null, decidedBy: earliest !== null && earliest !== alone ? decidedBy : null })
  }
  for (const id of [...order].reverse()) {
    const { slots, fixed } = byId.get(id)!
    let until = end
    for (const { after, lag } of known.filter(dependency => dependency.before === id)) {
      const at = windows.get(after)!.latest
      until = Math.min(until, at === null ? -Infinity : at - lag)
    }
    windows.get(id)!.latest = fixed !== undefined ? (fixed <= until ? fixed : null) : slots.filter(slot => slot <= until).at(-1) ?? null
  }
  return windows
}

/** The activities that lead to this one, first to last, itself included. */
export function chainTo(id: string, windows: ReadonlyMap<string, Window>): string[] {
  const before = windows.get(id)?.decidedBy
  return before ? [...chainTo(before, windows), id] : [id]
}

function inOrder(activities: readonly Activity[], dependencies: readonly Dependency[]): string[] {
  const waiting = new Map(activities.map(({ id }) => [id, dependencies.filter(dependency => dependency.after === id).length]))
  const ready = activities.filter(({ id }) => waiting.get(id) === 0).map(({ id }) => id)
  const order: string[] = []
  for (let next = ready.shift(); next !== undefined; next = ready.shift()) {
    order.push(next)
    for (const { after } of dependencies.filter(dependency => dependency.before === next)) {
      waiting.set(after, waiting.get(after)! - 1)
      if (waiting.get(after) === 0) ready.push(after)
    }
  }
  return order
}
