import type { Credits } from '../../catalog/types'
import type { ScheduleProblem, Wait } from './types'
import { overFrom } from './waits'

/** Earliest slot of every task, loads left aside: rules read with every task as early as it can be; Infinity where never. */
export function earliestSlots({ tasks, waits, room }: ScheduleProblem): number[] {
  const early = tasks.map(task => task.slots[0] ?? Infinity)
  const filled = runningSum(room)
  // Rings never settle below Infinity; one pass a task is enough for everything else.
  for (let pass = 0; pass <= tasks.length; pass++) {
    let moved = false
    tasks.forEach((task, i) => {
      const from = overAtBest(waits[i]!, early, filled)
      const slot = task.slots.find(candidate => candidate >= from) ?? Infinity
      if (slot > early[i]!) {
        early[i] = slot
        moved = true
      }
    })
    if (!moved) return early
  }
  return early.map((_, i) => tasks[i]!.slots.find(slot => slot >= overAtBest(waits[i]!, early, filled)) ?? Infinity)
}

/** As `overFrom`, and credits can come no faster than full terms bring them. */
function overAtBest(wait: Wait, early: readonly number[], filled: readonly Credits[]): number {
  if (wait.kind === 'some')
    return wait.n === 0
      ? -1
      : wait.of.map(part => overAtBest(part, early, filled)).sort((a, b) => a - b)[wait.n - 1] ?? Infinity
  const from = overFrom(wait, task => early[task])
  if (wait.kind !== 'credits' || wait.lacking <= 0) return from
  const fixedBy = (slot: number) => wait.fixed.reduce((sum, one) => one.slot <= slot ? sum + one.credits : sum, 0)
  const full = filled.findIndex((sum, slot) => sum + fixedBy(slot) >= wait.lacking)
  return Math.max(from, full < 0 ? Infinity : full + 1)
}

/** Latest slot of every task for a finish in slot `end`, from the waits that have no alternative. */
export function latestSlots({ tasks, waits }: ScheduleProblem, end: number): number[] {
  const late = tasks.map(task => task.slots.filter(slot => slot <= end).at(-1) ?? -Infinity)
  for (let pass = 0; pass <= tasks.length; pass++) {
    let moved = false
    tasks.forEach((_, after) => {
      for (const { task: before, lag } of certainWaits(waits[after]!)) {
        const slot = tasks[before]!.slots.filter(candidate => candidate <= late[after]! - lag).at(-1) ?? -Infinity
        if (slot < late[before]!) {
          late[before] = slot
          moved = true
        }
      }
    })
    if (!moved) break
  }
  return late
}

const certain = new WeakMap<Wait, readonly CertainWait[]>()
interface CertainWait {
  task: number
  lag: number
}

/** Tasks that must come first, or in the same slot, whatever else happens. */
export function certainWaits(wait: Wait): readonly CertainWait[] {
  if (wait.kind === 'task') return [wait]
  if (wait.kind !== 'some') return []
  let found = certain.get(wait)
  if (!found) {
    // A way that never opens is none.
    const ways = wait.of.filter(part => part.kind !== 'from' || part.slot < Infinity)
    certain.set(wait, found = wait.n === ways.length ? ways.flatMap(certainWaits) : [])
  }
  return found
}

/**
 * The first slot in which everything can be finished, as a lower bound: no schedule ends sooner.
 * For each slot in turn it is asked whether every task has a place between its earliest and its latest slot, and whether
 * the credits, taken as if they could be divided, fit into the rooms (a maximum flow, Ford & Fulkerson 1956).
 * `more` are credits that must be placed as well and may stand anywhere; null when not even the last slot is enough.
 */
export function finishBound(problem: ScheduleProblem, more: Credits = 0, from = -1): number | null {
  const early = earliestSlots(problem)
  if (early.some(slot => slot === Infinity)) return null
  const soonest = Math.max(from, ...early, -1)
  for (let end = soonest; end < problem.room.length; end++) {
    if (couldEndIn(problem, early, end, more)) return end
  }
  return null
}

/** Whether nothing speaks against a finish by the end of a slot; see `finishBound`. */
export function couldEndIn(problem: ScheduleProblem, early: readonly number[], end: number, more: Credits): boolean {
  const late = latestSlots(problem, end)
  if (early.some((slot, i) => slot > late[i]!)) return false
  const places = problem.tasks.map((task, i) => task.slots.filter(slot => slot >= early[i]! && slot <= late[i]!))
  if (places.some(slots => slots.length === 0)) return false
  const room = problem.room.slice(0, end + 1)
  const total = problem.tasks.reduce((sum, task) => sum + task.credits, more)
  if (total > room.reduce((sum, credits) => sum + credits, 0)) return false
  // Whole courses seldom fill a term exactly: what no choice of them can fill is no room. Loose credits fill anything.
  const fillable = more > 0
    ? room
    : room.map((credits, slot) => mostOf(problem.tasks.filter((_, i) => places[i]!.includes(slot)).map(task => task.credits), credits))
  return divides(problem.tasks.map(task => task.credits), places, fillable)
}

/** The largest sum of some of these amounts that is no more than the limit: every sum in reach, in steps of their common divisor. */
function mostOf(amounts: readonly Credits[], limit: Credits): Credits {
  const step = amounts.reduce(commonDivisor, 0)
  if (step === 0) return 0
  const reached = new Uint8Array(Math.floor(limit / step) + 1)
  reached[0] = 1
  for (const amount of amounts) {
    const size = amount / step
    for (let sum = reached.length - 1; sum >= size; sum--) if (reached[sum - size]) reached[sum] = 1
  }
  return reached.lastIndexOf(1) * step
}

const commonDivisor = (a: number, b: number): number => b === 0 ? a : commonDivisor(b, a % b)

/** Whether amounts, divided at will, fit into the rooms of their places. */
function divides(amounts: readonly Credits[], places: readonly (readonly number[])[], rooms: readonly Credits[]): boolean {
  const left = [...rooms]
  const sent = amounts.map(() => new Map<number, Credits>())
  return amounts.every((amount, i) => {
    let open = amount
    while (open > 0) {
      const given = push(i, open, new Set())
      if (given === 0) return false
      open -= given
    }
    return true
  })

  /** Finds room for up to `wanted` of task `i`, sending others elsewhere where that helps. */
  function push(i: number, wanted: Credits, seen: Set<number>): Credits {
    for (const place of places[i]!) {
      if (seen.has(place)) continue
      seen.add(place)
      const free = Math.min(wanted, left[place]!)
      if (free > 0) {
        left[place]! -= free
        sent[i]!.set(place, (sent[i]!.get(place) ?? 0) + free)
        return free
      }
      for (let other = 0; other < amounts.length; other++) {
        const there = sent[other]!.get(place) ?? 0
        if (other === i || there === 0) continue
        const freed = push(other, Math.min(wanted, there), seen)
        if (freed === 0) continue
        sent[other]!.set(place, there - freed)
        sent[i]!.set(place, (sent[i]!.get(place) ?? 0) + freed)
        return freed
      }
    }
    return 0
  }
}

function runningSum(amounts: readonly Credits[]): Credits[] {
  let sum = 0
  return amounts.map(amount => sum += amount)
}
