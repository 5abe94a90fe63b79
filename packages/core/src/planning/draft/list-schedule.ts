import { certainWaits, earliestSlots, finishBound, latestSlots } from './finish-bound'
import type { Schedule, ScheduleProblem } from './types'
import { overFrom } from './waits'

/** How many orders are tried at most before the best schedule so far is taken. */
const TRIES = 400

export interface ScheduleResult {
  schedule: Schedule
  /** Last slot in use; -1 when there is nothing to place. */
  end: number
  /** No schedule of these tasks ends sooner than this. */
  bound: number
}

/**
 * Places all tasks so that the last of them comes as early as can be: list scheduling, term by term, from the latest start
 * (the usual priority for it; see Kolisch & Hartmann 1999), repeated with changed priorities until the bound is met or the tries are spent.
 * Null when no order found fits; a null after a bound that exists says nothing about whether one does.
 */
export function shortestSchedule(problem: ScheduleProblem, random: () => number, tries = TRIES): ScheduleResult | null {
  const bound = finishBound(problem)
  if (bound === null) return null
  const early = earliestSlots(problem)
  const weight = followers(problem)
  let best: Schedule | null = null
  let end = problem.room.length
  let target = bound
  for (let attempt = 0; attempt < tries && (best === null || end > bound); attempt++) {
    // The latest starts for a finish between the bound and what is known.
    const late = latestSlots(problem, target)
    const noise = attempt === 0 ? 0 : 0.4 + 1.6 * (attempt / tries)
    const rank = problem.tasks.map((task, i) =>
      late[i]! + early[i]! * 0.05 - weight[i]! * 0.2 - task.credits / 4000 + noise * (random() - 0.5) * 2,
    )
    const found = placeInOrder(problem, rank)
    if (found) {
      const last = Math.max(-1, ...found)
      if (last < end || best === null) [best, end] = [found, last]
    }
    target = best && attempt % 2 === 1 ? Math.max(bound, end - 1) : Math.min(problem.room.length - 1, bound + (attempt % 3 === 2 ? 1 : 0))
  }
  return best && { schedule: best, end, bound }
}

/** How many tasks wait for each, through others as well. */
function followers({ tasks, waits }: ScheduleProblem): number[] {
  const direct = tasks.map((): Set<number> => new Set())
  waits.forEach((wait, after) => certainWaits(wait).forEach(({ task }) => direct[task]!.add(after)))
  return tasks.map((_, i) => {
    const seen = new Set<number>()
    const visit = (task: number) =>
      direct[task]!.forEach((next) => {
        if (seen.has(next)) return
        seen.add(next)
        visit(next)
      })
    visit(i)
    return seen.size
  })
}

/** Fills one slot after the other with what is ready, lowest rank first; null when something finds no place. */
function placeInOrder({ tasks, waits, room }: ScheduleProblem, rank: readonly number[]): Schedule | null {
  const slots: (number | undefined)[] = tasks.map(() => undefined)
  const order = tasks.map((_, i) => i).sort((a, b) => rank[a]! - rank[b]!)
  const left = [...room]
  // What may stand in one slot only keeps its room.
  const single = tasks.map(task => task.slots.length === 1)
  tasks.forEach((task, i) => single[i] && (left[task.slots[0]!]! -= task.credits))
  if (left.some(credits => credits < 0)) return null
  for (let slot = 0; slot < room.length; slot++) {
    for (let again = true; again;) {
      again = false
      for (const i of order) {
        const task = tasks[i]!
        if (slots[i] !== undefined || !task.slots.includes(slot) || (!single[i] && task.credits > left[slot]!)) continue
        if (overFrom(waits[i]!, other => slots[other]) > slot) continue
        slots[i] = slot
        if (!single[i]) left[slot]! -= task.credits
        // What may stand beside it can come now.
        again = true
      }
    }
  }
  return slots.some(slot => slot === undefined) ? null : slots as number[]
}

/** Whether a schedule keeps every rule: slots, waits and room. */
export function isSound({ tasks, waits, room }: ScheduleProblem, schedule: Schedule): boolean {
  const left = [...room]
  return tasks.every((task, i) => {
    left[schedule[i]!]! -= task.credits
    return task.slots.includes(schedule[i]!) && overFrom(waits[i]!, other => schedule[other]) <= schedule[i]!
  }) && left.every(credits => credits >= 0)
}
