import type { AllocationItem, AllocationLine } from './problem'

/** What a line still lacks, in credits, at a fill of `credits` and `courses` from so many `groups` (subjects). */
export function openCredits(line: AllocationLine, credits: number, courses: number, groups = Infinity): number {
  const spread = line.spread ? (line.spread.n - groups) * line.unit : 0
  return Math.max(0, line.credits - credits, (line.courses - courses) * line.unit, spread)
}

/** A line's fill while items are put into it one by one. */
interface Fill { credits: number, courses: number, groups: number[], capped: number[] }

/**
 * One line as a small machine: a state for every fill it can have, a step for every kind of item, and what each state leaves open.
 * Fills beyond the need are one state, so that a line of five courses has a handful of states and not thousands.
 * Steps that a cap forbids lead to -1.
 */
export class LineStates {
  readonly count: number
  /** What each state leaves open, in quanta. */
  readonly open: Float64Array
  /** step[kind][state]; items of one kind (same credits, caps and subject) are alike to this line. */
  readonly step: Int32Array[]
  /** Kind of each member, in the order in which they were given. */
  readonly kinds: number[]

  constructor(line: AllocationLine, members: readonly { item: AllocationItem, index: number }[], quantum: number) {
    const kindOf = new Map<number | string, Kind>()
    this.kinds = members.map(({ item, index }) => {
      const caps = line.caps ? line.caps.flatMap((cap, c) => cap.items.includes(index) ? [c] : []) : NO_CAPS
      const group = line.spread ? line.spread.groupOf[index]! : 0
      const key = isPlain(line) ? item.credits : `${item.credits}|${caps.join()}|${group}`
      let kind = kindOf.get(key)
      if (!kind) {
        kind = { kind: kindOf.size, credits: item.credits, caps, group }
        kindOf.set(key, kind)
      }
      return kind.kind
    })
    const kinds = [...kindOf.values()]
    const states: Fill[] = [{ credits: 0, courses: 0, groups: [], capped: (line.caps ?? []).map(() => 0) }]
    const ids = new Map<number | string, number>([[keyOf(line, states[0]!), 0]])
    const steps: number[][] = kinds.map(() => [])
    for (let s = 0; s < states.length; s++) {
      for (const { kind, credits, caps, group } of kinds) {
        const next = advance(line, states[s]!, credits, caps, group)
        if (!next) {
          steps[kind]!.push(-1)
          continue
        }
        const key = keyOf(line, next)
        let id = ids.get(key)
        if (id === undefined) {
          id = states.length
          ids.set(key, id)
          states.push(next)
        }
        steps[kind]!.push(id)
      }
    }
    this.count = states.length
    this.step = steps.map(step => Int32Array.from(step))
    this.open = Float64Array.from(states, fill => Math.round(openCredits(line, fill.credits, fill.courses, fill.groups.length) / quantum))
  }
}

/** More credits than any line asks for. */
const PER_COURSE = 2 ** 20
const NO_CAPS: number[] = []

/** What a line sees of items that are alike to it. */
interface Kind { kind: number, credits: number, caps: number[], group: number }

/** A line that only counts credits and courses. */
const isPlain = (line: AllocationLine): boolean => !line.caps && !line.spread

const keyOf = (line: AllocationLine, { credits, courses, groups, capped }: Fill): number | string =>
  isPlain(line) ? courses * PER_COURSE + credits : `${credits}/${courses}/${groups.join()}/${capped.join()}`

function advance(line: AllocationLine, fill: Fill, credits: number, caps: number[], group: number): Fill | null {
  const capped = caps.length > 0 ? [...fill.capped] : fill.capped
  for (const c of caps) {
    const cap = line.caps![c]!
    capped[c]! += cap.courses === undefined ? credits : 1
    if (capped[c]! > (cap.courses ?? cap.credits ?? Infinity)) return null
  }
  const enough = !line.spread || fill.groups.length >= line.spread.n || fill.groups.includes(group)
  return {
    credits: Math.min(line.credits, fill.credits + credits), courses: Math.min(line.courses, fill.courses + 1), capped,
    groups: enough ? fill.groups : [...fill.groups, group].sort((a, b) => a - b),
  }
}
