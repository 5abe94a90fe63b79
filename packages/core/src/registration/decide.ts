import { formatCredits } from '../catalog/credits'
import { describeOffering, sayDate } from '../catalog/terms'
import type { Course, CourseItem, Credits, SeatPool, Section, Term, TravelTime } from '../catalog/types'
import { earnsCredit, type GradeScale } from '../grades/scale'
import { evaluate } from '../prerequisites/evaluate'
import { sayMissing } from '../prerequisites/print'
import { ruleOf } from '../prerequisites/rule-of'
import type { StudentFacts } from '../record/facts'
import { bundlesOf, clashBetween, missingParts } from '../weeks/bundles'
import { clockTime } from '../weeks/meetings'
import type { Gate, GateKind } from './gates'

/** Stable names of everything that can refuse a row. */
export type RefusalCode
  = | `gate-${GateKind}` | 'section-unknown' | 'section-cancelled' | 'bundle-incomplete' | 'duplicate' | 'already-passed' | 'exclusion'
    | 'prerequisite' | 'corequisite' | 'restriction' | 'clash' | 'load-cap' | 'seats-full'

export interface Finding {
  code: RefusalCode
  ok: boolean
  words: string
  /** The way forward; empty when `ok`. */
  way: string
}

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

const pass = (code: RefusalCode, words: string): Finding => ({ code, ok: true, words, way: '' })
const refuse = (code: RefusalCode, words: string, way: string): Finding => ({ code, ok: false, words, way })

function decideRow(
  row: LineUpRow, partners: readonly LineUpRow[], accepted: readonly { row: LineUpRow, sections: Section[] }[], load: Credits, context: DecisionContext,
): RowDecision {
  const course = context.courses.get(row.course)
  const sections = sectionsOf(row, context)
  const findings: Finding[] = context.gates.filter(gate => !gate.open).map(gate => refuse(`gate-${gate.kind}`, `${gate.title}: ${gate.words}.`, gate.way))
  if (!course || sections.length !== row.sectionIds.length || sections.length === 0 || sections.some(section => section.course !== row.course)) {
    findings.push(refuse('section-unknown', `A section chosen for ${row.course} is not in ${context.term.name}.`, 'Choose a bundle again in Week.'))
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
  if (cancelled) found.push(refuse('section-cancelled', `${course.code}-${cancelled.label} is cancelled.`, 'Choose another bundle in Week.'))
  const missing = missingParts(course, sections)
  const links = new Set(sections.map(section => section.link))
  if (missing.length > 0 || links.size > 1) {
    const what = missing.length > 0 ? `lacks its ${missing.join(' and ')}` : 'has parts that do not belong together'
    found.push(refuse('bundle-incomplete', `The choice for ${course.code} ${what}.`, 'Choose a complete bundle in Week.'))
  }
  return found
}

function checkRepeats(course: Course, accepted: readonly { row: LineUpRow }[], context: DecisionContext): Finding[] {
  const found: Finding[] = []
  const here = context.items.find(item => item.course === course.code && item.term === context.term.code && item.state === 'registered')
  if (here || accepted.some(({ row }) => row.course === course.code)) {
    found.push(refuse('duplicate', `You are registered for ${course.code} in ${context.term.name} already.`, 'To change sections, drop or replace the registered one.'))
  }
  const earned = context.items.filter(item => (item.course === course.code || course.equivalents.includes(item.course))
    && item.state === 'completed' && earnsCredit(context.scale, item.grade) && (context.scale[item.grade!]?.standsFor ?? 0) >= 200)
  if (earned.length >= course.repeatLimit) {
    found.push(refuse('already-passed', `${course.code} is passed with ${earned[0]!.grade}; it gives credit ${course.repeatLimit === 1 ? 'once' : `${course.repeatLimit} times`}.`, 'Take it out of the plan.'))
  }
  const excluded = context.items.find(item => course.exclusions.includes(item.course) && (item.state !== 'completed' || earnsCredit(context.scale, item.grade)))
    ?? accepted.map(({ row }) => ({ course: row.course, state: 'in this line-up' })).find(row => course.exclusions.includes(row.course))
  if (excluded) found.push(refuse('exclusion', `No credit for both ${course.code} and ${excluded.course}, which is ${excluded.state}.`, `Take ${course.code} out of the plan.`))
  return found
}

function checkRules(course: Course, partners: readonly LineUpRow[], context: DecisionContext): Finding[] {
  const alongside = partners.map((row): CourseItem => ({
    id: `run-${row.id}`, course: row.course, term: context.term.code, credits: 0, grade: null, state: 'registered', source: 'here',
  }))
  const facts: StudentFacts = { items: [...context.items, ...alongside], programs: context.programs, placements: context.placements, permissions: context.permissions }
  const shared = { courses: context.courses, scale: context.scale, course: course.code }
  const found: Finding[] = []
  const before = evaluate(ruleOf(course.prerequisite), context.term.code, facts, shared)
  if (context.permissions.includes(course.code)) found.push(pass('prerequisite', 'Prerequisite lifted by an exception.'))
  else if (before?.firmness === 'unmet') {
    const first = before.missing[0]?.find(expression => expression.kind === 'course')
    const needed = first?.kind === 'course' ? context.courses.get(first.course) : undefined
    const way = needed ? `Plan ${needed.code} first (${describeOffering(needed)}), or ask your advisor for a prerequisite exception.` : 'Ask your advisor for a prerequisite exception.'
    found.push(refuse('prerequisite', `Needs ${sayNeeds(before.missing, context)}.`, way))
  }
  else if (before) found.push(pass('prerequisite', `Prerequisite: ${sayReason(before.reason)}.`))
  const beside = evaluate(ruleOf(course.corequisite), context.term.code, facts, { ...shared, corequisite: true })
  if (beside?.firmness === 'unmet') {
    found.push(refuse('corequisite', `Goes with ${sayNeeds(beside.missing, context)}, in the same term or before.`, 'Add it to the line-up, so that both are registered together.'))
  }
  else if (beside) found.push(pass('corequisite', `Corequisite: ${sayReason(beside.reason)}.`))
  return found
}

/** Words for what is missing; a planned course is no help on registration day, so only the record is mentioned. */
function sayNeeds(missing: Parameters<typeof sayMissing>[0], context: DecisionContext): string {
  const firm = context.items.filter(item => item.state === 'completed')
  return sayMissing(missing, firm).replaceAll(' first, which is not in the plan', '; not on your record')
}

function sayReason(reason: { words: string, parts: { firmness: string, words: string, parts: unknown[] }[] }): string {
  const met = reason.parts.filter(part => part.firmness !== 'unmet')
  return met.length > 0 ? met.map(part => sayReason(part as Parameters<typeof sayReason>[0])).join(', ') : reason.words
}

function checkRestrictions(course: Course, sections: Section[], context: DecisionContext): Finding[] {
  return sections.filter(section => section.onlyPrograms.length > 0 && !section.onlyPrograms.some(code => context.programs.includes(code)))
    .map(section => refuse('restriction', `${course.code}-${section.label} is kept for ${section.onlyPrograms.join(' and ')} students.`, 'Choose another bundle in Week, or ask for an exception.'))
}

function checkClashes(sections: Section[], accepted: readonly { row: LineUpRow, sections: Section[] }[], context: DecisionContext): Finding[] {
  const held = new Map<string, Section[]>()
  for (const section of context.registered) held.set(section.course, [...held.get(section.course) ?? [], section])
  const others = [...[...held.values()].map(list => ({ sections: list, state: 'registered' })), ...accepted.map(({ sections: list }) => ({ sections: list, state: 'in this line-up' }))]
  return others.flatMap(({ sections: other, state }) => {
    if (other[0]?.course === sections[0]?.course) return []
    const clash = clashBetween(sections, other, context.term, context.travel)
    if (!clash) return []
    const name = `${other[0]!.course}-${other[0]!.label}`
    const words = clash.kind === 'overlap' ? `Clashes with ${name} (${state}), first on ${sayDate(clash.date)}.` : `Too little time from ${name} (${state}): ${clash.shortBy} min short on ${sayDate(clash.date)}.`
    return [refuse('clash', words, 'Choose another bundle for one of the two in Week.')]
  })
}

function checkLoad(course: Course, load: Credits, context: DecisionContext): Finding {
  const total = load + course.credits
  return total <= context.loadCap
    ? pass('load-cap', `${formatCredits(total)} of ${formatCredits(context.loadCap)} credits.`)
    : refuse('load-cap', `${formatCredits(total)} credits would be over the cap of ${formatCredits(context.loadCap)}.`, 'Leave a course for later, or ask your advisor for a load exception.')
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
    findings.push(refuse('seats-full', `${course.code}-${section.label} is full: ${sayFull(section)}.`, otherBundle(course, sections, context)))
  }
  if (findings.length === 0) {
    const left = Math.min(...sections.map(section => seatsFor(section, context.programs)))
    findings.push(pass('seats-full', `${left} ${left === 1 ? 'seat' : 'seats'} left.`))
  }
  return { claims, findings }
}

function sayFull(section: Section): string {
  const capacity = section.pools.reduce((sum, pool) => sum + pool.capacity, 0)
  const taken = section.pools.reduce((sum, pool) => sum + pool.taken, 0)
  const kept = section.pools.filter(pool => pool.forGroup !== null && freeSeats(pool) > 0)
  const words = `${taken} of ${capacity} seats taken${section.waiting > 0 ? `, ${section.waiting} waiting` : ''}`
  return kept.length > 0 ? `${words}, ${kept.reduce((sum, pool) => sum + freeSeats(pool), 0)} kept for ${kept.map(pool => pool.forGroup).join(' and ')}` : words
}

function otherBundle(course: Course, sections: Section[], context: DecisionContext): string {
  const free = bundlesOf(course, [...context.sections.values()])
    .filter(bundle => bundle.sections.every(section => seatsFor(section, context.programs) > 0) && bundle.sections.some(section => !sections.includes(section)))
  const first = free[0]?.sections[0]
  if (!first) return `No other bundle of ${course.code} has a seat; ask your advisor what else fills the requirement.`
  const when = first.meetings[0] ? `, ${first.meetings[0].days.join(' ')} ${clockTime(first.meetings[0].start)}` : ''
  return `Choose ${course.code}-${first.label}${when}: ${seatsFor(first, context.programs)} left.`
}
