import { linked, sameCourse } from '../catalog/linked'
import type { Course, CourseItem } from '../catalog/types'
import type { GradeScale } from '../grades/scale'
import { byFirmness, type CreditReading, readCredit, type RepeatPolicy, TIERS } from '../record/attempts'
import { type AllocationItem, type AllocationLimit, type AllocationLine, limitsOn } from './allocation/problem'
import { isCounted } from './counted'
import { type CompileContext, type CompiledProgram, readyProgram, withItems } from './compile'
import type { Program, RequirementException } from './types'

/** A program, and what one student has and wants. */
export interface ReportInput {
  program: Program
  items: readonly CourseItem[]
  courses: ReadonlyMap<string, Course>
  scale: GradeScale
  repeatPolicy: RepeatPolicy
  /** Item id → line id: uses that were pinned by the student or the advisor. */
  pins?: Readonly<Record<string, string>>
  exceptions?: readonly RequirementException[]
  /** Milestones of this program that are done. */
  milestones?: readonly string[]
  /** A use that must be, for asking what it would change. */
  forced?: { itemId: string, lineId: string }
}

/** A program made ready for one student: its lines, what they may use, and both as the allocation sees them. */
export interface Prepared {
  input: ReportInput
  context: CompileContext
  ready: CompiledProgram
  candidates: CandidateItems
  /** For each candidate item the compiled lines it fits. */
  fits: number[][]
  allocated: AllocationItem[]
  needs: AllocationLine[]
  /** The maxima of the program over the candidate items, by their places. */
  maxima: AllocationLimit[]
}

export function prepareProgram(input: ReportInput): Prepared {
  const courses = linked(input.courses)
  const exceptions = (input.exceptions ?? []).filter(exception => exception.program === input.program.code)
  const context: CompileContext = { courses, scale: input.scale, exceptions }
  const ready = readyProgram(input.program, context)
  const { compiled, fitsOf } = ready
  const candidates = findCandidateItems(readCredit(input.items, { ...input, courses }), courses, fitsOf)
  const { items, idle } = candidates
  const fits = items.map(item => idle.has(item.id) ? [] : fitsOf(item))
  const allocated = items.map((item, i): AllocationItem => {
    const lineId = (l: number) => compiled[l]!.line.id
    const forced = input.forced?.itemId === item.id
    const pinned = fits[i]!.find(l => lineId(l) === input.pins?.[item.id])
    return {
      // A use asked about is counted as firm: else the line would hold what it has, and this one besides.
      tier: forced ? 0 : TIERS[item.state],
      credits: item.credits,
      fits: forced ? fits[i]!.filter(l => lineId(l) === input.forced!.lineId) : fits[i]!,
      ...(pinned === undefined ? {} : { pinned }),
      ...(forced ? { must: true } : {}),
    }
  })
  const needs = compiled.map((target, l) => withItems(target, items, courses, i => fits[i]!.includes(l)))
  const maxima = input.program.rules.flatMap(rule => rule.kind === 'maximum'
    ? limitsOn(items.flatMap((item, i) => isCounted(item, rule.of, context) ? [i] : []), rule, items)
    : [])
  return { input, context, ready, candidates, fits, allocated, needs, maxima }
}

/** What the lines may use. */
export interface CandidateItems {
  /** In an order that does not depend on the order they came in. */
  items: CourseItem[]
  /** Those of them that give no credit of their own, by id: they are told as unused. */
  idle: ReadonlySet<string>
  /** Passed courses of which only one can give credit, two by two; the first of each keeps it unless a line uses the other. */
  exclusive: [CourseItem, CourseItem][]
}

/**
 * What gives credit may be used; so may a passed course that another one excludes, in its place. A repeat that a line asks for,
 * because the grade so far is too low there, takes the place of the earlier attempt; any other repeat counts for nothing.
 */
function findCandidateItems({ earning, rivals, idle }: CreditReading, courses: ReadonlyMap<string, Course>,
  fitsOf: (item: CourseItem) => number[]): CandidateItems {
  const improved = new Set<CourseItem>()
  const without = new Set<string>()
  for (const item of idle) {
    const same = sameCourse(item.course, courses)
    const mine = fitsOf(item)
    const weak = earning.find((earlier) => {
      if (!same.includes(earlier.course) || earlier.state !== 'completed' || improved.has(earlier)) return false
      const now = fitsOf(earlier)
      return fitsOf({ ...earlier, state: 'planned' }).some(l => !now.includes(l) && mine.includes(l))
    })
    if (weak) improved.add(weak)
    else without.add(item.id)
  }
  const passed = [...earning.filter(item => item.state === 'completed' && !improved.has(item)), ...rivals]
  const exclusive = rivals.flatMap((rival, r) =>
    passed.slice(0, passed.length - rivals.length + r)
      .filter(other => courses.get(rival.course)?.exclusions.includes(other.course)).map((
        other,
      ): [CourseItem, CourseItem] => [other, rival]),
  )
  return { items: [...earning.filter(item => !improved.has(item)), ...rivals, ...idle].sort(byFirmness), idle: without, exclusive }
}

/** Items whose credits count: what earns, and of passed courses that exclude each other the one that a line uses; `used` are ids. */
export function earningOf({ items, idle, exclusive }: CandidateItems, used: ReadonlySet<string>): CourseItem[] {
  const out = new Set<CourseItem>()
  const rivals = new Set(exclusive.map(([, rival]) => rival))
  for (const rival of rivals) {
    const holders = exclusive.filter(([, other]) => other === rival).map(([holder]) => holder)
    if (used.has(rival.id)) holders.forEach(holder => out.add(holder))
    else out.add(rival)
  }
  return items.filter(item => !idle.has(item.id) && !out.has(item))
}
