import type { ExceptionAsked } from '../advising/exceptions'
import type { CourseCode, Credits, Instant, LocalDate, TermName } from '../catalog/types'
import type { PlanCheck } from '../planning/checks'
import type { Finding } from '../registration/findings'
import type { Gate, GateKind } from '../registration/gates'
import { placeToMend } from './mend-week'
import type { MovedPick } from './moved'

/** The waypoint where a step is done, the account, or the meetings. */
type StepPlace = 'now' | 'requirements' | 'plan' | 'week' | 'register' | 'account' | 'meetings'

/** What there is to do. */
type StepFinding
  = | { code: 'seat offer', course: CourseCode, label: string, hoursLeft: number }
    | { code: 'confirm program', gate: Gate }
    | { code: 'clear hold', gate: Gate }
  /** `term` is the working term when the problem stands there. */
    | { code: 'mend', check: PlanCheck, term: TermName | null }
    | { code: 'plan term', term: TermName }
    | { code: 'sign-off asked', gate: Gate }
  /** The advisor gave the plan back, or withdrew a sign-off, with these words. */
    | { code: 'returned', by: string, words: string, withdrawn: boolean, term: TermName }
    | { code: 'suggestions', count: number, advisor: string | null }
    | { code: 'read comments', count: number }
    | { code: 'request declined', asked: ExceptionAsked, by: string | null, words: string }
    | { code: 'meeting', start: Instant, minutes: number, where: string, advisor: string }
    | { code: 'ask sign-off', advisor: string | null, term: TermName }
    | { code: 'choose section', course: CourseCode }
  /** A bundle that was picked meets at other times or places than it did then. */
    | { code: 'moved', moved: MovedPick }
    | { code: 'accept terms', term: TermName }
    | { code: 'refused', course: CourseCode, finding: Finding }
    | { code: 'register', courses: number }
    | { code: 'pay', cents: number, by: LocalDate, overdue: boolean, voidAfter: LocalDate | null }
  /** The registration of the term was voided on that day for want of payment. */
    | { code: 'voided', term: TermName, on: LocalDate }
  /** A registered section was cancelled; a seat in another bundle is held where `offered`. */
    | { code: 'section gone', course: CourseCode, label: string, offered: boolean }
    | { code: 'off path', check: PlanCheck }
    | { code: 'cover open', credits: Credits }

export type NextStep = StepFinding & {
  id: string
  place: StepPlace
  /** Plan entry, course or gate that the step is about. */
  about: string
  blocking: boolean
  /** The act that can be done on the spot. */
  act?: 'confirm program' | 'ask sign-off' | 'accept terms'
}

export interface StepsInput {
  term: TermName
  gates: readonly Gate[]
  checks: readonly PlanCheck[]
  /** Courses planned for the term that have neither a bundle nor a registration. */
  unpicked: readonly string[]
  /** Rows in the line-up that are not registered, each with the first thing that the dry run refuses it for, gates aside. */
  lineUp: readonly { course: CourseCode, refusal: Finding | null }[]
  /** Picks that were moved since. */
  moved: readonly MovedPick[]
  plannedInTerm: number
  openCredits: number
  offers: readonly { course: string, label: string, hoursLeft: number }[]
  /** Registered sections that were cancelled, and what of their courses is not registered again. */
  gone?: readonly { course: string, label: string }[]
  /** What is to pay next for the term. */
  feesDue: { cents: number, by: LocalDate, overdue: boolean, voidAfter: LocalDate | null } | null
  /** When the registration of the term was voided, and nothing was charged since. */
  voidedOn?: LocalDate | null
  advisor: string | null
  /** What the advisor gave back. */
  returned?: { by: string, words: string, withdrawn: boolean } | null
  /** Suggestions that wait for an answer, comments that were not read, requests that were declined, the next meeting. */
  suggestions?: number
  unread?: number
  answered?: readonly { id: number, asked: ExceptionAsked, by: string | null, words: string }[]
  meeting?: { start: Instant, minutes: number, place: string, advisorName: string } | null
}

/** "Next on your path": one ordered list from the real state, most pressing first. */
export function nextSteps(input: StepsInput): NextStep[] {
  const { term } = input
  const closed = (kind: GateKind) => input.gates.find(gate => gate.kind === kind && !gate.open)
  const steps: NextStep[] = []
  const add = (step: NextStep | null | undefined | false) => step && steps.push(step)
  for (const { course, label } of input.gone ?? []) {
    const offered = input.offers.some(offer => offer.course === course)
    add({ code: 'section gone', course, label, offered, id: `gone:${course}-${label}`, place: offered ? 'register' : 'week', about: course,
      blocking: true })
  }
  for (const offer of input.offers) {
    add({ code: 'seat offer', ...offer, id: `offer:${offer.course}-${offer.label}`, place: 'register', about: offer.course,
      blocking: true })
  }
  // What is overdue costs the seats: nothing but an offer that ends is more pressing.
  add(input.feesDue?.overdue && payStep(input.feesDue))
  add(input.voidedOn ? { code: 'voided', term, on: input.voidedOn, id: 'voided', place: 'account', about: 'voided', blocking: true } : null)
  const program = closed('program')
  add(
    program
    && { code: 'confirm program', gate: program, id: 'program', place: 'now', about: 'program', blocking: true, act: 'confirm program' },
  )
  const holds = closed('holds')
  add(holds && { code: 'clear hold', gate: holds, id: 'holds', place: 'now', about: 'holds', blocking: true })
  const blockers = input.checks.filter(check => check.severity === 'blocker')
  for (const check of blockers.filter(c => c.term === term.code)) {
    add({ code: 'mend', check, term, id: check.id, place: 'plan', about: check.itemId ?? '', blocking: true })
  }
  add(input.plannedInTerm === 0 && { code: 'plan term', term, id: 'plan-term', place: 'plan', about: term.code, blocking: true })
  const signOff = closed('sign-off')
  add(input.returned && { code: 'returned', ...input.returned, term, id: 'returned', place: 'plan', about: 'returned', blocking: true })
  add((input.suggestions ?? 0) > 0 && { code: 'suggestions', count: input.suggestions!, advisor: input.advisor, id: 'suggestions',
    place: 'plan', about: 'suggestions', blocking: false })
  add(signOff?.kind === 'sign-off' && input.plannedInTerm > 0 && (signOff.asked
    ? { code: 'sign-off asked', gate: signOff, id: 'sign-off', place: 'now', about: 'sign-off', blocking: false }
    : { code: 'ask sign-off', advisor: input.advisor, term, id: 'sign-off', place: 'now', about: 'sign-off', blocking: true,
        act: 'ask sign-off' }))
  add((input.unread ?? 0) > 0 && { code: 'read comments', count: input.unread!, id: 'comments', place: 'plan', about: 'comments',
    blocking: false })
  for (const { id, asked, by, words } of input.answered ?? [])
    add({ code: 'request declined', asked, by, words, id: `declined:${id}`, place: 'plan', about: 'declined', blocking: false })
  add(input.meeting && { code: 'meeting', start: input.meeting.start, minutes: input.meeting.minutes, where: input.meeting.place,
    advisor: input.meeting.advisorName, id: 'meeting', place: 'meetings', about: 'meeting', blocking: false })
  // A course with a seat offer, or one that was cancelled, has a step of its own.
  const told = new Set([...input.gone ?? [], ...input.offers].map(one => one.course))
  for (const course of input.unpicked.filter(one => !told.has(one))) {
    add({ code: 'choose section', course, id: `pick:${course}`, place: 'week', about: course, blocking: false })
  }
  for (const { course, finding } of refusedRows(input)) {
    add({ code: 'refused', course, finding, id: `refused:${course}`, place: placeToMend(finding), about: course, blocking: true })
  }
  for (const moved of input.moved)
    add({ code: 'moved', moved, id: `moved:${moved.course}`, place: 'week', about: moved.course, blocking: false })
  const terms = closed('terms')
  add(terms && { code: 'accept terms', term, id: 'terms', place: 'register', about: 'terms', blocking: false, act: 'accept terms' })
  const ready = input.lineUp.filter(row => row.refusal === null).length
  const opening = input.gates.find(gate => gate.kind === 'opening')
  add(
    ready > 0 && opening?.open && !closed('closing')
    && { code: 'register', courses: ready, id: 'register', place: 'register', about: 'register', blocking: false },
  )
  add(input.feesDue && !input.feesDue.overdue && payStep(input.feesDue))
  for (const check of blockers.filter(c => c.term !== term.code).slice(0, 4)) {
    add({ code: 'mend', check, term: null, id: check.id, place: 'plan', about: check.itemId ?? '', blocking: false })
  }
  for (const check of input.checks.filter(c => c.kind === 'counts for nothing').slice(0, 3)) {
    add({ code: 'off path', check, id: check.id, place: 'plan', about: check.itemId ?? '', blocking: false })
  }
  add(
    input.openCredits > 0
    && { code: 'cover open', credits: input.openCredits, id: 'open', place: 'requirements', about: 'open', blocking: false },
  )
  return steps
}

const payStep = (due: NonNullable<StepsInput['feesDue']>): NextStep =>
  ({ code: 'pay', ...due, id: 'fees', place: 'account', about: 'fees', blocking: due.overdue })

/** What the dry run refuses and nothing else says yet: a clash once for its two courses, partners once, plan checks not again. */
function refusedRows({ lineUp, checks, term }: StepsInput) {
  const said = new Set(checks.filter(check => check.severity === 'blocker' && check.term === term.code).map(check => check.course))
  const told: { course: CourseCode, finding: Finding }[] = []
  for (const { course, refusal: finding } of lineUp) {
    if (!finding || (placeToMend(finding) === 'plan' && said.has(course))) continue
    const other = finding.code === 'clash' ? finding.course : finding.code === 'partner-refused' ? finding.partner : null
    if (other !== null && told.some(one => one.course === other)) continue
    told.push({ course, finding })
  }
  return told
}
