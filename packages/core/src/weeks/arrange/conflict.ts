import type { CourseCode } from '../../catalog/types'
import { type ArrangeInput, compileWeeks, narrowed, type Problem } from './compile'
import { countWeeks, hasWeek } from './count'
import { choicesOf, searchWeeks } from './search'
import type { Wish } from './wishes'

/** Something that has to hold: a course in the week, a hard wish, or a pinned bundle. */
export type Element = { kind: 'course', course: CourseCode } | { kind: 'wish', wish: Wish } | { kind: 'pin', course: CourseCode }

/** Why no week stands: the fewest elements that cannot hold together, and those of them of which leaving one out brings most weeks. */
export interface Conflict {
  elements: Element[]
  /** Each element whose absence alone lets weeks stand, with how many; the most first. Empty where more than one must go. */
  frees: { element: Element, weeks: number }[]
}

function elementsOf({ courses, wishes, pins }: ArrangeInput): Element[] {
  return [
    ...courses.map(({ course }): Element => ({ kind: 'course', course })),
    ...wishes.filter(wish => wish.weight === 'hard').map((wish): Element => ({ kind: 'wish', wish })),
    ...Object.keys(pins).map((course): Element => ({ kind: 'pin', course })),
  ]
}

/** The tables with only some of the elements. */
function only(problem: Problem, elements: readonly Element[]) {
  const names = (kind: 'course' | 'pin') => new Set(elements.flatMap(one => one.kind === kind ? [one.course] : []))
  const [courses, pinned] = [names('course'), names('pin')]
  const wishes = new Set(elements.flatMap(one => one.kind === 'wish' ? [one.wish.id] : []))
  return narrowed(problem, { place: one => courses.has(one), wish: one => wishes.has(one), pin: one => pinned.has(one) })
}

/**
 * The smallest set of courses, hard wishes and pins that cannot hold together; null when a week stands.
 * Every such set meets the complement of every set that stands; so the least set that meets all complements known so far is taken: it
 * is the answer unless it stands, and then what it grows to is one complement more.
 */
export function smallestConflict(input: ArrangeInput): Conflict | null {
  const all = elementsOf(input)
  const problem = compileWeeks(input)
  const stands = (elements: readonly Element[]) => hasWeek(only(problem, elements))
  if (stands(all)) return null
  const corrections: Set<number>[] = []
  for (;;) {
    const least = leastMeeting(corrections, all.length)
    const chosen = least.map(i => all[i]!)
    if (!stands(chosen)) return { elements: chosen, frees: freeing(problem, all, chosen) }
    const grown = new Set(least)
    for (let i = 0; i < all.length; i++)
      if (!grown.has(i) && stands([...grown, i].map(j => all[j]!))) grown.add(i)
    corrections.push(new Set(all.flatMap((_, i) => grown.has(i) ? [] : [i])))
  }
}

/** Only a member of the conflict can free the week by its absence. */
function freeing(problem: Problem, all: readonly Element[], conflict: readonly Element[]): Conflict['frees'] {
  return conflict.map(element => ({ element, weeks: countWeeks(only(problem, all.filter(one => one !== element))).count }))
    .filter(one => one.weeks > 0).sort((a, b) => b.weeks - a.weeks)
}

/** The least set of numbers below `size` that meets every set; the first in order among equals. */
function leastMeeting(sets: readonly ReadonlySet<number>[], size: number): number[] {
  for (let count = 0; count <= size; count++) {
    const found = meet(sets, [], count)
    if (found) return found.sort((a, b) => a - b)
  }
  return []
}
function meet(sets: readonly ReadonlySet<number>[], chosen: number[], left: number): number[] | null {
  const missed = sets.find(set => !chosen.some(i => set.has(i)))
  if (!missed) return chosen
  if (left === 0) return null
  for (const i of [...missed].sort((a, b) => a - b)) {
    const found = meet(sets, [...chosen, i], left - 1)
    if (found) return found
  }
  return null
}

/** By hard wish how many more weeks there would be without it, and whether counting them was stopped. */
export function hiddenBy(problem: Problem, stop?: () => boolean): { hidden: Record<string, number>, atLeast: boolean } {
  const now = countWeeks(problem, stop)
  let { atLeast } = now
  const hidden = problem.wishes.filter(wish => wish.weight === 'hard').map(({ id }) => {
    const without = countWeeks(narrowed(problem, { place: () => true, wish: other => other !== id, pin: () => true }), stop)
    atLeast ||= without.atLeast
    return [id, Math.max(0, without.count - now.count)]
  })
  return { hidden: Object.fromEntries(hidden), atLeast }
}

/** The fewest bundles to exchange so that everything stands together, and the week that it makes: among equal ones the best week. */
export interface Change {
  exchanged: CourseCode[]
  choices: Record<CourseCode, string>
}

/** The smallest change from what is picked; null when nothing stands however much is exchanged. */
export function smallestChange(input: ArrangeInput, picked: Readonly<Record<CourseCode, string>>): Change | null {
  const problem = compileWeeks(input)
  // One exchange costs more than all else together can: the most that any option costs by itself and beside the others.
  const dear = 1 + mostCost(problem)
  const { weeks } = searchWeeks(problem, { best: 1, extra: (i) => {
    const { course, choice } = problem.options[i]!
    return picked[problem.courses[course]!] === choice.id ? 0 : dear
  } })
  const [week] = weeks
  if (!week) return null
  const choices = choicesOf(problem, week)
  return { choices, exchanged: problem.courses.filter(course => choices[course] !== picked[course]) }
}

/** A bound above what any week can cost: a day of 48 hours, full of everything that is wished away, on every date. */
function mostCost(problem: Problem): number {
  const weights = problem.wishes.reduce((sum, wish) => sum + (wish.weight === 'hard' ? 0 : wish.weight), 0)
  const most = (of: (option: Problem['options'][number]) => number) =>
    problem.of.reduce((sum, list) => sum + Math.max(0, ...list.map(i => of(problem.options[i]!))), 0)
  // Ranks break ties only: however many courses there are, they must not weigh as much as an exchange.
  return most(option => option.own) + most(option => option.rank) + weights * 2880 * problem.cells.reduce((sum, cell) => sum + cell.days, 0)
}
