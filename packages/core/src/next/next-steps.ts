import type { TermCode } from '../catalog/types'
import type { PlanCheck } from '../planning/checks'
import type { Gate, GateKind } from '../registration/gates'

/** The waypoint where a step is done. */
export type StepPlace = 'now' | 'requirements' | 'plan' | 'week' | 'register'

export interface NextStep {
  id: string
  title: string
  words: string
  place: StepPlace
  /** Plan entry, course or gate that the step is about. */
  about: string
  blocking: boolean
  /** The act that can be done on the spot. */
  act?: 'confirm program' | 'ask sign-off' | 'accept terms'
}

export interface StepsInput {
  term: TermCode
  termName: string
  gates: readonly Gate[]
  checks: readonly PlanCheck[]
  /** Courses planned for the term that have neither a bundle nor a registration. */
  unpicked: readonly string[]
  /** Rows in the line-up that are not registered. */
  lineUp: number
  plannedInTerm: number
  openCredits: number
  offers: readonly { course: string, label: string, hoursLeft: number }[]
  feesDue: { amount: string, by: string } | null
  advisor: string | null
}

/** "Next on your path": one ordered list from the real state, most pressing first. */
export function nextSteps(input: StepsInput): NextStep[] {
  const closed = (kind: GateKind) => input.gates.find(gate => gate.kind === kind && !gate.open)
  const steps: NextStep[] = []
  const add = (step: NextStep | null | undefined | false) => step && steps.push(step)
  for (const offer of input.offers) {
    add({ id: `offer:${offer.course}`, title: `A seat in ${offer.course}-${offer.label} is held for you`, words: `For ${offer.hoursLeft} h more, then it goes to the next in line. Tell the registrar's office whether you take it.`, place: 'register', about: offer.course, blocking: true })
  }
  const program = closed('program')
  add(program && { id: 'program', title: 'Confirm your program', words: program.words, place: 'now', about: 'program', blocking: true, act: 'confirm program' })
  const holds = closed('holds')
  add(holds && { id: 'holds', title: 'Clear the hold', words: `${holds.words}. ${holds.way}`, place: 'now', about: 'holds', blocking: true })
  const blockers = input.checks.filter(check => check.severity === 'blocker')
  for (const check of blockers.filter(c => c.term === input.term)) {
    add({ id: check.id, title: check.course ? `Mend ${check.course} in ${input.termName}` : `Mend ${input.termName}`, words: check.words, place: 'plan', about: check.itemId ?? '', blocking: true })
  }
  add(input.plannedInTerm === 0 && { id: 'plan-term', title: `Plan ${input.termName}`, words: 'Nothing is placed in this term yet.', place: 'plan', about: input.term, blocking: true })
  const signOff = closed('sign-off')
  const asked = signOff?.words.startsWith('asked')
  add(signOff && input.plannedInTerm > 0 && (asked
    ? { id: 'sign-off', title: 'Sign-off is on its way', words: signOff.way, place: 'now', about: 'sign-off', blocking: false }
    : { id: 'sign-off', title: `Ask ${input.advisor ?? 'an advisor'} to sign off ${input.termName}`, words: 'Registration stays closed until then.', place: 'now', about: 'sign-off', blocking: true, act: 'ask sign-off' }))
  for (const course of input.unpicked) {
    add({ id: `pick:${course}`, title: `Choose a section for ${course}`, words: 'It is planned, but has no bundle yet.', place: 'week', about: course, blocking: false })
  }
  const terms = closed('terms')
  add(terms && { id: 'terms', title: 'Accept the terms of registration', words: `For ${input.termName}, once.`, place: 'register', about: 'terms', blocking: false, act: 'accept terms' })
  const opening = input.gates.find(gate => gate.kind === 'opening')
  add(input.lineUp > 0 && opening?.open && { id: 'register', title: `Register ${input.lineUp} ${input.lineUp === 1 ? 'course' : 'courses'}`, words: 'Registration is open for you.', place: 'register', about: 'register', blocking: false })
  add(input.feesDue && { id: 'fees', title: `Pay ${input.feesDue.amount}`, words: `Due by ${input.feesDue.by}; registration that is unpaid after that date is voided.`, place: 'register', about: 'fees', blocking: false })
  for (const check of blockers.filter(c => c.term !== input.term).slice(0, 4)) {
    add({ id: check.id, title: check.course ? `Mend ${check.course} in a later term` : 'A later term needs mending', words: check.words, place: 'plan', about: check.itemId ?? '', blocking: false })
  }
  for (const check of input.checks.filter(c => c.kind === 'counts for nothing').slice(0, 3)) {
    add({ id: check.id, title: 'A course off the path', words: check.words, place: 'plan', about: check.itemId ?? '', blocking: false })
  }
  add(input.openCredits > 0 && { id: 'open', title: 'Cover what is open', words: `${input.openCredits / 100} credits of your requirements have no course yet.`, place: 'requirements', about: 'open', blocking: false })
  return steps
}
