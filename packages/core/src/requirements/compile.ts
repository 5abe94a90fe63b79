import { type CourseFilter, courseLevel, matchesBesidesList, matchesFilter } from '../catalog/filter'
import type { Course, CourseCode, CourseItem, Credits } from '../catalog/types'
import { type GradeScale, meetsGrade } from '../grades/scale'
import { comparedGrade } from '../record/attempts'
import type { AllocationLine, AllocationTree } from './allocation/problem'
import { type CourseLine, listedCourses, needsEveryListed, type Program, type RequirementException, type RequirementNode,
  spreadOf } from './types'

/**
 * Nominal size of a course where a line counts courses and not credits: "three credits usually means one course" (common practice, no
 * source).
 */
const NOMINAL_CREDITS = 300
/** What the allocation weighs a missing course without credit by, so that it is sought like any other. */
const WEIGHT_WITHOUT_CREDIT = 100

/** One line as the allocation sees it; a line that lists every course it needs becomes one of these a course. */
export interface CompiledLine {
  line: CourseLine
  areaId: string
  single: CourseCode | null
  need: AllocationLine
  /** Every course that the line accepts is without credit, or may be taken for none. */
  withoutCredit: boolean
}

export interface CompileContext {
  courses: ReadonlyMap<string, Course>
  scale: GradeScale
  exceptions: readonly RequirementException[]
}

/** A program made ready for reading: its lines and overlays taken apart, and which of them take a course. */
export interface CompiledProgram {
  compiled: CompiledLine[]
  tree: AllocationTree
  /** The compiled lines that an item may fill, by number. */
  fitsOf: (item: CourseItem) => number[]
  overlays: { line: CourseLine, compiled: CompiledLine[], fitsOf: (item: CourseItem) => number[] }[]
}

const ready = new WeakMap<Program, { courses: CompileContext['courses'], scale: GradeScale, made: CompiledProgram }>()

/** A program without exceptions is made ready once, as long as courses and scale are the same. */
export function readyProgram(program: Program, context: CompileContext): CompiledProgram {
  const before = ready.get(program)
  if (context.exceptions.length === 0 && before?.courses === context.courses && before.scale === context.scale) return before.made
  const overlays = program.overlays.map((line) => {
    const parts = partsOf(line, context.exceptions, context.courses).map((part): CompiledLine => ({ ...part, areaId: 'overlay' }))
    return { line, compiled: parts, fitsOf: fitting(parts, context) }
  })
  const { compiled, tree } = compile(program, context)
  const made = { compiled, tree, fitsOf: fitting(compiled, context), overlays }
  if (context.exceptions.length === 0) ready.set(program, { courses: context.courses, scale: context.scale, made })
  return made
}

/** Which lines an item may fill; which take its course is asked once a course. */
function fitting(targets: readonly CompiledLine[], context: CompileContext): (item: CourseItem) => number[] {
  const accepting = new Map<CourseCode, number[]>()
  const acceptingOf = (code: CourseCode) => {
    const course = context.courses.get(code)
    // What is not in the catalog counts where a substitution names it.
    const found = targets.flatMap((target, l) =>
      (course ? acceptsCourse(course, target, context) : isSubstitute(code, target, context)) ? [l] : [])
    accepting.set(code, found)
    return found
  }
  return item => (accepting.get(item.course) ?? acceptingOf(item.course))
    .filter(l => gradeSuffices(item, targets[l]!.line, context.scale))
}

/** Lines in printed order, with the tree that joins them. What is waived is left out. */
function compile(program: Program,
  { courses, exceptions }: Omit<CompileContext, 'scale'>): { compiled: CompiledLine[], tree: AllocationTree } {
  const compiled: CompiledLine[] = []
  const waivers = exceptions.filter(exception => exception.kind === 'waiver')
  const add = (line: CourseLine, areaId: string): AllocationTree => {
    const parts = partsOf(line, waivers, courses)
    const of = parts.map((part): AllocationTree => ({ line: compiled.push({ ...part, areaId }) - 1 }))
    return of.length === 1 ? of[0]! : { n: of.length, of }
  }
  const walk = (node: RequirementNode, areaId: string): AllocationTree => {
    if (node.kind !== 'courses') {
      const of = node.children.map(child => walk(child, areaId))
      return { n: node.kind === 'all' ? of.length : node.n, of }
    }
    return add(node, areaId)
  }
  const of = program.areas.map(area => walk(area, area.id))
  // Ranks: the fewer courses a line names, the earlier it is served; lines without a list come last, in printed order.
  const breadth = ({ single, line }: CompiledLine) => single ? 1 : line.filter.list?.length ?? 1000
  const order = compiled.map((_, l) => l).sort((a, b) => breadth(compiled[a]!) - breadth(compiled[b]!) || a - b)
  order.forEach((l, rank) => compiled[l]!.need.rank = rank)
  return { compiled, tree: { n: of.length, of } }
}

/**
 * A line as the allocation fills it, without what is waived: one part, or one for each course where it asks for all that it lists.
 * Overlays are taken apart in the same way.
 */
export function partsOf(line: CourseLine, waivers: readonly RequirementException[],
  courses: ReadonlyMap<string, Course>): Omit<CompiledLine, 'areaId'>[] {
  const mine = waivers.flatMap(waiver => waiver.kind === 'waiver' && waiver.line === line.id ? [waiver] : [])
  const whole = mine.filter(waiver => waiver.course === null)
  if (whole.some(waiver => waiver.amount === undefined)) return []
  const asked = withoutAmount(line, whole.reduce((sum, waiver) => sum + waiver.amount!, 0))
  if (!asked) return []
  if (asked !== line || !needsEveryListed(line)) {
    const usual = usualCredits(asked, courses)
    return [{ line, single: null, need: needOf(asked, usual || WEIGHT_WITHOUT_CREDIT), withoutCredit: usual === 0 && !asked.credits }]
  }
  return listedCourses(line).filter(code => !mine.some(waiver => waiver.course === code)).map((code) => {
    const credits = courses.get(code)?.credits ?? NOMINAL_CREDITS
    return { line, single: code, need: { credits: 0, courses: 1, unit: credits || WEIGHT_WITHOUT_CREDIT, rank: 0 },
      withoutCredit: credits === 0 }
  })
}

/** The line with less asked, by what is waived of it; null where nothing is left. */
function withoutAmount(line: CourseLine, amount: number): CourseLine | null {
  if (amount <= 0) return line
  const credits = line.credits === undefined ? undefined : Math.max(0, line.credits - amount)
  // Where a line asks for credits as well, whole courses go with the credits that one stands for.
  const each = line.credits && line.courses ? line.credits / line.courses : 100
  const courses = line.courses === undefined ? undefined : Math.max(0, line.courses - Math.round(amount / each))
  return (credits ?? 0) === 0 && (courses ?? 0) === 0
    ? null
    : { ...line, ...(credits === undefined ? {} : { credits }), ...(courses === undefined ? {} : { courses }) }
}

/** What a line asks as the allocation counts it, without caps and spread, which depend on the items. */
function needOf(line: CourseLine, usual: Credits): AllocationLine {
  const credits: Credits = line.credits ?? 0
  const amount = line.courses ?? 0
  const unit = amount > 0 && credits > 0
    ? Math.max(100, Math.floor(credits / amount / 100) * 100)
    : amount > 0 || spreadOf(line)
      ? usual
      : 0
  return { credits, courses: amount, unit, rank: 0 }
}

/** The size that most of the courses with credit have which a line accepts, the smaller of two as frequent; 0 where none has credit. */
function usualCredits(line: Pick<CourseLine, 'filter'>, courses: ReadonlyMap<string, Course>): Credits {
  const byLine = usual.get(courses) ?? new WeakMap<CourseFilter, Credits>()
  usual.set(courses, byLine)
  const known = byLine.get(line.filter)
  if (known !== undefined) return known
  const sizes = new Map<Credits, number>()
  let accepts = false
  for (const course of courses.values()) {
    if (!matchesFilter(course, line.filter)) continue
    accepts = true
    if (course.credits > 0) sizes.set(course.credits, (sizes.get(course.credits) ?? 0) + 1)
  }
  const found = [...sizes].sort(([a, n], [b, m]) => m - n || a - b)[0]?.[0] ?? (accepts ? 0 : NOMINAL_CREDITS)
  byLine.set(line.filter, found)
  return found
}

const usual = new WeakMap<ReadonlyMap<string, Course>, WeakMap<CourseFilter, Credits>>()

/**
 * A line as the allocation weighs it over these items, with its caps and its spread. A line for one course weighs as much as the
 * largest item that fits it: otherwise a transfer course of 4.5 credits would do more for the electives than for the 4-credit
 * course it was taken for, and leave that line open for ever.
 */
export function withItems({ line, need, single }: CompiledLine, items: readonly CourseItem[], courses: ReadonlyMap<string, Course>,
  fits: (i: number) => boolean): AllocationLine {
  const indices = (test: (course: Course) => boolean) =>
    items.flatMap((item, i) => {
      const course = courses.get(item.course)
      return course && test(course) ? [i] : []
    })
  const spread = spreadOf(line)
  const groups = spread ? items.map(item => groupOf(courses.get(item.course), line, spread.by)) : []
  const names = [...new Set(groups)]
  return {
    ...need,
    ...(single ? { unit: items.reduce((unit, item, i) => fits(i) ? Math.max(unit, item.credits) : unit, need.unit) } : {}),
    ...(line.caps
      ? { caps: line.caps.map(({ filter, ...limit }) => ({ ...limit, items: indices(course => matchesFilter(course, filter)) })) }
      : {}),
    ...(spread ? { spread: { n: spread.n, groupOf: groups.map(group => names.indexOf(group)) } } : {}),
  }
}

/** What a course counts as in a spread; of several attributes the first that the line names. */
export function groupOf(course: Course | undefined, { filter }: Pick<CourseLine, 'filter'>, by: 'subject' | 'level' | 'attribute'): string {
  if (!course) return ''
  if (by === 'subject') return course.subject
  if (by === 'level') return String(courseLevel(course))
  return (filter.attributes ?? course.attributes).find(attribute => course.attributes.includes(attribute)) ?? ''
}

/** Whether a line takes a course whatever its grade: one of its parts the course that it names, and no other. */
export function acceptsCourse(course: Course, { line, single }: Pick<CompiledLine, 'line' | 'single'>,
  { exceptions }: Pick<CompileContext, 'exceptions'>): boolean {
  const named = single
    ? (course.code === single || course.equivalents.includes(single)) && matchesBesidesList(course, line.filter)
    : matchesFilter(course, line.filter)
  return named || isSubstitute(course.code, { line, single }, { exceptions })
}

const isSubstitute = (code: CourseCode, { line, single }: Pick<CompiledLine, 'line' | 'single'>,
  { exceptions }: Pick<CompileContext, 'exceptions'>): boolean => exceptions.some(exception =>
  exception.kind === 'substitution' && exception.line === line.id && exception.course === code
  && (!single || exception.instead === null || exception.instead === single))

/** Not decided yet, or passed with the grade that a line asks; a minimum that is not on the scale is met by nothing. */
export const gradeSuffices = (item: CourseItem, { minGrade }: Pick<CourseLine, 'minGrade'>, scale: GradeScale): boolean =>
  item.state !== 'completed' || ((minGrade === undefined || minGrade in scale) && meetsGrade(scale, comparedGrade(item), minGrade))
