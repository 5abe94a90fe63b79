import { describeFilter, matchesFilter } from '../catalog/filter'
import { formatCredits } from '../catalog/credits'
import { termOrder } from '../catalog/terms'
import type { Course, CourseCode, CourseItem, Credits } from '../catalog/types'
import { meetsGrade, type GradeScale } from '../grades/scale'
import { creditFamily, standingAttempts, type RepeatPolicy } from '../grades/gpa'
import { allocate, openCredits, type AllocationItem, type AllocationLine, type AllocationTree } from './allocation'
import type { CourseLine, Program, RequirementNode } from './types'

export type LineState = 'met' | 'under way' | 'covered' | 'open'

/** A course's use by a line. */
export interface Use { item: CourseItem, credits: Credits }

export interface LineReport {
  id: string
  areaId: string
  title: string
  rule: string
  filter: CourseLine['filter']
  minGrade?: string
  state: LineState
  /** What is missing in words ("6 cr open", "choose 1 more"), empty unless open. */
  missing: string
  needed: Credits
  /** Credits left open when everything planned is passed. */
  open: Credits
  uses: Use[]
  /** For a line that lists every course it needs: those nobody fills yet. */
  unfilled: CourseCode[]
  /** True for a branch of a choice that another branch answers better. */
  setAside: boolean
  overlay: boolean
}

export interface AreaReport {
  id: string
  title: string
  hue: string
  state: LineState
  needed: Credits
  open: Credits
  met: Credits
  lines: LineReport[]
}

export interface ProgramReport {
  code: string
  title: string
  kind: Program['kind']
  catalogYear: number
  totalCredits: Credits
  areas: AreaReport[]
  overlays: LineReport[]
  /** Credits of the program filled by completed courses, with courses under way, with all that is registered or planned. */
  met: Credits
  underWay: Credits
  covered: Credits
  open: Credits
  /** Items that no line uses. */
  unused: CourseItem[]
  /** For each item id the lines it could count for. */
  couldCount: Record<string, string[]>
  proved: boolean
}

export interface ReportInput {
  program: Program
  items: readonly CourseItem[]
  courses: ReadonlyMap<string, Course>
  scale: GradeScale
  repeatPolicy: RepeatPolicy
  /** Item id → line id: uses that were pinned by the student or the advisor. */
  pins?: Readonly<Record<string, string>>
}

/** Nominal size of a course where a line counts courses and not credits: "three credits usually means one course" (common practice, no source). */
const NOMINAL_CREDITS = 300

const TIERS = { 'completed': 0, 'under way': 1, 'registered': 2, 'picked': 3, 'planned': 3 } as const

interface CompiledLine { line: CourseLine, areaId: string, single: CourseCode | null, need: AllocationLine }

/** Reads a program against record and plan: what every line needs, what fills it, and what is open. */
export function readProgram(input: ReportInput): ProgramReport {
  const { program, courses, scale } = input
  const counted = countedItems(input)
  const { compiled, tree } = compile(program, courses)
  const fits = counted.map(item => compiled.flatMap((target, l) => fitsLine(item, target, courses, scale) ? [l] : []))
  dropRepeats(counted, fits, courses)
  const items: AllocationItem[] = counted.map((item, i) => {
    const pin = input.pins?.[item.id]
    const pinned = pin === undefined ? -1 : fits[i]!.find(l => compiled[l]!.line.id === pin) ?? -1
    return { tier: TIERS[item.state], credits: item.credits, fits: fits[i]!, ...(pinned >= 0 ? { pinned } : {}) }
  })
  const { uses, proved } = allocate(items, compiled.map(target => target.need), tree)
  const aside = branchesSetAside(program, compiled, counted, uses)
  const areas = program.areas.map(area => reportArea(area, compiled, counted, uses, aside, courses))
  const overlays = program.overlays.map(line => reportOverlay(line, counted, courses, scale))
  const overlaid = new Set(overlays.flatMap(line => line.uses.map(use => use.item.id)))
  const active = areas.flatMap(area => area.lines).filter(line => !line.setAside)
  const filled = (states: CourseItem['state'][]) => active.reduce((sum, line) => sum + filledBy(line, states), 0)
  const met = filled(['completed'])
  const underWay = filled(['completed', 'under way']) - met
  const covered = active.reduce((sum, line) => sum + line.needed - line.open, 0) - met - underWay
  return {
    code: program.code, title: program.title, kind: program.kind, catalogYear: program.catalogYear, totalCredits: program.totalCredits,
    areas, overlays, met, underWay, covered, proved,
    open: active.reduce((sum, line) => sum + line.open, 0),
    unused: counted.filter((item, i) => uses[i] === -1 && !overlaid.has(item.id)),
    couldCount: Object.fromEntries(counted.map((item, i) => [item.id, [
      ...new Set(fits[i]!.map(l => compiled[l]!.line.id)), ...program.overlays.filter(line => fitsOverlay(item, line, courses, scale)).map(line => line.id),
    ]])),
  }
}

/** Items that can count at all, in an order that does not depend on the order they came in. */
function countedItems({ items, courses, scale, repeatPolicy }: ReportInput): CourseItem[] {
  const standing = new Set(standingAttempts(items, courses, scale, repeatPolicy).standing.map(item => item.id))
  const when = (item: CourseItem) => item.term ? termOrder(item.term) : 0
  return items
    .filter(item => item.state !== 'completed' || (standing.has(item.id) && meetsGrade(scale, item.grade, undefined)))
    .sort((a, b) => TIERS[a.state] - TIERS[b.state] || when(a) - when(b) || a.course.localeCompare(b.course) || a.id.localeCompare(b.id))
}

function fitsLine(item: CourseItem, { line, single }: Pick<CompiledLine, 'line' | 'single'>, courses: ReadonlyMap<string, Course>, scale: GradeScale): boolean {
  const course = courses.get(item.course)
  if (!course) return false
  if (single ? course.code !== single && !course.equivalents.includes(single) : !matchesFilter(course, line.filter)) return false
  return item.state !== 'completed' || meetsGrade(scale, item.grade, line.minGrade)
}

const fitsOverlay = (item: CourseItem, line: CourseLine, courses: ReadonlyMap<string, Course>, scale: GradeScale) =>
  fitsLine(item, { line, single: null }, courses, scale)

/** A course that gives credit once is offered once: later attempts keep only lines that no earlier one could fill. */
function dropRepeats(items: CourseItem[], fits: number[][], courses: ReadonlyMap<string, Course>) {
  const families = new Map<string, number[]>()
  items.forEach((item, i) => {
    const family = creditFamily(item.course, courses)
    const earlier = families.get(family) ?? []
    const limit = courses.get(item.course)?.repeatLimit ?? 1
    if (earlier.length >= limit) fits[i] = fits[i]!.filter(l => !earlier.some(e => fits[e]!.includes(l)))
    families.set(family, [...earlier, i])
  })
}

/** Lines in printed order; a line that lists every course it needs becomes one line a course. */
function compile(program: Program, courses: ReadonlyMap<string, Course>): { compiled: CompiledLine[], tree: AllocationTree } {
  const compiled: CompiledLine[] = []
  const add = (line: CourseLine, areaId: string, single: CourseCode | null, credits: Credits, count: number): AllocationTree => {
    const unit = count > 0 ? (credits > 0 ? Math.ceil(credits / count) : single ? courses.get(single)?.credits ?? NOMINAL_CREDITS : NOMINAL_CREDITS) : 0
    compiled.push({ line, areaId, single, need: { credits, courses: count, unit, rank: 0 } })
    return { line: compiled.length - 1 }
  }
  const walk = (node: RequirementNode, areaId: string): AllocationTree => {
    if (node.kind !== 'courses') {
      const of = node.children.map(child => walk(child, areaId))
      return { n: node.kind === 'all' ? of.length : node.n, of }
    }
    if (!needsEveryListed(node)) return add(node, areaId, null, node.credits ?? 0, node.courses ?? 0)
    const of = node.filter.list!.map(code => add(node, areaId, code, 0, 1))
    return { n: of.length, of }
  }
  const of = program.areas.map(area => walk(area, area.id))
  // Ranks: the fewer courses a line names, the earlier it is served; lines without a list come last, in printed order.
  const breadth = ({ single, line }: CompiledLine) => single ? 1 : line.filter.list?.length ?? 1000
  const order = compiled.map((_, l) => l).sort((a, b) => breadth(compiled[a]!) - breadth(compiled[b]!) || a - b)
  order.forEach((l, rank) => compiled[l]!.need.rank = rank)
  return { compiled, tree: { n: of.length, of } }
}

export function needsEveryListed(line: CourseLine): boolean {
  return line.filter.list !== undefined && line.credits === undefined && line.courses === line.filter.list.length
}

/** Lines in branches that a choice did not keep. */
function branchesSetAside(program: Program, compiled: CompiledLine[], items: CourseItem[], uses: number[]): Set<string> {
  const openOf = (id: string, tier: number) => compiled.reduce((sum, target, l) => {
    if (target.line.id !== id) return sum
    const used = items.filter((item, i) => uses[i] === l && TIERS[item.state] <= tier)
    return sum + openCredits(target.need, used.reduce((credits, item) => credits + item.credits, 0), used.length)
  }, 0)
  const lineIds = (node: RequirementNode): string[] => node.kind === 'courses' ? [node.id] : node.children.flatMap(lineIds)
  const aside = new Set<string>()
  const visit = (node: RequirementNode) => {
    if (node.kind === 'courses') return
    if (node.kind === 'some') {
      const cost = (child: RequirementNode) => [0, 1, 2, 3].map(tier => lineIds(child).reduce((sum, id) => sum + openOf(id, tier), 0))
      const ranked = node.children.map(child => ({ child, cost: cost(child) }))
        .sort((a, b) => a.cost.reduce((decided, value, t) => decided || value - b.cost[t]!, 0))
      ranked.slice(node.n).forEach(({ child }) => lineIds(child).forEach(id => aside.add(id)))
    }
    node.children.forEach(visit)
  }
  program.areas.forEach(visit)
  return aside
}

function reportArea(area: Program['areas'][number], compiled: CompiledLine[], items: CourseItem[], uses: number[], aside: Set<string>, courses: ReadonlyMap<string, Course>): AreaReport {
  const lines: LineReport[] = []
  const visit = (node: RequirementNode) => {
    if (node.kind !== 'courses') {
      node.children.forEach(visit)
      return
    }
    const mine = compiled.flatMap((target, l) => target.line === node ? [{ target, l }] : [])
    const used = items.flatMap((item, i) => mine.some(({ l }) => uses[i] === l) ? [{ item, i }] : [])
    const openAt = (tier: number) => mine.reduce((sum, { target, l }) => {
      const filling = used.filter(({ item, i }) => uses[i] === l && TIERS[item.state] <= tier)
      return sum + openCredits(target.need, filling.reduce((credits, { item }) => credits + item.credits, 0), filling.length)
    }, 0)
    const unfilled = mine.filter(({ target, l }) => target.single && !uses.includes(l)).map(({ target }) => target.single!)
    lines.push({
      id: node.id, areaId: area.id, title: node.title, rule: describeLine(node), filter: node.filter,
      ...(node.minGrade ? { minGrade: node.minGrade } : {}),
      needed: mine.reduce((sum, { target }) => sum + openCredits(target.need, 0, 0), 0),
      open: openAt(3), state: stateOf([0, 1, 2, 3].map(openAt)),
      missing: sayMissing(node, openAt(3), used.length, unfilled),
      uses: used.map(({ item }) => ({ item, credits: item.credits })),
      unfilled: unfilled.filter(code => courses.has(code)), setAside: aside.has(node.id), overlay: false,
    })
  }
  visit(area)
  const active = lines.filter(line => !line.setAside)
  const sum = (pick: (line: LineReport) => number) => active.reduce((total, line) => total + pick(line), 0)
  const order: LineState[] = ['met', 'under way', 'covered', 'open']
  return {
    id: area.id, title: area.title, hue: area.hue, lines,
    state: order[Math.max(0, ...active.map(line => order.indexOf(line.state)))]!,
    needed: sum(line => line.needed), open: sum(line => line.open), met: sum(line => filledBy(line, ['completed'])),
  }
}

/** An overlay takes the firmest courses first; every course may count there besides its use in the base tree. */
function reportOverlay(line: CourseLine, items: CourseItem[], courses: ReadonlyMap<string, Course>, scale: GradeScale): LineReport {
  const fitting = items.filter(item => fitsOverlay(item, line, courses, scale))
  const need: AllocationLine = { credits: line.credits ?? 0, courses: line.courses ?? 0, unit: line.credits && line.courses ? Math.ceil(line.credits / line.courses) : NOMINAL_CREDITS, rank: 0 }
  const { uses } = allocate(fitting.map(item => ({ tier: TIERS[item.state], credits: item.credits, fits: [0] })), [need], { n: 1, of: [{ line: 0 }] })
  const used = fitting.filter((_, i) => uses[i] === 0)
  const openAt = (tier: number) => {
    const filling = used.filter(item => TIERS[item.state] <= tier)
    return openCredits(need, filling.reduce((sum, item) => sum + item.credits, 0), filling.length)
  }
  return {
    id: line.id, areaId: 'overlay', title: line.title, rule: describeLine(line), filter: line.filter,
    ...(line.minGrade ? { minGrade: line.minGrade } : {}),
    needed: openCredits(need, 0, 0), open: openAt(3), state: stateOf([0, 1, 2, 3].map(openAt)),
    missing: sayMissing(line, openAt(3), used.length, []), uses: used.map(item => ({ item, credits: item.credits })),
    unfilled: [], setAside: false, overlay: true,
  }
}

function stateOf(openByTier: number[]): LineState {
  if (openByTier[0] === 0) return 'met'
  if (openByTier[1] === 0) return 'under way'
  return openByTier[3] === 0 ? 'covered' : 'open'
}

function filledBy(line: LineReport, states: CourseItem['state'][]): Credits {
  const credits = line.uses.filter(use => states.includes(use.item.state)).reduce((sum, use) => sum + use.credits, 0)
  return Math.min(line.needed, credits)
}

function sayMissing(line: CourseLine, open: Credits, used: number, unfilled: CourseCode[]): string {
  if (open === 0) return ''
  if (needsEveryListed(line)) return unfilled.length === 1 ? `${unfilled[0]} open` : `${unfilled.length} courses open`
  const courses = line.courses ? line.courses - used : 0
  const choose = courses > 0 ? `choose ${courses}${used > 0 ? ' more' : ''}` : ''
  return [choose, line.credits || !choose ? `${formatCredits(open)} cr open` : ''].filter(Boolean).join(', ')
}

/** The line's rule in plain words. */
export function describeLine(line: CourseLine): string {
  const what = describeFilter(line.filter)
  const grade = line.minGrade ? `, each with ${line.minGrade} or better` : ''
  if (needsEveryListed(line)) return `${line.filter.list!.length === 1 ? '' : 'All of '}${line.filter.list!.join(', ')}${grade}.`
  const amount = [line.courses ? `${line.courses} ${line.courses === 1 ? 'course' : 'courses'}` : '', line.credits ? `${formatCredits(line.credits)} credits` : ''].filter(Boolean).join(' with at least ')
  return `${amount} from ${what}${grade}.`
}
