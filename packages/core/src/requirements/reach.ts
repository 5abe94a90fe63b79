import { matchesFilter } from '../catalog/filter'
import { linked, sameCourse } from '../catalog/linked'
import { isOffered, termOrder, termsAhead } from '../catalog/terms'
import type { Commitment, Course, CourseCode, CourseItem, Credits, LocalDate, Term, TermCode } from '../catalog/types'
import { classStanding, creditsToOutgrow, STANDING_CREDITS } from '../grades/status'
import { apartByCourse, closedFrom, countsFor, coursesNamed } from '../prerequisites/evaluate'
import { ruleOf } from '../prerequisites/rule-of'
import type { Closed, Expression } from '../prerequisites/types'
import { readCredit, type RecordRules } from '../record/attempts'
import type { StudentFacts } from '../record/facts'
import { excludedBy, takenAlready } from '../record/repeats'
import { gradeSuffices } from './compile'
import type { LineReport, ProgramReport, ReportNode } from './report'

/** `items` are record and registrations; the plan does not matter to what can be reached. */
export interface ReachInput extends StudentFacts, RecordRules {
  terms: readonly Term[]
  today: LocalDate
}

/** When a course can be taken at the earliest, or why never. */
export interface Reached {
  /** Position among `Reach.terms`; null when it cannot be taken any more. */
  at: number | null
  /** The course that had to come first and decided it. */
  after: CourseCode | null
  /** Why never; or what it waits for when no course decided it; null when there is nothing to say. */
  why: Why | null
}

/** Why a course cannot be taken any more, or what it waits for. */
export type Why
  = | { code: 'asks for itself' | 'not in the catalog' | 'in no term ahead', course: CourseCode }
    | { code: 'excluded', course: CourseCode, by: CourseCode, state: Commitment }
    | { code: 'needs what cannot be had', course: CourseCode, why: Why }
    | { code: 'last offered', course: CourseCode, until: TermCode }
    | { code: 'placement', test: string, score: number }
    | { code: 'program', program: string }
    | { code: 'credits', credits: Credits }
    /** It is not open to them: for a program, a standing, or a course that is passed. */
    | { code: 'closed', to: string }

/** A moment in terms ahead: -1 is now, 0 the first term ahead; null is never. */
interface Moment {
  at: number | null
  after: CourseCode | null
  why: Why | null
}
const NOW: Moment = { at: -1, after: null, why: null }

/**
 * Earliest terms of all courses from record, prerequisites and offering patterns, without regard to the load of a term:
 * the forward pass of the critical path method (Kelley & Walker 1959, "Critical-path planning and scheduling").
 * So each is a lower bound, and a course that has none cannot be taken any more.
 */
export class Reach {
  readonly terms: Term[]
  private readonly known = new Map<CourseCode, Reached>()
  private readonly caps: Credits[]
  /** What is passed or under way, each credit once; what is registered for terms ahead comes with their credits. */
  private readonly earning: CourseItem[]
  private readonly earned: Credits
  private readonly courses: ReadonlyMap<string, Course>

  constructor(private readonly input: ReachInput) {
    this.courses = linked(input.courses)
    this.terms = termsAhead(input.terms, input.today)
    const all = readCredit(input.items, input).earning
    const slotOf = (item: CourseItem) => this.terms.findIndex(term => term.code === item.term)
    this.earning = all.filter(item => item.state === 'completed' || slotOf(item) < 0)
    this.earned = this.earning.reduce((sum, item) => sum + item.credits, 0)
    let sum = 0
    this.caps = this.terms.map((term) => {
      const registered = all.reduce(
        (credits, item) => item.state !== 'completed' && item.term === term.code ? credits + item.credits : credits,
        0,
      )
      return sum += Math.max(term.loadCap, registered)
    })
  }

  of(code: CourseCode): Reached {
    if (!this.known.has(code)) this.settle(this.namedFrom(code))
    return this.known.get(code)!
  }

  /**
   * Finds the earliest terms of some courses that name each other: all begin as if they could be taken at once, and move later until every
   * rule holds. So courses that go alongside each other settle in one term; those that must come before each other move beyond all terms.
   */
  private settle(codes: readonly CourseCode[]) {
    for (const code of codes) this.known.set(code, { at: -1, after: null, why: null })
    for (let moved = true; moved;) {
      moved = false
      for (const code of codes) {
        const found = this.find(code)
        moved ||= found.at !== this.known.get(code)!.at
        this.known.set(code, found)
      }
    }
    // The reason of each starts at the first course that waits for itself.
    const never = codes.filter(code => this.known.get(code)!.at === null)
    for (const code of never) this.known.delete(code)
    for (const code of never) this.explain(code)
  }

  /** A course that can never be taken, with the reason. */
  private explain(code: CourseCode) {
    if (this.known.has(code)) return
    this.known.set(code, { at: null, after: null, why: { code: 'asks for itself', course: code } })
    for (const other of this.namedBy(code)) this.explain(other)
    this.known.set(code, this.find(code))
  }

  /** A course, and all that its rules name directly or through others, whose terms are not known yet; what is named comes first. */
  private namedFrom(code: CourseCode): CourseCode[] {
    const seen = new Set<CourseCode>()
    const order: CourseCode[] = []
    const visit = (one: CourseCode) => {
      if (seen.has(one) || this.known.has(one)) return
      seen.add(one)
      this.namedBy(one).forEach(visit)
      order.push(one)
    }
    visit(code)
    return order
  }

  private namedBy(code: CourseCode): CourseCode[] {
    const course = this.courses.get(code)
    return course ? coursesNamed(course).flatMap(named => sameCourse(named, this.courses)) : []
  }

  private find(code: CourseCode): Reached {
    const course = this.courses.get(code)
    if (!course) return { at: null, after: null, why: { code: 'not in the catalog', course: code } }
    // What is given nowhere any more is lost to everybody; that is said before what keeps this student out.
    if (!this.terms.some(term => isOffered(course, term))) return { at: null, after: null, why: notGiven(course) }
    const excluded = excludedBy(course, this.input.items, this.input)
    if (excluded) return { at: null, after: null, why: { code: 'excluded', course: code, by: excluded.course, state: excluded.state } }
    const before = this.input.permissions.includes(code) ? NOW : this.moment(ruleOf(course.prerequisite), false)
    const beside = this.moment(ruleOf(course.corequisite), true)
    const ready = before.at === null || (beside.at !== null && beside.at <= before.at) ? before : beside
    if (ready.at === null) return { at: null, after: ready.after, why: { code: 'needs what cannot be had', course: code, why: ready.why! } }
    const at = this.terms.findIndex((term, t) => t >= ready.at! && isOffered(course, term))
    if (at < 0) return { at: null, after: ready.after, why: notGiven(course) }
    return { at, after: ready.after, why: ready.why }
  }

  /** The first term (as a position) in which a rule can hold. */
  private moment(rule: Expression | null, corequisite: boolean): Moment {
    if (!rule) return NOW
    const { placements, programs } = this.input
    const never = (why: Why): Moment => ({ at: null, after: null, why })
    switch (rule.kind) {
      case 'course':
        return this.courseMoment(rule, rule.alongside || corequisite ? 0 : 1)
      case 'permission':
        return NOW
      // An average can still be lifted.
      case 'gpa':
        return NOW
      case 'not':
        return this.openMoment(rule.condition)
      case 'placement':
        return (placements[rule.test] ?? -1) >= rule.score ? NOW : never({ code: 'placement', test: rule.test, score: rule.score })
      case 'program':
        return programs.includes(rule.program) ? NOW : never({ code: 'program', program: rule.program })
      case 'standing':
        return this.creditsMoment(STANDING_CREDITS[rule.standing])
      case 'credits': {
        const have = this.earning.reduce((sum, item) => countsFor(rule, this.courses.get(item.course)) ? sum + item.credits : sum, 0)
        return have >= rule.credits ? NOW : this.creditsMoment(this.earned + rule.credits - have)
      }
      case 'all':
        return this.nth(rule.of, rule.of.length, corequisite)
      case 'any':
        return this.nth(rule.of, 1, corequisite)
      case 'atLeast':
        return this.nth(apartByCourse(rule.of, this.courses), rule.n, corequisite)
    }
  }

  /** When a course is open to the student: a standing that they have closes it until it is outgrown, a passed course for good. */
  private openMoment(condition: Closed): Moment {
    const never = (to: string): Moment => ({ at: null, after: null, why: { code: 'closed', to } })
    if (condition.kind === 'program') return this.input.programs.includes(condition.program) ? never(condition.program) : NOW
    if (condition.kind === 'course') {
      const from = closedFrom(condition, this.input, this.input)
      const first = this.terms[0]
      // What is registered for a later term closes it from then on only.
      return from !== null && (!first || from <= termOrder(first.code)) ? never(condition.course) : NOW
    }
    if (classStanding(this.earned) !== condition.standing) return NOW
    const credits = creditsToOutgrow(condition.standing)
    return credits === null ? never(condition.standing) : this.creditsMoment(credits)
  }

  /** When so many credits can be there: terms filled to their caps, one after the other. */
  private creditsMoment(credits: Credits): Moment {
    if (this.earned >= credits) return NOW
    const full = this.caps.findIndex(cap => this.earned + cap >= credits)
    return { at: full < 0 ? null : full + 1, after: null, why: { code: 'credits', credits } }
  }

  private courseMoment(rule: Extract<Expression, { kind: 'course' }>, lag: 0 | 1): Moment {
    const accepted = sameCourse(rule.course, this.courses)
    for (const item of this.input.items) {
      if (!accepted.includes(item.course)) continue
      if (gradeSuffices(item, rule, this.input.scale)) {
        const term = this.terms.findIndex(candidate => candidate.code === item.term)
        return item.state === 'completed' || term < 0 ? NOW : { at: term + lag, after: null, why: null }
      }
    }
    const first = accepted.map(code => ({ code, reached: this.known.get(code) ?? this.of(code) })).sort((a, b) =>
      (a.reached.at ?? Infinity) - (b.reached.at ?? Infinity),
    )[0]!
    return first.reached.at === null
      ? { at: null, after: null, why: first.reached.why }
      : { at: first.reached.at + lag, after: first.code, why: null }
  }

  /** When `n` of the rules can hold: the n-th earliest. */
  private nth(rules: readonly Expression[], n: number, corequisite: boolean): Moment {
    if (n === 0) return NOW
    const moments = rules.map(rule => this.moment(rule, corequisite)).sort((a, b) => (a.at ?? Infinity) - (b.at ?? Infinity))
    return moments[n - 1] ?? { at: null, after: null, why: null }
  }

  /** The courses that lead to this one, first to last, itself included. */
  chain(code: CourseCode): CourseCode[] {
    const chain = [code]
    for (let { after } = this.of(code); after && !chain.includes(after); { after } = this.of(after)) chain.unshift(after)
    return chain
  }

  /** How many terms filled to their caps these credits take: a position like `Reached.at`, -1 for none. */
  termsFor(credits: Credits): number | null {
    if (credits <= 0) return -1
    const at = this.caps.findIndex(cap => cap >= credits)
    return at < 0 ? null : at
  }
}

/**
 * The courses that a line still takes: for each one that it names and nobody fills, that course and its equivalents; else all that its
 * filter accepts.
 */
export function poolOf(line: Pick<LineReport, 'filter' | 'unfilled'>, all: ReadonlyMap<string, Course>): Course[][] {
  const courses = linked(all)
  if (line.unfilled.length === 0) return [...courses.values()].filter(course => matchesFilter(course, line.filter)).map(course => [course])
  const { list: _, ...others } = line.filter
  return line.unfilled.map(code =>
    sameCourse(code, courses).flatMap(other => courses.get(other) ?? []).filter(course => matchesFilter(course, others)),
  )
}

/**
 * Courses that could still fill an open line, each with its earliest term; soonest first. Of a course and its equivalents the one that
 * comes soonest.
 */
function waysToFill(line: Pick<LineReport, 'filter' | 'unfilled' | 'minGrade'>, items: readonly CourseItem[], reach: Reach,
  rules: Pick<ReachInput, 'courses' | 'scale'>): { course: Course, reached: Reached }[] {
  const asked = line.minGrade === undefined ? 0 : rules.scale[line.minGrade]?.standsFor ?? 0
  const soonest = (a: { reached: Reached, course: Course }, b: { reached: Reached, course: Course }) =>
    (a.reached.at ?? Infinity) - (b.reached.at ?? Infinity) || a.course.code.localeCompare(b.course.code)
  return poolOf(line, rules.courses).flatMap((same) => {
    const ways = same.filter(course => !takenAlready(course, items, rules, asked)).map(course => ({ course,
      reached: reach.of(course.code) }),
    )
    return ways.sort(soonest).slice(0, 1)
  }).sort(soonest)
}

/** Why an open line cannot be filled any more; no reasons when nothing that is left fits it. */
export interface Lost {
  reasons: Why[]
}

/** Open lines that no course still to be had can fill, by line id, each with the reasons. */
export function findUnreachable(report: ProgramReport, items: readonly CourseItem[], reach: Reach,
  input: Pick<ReachInput, 'courses' | 'scale'>): Record<string, Lost> {
  const lost: Record<string, Lost> = {}
  for (const line of [...report.areas.flatMap(area => area.lines), ...report.overlays]) {
    if (line.open === 0 || line.setAside) continue
    // What only a sharing rule keeps out could come back by another use in the other program.
    if (report.notShared?.itemIds.some(id => report.couldCount[id]?.includes(line.id))) continue
    const ways = waysToFill(line, items, reach, input)
    const possible = ways.filter(({ reached }) => reached.at !== null)
    const reasons = ways.flatMap(({ reached }) => reached.at === null && reached.why ? [reached.why] : [])
    // What another line uses could come here, where something else serves that line.
    const lent = lentBy(report, line)
    const enough = line.unfilled.length > 0
      ? line.unfilled.every(code => lent.some(item => sameCourse(code, input.courses).includes(item.course))
        || possible.some(({ course }) => sameCourse(code, input.courses).includes(course.code)))
      : lent.reduce((sum, item) => sum + Math.max(item.credits, line.unit), 0)
        + possible.reduce((sum, { course }) => sum + mostFrom(course, line), 0) >= line.open
    if (!enough)
      lost[line.id] = {
        reasons: reasons.filter((why, i) => reasons.findIndex(other => JSON.stringify(other) === JSON.stringify(why)) === i),
      }
  }
  return lost
}

/** Items that other lines of a program use and that could count on this one. */
const lentBy = (report: ProgramReport, line: LineReport): CourseItem[] => report.areas.flatMap(area => area.lines)
  .flatMap(other => other.id === line.id ? [] : other.uses.map(use => use.item))
  .filter(item => report.couldCount[item.id]?.includes(line.id))

const notGiven = ({ code, offered: { until } }: Course): Why =>
  until ? { code: 'last offered', course: code, until } : { code: 'in no term ahead', course: code }

/** The most that a course can bring to a line: all its credits, or what one course counts for there, as often as it gives credit. */
const mostFrom = (course: Course, { unit }: Pick<LineReport, 'unit'>): Credits => Math.max(course.creditsMax, unit) * course.repeatLimit

export interface EarliestFinish {
  /** Null when something cannot be reached at all. */
  term: { code: TermCode, name: string } | null
  /** Position among the terms ahead; -1 when nothing is left to do. */
  at: number | null
  decidedBy: 'nothing left' | 'chain' | 'load' | 'unreachable'
  /** The courses that decide it, first to last; empty when the load does. */
  chain: CourseCode[]
  /** What the first course of the chain waits for, when that is no course. */
  waitsFor: Why | null
  creditsLeft: Credits
}

/** Credits that the total of a program lacks with all that it was read with, less `without`; nothing where it has none. */
export const creditsToTotal = ({ rules }: Pick<ProgramReport, 'rules'>, without: Credits = 0): Credits =>
  rules.reduce((lacking, { reading }) =>
    reading.kind === 'total' ? Math.max(0, reading.asked - reading.withPlan + without) : lacking, 0)

/** What a line, or a group of them, still takes at the least. */
interface Least {
  /** The first position by which it can be filled, loads left aside; -1 where it is filled, Infinity where nothing fills it. */
  at: number
  /** The course that comes last then. */
  last: CourseCode | null
  credits: Credits
}

/** The least that an open line takes: its soonest courses decide when, its smallest ones for how many credits. */
function leastOfLine(line: LineReport, report: ProgramReport, reach: Reach,
  input: Pick<ReachInput, 'items' | 'courses' | 'scale'>): Least {
  if (line.open === 0) return { at: -1, last: null, credits: 0 }
  const ways = waysToFill(line, input.items, reach, input).filter(({ reached }) => reached.at !== null)
  // What another line uses may come here, and that line take something else: when is then not told by this line.
  if (lentBy(report, line).length > 0)
    return { at: -1, last: null, credits: Math.min(line.open, leastCreditsOf(line, ways.map(way => way.course))) }
  let filled = 0
  let last: { course: Course, reached: Reached } | undefined
  for (const way of line.unfilled.length > 0 ? [...ways].reverse().slice(0, 1) : ways) {
    last = way
    filled += mostFrom(way.course, line)
    if (filled >= line.open) break
  }
  const isShort = line.unfilled.length > 0 ? ways.length < line.unfilled.length : filled < line.open
  if (isShort || !last) return { at: Infinity, last: null, credits: line.open }
  return { at: last.reached.at!, last: last.course.code, credits: leastCreditsOf(line, ways.map(way => way.course)) }
}

/** The fewest credits that fill an open line: as many of its smallest courses as it lacks, or the credits that it lacks. */
function leastCreditsOf({ rule, open, unit, unfilled, uses }: LineReport, courses: readonly Course[]): Credits {
  const sizes = courses.flatMap(({ credits, repeatLimit }) => Array.from({ length: unfilled.length > 0 ? 1 : repeatLimit }, () => credits))
    .sort((a, b) => a - b)
  const lacking = unfilled.length > 0 ? unfilled.length : unit > 0 ? Math.ceil(open / unit) : 0
  const byCourses = sizes.slice(0, lacking).reduce((sum, credits) => sum + credits, 0)
  const byCredits = unit === 0 ? open : Math.min(open, (rule.credits ?? 0) - uses.reduce((sum, use) => sum + use.credits, 0))
  return Math.max(byCourses, byCredits)
}

/** A line or a group as the tree joins them: of a choice the branches that come soonest, and those that take the fewest credits. */
function leastOfNode(node: ReportNode, ofLine: (line: LineReport) => Least): Least {
  if (node.kind === 'line') return ofLine(node.line)
  const branches = node.branches.map(branch => leastOfNode(branch.node, ofLine))
  const soonest = [...branches].sort((a, b) => a.at - b.at).slice(0, node.n).at(-1)
  return { at: soonest?.at ?? -1, last: soonest?.last ?? null,
    credits: branches.map(branch => branch.credits).sort((a, b) => a - b).slice(0, node.n).reduce((sum, one) => sum + one, 0) }
}

/**
 * The longest chain of prerequisites that a program still asks for, with the position in which it ends (null where something cannot be
 * reached), and the fewest credits that its lines still take. Loads are left aside.
 */
export function longestChain(report: ProgramReport, reach: Reach,
  input: Pick<ReachInput, 'items' | 'courses' | 'scale'>): { at: number | null, chain: CourseCode[], credits: Credits } {
  const nodes = report.areas.flatMap(area => area.nodes).map(node => leastOfNode(node, line => leastOfLine(line, report, reach, input)))
  const credits = nodes.reduce((sum, one) => sum + one.credits, 0)
  let longest = { at: lastRegistered(input.items, reach), chain: [] as CourseCode[] }
  for (const { at, last } of [...nodes, ...report.overlays.map(line => leastOfLine(line, report, reach, input))]) {
    if (at === Infinity) return { at: null, chain: [], credits }
    if (at > longest.at) longest = { at, chain: last ? reach.chain(last) : [] }
  }
  return { ...longest, credits }
}

/**
 * The earliest term in which a program can be complete: the later of the longest chain of prerequisites with its offering patterns,
 * and of the terms that the fewest credits left fill to their caps. A lower bound: what it names cannot be beaten, and may not always be
 * met. `report` must have been read without the plan.
 */
export function earliestFinish(report: ProgramReport, reach: Reach,
  input: Pick<ReachInput, 'items' | 'courses' | 'scale'>): EarliestFinish {
  const open = report.open + report.overlays.reduce((sum, line) => sum + line.open, 0)
  const longest = longestChain(report, reach, input)
  const creditsLeft = Math.max(longest.credits, creditsToTotal(report))
  const load = reach.termsFor(creditsLeft)
  if (load === null || longest.at === null)
    return { term: null, at: null, decidedBy: 'unreachable', chain: [], waitsFor: null, creditsLeft }
  const at = Math.max(load, longest.at)
  if (at < 0 && open === 0) return { term: null, at: -1, decidedBy: 'nothing left', chain: [], waitsFor: null, creditsLeft }
  const term = reach.terms[Math.max(0, at)]!
  const byChain = longest.at >= load && longest.chain.length > 0
  return {
    term: { code: term.code, name: term.name },
    at,
    decidedBy: byChain ? 'chain' : 'load',
    chain: byChain ? longest.chain : [],
    waitsFor: byChain ? reach.of(longest.chain[0]!).why : null,
    creditsLeft,
  }
}

function lastRegistered(items: readonly CourseItem[], reach: Reach): number {
  const last = items.filter(item => item.state === 'registered' && item.term).map(item => termOrder(item.term!)).sort((a, b) => b - a)[0]
  return last === undefined ? -1 : reach.terms.findIndex(term => termOrder(term.code) === last)
}
