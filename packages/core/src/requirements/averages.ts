import { familyOf } from '../catalog/linked'
import type { CourseCode, CourseItem } from '../catalog/types'
import { gpa } from '../grades/gpa'
import { averagedAttempts } from '../record/attempts'
import { openByTier } from './allocation/allocate'
import type { AllocationLine } from './allocation/problem'
import { leastNeeded } from './bounds'
import type { Prepared } from './prepare'
import { failsALine } from './rules'

/**
 * Whether one of the averages over the program's own courses is too low, where any uses that fill as much as these say the same, in a
 * program without a choice also those that fill more;
 * null where they may not.
 *
 * What is behind such an average are the families of equivalent courses of which one is in use, and the attempts that a line names and did
 * not accept. Whichever families are used, their completed courses fill together at least what the lines need less what is left open; of
 * those that could be used, the worst that fill as much, the last of them in part, give an average that no uses go below, and the best one
 * that none go above (the relaxation of a knapsack; G. B. Dantzig, Discrete-variable extremum problems, 1957).
 */
export function isAverageLow(prepared: Prepared, uses: readonly number[]): boolean | null {
  const { rules } = prepared.input.program
  const minima = rules.flatMap(rule => rule.kind === 'gpa' && rule.scope === 'program' ? [rule.minimum] : [])
  if (minima.length === 0) return false
  const families = familiesOf(prepared)
  const filled = filledAtLeast(prepared, uses)
  const low = minima.map((minimum) => {
    // Points above the minimum, in hundredths of hundredths; below zero where the average is too low.
    const above = (attempts: readonly CourseItem[]) => {
      const { points, attempted } = gpa(attempts, prepared.input.scale)
      return points - minimum * attempted
    }
    const all = families.map(({ used, unused, canBeUsed, fills }): Choice => {
      const idle = above(unused)
      return { idle, change: canBeUsed ? above(used) - idle : 0, fills }
    })
    if (leastSum(all, filled) >= 0) return false
    return leastSum(all.map(one => ({ ...one, idle: -one.idle, change: -one.change })), filled) > 0 ? true : null
  })
  return low.includes(true) ? true : low.includes(null) ? null : false
}

/** What a family adds to a sum when it is not used, and how that changes when it is. */
interface Choice { idle: number, change: number, fills: number }

/** The least that a sum can come to when what is used fills so much together; choices may be used in part. */
function leastSum(choices: readonly Choice[], filled: number): number {
  // What lessens it is used; so is whatever fills and costs nothing.
  let least = choices.reduce((sum, { idle, change }) => sum + idle + Math.min(0, change), 0)
  let toFill = choices.reduce((left, { change, fills }) => change <= 0 ? left - fills : left, filled)
  const dearer = choices.filter(({ change, fills }) => change > 0 && fills > 0)
  for (const { change, fills } of dearer.sort((a, b) => a.change / a.fills - b.change / b.fills)) {
    if (toFill <= 0) break
    least += change * Math.min(1, toFill / fills)
    toFill -= fills
  }
  return least
}

/** A course and its equivalents, as far as they are on the student's file. */
interface Family {
  /** The attempts in the average when one of them is used, and when none is. */
  used: CourseItem[]
  unused: CourseItem[]
  canBeUsed: boolean
  /** The most credits of need that its completed courses can fill. */
  fills: number
}

function familiesOf({ input, context, ready: { compiled }, candidates, fits, needs }: Prepared): Family[] {
  const { courses } = context
  const record = { courses, scale: input.scale, repeatPolicy: input.repeatPolicy }
  // Attempts stand or fall among those of their family alone.
  const byFamily = (items: readonly CourseItem[]) => {
    const families = new Map<CourseCode, CourseItem[]>()
    for (const item of items) {
      const name = familyOf(item.course, courses)
      const mine = families.get(name)
      if (mine) mine.push(item)
      else families.set(name, [item])
    }
    return families
  }
  const used = byFamily(averagedAttempts(input.items, record))
  const unused = byFamily(averagedAttempts(input.items.filter(item => failsALine(item, compiled, context)), record))
  const lines = new Map(candidates.items.map((item, i) => [item.id, fits[i]!]))
  return [...byFamily(input.items)].map(([name, items]) => {
    const usable = items.filter(item => (lines.get(item.id)?.length ?? 0) > 0)
    return {
      used: used.get(name) ?? [],
      unused: unused.get(name) ?? [],
      canBeUsed: usable.length > 0,
      fills: usable.filter(item => item.state === 'completed').reduce((sum, { id, credits }) =>
        sum + Math.max(...lines.get(id)!.map(l => mostFilledBy(credits, needs[l]!))), 0),
    }
  })
}

/** The most by which one course can lessen what a line leaves open. */
const mostFilledBy = (credits: number, line: AllocationLine) => Math.max(credits, line.courses > 0 || line.spread ? line.unit : 0)

/** Credits of need that completed courses fill with any uses that leave no more open than these. */
const filledAtLeast = ({ allocated, needs, ready: { tree } }: Prepared, uses: readonly number[]): number =>
  leastNeeded(tree, needs) - openByTier(allocated, needs, tree, uses)[0]
