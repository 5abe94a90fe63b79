import { WITHOUT_CREDIT } from '../catalog/credits'
import type { Course, CourseCode, CourseItem, Credits } from '../catalog/types'
import { TIERS } from '../record/attempts'
import { allocate, compareBranches, lineOpenByTier } from './allocation/allocate'
import { openCredits } from './allocation/line-states'
import type { SolvedParts } from './allocation/memory'
import type { AllocationItem, AllocationLine } from './allocation/problem'
import { type CompileContext, type CompiledLine, type CompiledProgram, groupOf, withItems } from './compile'
import { earningOf, type Prepared } from './prepare'
import { readRules, type RuleReport } from './rules'
import {
  type CourseLine, type Hue, type LineState, needsEveryListed, type Program, type ProgramKind,
  type RequirementException, type RequirementNode, spreadOf,
} from './types'

/** What a line still asks for. */
export type Lacking /** These of the courses that it names one by one. */
  = | { code: 'listed', courses: CourseCode[] }
/** So many courses and credits; `more` when some are there already, `another` names what they must widen. */
    | { code: 'amount', courses: number, credits: Credits | null, more: boolean, another: 'subject' | 'level' | 'attribute' | null }

/** A course's use by a line. */
interface Use {
  item: CourseItem
  credits: Credits
  substituted: boolean
}

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
  /** Credits of what is needed that are filled, by how firmly. */
  filled: Filled
  /** Credits that one missing course stands for; 0 where the line counts credits alone. */
  unit: Credits
  uses: Use[]
  /** For a line that lists every course it needs: those nobody fills yet. */
  unfilled: CourseCode[]
  /** True for a branch of a choice that another branch answers better. */
  setAside: boolean
  overlay: boolean
  exceptions: RequirementException[]
}

/** Credits of a need filled by completed courses, by those under way, and by what is registered, picked or planned. */
interface Filled {
  met: Credits
  underWay: Credits
  covered: Credits
}

/** A line, or a group of them with the rule that joins them, as the tree prints it. */
export type ReportNode = { kind: 'line', line: LineReport } | GroupReport
interface GroupReport {
  kind: 'group'
  id: string
  title: string
  /** How many of the branches are needed; all of them where the group is no choice. */
  n: number
  open: Credits
  setAside: boolean
  branches: { node: ReportNode, kept: boolean, open: Credits }[]
}

interface AreaReport {
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
export interface BrokenPin {
  itemId: string
  course: CourseCode
  line: string
  because: 'less filled' | 'does not fit'
  grade: string | null
}

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
  /** Items whose credits count towards the total, each credit once. */
  earning: CourseItem[]
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
export interface SharedRule {
  courses: number | null
  credits: Credits | null
  programs: [string, string]
}

/** Everything the report's parts look at: the compiled lines, the items that can count, and the uses found. */
interface Reading extends CompileContext {
  compiled: CompiledLine[]
  needs: AllocationLine[]
  items: CourseItem[]
  allocated: AllocationItem[]
  uses: number[]
  /** The compiled parts of each line, by its id, with the items that fill them. */
  parts: Map<string, UsedPart[]>
}

interface UsedPart {
  target: CompiledLine
  l: number
  used: { course: CourseItem, item: AllocationItem, index: number }[]
}

/**
 * What of a report is the same for all uses that fill as much, save where it says so: what is open, the overlays, and the rules. Averages
 * over the program's own courses, and which line an open credit stands on, are as these uses have them.
 */
export type ProgramSums = Omit<ProgramReport, 'unused' | 'couldCount' | 'notShared' | 'brokenPins'>

/** What is told of a program once it is known which item fills which of its compiled lines (-1 for none). */
export function reportProgram(prepared: Prepared, uses: number[], proved: boolean, used: ReadonlySet<string>,
  memory: SolvedParts): ProgramReport {
  const { input, ready: { compiled, overlays }, candidates: { items, idle }, fits } = prepared
  const sums = sumProgram(prepared, uses, proved, used, memory)
  const overlaid = new Set(sums.overlays.flatMap(line => line.uses.map(use => use.item.id)))
  return {
    ...sums,
    unused: items.filter((item, i) => uses[i] === -1 && !overlaid.has(item.id)),
    couldCount: Object.fromEntries(items.map((item, i) => [item.id, [
      ...new Set(fits[i]!.map(l => compiled[l]!.line.id)),
      ...(idle.has(item.id) ? [] : overlays.filter(overlay => overlay.fitsOf(item).length > 0).map(({ line }) => line.id)),
    ]])),
    notShared: null,
    brokenPins: brokenPins(input.pins ?? {}, { items, uses, compiled }, fits),
  }
}

/** The same without what is told of each course. */
export function sumProgram(prepared: Prepared, uses: number[], proved: boolean, used: ReadonlySet<string>,
  memory: SolvedParts): ProgramSums {
  const { input, context, ready, candidates, allocated, needs } = prepared
  const { program } = input
  const { compiled } = ready
  const { items } = candidates
  // What is told goes by what each item is, also where a use was asked about.
  const asTold = allocated.map((one, i) => ({ ...one, tier: TIERS[items[i]!.state] }))
  const bare = { ...context, compiled, needs, items, allocated: asTold, uses }
  const reading: Reading = { ...bare, parts: partsByLine(bare) }
  const earning = earningOf(candidates, used)
  const areas = program.areas.map(area => reportArea(area, reading))
  return {
    code: program.code,
    title: program.title,
    kind: program.kind,
    catalogYear: program.catalogYear,
    totalCredits: program.totalCredits,
    areas,
    overlays: ready.overlays.map(overlay => reportOverlay(overlay, reading, earning, memory)),
    proved,
    ...sumUp(areas),
    earning,
    rules: readRules(program, { all: input.items, earning, used: items.filter((_, i) => uses[i]! >= 0), compiled, context,
      repeatPolicy: input.repeatPolicy, milestones: input.milestones ?? [] }),
  }
}

/** The averages that a program asks for, but for those over its own courses: they are the same whatever is used where. */
export function readAverages({ input, context, ready: { compiled }, candidates }: Prepared): RuleReport[] {
  const rules = input.program.rules.filter(rule => rule.kind === 'gpa' && rule.scope !== 'program')
  return rules.length === 0
    ? []
    : readRules({ ...input.program, rules }, { all: input.items, earning: earningOf(candidates, NONE), used: [], compiled, context,
        repeatPolicy: input.repeatPolicy, milestones: [] })
}
const NONE: ReadonlySet<string> = new Set()

function sumUp(areas: readonly AreaReport[]) {
  const active = areas.flatMap(area => area.lines).filter(line => !line.setAside)
  const sum = (pick: (line: LineReport) => Credits) => active.reduce((total, line) => total + pick(line), 0)
  return {
    met: sum(line => line.filled.met),
    underWay: sum(line => line.filled.underWay),
    covered: sum(line => line.filled.covered),
    open: sum(line => line.open),
    beyond: sum(line => Math.max(0, line.uses.reduce((credits, use) => credits + use.credits, 0) - line.needed)),
  }
}

function brokenPins(pins: Readonly<Record<string, string>>, { items, uses, compiled }: Pick<Reading, 'items' | 'uses' | 'compiled'>,
  fits: readonly number[][]): BrokenPin[] {
  return items.flatMap((item, i) => {
    const line = pins[item.id]
    if (line === undefined || (uses[i]! >= 0 && compiled[uses[i]!]!.line.id === line)) return []
    const could = fits[i]!.some(l => compiled[l]!.line.id === line)
    return [{ itemId: item.id, course: item.course, line, because: could ? 'less filled' : 'does not fit', grade: item.grade }]
  })
}

/** The uses of a line: its compiled parts, and the items in them. */
const usesOf = (lineId: string, reading: Reading) => reading.parts.get(lineId) ?? []

/** The uses of all lines, by the line's id. */
function partsByLine({ compiled, items, allocated, uses }: Omit<Reading, 'parts'>): Reading['parts'] {
  const parts: Reading['parts'] = new Map()
  const all = compiled.map((target, l) => ({ target, l, used: [] as UsedPart['used'] }))
  items.forEach((course, index) => all[uses[index]!]?.used.push({ course, item: allocated[index]!, index }))
  for (const part of all) {
    const before = parts.get(part.target.line.id)
    if (before) before.push(part)
    else parts.set(part.target.line.id, [part])
  }
  return parts
}

function reportLine(line: CourseLine, areaId: string, setAside: boolean, reading: Reading): LineReport {
  const parts = usesOf(line.id, reading)
  // What is told is in the course's own credits, whatever the line weighs in the allocation.
  const asked = parts.map(({ l }): AllocationLine => ({ ...reading.needs[l]!,
    unit: reading.compiled[l]!.withoutCredit ? WITHOUT_CREDIT : reading.compiled[l]!.need.unit || reading.needs[l]!.unit }))
  const open = [0, 0, 0, 0]
  parts.forEach(({ used }, k) => lineOpenByTier(asked[k]!, used).forEach((credits, tier) => open[tier]! += credits))
  const needed = asked.reduce((sum, line) => sum + openCredits(line, 0, 0, 0), 0)
  const unfilled = parts.filter(({ target, used }) => target.single && used.length === 0).map(({ target }) => target.single!)
  const used = parts.flatMap(part => part.used.map(({ course }) => course))
  const mine = reading.exceptions.filter(exception => exception.line === line.id)
  return {
    id: line.id,
    areaId,
    title: line.title,
    rule: line,
    filter: line.filter,
    ...(line.minGrade ? { minGrade: line.minGrade } : {}),
    needed,
    unit: Math.max(0, ...asked.map(line => line.unit)),
    open: open[3]!,
    state: stateOf(open),
    filled: { met: needed - open[0]!, underWay: open[0]! - open[1]!, covered: open[1]! - open[3]! },
    lacking: lackingOf(line, open[3]!, used, reading.courses, unfilled),
    uses: used.map(item => ({ item, credits: item.credits,
      substituted: mine.some(exception => exception.kind === 'substitution' && exception.course === item.course) }),
    ),
    unfilled: unfilled.filter(code => reading.courses.has(code)),
    setAside,
    overlay: false,
    exceptions: mine,
  }
}

function lackingOf(line: CourseLine, open: Credits, used: readonly CourseItem[], catalog: ReadonlyMap<string, Course>,
  unfilled: readonly CourseCode[]): Lacking | null {
  if (open === 0) return null
  if (needsEveryListed(line)) return { code: 'listed', courses: [...unfilled] }
  const courses = line.courses ? Math.max(0, line.courses - used.length) : 0
  const spread = spreadOf(line)
  const groups = spread && new Set(used.map(item => groupOf(catalog.get(item.course), line, spread.by))).size
  const another = spread && used.length > 0 && groups! < spread.n ? spread.by : null
  return { code: 'amount', courses, credits: line.credits || (courses === 0 && !another) ? open : null, more: used.length > 0, another }
}

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
    return { kind: 'group', id: node.id, title: node.title, n: kept.size, setAside: aside, branches,
      open: branches.reduce((sum, branch) => sum + (branch.kept ? branch.open : 0), 0) }
  }
  const nodes = area.children.map(child => visit(child, false))
  const active = lines.filter(line => !line.setAside)
  const sum = (pick: (line: LineReport) => number) => active.reduce((total, line) => total + pick(line), 0)
  const order: LineState[] = ['met', 'under way', 'covered', 'open']
  return {
    id: area.id,
    title: area.title,
    hue: area.hue,
    lines,
    nodes,
    state: order[Math.max(0, ...active.map(line => order.indexOf(line.state)))]!,
    needed: sum(line => line.needed),
    open: sum(line => line.open),
    met: sum(line => line.filled.met),
  }
}

/** Which branches of a node count: all, or the n best of them. */
function keptBranches(node: Exclude<RequirementNode, CourseLine>, reading: Reading): Set<number> {
  if (node.kind === 'all') return new Set(node.children.keys())
  const openOf = (child: RequirementNode): number[] => {
    if (child.kind === 'courses') {
      return usesOf(child.id, reading).map(({ l, used }) => lineOpenByTier(reading.needs[l]!, used)).reduce(
        (sum, part) => sum.map((value, t) => value + part[t]!),
        [0, 0, 0, 0],
      )
    }
    const parts = child.children.map(openOf).sort(compareBranches).slice(0, child.kind === 'all' ? child.children.length : child.n)
    return parts.reduce((sum, part) => sum.map((value, t) => value + part[t]!), [0, 0, 0, 0])
  }
  const costs = node.children.map(openOf)
  return new Set(node.children.map((_, c) => c).sort((a, b) => compareBranches(costs[a]!, costs[b]!) || a - b).slice(0, node.n))
}

/** An overlay takes the firmest courses first; every course may count there besides its use in the base tree. */
function reportOverlay({ line, compiled, fitsOf }: CompiledProgram['overlays'][number], base: Reading, earning: readonly CourseItem[],
  memory: SolvedParts): LineReport {
  const items = earning.filter(item => fitsOf(item).length > 0)
  const allocated = items.map((item): AllocationItem => ({ tier: TIERS[item.state], credits: item.credits, fits: fitsOf(item) }))
  const needs = compiled.map((target, l) => withItems(target, items, base.courses, i => allocated[i]!.fits.includes(l)))
  const { uses } = allocate(allocated, needs, { n: compiled.length, of: compiled.map((_, l) => ({ line: l })) }, {}, memory)
  const bare = { ...base, compiled, needs, items, allocated, uses }
  return { ...reportLine(line, 'overlay', false, { ...bare, parts: partsByLine(bare) }), overlay: true }
}

function stateOf(openByTier: readonly number[]): LineState {
  if (openByTier[0] === 0) return 'met'
  if (openByTier[1] === 0) return 'under way'
  return openByTier[3] === 0 ? 'covered' : 'open'
}
