import { remembered } from '../catalog/remembered'
import type { CourseItem } from '../catalog/types'
import { allocate, hasChoice } from './allocation/allocate'
import { SolvedParts } from './allocation/memory'
import { type AllocationItem, type AllocationLimit, type AllocationLine, type AllocationTree, limitsOn,
  type ProgramsPolicy } from './allocation/problem'
import { isAverageLow } from './averages'
import { leastOpen, quickUses } from './bounds'
import { type Prepared, prepareProgram, type ReportInput } from './prepare'
import { type LineReport, type ProgramReport, type ProgramSums, readAverages, reportProgram, sumProgram } from './report'
import { isBelow } from './rules'

/** At most so many courses or credits may count in both of two programs, by their place in the list. */
export interface SharingBetween {
  between: readonly [number, number]
  courses?: number
  credits?: number
}

/** All programs of a student, the first served first, with what may count twice among them. */
export interface ProgramsInput {
  programs: ReportInput[]
  sharing: SharingBetween[]
  /** `in order` unless the institution weighs all programs as one. */
  policy?: ProgramsPolicy
  nodeLimit?: number
}

/** What was solved before with these courses. */
const memoryOf = remembered((_: ReportInput['courses']) => new SolvedParts())

/** Made once for what is asked, however much is asked of it. */
const preparedOf = remembered(prepareProgram)

/** Reads a program by itself against record and plan: what every line needs, what fills it, and what is open. */
export const readProgram = (input: ReportInput, memory?: SolvedParts, nodeLimit?: number): ProgramReport =>
  readTogether({ programs: [input], sharing: [], ...(nodeLimit ? { nodeLimit } : {}) }, memory)[0]!

/**
 * Reads all programs of a student as one problem: every course may count once in each, and in two only as far as their sharing rules
 * let it. By the order of the programs, the first never loses to a later one; among its equally good fills the one is taken that serves
 * the later ones best.
 */
export function readTogether(input: ProgramsInput, memory?: SolvedParts): ProgramReport[] {
  if (input.programs.length === 0) return []
  const known = memory ?? memoryOf(input.programs[0]!.courses)
  const prepared = input.programs.map(preparedOf)
  const { uses, proved, used } = solveTogether(prepared, input, known, false)
  const reports = prepared.map((one, p) => reportProgram(one, uses[p]!, proved, used, known))
  return reports.map((report, p) => ({ ...report, notShared: keptOut(p, reports, prepared, input.sharing) }))
}

/**
 * What all programs leave open, without seeking the best among uses that fill as much: for whoever looks at everybody.
 * Null where what the sums say could depend on which of those uses is taken: the whole reading tells it then.
 */
export function sumTogether(input: ProgramsInput): ProgramSums[] | null {
  if (input.programs.length === 0) return []
  const prepared = input.programs.map(preparedOf)
  // Which of two courses that exclude each other gives credit is told by the uses; and how much each program is left open, all in sum, too.
  if (prepared.some(({ candidates }) => candidates.exclusive.length > 0)) return null
  if (input.policy === 'in sum' && prepared.length > 1) return null
  // So does what a maximum leaves to the total: what the lines use comes first.
  if (prepared.some(({ maxima }) => maxima.some(({ room, terms }) => terms.reduce((sum, { size }) => sum + size, 0) > room))) return null
  const known = memoryOf(input.programs[0]!.courses)
  const { uses, proved, used } = solveTogether(prepared, input, known, true)
  return proved && prepared.every((one, p) => isAverageLow(one, uses[p]!) !== null)
    ? prepared.map((one, p) => sumProgram(one, uses[p]!, proved, used, known))
    : null
}

/**
 * Whether some average is too low, where something is left open whatever is used where: for whoever wants to know no more of everybody.
 * Null where nothing may be open, or where it takes the uses to tell.
 */
export function glanceTogether(input: ProgramsInput): { isLow: boolean } | null {
  const prepared = input.programs.map(preparedOf)
  if (!prepared.some(one => leastOpen(one) > 0) || prepared.some(({ candidates }) => candidates.exclusive.length > 0)) return null
  const low = prepared.map((one, p) => readAverages(one).some(isBelow)
    || isAverageLow(one, isFree(p, input) && !hasChoice(one.ready.tree) ? quickUses(one) : one.allocated.map(() => -1)))
  return low.includes(true) ? { isLow: true } : low.includes(null) ? null : { isLow: false }
}

/** Whether a program is filled as if it were alone: what the ones before leave to a later one is not known, nor what is best in sum. */
const isFree = (p: number, { programs, policy }: ProgramsInput) => p === 0 && (programs.length === 1 || policy !== 'in sum')

/** The uses of every program's items by its compiled lines, and the ids of all items in use. */
function solveTogether(prepared: readonly Prepared[], input: ProgramsInput, memory: SolvedParts, fillsOnly: boolean) {
  const problem = joined(prepared)
  const limits = limitsBetween(prepared, input.sharing, problem)
  const { uses, proved } = allocate(problem.items, problem.lines, problem.tree, { limits, policy: input.policy ?? 'in order', fillsOnly,
    ...(input.nodeLimit ? { nodeLimit: input.nodeLimit } : {}) }, memory)
  return { proved, used: new Set(uses.flatMap((line, k) => line >= 0 ? [problem.source[k]!.id] : [])),
    uses: prepared.map((one, p) => one.allocated.map((_, i) => {
      const line = uses[problem.firstItem[p]! + i]!
      return line < 0 ? -1 : line - problem.firstLine[p]!
    })) }
}

interface Joined {
  items: AllocationItem[]
  lines: AllocationLine[]
  tree: AllocationTree
  /** The course behind every copy. */
  source: CourseItem[]
  firstItem: number[]
  firstLine: number[]
}

/** One problem over all programs: a copy of every item for each, side by side with the lines of that program. */
function joined(prepared: readonly Prepared[]): Joined {
  const made: Joined = { items: [], lines: [], tree: { n: 0, of: [] }, source: [], firstItem: [], firstLine: [] }
  const trees: AllocationTree[] = []
  prepared.forEach(({ allocated, needs, ready, candidates }, program) => {
    const first = made.lines.length
    made.firstItem.push(made.items.length)
    made.firstLine.push(first)
    const shift = (node: AllocationTree): AllocationTree => 'line' in node
      ? { line: node.line + first }
      : { n: node.n, of: node.of.map(shift) }
    trees.push(shift(ready.tree))
    made.items.push(...allocated.map(item => ({ ...item, fits: item.fits.map(l => l + first),
      ...(item.pinned === undefined ? {} : { pinned: item.pinned + first }) })))
    made.lines.push(...needs.map(line => ({ ...line, ...(program > 0 ? { program } : {}),
      ...(line.caps ? { caps: line.caps.map(cap => ({ ...cap, items: cap.items.map(i => i + made.firstItem[program]!) })) } : {}),
      ...(line.spread
        ? { spread: { ...line.spread, groupOf: [...Array.from({ length: made.firstItem[program]! }, () => -1),
            ...line.spread.groupOf] } }
        : {}),
    })))
    made.source.push(...candidates.items)
  })
  made.tree = trees.length === 1 ? trees[0]! : { n: trees.length, of: trees }
  return made
}

/** What two programs may share, and that of two courses which exclude each other only one gives credit, wherever it is used. */
function limitsBetween(prepared: readonly Prepared[], sharing: readonly SharingBetween[], { items, source,
  firstItem }: Joined): AllocationLimit[] {
  const copies = new Map<string, number[]>()
  source.forEach(({ id }, k) => copies.set(id, [...copies.get(id) ?? [], k]))
  const programOf = (k: number) => firstItem.findLastIndex(first => first <= k)
  const shared = sharing.flatMap(({ between, courses, credits }) => {
    const pairs = [...copies.values()].flatMap((all): [number, number][] => {
      const [a, b] = between.map(p => all.find(k => programOf(k) === p && items[k]!.fits.length > 0))
      return a === undefined || b === undefined ? [] : [[a, b]]
    })
    // As many limits as the rule names amounts, each over the pairs and not over single uses.
    return limitsOn(pairs.map((_, t) => t), { courses, credits }, pairs.map(([a]) => items[a]!))
      .map(({ room, terms }): AllocationLimit => ({ room, terms: terms.map(({ of: [t], size }) => ({ of: pairs[t]!, size })) }))
  })
  const seen = new Set<string>()
  const exclusive = prepared.flatMap(({ candidates }) => candidates.exclusive).flatMap(([a, b]): AllocationLimit[] => {
    if (seen.has(`${a.id} ${b.id}`)) return []
    seen.add(`${a.id} ${b.id}`)
    return [{ room: 0, terms: copies.get(a.id)!.flatMap(x => copies.get(b.id)!.map(y => ({ of: [x, y] as const, size: 1 }))) }]
  })
  const maxima = prepared.flatMap((one, p) => one.maxima.map(({ room, terms }): AllocationLimit => ({ room,
    terms: terms.map(({ of: [i], size }) => ({ of: [i + firstItem[p]!], size })) })))
  return [...shared, ...exclusive, ...maxima]
}

/** What a program could use and another one has, where their rule leaves no room for it. */
function keptOut(p: number, reports: readonly ProgramReport[], prepared: readonly Prepared[],
  sharing: readonly SharingBetween[]): ProgramReport['notShared'] {
  const usedIn = (report: ProgramReport) =>
    new Map(report.areas.flatMap(area => area.lines).flatMap(line => line.uses.map(use => [use.item.id, use.item.credits] as const)))
  const mine = usedIn(reports[p]!)
  const isWanted = (line: LineReport) => line.open > 0 && !line.setAside
  const open = new Set(reports[p]!.areas.flatMap(area => area.lines).filter(isWanted).map(line => line.id))
  const out = sharing.flatMap(({ between, courses, credits }) => {
    if (!between.includes(p)) return []
    const other = between[0] === p ? between[1] : between[0]
    const theirs = usedIn(reports[other]!)
    const both = [...mine].filter(([id]) => theirs.has(id))
    const sum = both.reduce((total, [, amount]) => total + amount, 0)
    const kept = prepared[p]!.candidates.items.filter((item, i) => theirs.has(item.id) && !mine.has(item.id)
      && prepared[p]!.fits[i]!.length > 0
      // An earlier program wants it only where something is open; a later one had to make do without it.
      && (p > other || reports[p]!.couldCount[item.id]!.some(line => open.has(line)))
      && (both.length + 1 > (courses ?? Infinity) || sum + item.credits > (credits ?? Infinity)))
    return kept.length > 0
      ? [{ itemIds: kept.map(item => item.id), rule: { courses: courses ?? null, credits: credits ?? null,
          programs: [reports[between[0]]!.title, reports[between[1]]!.title] as [string, string] } }]
      : []
  })
  return out.length === 0 ? null : { itemIds: [...new Set(out.flatMap(part => part.itemIds))], rules: out.map(part => part.rule) }
}
