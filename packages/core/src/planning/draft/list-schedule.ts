import { certainWaits, earliestSlots, finishBound, latestSlots } from './finish-bound'
import type { Schedule, ScheduleProblem, Wait } from './types'
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
  const place = (i: number, slot: number) => {
    slots[i] = slot
    if (!single[i]) left[slot]! -= tasks[i]!.credits
  }
  for (let slot = 0; slot < room.length; slot++) {
    for (let again = true; again;) {
      again = false
      for (const i of order) {
        const task = tasks[i]!
        if (slots[i] !== undefined || !task.slots.includes(slot) || (!single[i] && task.credits > left[slot]!)) continue
        if (overFrom(waits[i]!, other => slots[other]) > slot) continue
        place(i, slot)
        // What may stand beside it can come now.
        again = true
      }
      if (again) continue
      // What could come alone has no room, and so brings none along.
      const waiting = order.filter(i => slots[i] === undefined && tasks[i]!.slots.includes(slot)
        && (single[i] || tasks[i]!.credits <= left[slot]!) && overFrom(waits[i]!, other => slots[other]) > slot)
      const together = groupThatFits(waiting, slot, { waits, slots, fits: group =>
        group.reduce((sum, i) => single[i] ? sum : sum + tasks[i]!.credits, 0) <= left[slot]! })
      together.forEach(i => place(i, slot))
      again = together.length > 0
    }
  }
  return slots.some(slot => slot === undefined) ? null : slots as number[]
}

/**
 * Tasks of which none can come alone, and which can come in a slot together, since each goes alongside another: the first of them in
 * order with the fewest others that were found; none where no such group fits.
 */
function groupThatFits(order: readonly number[], slot: number, { waits, slots, fits }: {
  waits: readonly Wait[]
  slots: readonly (number | undefined)[]
  fits: (group: readonly number[]) => boolean
}): number[] {
  const holds = (group: ReadonlySet<number>, i: number) =>
    overFrom(waits[i]!, other => slots[other] ?? (group.has(other) ? slot : undefined)) <= slot
  const all = new Set(order)
  for (let size = -1; size !== all.size;) {
    size = all.size
    for (const i of all) if (!holds(all, i)) all.delete(i)
  }
  for (const first of all) {
    const group = new Set(all)
    // What can be left out is, last in order first.
    for (const i of [...all].reverse()) {
      if (i === first) continue
      const without = new Set(group)
      without.delete(i)
      for (let size = -1; size !== without.size;) {
        size = without.size
        for (const other of without) if (!holds(without, other)) without.delete(other)
      }
      if (without.has(first)) for (const other of group) if (!without.has(other)) group.delete(other)
    }
    if (fits([...group])) return [...group]
  }
  return []
}

/** Whether a schedule keeps every rule: slots, waits and room. */
export function isSound({ tasks, waits, room }: ScheduleProblem, schedule: Schedule): boolean {
  const left = [...room]
  return tasks.every((task, i) => {
    left[schedule[i]!]! -= task.credits
    return task.slots.includes(schedule[i]!) && overFrom(waits[i]!, other => schedule[other]) <= schedule[i]!
  }) && left.every(credits => credits >= 0)
}
