import { matchesFilter } from '../catalog/filter'
import type { Course, CourseCode, CourseItem, Credits } from '../catalog/types'
import { type GradeScale, meetsGrade } from '../grades/scale'
import type { AllocationLine, AllocationTree } from './allocation/problem'
import { type CourseLine, needsEveryListed, type Program, type RequirementException, type RequirementNode } from './types'

/** Nominal size of a course where a line counts courses and not credits: "three credits usually means one course" (common practice, no source). */
export const NOMINAL_CREDITS = 300

/** One line as the allocation sees it; a line that lists every course it needs becomes one of these a course. */
export interface CompiledLine { line: CourseLine, areaId: string, single: CourseCode | null, need: AllocationLine }

export interface CompileContext {
  courses: ReadonlyMap<string, Course>
  scale: GradeScale
  exceptions: readonly RequirementException[]
}

/** Lines in printed order, with the tree that joins them. What is waived is left out. */
export function compile(program: Program, { courses, exceptions }: Omit<CompileContext, 'scale'>): { compiled: CompiledLine[], tree: AllocationTree } {
  const compiled: CompiledLine[] = []
  const waivers = exceptions.filter(exception => exception.kind === 'waiver')
  const add = (line: CourseLine, areaId: string, single: CourseCode | null): AllocationTree => {
    compiled.push({ line, areaId, single, need: single ? { credits: 0, courses: 1, unit: courses.get(single)?.credits ?? NOMINAL_CREDITS, rank: 0 } : needOf(line) })
    return { line: compiled.length - 1 }
  }
  const walk = (node: RequirementNode, areaId: string): AllocationTree => {
    if (node.kind !== 'courses') {
      const of = node.children.map(child => walk(child, areaId))
      return { n: node.kind === 'all' ? of.length : node.n, of }
    }
    const mine = waivers.filter(waiver => waiver.line === node.id)
    if (mine.some(waiver => waiver.course === null)) return { n: 0, of: [] }
    if (!needsEveryListed(node)) return add(node, areaId, null)
    const of = node.filter.list!.filter(code => !mine.some(waiver => waiver.course === code)).map(code => add(node, areaId, code))
    return { n: of.length, of }
  }
  const of = program.areas.map(area => walk(area, area.id))
  // Ranks: the fewer courses a line names, the earlier it is served; lines without a list come last, in printed order.
  const breadth = ({ single, line }: CompiledLine) => single ? 1 : line.filter.list?.length ?? 1000
  const order = compiled.map((_, l) => l).sort((a, b) => breadth(compiled[a]!) - breadth(compiled[b]!) || a - b)
  order.forEach((l, rank) => compiled[l]!.need.rank = rank)
  return { compiled, tree: { n: of.length, of } }
}

/** What a line asks as the allocation counts it, without caps and spread, which depend on the items. */
export function needOf(line: CourseLine): AllocationLine {
  const credits: Credits = line.credits ?? 0
  const courses = line.courses ?? 0
  const unit = courses > 0 && credits > 0 ? Math.max(100, Math.floor(credits / courses / 100) * 100) : courses > 0 || line.subjects ? NOMINAL_CREDITS : 0
  return { credits, courses, unit, rank: 0 }
}

/**
 * A line as the allocation weighs it over these items, with its caps and its spread. A line for one course weighs as much as the
 * largest item that fits it: otherwise a transfer course of 4.5 credits would do more for the electives than for the 4-credit
 * course it was taken for, and leave that line open for ever.
 */
export function withItems({ line, need, single }: CompiledLine, items: readonly CourseItem[], courses: ReadonlyMap<string, Course>, fits: (i: number) => boolean): AllocationLine {
  const indices = (test: (course: Course) => boolean) => items.flatMap((item, i) => {
    const course = courses.get(item.course)
    return course && test(course) ? [i] : []
  })
  const subjects = [...new Set(items.map(item => courses.get(item.course)?.subject ?? ''))]
  return {
    ...need,
    ...(single ? { unit: items.reduce((unit, item, i) => fits(i) ? Math.max(unit, item.credits) : unit, need.unit) } : {}),
    ...(line.caps ? { caps: line.caps.map(({ filter, ...limit }) => ({ ...limit, items: indices(course => matchesFilter(course, filter)) })) } : {}),
    ...(line.subjects ? { spread: { n: line.subjects, groupOf: items.map(item => subjects.indexOf(courses.get(item.course)?.subject ?? '')) } } : {}),
  }
}

/** Whether an item may fill a line: by its filter or by a substitution, and with the grade the line asks. */
export function fitsLine(item: CourseItem, { line, single }: Pick<CompiledLine, 'line' | 'single'>, { courses, scale, exceptions }: CompileContext): boolean {
  const course = courses.get(item.course)
  if (!course) return false
  const substituted = exceptions.some(exception => exception.kind === 'substitution' && exception.line === line.id && exception.course === course.code
    && (!single || exception.instead === null || exception.instead === single))
  const named = single ? course.code === single || course.equivalents.includes(single) : matchesFilter(course, line.filter)
  return (named || substituted) && (item.state !== 'completed' || meetsGrade(scale, item.grade, line.minGrade))
}
