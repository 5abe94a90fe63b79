import { nameOf } from '../catalog/terms'
import type {
  Commitment, Course, CourseCode, CourseItem, Credits, OfferingPattern, Part, SeatPool, Section, Term, TermName,
  TravelTime, Weekday,
} from '../catalog/types'
import { earnsCredit, type GradeScale } from '../grades/scale'
import { evaluate, type Lack, lacksOf, type Reason } from '../prerequisites/evaluate'
import { ruleOf } from '../prerequisites/rule-of'
import type { StudentFacts } from '../record/facts'
import { bundlesOf, clashBetween, missingParts } from '../weeks/bundles'
import type { Clash } from '../weeks/meetings'
import type { Gate } from './gates'

/** One thing that was looked at, by its stable code: `ok` or refused, with what its words need. */
export type Finding = { ok: boolean } & (
  | { code: 'gate', gate: Gate }
  | { code: 'section-unknown', course: CourseCode, term: TermName }
  | { code: 'section-cancelled', course: CourseCode, label: string }
  /** Parts that are missing; none when the parts do not belong together. */
  | { code: 'bundle-incomplete', course: CourseCode, missing: Part[] }
  | { code: 'duplicate', course: CourseCode, term: TermName }
  | { code: 'already-passed', course: CourseCode, grade: string | null, times: number }
  | { code: 'exclusion', course: CourseCode, by: CourseCode, state: Commitment | 'in the line-up' }
  /** `reason` where it is met, null where it was lifted by an exception; `first` is a course that would help, with its offering. */
  | { code: 'prerequisite', ok: true, reason: Reason | null }
  | { code: 'prerequisite', ok: false, needs: Lack[][], first: { course: CourseCode, offered: OfferingPattern } | null }
  | { code: 'corequisite', ok: true, reason: Reason }
  | { code: 'corequisite', ok: false, needs: Lack[][] }
  | { code: 'restriction', course: CourseCode, label: string, programs: string[] }
  | { code: 'clash', course: CourseCode, label: string, state: 'registered' | 'in the line-up', clash: Clash }
  | { code: 'load-cap', credits: Credits, cap: Credits }
  | { code: 'seats-full', ok: true, left: number }
  | { code: 'seats-full', ok: false, course: CourseCode, label: string, seats: SeatCount, other: OtherBundle | null }
)

/** Stable names of everything that can refuse a row. */
export type RefusalCode = Finding['code']

/** Seats of a section as told to somebody who finds none: `kept` are free ones for others. */
export interface SeatCount { capacity: number, taken: number, waiting: number, kept: { seats: number, for: string[] } }

/** Another bundle of the course that has seats. */
export interface OtherBundle { label: string, meets: { days: Weekday[], start: number } | null, left: number }

export interface LineUpRow { id: number, course: string, sectionIds: number[] }

export interface SeatClaim { sectionId: number, poolId: number }

export interface RowDecision {
  rowId: number
  course: string
  outcome: 'register' | 'refused'
  findings: Finding[]
  /** The seats this row would take, one a section. */
  claims: SeatClaim[]
  credits: Credits
}

export interface DecisionContext {
  term: Term
  gates: readonly Gate[]
  courses: ReadonlyMap<string, Course>
  /** Sections of the term that the rows name, and their siblings for the way forward. */
  sections: ReadonlyMap<number, Section>
  scale: GradeScale
  travel: readonly TravelTime[]
  /** Completed, under way and registered items; nothing that is only planned. */
  items: readonly CourseItem[]
  programs: readonly string[]
  placements: Readonly<Record<string, number>>
  permissions: readonly string[]
  loadCap: Credits
  /** Sections registered in this term. */
  registered: readonly Section[]
}

/**
 * The one decision about registering: used by the dry run, by the Week's "can take" and by the registration itself.
 * Every row is checked against every rule, without stopping at the first refusal. Rows are served in order;
 * partners in the same run satisfy each other's corequisites as long as both can be registered.
 */
export function decideRun(rows: readonly LineUpRow[], context: DecisionContext): RowDecision[] {
  let companions = new Set(rows.map(row => row.id))
  for (;;) {
    const decisions = decideInOrder(rows, companions, context)
    const accepted = new Set(decisions.filter(d => d.outcome === 'register' && companions.has(d.rowId)).map(d => d.rowId))
    if (accepted.size === companions.size) return decisions
    companions = accepted
  }
}

function decideInOrder(rows: readonly LineUpRow[], companions: ReadonlySet<number>, context: DecisionContext): RowDecision[] {
  const accepted: { row: LineUpRow, sections: Section[] }[] = []
  let load = context.items.reduce((sum, item) => sum + (item.term === context.term.code && item.state !== 'completed' ? item.credits : 0), 0)
  return rows.map((row) => {
    const partners = rows.filter(other => other.id !== row.id && companions.has(other.id))
    const decision = decideRow(row, partners, accepted, load, context)
    if (decision.outcome === 'register') {
      accepted.push({ row, sections: sectionsOf(row, context) })
      load += decision.credits
    }
    return decision
  })
}

const sectionsOf = (row: LineUpRow, context: DecisionContext) => row.sectionIds.flatMap(id => context.sections.get(id) ?? [])

function decideRow(
  row: LineUpRow, partners: readonly LineUpRow[], accepted: readonly { row: LineUpRow, sections: Section[] }[], load: Credits, context: DecisionContext,
): RowDecision {
  const course = context.courses.get(row.course)
  const sections = sectionsOf(row, context)
  const findings: Finding[] = context.gates.filter(gate => !gate.open).map(gate => ({ code: 'gate', ok: false, gate }))
  if (!course || sections.length !== row.sectionIds.length || sections.length === 0 || sections.some(section => section.course !== row.course)) {
    findings.push({ code: 'section-unknown', ok: false, course: row.course, term: nameOf(context.term) })
    return { rowId: row.id, course: row.course, outcome: 'refused', findings, claims: [], credits: 0 }
  }
  findings.push(
    ...checkSections(course, sections),
    ...checkRepeats(course, accepted, context),
    ...checkRules(course, partners, context),
    ...checkRestrictions(course, sections, context),
    ...checkClashes(sections, accepted, context),
    checkLoad(course, load, context),
  )
  const { claims, findings: seats } = checkSeats(course, sections, context)
  findings.push(...seats)
  const outcome = findings.every(finding => finding.ok) ? 'register' : 'refused'
  return { rowId: row.id, course: row.course, outcome, findings, claims: outcome === 'register' ? claims : [], credits: course.credits }
}

function checkSections(course: Course, sections: Section[]): Finding[] {
  const found: Finding[] = []
  const cancelled = sections.find(section => section.cancelled)
  if (cancelled) found.push({ code: 'section-cancelled', ok: false, course: course.code, label: cancelled.label })
  const missing = missingParts(course, sections)
  const links = new Set(sections.map(section => section.link))
  if (missing.length > 0 || links.size > 1) {
    found.push({ code: 'bundle-incomplete', ok: false, course: course.code, missing })
  }
  return found
}

function checkRepeats(course: Course, accepted: readonly { row: LineUpRow }[], context: DecisionContext): Finding[] {
  const found: Finding[] = []
  const here = context.items.find(item => item.course === course.code && item.term === context.term.code && item.state === 'registered')
  if (here || accepted.some(({ row }) => row.course === course.code)) {
    found.push({ code: 'duplicate', ok: false, course: course.code, term: nameOf(context.term) })
  }
  const earned = context.items.filter(item => (item.course === course.code || course.equivalents.includes(item.course))
    && item.state === 'completed' && earnsCredit(context.scale, item.grade) && (context.scale[item.grade!]?.standsFor ?? 0) >= 200)
  if (earned.length >= course.repeatLimit) {
    found.push({ code: 'already-passed', ok: false, course: course.code, grade: earned[0]!.grade, times: course.repeatLimit })
  }
  const excluded = context.items.find(item => course.exclusions.includes(item.course) && (item.state !== 'completed' || earnsCredit(context.scale, item.grade)))
    ?? accepted.map(({ row }) => ({ course: row.course, state: 'in the line-up' as const })).find(row => course.exclusions.includes(row.course))
  if (excluded) found.push({ code: 'exclusion', ok: false, course: course.code, by: excluded.course, state: excluded.state })
  return found
}

function checkRules(course: Course, partners: readonly LineUpRow[], context: DecisionContext): Finding[] {
  const alongside = partners.map((row): CourseItem => ({
    id: `run-${row.id}`, course: row.course, term: context.term.code, credits: 0, grade: null, state: 'registered', source: 'here',
  }))
  const facts: StudentFacts = { items: [...context.items, ...alongside], programs: context.programs, placements: context.placements, permissions: context.permissions }
  const shared = { courses: context.courses, scale: context.scale, course: course.code }
  // A planned course is no help on registration day, so only the record is told.
  const firm = context.items.filter(item => item.state === 'completed')
  const found: Finding[] = []
  const before = evaluate(ruleOf(course.prerequisite), context.term.code, facts, shared)
  if (context.permissions.includes(course.code)) found.push({ code: 'prerequisite', ok: true, reason: null })
  else if (before?.firmness === 'unmet') {
    const first = before.missing[0]?.find(expression => expression.kind === 'course')
    const needed = first?.kind === 'course' ? context.courses.get(first.course) : undefined
    found.push({ code: 'prerequisite', ok: false, needs: lacksOf(before.missing, firm), first: needed ? { course: needed.code, offered: needed.offered } : null })
  }
  else if (before) found.push({ code: 'prerequisite', ok: true, reason: before.reason })
  const beside = evaluate(ruleOf(course.corequisite), context.term.code, facts, { ...shared, corequisite: true })
  if (beside?.firmness === 'unmet') {
    found.push({ code: 'corequisite', ok: false, needs: lacksOf(beside.missing, firm) })
  }
  else if (beside) found.push({ code: 'corequisite', ok: true, reason: beside.reason })
  return found
}

function checkRestrictions(course: Course, sections: Section[], context: DecisionContext): Finding[] {
  return sections.filter(section => section.onlyPrograms.length > 0 && !section.onlyPrograms.some(code => context.programs.includes(code)))
    .map(section => ({ code: 'restriction', ok: false, course: course.code, label: section.label, programs: section.onlyPrograms }))
}

function checkClashes(sections: Section[], accepted: readonly { row: LineUpRow, sections: Section[] }[], context: DecisionContext): Finding[] {
  const held = new Map<string, Section[]>()
  for (const section of context.registered) held.set(section.course, [...held.get(section.course) ?? [], section])
  const others = [...[...held.values()].map(list => ({ sections: list, state: 'registered' as const })), ...accepted.map(({ sections: list }) => ({ sections: list, state: 'in the line-up' as const }))]
  return others.flatMap(({ sections: other, state }): Finding[] => {
    if (other[0]?.course === sections[0]?.course) return []
    const clash = clashBetween(sections, other, context.term, context.travel)
    if (!clash) return []
    return [{ code: 'clash', ok: false, course: other[0]!.course, label: other[0]!.label, state, clash }]
  })
}

function checkLoad(course: Course, load: Credits, context: DecisionContext): Finding {
  const total = load + course.credits
  return { code: 'load-cap', ok: total <= context.loadCap, credits: total, cap: context.loadCap }
}

export function freeSeats(pool: SeatPool): number {
  return Math.max(0, pool.capacity - pool.taken - pool.held)
}

/** Seats of a section that a student of these programs could take. */
export function seatsFor(section: Pick<Section, 'pools'>, programs: readonly string[]): number {
  return section.pools.reduce((sum, pool) => sum + (pool.forGroup === null || programs.includes(pool.forGroup) ? freeSeats(pool) : 0), 0)
}

/** Reserved seats are taken before open ones, so that open seats stay for those who have nothing else. */
function claimFor(section: Section, programs: readonly string[]): SeatClaim | null {
  const mine = section.pools.filter(pool => freeSeats(pool) > 0 && (pool.forGroup === null || programs.includes(pool.forGroup)))
  const pool = mine.find(candidate => candidate.forGroup !== null) ?? mine[0]
  return pool ? { sectionId: section.id, poolId: pool.id } : null
}

function checkSeats(course: Course, sections: Section[], context: DecisionContext): { claims: SeatClaim[], findings: Finding[] } {
  const claims: SeatClaim[] = []
  const findings: Finding[] = []
  for (const section of sections) {
    const claim = claimFor(section, context.programs)
    if (claim) {
      claims.push(claim)
      continue
    }
    findings.push({ code: 'seats-full', ok: false, course: course.code, label: section.label, seats: seatCount(section), other: otherBundle(course, sections, context) })
  }
  if (findings.length === 0) {
    const left = Math.min(...sections.map(section => seatsFor(section, context.programs)))
    findings.push({ code: 'seats-full', ok: true, left })
  }
  return { claims, findings }
}

function seatCount(section: Section): SeatCount {
  const kept = section.pools.filter(pool => pool.forGroup !== null && freeSeats(pool) > 0)
  return {
    capacity: section.pools.reduce((sum, pool) => sum + pool.capacity, 0), taken: section.pools.reduce((sum, pool) => sum + pool.taken, 0), waiting: section.waiting,
    kept: { seats: kept.reduce((sum, pool) => sum + freeSeats(pool), 0), for: kept.map(pool => pool.forGroup!) },
  }
}

function otherBundle(course: Course, sections: Section[], context: DecisionContext): OtherBundle | null {
  const free = bundlesOf(course, [...context.sections.values()])
    .filter(bundle => bundle.sections.every(section => seatsFor(section, context.programs) > 0) && bundle.sections.some(section => !sections.includes(section)))
  const first = free[0]?.sections[0]
  const meeting = first?.meetings[0]
  return first ? { label: first.label, meets: meeting ? { days: meeting.days, start: meeting.start } : null, left: seatsFor(first, context.programs) } : null
}
