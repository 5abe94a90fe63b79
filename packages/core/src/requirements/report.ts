import { termOrder } from '../catalog/terms'
import type { Course, CourseCode, CourseItem, Credits } from '../catalog/types'
import { type GradeScale, meetsGrade } from '../grades/scale'
import { creditFamily, type RepeatPolicy, standingAttempts } from '../record/attempts'
import { allocate, compareTiers, lineOpenByTier } from './allocation/allocate'
import { openCredits } from './allocation/line-states'
import type { AllocationItem, AllocationLimit, AllocationLine } from './allocation/problem'
import { compile, type CompileContext, type CompiledLine, fitsLine, needOf, withItems } from './compile'
import { readRules, type RuleReport } from './rules'
import {
  type CourseLine, type Hue, type LineState, needsEveryListed, type Program, type ProgramKind,
  type RequirementException, type RequirementNode,
} from './types'

/** What a line still asks for. */
export type Lacking
  /** These of the courses that it names one by one. */
  = | { code: 'listed', courses: CourseCode[] }
    /** So many courses and credits; `more` when some are there already, `anotherSubject` when they must widen the spread. */
    | { code: 'amount', courses: number, credits: Credits | null, more: boolean, anotherSubject: boolean }

/** A course's use by a line. */
export interface Use { item: CourseItem, credits: Credits, substituted: boolean }

export interface LineReport {
  id: string
  areaId: string
  title: string
  /** The line as the program declares it. */
  rule: CourseLine
  filter: CourseLine['filter']
  minGrade?: string
  state: LineState
  /** What is missing; null unless open. */
  lacking: Lacking | null
  needed: Credits
  /** Credits left open when everything planned is passed. */
  open: Credits
  uses: Use[]
  /** For a line that lists every course it needs: those nobody fills yet. */
  unfilled: CourseCode[]
  /** True for a branch of a choice that another branch answers better. */
  setAside: boolean
  overlay: boolean
  exceptions: RequirementException[]
}

/** A line, or a group of them with the rule that joins them, as the tree prints it. */
export type ReportNode = { kind: 'line', line: LineReport } | GroupReport
export interface GroupReport {
  kind: 'group'
  id: string
  title: string
  /** How many of the branches are needed; all of them where the group is no choice. */
  n: number
  open: Credits
  setAside: boolean
  branches: { node: ReportNode, kept: boolean, open: Credits }[]
}

export interface AreaReport {
  id: string
  title: string
  hue: Hue
  state: LineState
  needed: Credits
  open: Credits
  met: Credits
  lines: LineReport[]
  nodes: ReportNode[]
}

/** A use that was pinned and could not be kept: less would be filled that way, or it does not fit the line (with this grade). */
export interface BrokenPin { itemId: string, course: CourseCode, line: string, because: 'less filled' | 'does not fit', grade: string | null }

export interface ProgramReport {
  code: string
  title: string
  kind: ProgramKind
  catalogYear: number
  totalCredits: Credits
  areas: AreaReport[]
  overlays: LineReport[]
  rules: RuleReport[]
  /** Credits of the program filled by completed courses, with courses under way, with all that is registered or planned. */
  met: Credits
  underWay: Credits
  covered: Credits
  open: Credits
  /** Items that no line uses. */
  unused: CourseItem[]
  /** Credits of courses in use beyond what their lines ask; they count towards the total only. */
  beyond: Credits
  /** For each item id the lines it could count for. */
  couldCount: Record<string, string[]>
  /** Items that sharing rules kept out, with the rules. */
  notShared: { itemIds: string[], rules: SharedRule[] } | null
  brokenPins: BrokenPin[]
  /** False when the search for the best use stopped at its limit: what is shown is then the best found. */
  proved: boolean
}

/** At most so many courses or credits may count in both programs. */
export interface SharedRule { courses: number | null, credits: Credits | null, programs: [string, string] }

/** What another program already uses, and how much of it may count here as well; `programs` are the titles of the two. */
export interface SharedUse { itemIds: ReadonlySet<string>, courses?: number, credits?: Credits, programs: [string, string] }

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
  shared?: readonly SharedUse[]
  /** A use that must be, for asking what it would change. */
  forced?: { itemId: string, lineId: string }
  nodeLimit?: number
}

export const TIERS = { 'completed': 0, 'under way': 1, 'registered': 2, 'picked': 3, 'planned': 3 } as const

/** Everything the report's parts look at: the compiled lines, the items that can count, and the uses found. */
interface Reading extends CompileContext {
  compiled: CompiledLine[]
  needs: AllocationLine[]
  items: CourseItem[]
  allocated: AllocationItem[]
  uses: number[]
}

/** Reads a program against record and plan: what every line needs, what fills it, and what is open. */
export function readProgram(input: ReportInput): ProgramReport {
  const { program, courses, scale } = input
  const exceptions = (input.exceptions ?? []).filter(exception => exception.program === program.code)
  const context: CompileContext = { courses, scale, exceptions }
  const { compiled, tree } = compile(program, context)
  const fitsOf = (item: CourseItem) => compiled.flatMap((target, l) => fitsLine(item, target, context) ? [l] : [])
  const { items, idle } = settleRepeats(countedItems(input), courses, fitsOf)
  const fits = items.map(item => idle.has(item.id) ? [] : fitsOf(item))
  const allocated = items.map((item, i): AllocationItem => {
    const lineId = (l: number) => compiled[l]!.line.id
    const forced = input.forced?.itemId === item.id
    const pinned = fits[i]!.find(l => lineId(l) === input.pins?.[item.id])
    return {
      // A use asked about is counted as firm: else the line would hold what it has, and this one besides.
      tier: forced ? 0 : TIERS[item.state], credits: item.credits, fits: forced ? fits[i]!.filter(l => lineId(l) === input.forced!.lineId) : fits[i]!,
      ...(pinned === undefined ? {} : { pinned }), ...(forced ? { must: true } : {}),
    }
  })
  const limits = (input.shared ?? []).map(({ itemIds, courses, credits }): AllocationLimit =>
    ({ items: items.flatMap((item, i) => itemIds.has(item.id) ? [i] : []), ...(courses === undefined ? {} : { courses }), ...(credits === undefined ? {} : { credits }) }))
  const needs = compiled.map((target, l) => withItems(target, items, courses, i => fits[i]!.includes(l)))
  const { uses, proved } = allocate(allocated, needs, tree, { limits, ...(input.nodeLimit ? { nodeLimit: input.nodeLimit } : {}) })
  const reading: Reading = { ...context, compiled, needs, items, allocated, uses }
  const areas = program.areas.map(area => reportArea(area, reading))
  const overlays = program.overlays.map(line => reportOverlay(line, reading))
  return {
    code: program.code, title: program.title, kind: program.kind, catalogYear: program.catalogYear, totalCredits: program.totalCredits,
    areas, overlays, proved, ...sumUp(areas), ...unusedOf(reading, overlays),
    rules: readRules(program, { all: input.items, counted: items.filter(item => !idle.has(item.id)), used: items.filter((_, i) => uses[i]! >= 0), courses, scale, repeatPolicy: input.repeatPolicy, milestones: input.milestones ?? [] }),
    couldCount: Object.fromEntries(items.map((item, i) => [item.id, [
      ...new Set(fits[i]!.map(l => compiled[l]!.line.id)), ...program.overlays.filter(line => fitsLine(item, { line, single: null }, context)).map(line => line.id),
    ]])),
    notShared: keptOut(input.shared ?? [], items, uses, fits),
    brokenPins: brokenPins(input.pins ?? {}, reading, fits),
  }
}

function sumUp(areas: readonly AreaReport[]) {
  const active = areas.flatMap(area => area.lines).filter(line => !line.setAside)
  const filled = (states: CourseItem['state'][]) => active.reduce((sum, line) => sum + filledBy(line, states), 0)
  const met = filled(['completed'])
  const underWay = filled(['completed', 'under way']) - met
  const covered = active.reduce((sum, line) => sum + line.needed - line.open, 0) - met - underWay
  const beyond = active.reduce((sum, line) => sum + Math.max(0, line.uses.reduce((credits, use) => credits + use.credits, 0) - line.needed), 0)
  return { met, underWay, covered, beyond, open: active.reduce((sum, line) => sum + line.open, 0) }
}

function unusedOf({ items, uses }: Reading, overlays: readonly LineReport[]) {
  const overlaid = new Set(overlays.flatMap(line => line.uses.map(use => use.item.id)))
  return { unused: items.filter((item, i) => uses[i] === -1 && !overlaid.has(item.id)) }
}

/** Items that can count at all, in an order that does not depend on the order they came in. */
export function countedItems({ items, courses, scale, repeatPolicy }: Pick<ReportInput, 'items' | 'courses' | 'scale' | 'repeatPolicy'>): CourseItem[] {
  const standing = new Set(standingAttempts(items, courses, scale, repeatPolicy).standing.map(item => item.id))
  const when = (item: CourseItem) => item.term ? termOrder(item.term) : 0
  return items
    .filter(item => item.state !== 'completed' || (standing.has(item.id) && meetsGrade(scale, item.grade, undefined)))
    .sort((a, b) => TIERS[a.state] - TIERS[b.state] || when(a) - when(b) || a.course.localeCompare(b.course) || a.id.localeCompare(b.id))
}

/**
 * A course gives credit as often as it may be repeated, and no more. Of attempts beyond that, a repeat that a line asks for
 * (because the grade so far is too low there) takes the place of the earlier attempt; any other counts for nothing.
 */
function settleRepeats(items: readonly CourseItem[], courses: ReadonlyMap<string, Course>, fitsOf: (item: CourseItem) => number[]): { items: CourseItem[], idle: ReadonlySet<string> } {
  const families = new Map<string, CourseItem[]>()
  const replaced = new Set<string>()
  const idle = new Set<string>()
  for (const item of items) {
    const family = creditFamily(item.course, courses)
    const standing = families.get(family) ?? []
    families.set(family, standing)
    if (standing.length < (courses.get(item.course)?.repeatLimit ?? 1)) {
      standing.push(item)
      continue
    }
    const mine = fitsOf(item)
    const weak = standing.find((earlier) => {
      const now = fitsOf(earlier)
      return earlier.state === 'completed' && fitsOf({ ...earlier, state: 'planned' }).some(l => !now.includes(l) && mine.includes(l))
    })
    if (weak) {
      replaced.add(weak.id)
      standing.splice(standing.indexOf(weak), 1, item)
    }
    else idle.add(item.id)
  }
  return { items: items.filter(item => !replaced.has(item.id)), idle }
}

function keptOut(shared: readonly SharedUse[], items: readonly CourseItem[], uses: readonly number[], fits: readonly number[][]): ProgramReport['notShared'] {
  const out = shared.flatMap(({ itemIds, courses, credits, programs }) => {
    const mine = items.filter((item, i) => itemIds.has(item.id) && uses[i] === -1 && fits[i]!.length > 0)
    return mine.length > 0 ? [{ itemIds: mine.map(item => item.id), rule: { courses: courses ?? null, credits: credits ?? null, programs } }] : []
  })
  return out.length === 0 ? null : { itemIds: out.flatMap(part => part.itemIds), rules: out.map(part => part.rule) }
}

function brokenPins(pins: Readonly<Record<string, string>>, { items, uses, compiled }: Reading, fits: readonly number[][]): BrokenPin[] {
  return items.flatMap((item, i) => {
    const line = pins[item.id]
    if (line === undefined || (uses[i]! >= 0 && compiled[uses[i]!]!.line.id === line)) return []
    const could = fits[i]!.some(l => compiled[l]!.line.id === line)
    return [{ itemId: item.id, course: item.course, line, because: could ? 'less filled' : 'does not fit', grade: item.grade }]
  })
}

/** The uses of a line: its compiled parts, and the items in them. */
function usesOf(lineId: string, { compiled, items, allocated, uses }: Reading) {
  const parts = compiled.flatMap((target, l) => target.line.id === lineId ? [{ target, l }] : [])
  return parts.map(({ target, l }) => ({
    target, l, used: items.flatMap((item, index) => uses[index] === l ? [{ course: item, item: allocated[index]!, index }] : []),
  }))
}

function reportLine(line: CourseLine, areaId: string, setAside: boolean, reading: Reading): LineReport {
  const parts = usesOf(line.id, reading)
  // What is told is in the course's own credits, whatever the line weighs in the allocation.
  const told = (l: number) => ({ ...reading.needs[l]!, unit: reading.compiled[l]!.need.unit || reading.needs[l]!.unit })
  const open = parts.map(({ l, used }) => lineOpenByTier(told(l), used)).reduce((sum, part) => sum.map((value, t) => value + part[t]!), [0, 0, 0, 0])
  const unfilled = parts.filter(({ target, used }) => target.single && used.length === 0).map(({ target }) => target.single!)
  const used = parts.flatMap(part => part.used.map(({ course }) => course))
  const mine = reading.exceptions.filter(exception => exception.line === line.id)
  return {
    id: line.id, areaId, title: line.title, rule: line, filter: line.filter, ...(line.minGrade ? { minGrade: line.minGrade } : {}),
    needed: parts.reduce((sum, { l }) => sum + openCredits(told(l), 0, 0, 0), 0),
    open: open[3]!, state: stateOf(open),
    lacking: lackingOf(line, open[3]!, used.length, subjectsOf(used, reading.courses), unfilled),
    uses: used.map(item => ({ item, credits: item.credits, substituted: mine.some(exception => exception.kind === 'substitution' && exception.course === item.course) })),
    unfilled: unfilled.filter(code => reading.courses.has(code)), setAside, overlay: false, exceptions: mine,
  }
}

function lackingOf(line: CourseLine, open: Credits, used: number, subjects: number, unfilled: readonly CourseCode[]): Lacking | null {
  if (open === 0) return null
  if (needsEveryListed(line)) return { code: 'listed', courses: [...unfilled] }
  const courses = line.courses ? Math.max(0, line.courses - used) : 0
  const anotherSubject = line.subjects !== undefined && subjects < line.subjects && used > 0
  return { code: 'amount', courses, credits: line.credits || (courses === 0 && !anotherSubject) ? open : null, more: used > 0, anotherSubject }
}

const subjectsOf = (items: readonly CourseItem[], courses: ReadonlyMap<string, Course>) => new Set(items.map(item => courses.get(item.course)?.subject)).size

function reportArea(area: Program['areas'][number], reading: Reading): AreaReport {
  const lines: LineReport[] = []
  const visit = (node: RequirementNode, aside: boolean): ReportNode => {
    if (node.kind === 'courses') {
      const line = reportLine(node, area.id, aside, reading)
      lines.push(line)
      return { kind: 'line', line }
    }
    const kept = keptBranches(node, reading)
    const branches = node.children.map((child, c) => {
      const branch = visit(child, aside || !kept.has(c))
      return { node: branch, kept: kept.has(c), open: branch.kind === 'line' ? branch.line.open : branch.open }
    })
    return { kind: 'group', id: node.id, title: node.title, n: kept.size, setAside: aside, branches, open: branches.reduce((sum, branch) => sum + (branch.kept ? branch.open : 0), 0) }
  }
  const nodes = area.children.map(child => visit(child, false))
  const active = lines.filter(line => !line.setAside)
  const sum = (pick: (line: LineReport) => number) => active.reduce((total, line) => total + pick(line), 0)
  const order: LineState[] = ['met', 'under way', 'covered', 'open']
  return {
    id: area.id, title: area.title, hue: area.hue, lines, nodes,
    state: order[Math.max(0, ...active.map(line => order.indexOf(line.state)))]!,
    needed: sum(line => line.needed), open: sum(line => line.open), met: sum(line => filledBy(line, ['completed'])),
  }
}

/** Which branches of a node count: all, or the n that leave least open, firmest tier first. */
function keptBranches(node: Exclude<RequirementNode, CourseLine>, reading: Reading): Set<number> {
  if (node.kind === 'all') return new Set(node.children.keys())
  const openOf = (child: RequirementNode): number[] => {
    if (child.kind === 'courses') {
      return usesOf(child.id, reading).map(({ l, used }) => lineOpenByTier(reading.needs[l]!, used)).reduce((sum, part) => sum.map((value, t) => value + part[t]!), [0, 0, 0, 0])
    }
    const parts = child.children.map(openOf).sort(compareTiers).slice(0, child.kind === 'all' ? child.children.length : child.n)
    return parts.reduce((sum, part) => sum.map((value, t) => value + part[t]!), [0, 0, 0, 0])
  }
  const costs = node.children.map(openOf)
  return new Set(node.children.map((_, c) => c).sort((a, b) => compareTiers(costs[a]!, costs[b]!) || a - b).slice(0, node.n))
}

/** An overlay takes the firmest courses first; every course may count there besides its use in the base tree. */
function reportOverlay(line: CourseLine, base: Reading): LineReport {
  const waived = base.exceptions.some(exception => exception.kind === 'waiver' && exception.line === line.id)
  const target: CompiledLine = { line, areaId: 'overlay', single: null, need: needOf(line) }
  const fitting = base.items.filter(item => !waived && fitsLine(item, target, base))
  const need = withItems(target, fitting, base.courses, () => true)
  const allocated = fitting.map((item): AllocationItem => ({ tier: TIERS[item.state], credits: item.credits, fits: [0] }))
  const { uses } = allocate(allocated, [need], { n: 1, of: [{ line: 0 }] })
  return { ...reportLine(line, 'overlay', false, { ...base, compiled: waived ? [] : [target], needs: [need], items: fitting, allocated, uses }), overlay: true }
}

function stateOf(openByTier: readonly number[]): LineState {
  if (openByTier[0] === 0) return 'met'
  if (openByTier[1] === 0) return 'under way'
  return openByTier[3] === 0 ? 'covered' : 'open'
}

function filledBy(line: LineReport, states: CourseItem['state'][]): Credits {
  const credits = line.uses.filter(use => states.includes(use.item.state)).reduce((sum, use) => sum + use.credits, 0)
  return Math.min(line.needed, credits)
}
