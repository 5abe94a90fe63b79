import type { Credits } from '../../catalog/types'
import type { Schedule, ScheduleProblem } from './types'
import { overFrom } from './waits'

const STEPS = 6000

/** What a schedule is judged by, once its finish is settled. */
export interface ScheduleTaste {
  /** Weight of even loads over the terms. */
  even: number
  /** Weight of standing near the suggested term. */
  suggested: number
  /** Weight of leaving courses where they are. */
  stay: number
  /** Credits wished for in a term; null takes the average. */
  target: Credits | null
}

/**
 * Moves and swaps courses between terms, never beyond `end`, until the taste is met as well as can be found:
 * simulated annealing (Kirkpatrick, Gelatt & Vecchi 1983) from a sound schedule, sound at every step.
 */
export function evenOut(problem: ScheduleProblem, start: Schedule, end: number, taste: ScheduleTaste, random: () => number,
  steps = STEPS): Schedule {
  const { tasks, waits, room, base, summer } = problem
  const movable = tasks.flatMap((task, i) => task.slots.filter(slot => slot <= end).length > 1 ? [i] : [])
  if (movable.length === 0) return start
  const now = [...start]
  const load: Credits[] = room.map((_, slot) => base[slot]! + now.reduce((sum, at, i) => sum + (at === slot ? tasks[i]!.credits : 0), 0))
  const long = room.map((_, slot) => slot).filter(slot => slot <= end && !summer[slot])
  const goal = taste.target ?? long.reduce((sum, slot) => sum + load[slot]!, 0) / Math.max(1, long.length)
  const loadCost = (slot: number) => summer[slot] ? load[slot]! / 100 * taste.even * 4 : taste.even * ((load[slot]! - goal) / 100) ** 2
  const placeCost = (i: number, slot: number) => {
    const { was, suggested } = tasks[i]!
    return (was !== null && was !== slot ? taste.stay : 0) + (suggested === null ? 0 : taste.suggested * Math.abs(suggested - slot))
  }
  // Who has to be looked at again when a task moves: everything that names it.
  const namedBy = tasks.map((): number[] => [])
  waits.forEach((wait, i) => tasksIn(wait).forEach(task => namedBy[task]!.push(i)))
  const holds = (i: number) => overFrom(waits[i]!, other => now[other]) <= now[i]!
  const shift = (i: number, slot: number) => {
    load[now[i]!]! -= tasks[i]!.credits
    load[slot]! += tasks[i]!.credits
    now[i] = slot
  }
  const fits = (slot: number) => load[slot]! - base[slot]! <= room[slot]!

  let cost = 0
  let best = [...now]
  let bestCost = 0
  for (let step = 0; step < steps; step++) {
    const heat = 12 * (1 - step / steps) ** 2 + 0.01
    const i = movable[Math.floor(random() * movable.length)]!
    const places = tasks[i]!.slots.filter(slot => slot <= end && slot !== now[i])
    const to = places[Math.floor(random() * places.length)]
    if (to === undefined) continue
    const from = now[i]!
    const other = random() < 0.4
      ? movable.find(j => j !== i && now[j] === to && tasks[j]!.slots.includes(from) && random() < 0.5)
      : undefined
    const before = loadCost(from) + loadCost(to) + placeCost(i, from) + (other === undefined ? 0 : placeCost(other, to))
    shift(i, to)
    if (other !== undefined) shift(other, from)
    const touched = other === undefined ? [i, ...namedBy[i]!] : [i, other, ...namedBy[i]!, ...namedBy[other]!]
    const after = loadCost(from) + loadCost(to) + placeCost(i, to) + (other === undefined ? 0 : placeCost(other, from))
    const change = after - before
    if (fits(to) && fits(from) && touched.every(holds) && (change <= 0 || random() < Math.exp(-change / heat))) {
      cost += change
      if (cost < bestCost - 1e-9) [best, bestCost] = [[...now], cost]
    }
    else {
      if (other !== undefined) shift(other, to)
      shift(i, from)
    }
  }
  return best
}

function tasksIn(wait: ScheduleProblem['waits'][number]): number[] {
  switch (wait.kind) {
    case 'from':
      return []
    case 'task':
      return [wait.task]
    case 'credits':
      return wait.tasks.map(({ task }) => task)
    case 'some':
      return wait.of.flatMap(tasksIn)
  }
}
