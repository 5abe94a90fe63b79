import type { Commitment, CourseCode, Credits, LocalDate, OfferingPattern, Part, TermName, Weekday } from '../catalog/types'
import type { Lack, Reason } from '../prerequisites/evaluate'
import type { Clash } from '../weeks/meetings'
import type { Gate, GateKind } from './gates'

/** One thing that was looked at, by its stable code: `ok` or refused, with what its words need. */
export type Finding = { ok: boolean } & (
  | { code: 'gate', gate: Gate }
  | { code: 'section-unknown', course: CourseCode, term: TermName }
  /** `by` was the last day on which courses of its session could be added. */
  | { code: 'session-closed', course: CourseCode, label: string, by: LocalDate }
  /** Not among what the advisor signed off, where only that may be registered. */
  | { code: 'not-signed', course: CourseCode, by: string, term: TermName }
  | { code: 'section-cancelled', course: CourseCode, label: string }
  /** Parts that are missing; none when the parts do not belong together. */
  | { code: 'bundle-incomplete', course: CourseCode, missing: Part[] }
  /** The course, or `by` that gives the same credit, is registered in this term or in the line-up already. */
  | { code: 'duplicate', course: CourseCode, by: CourseCode, state: 'registered' | 'in the line-up', term: TermName }
  /** Under way, or registered in another term; `most` are the credits that the course gives in all, where those are used up. */
  | { code: 'taken-elsewhere', course: CourseCode, by: CourseCode, state: Commitment, term: TermName | null, times: number, most?: Credits }
  | { code: 'already-passed', course: CourseCode, by: CourseCode, grade: string | null, times: number, most?: Credits }
  /** The topic of this section was taken before, or is registered; another topic of the course would give credit. */
  | { code: 'same-topic', course: CourseCode, label: string, topic: string, state: Commitment, term: TermName | null }
  | { code: 'exclusion', course: CourseCode, by: CourseCode, state: Commitment | 'in the line-up' }
  /** `reason` where it is met, null where it was lifted by an exception; `first` is a course that would help, with its offering. */
  | { code: 'prerequisite', ok: true, reason: Reason | null }
  | { code: 'prerequisite', ok: false, needs: Lack[][], first: { course: CourseCode, offered: OfferingPattern } | null }
  | { code: 'corequisite', ok: true, reason: Reason }
  | { code: 'corequisite', ok: false, needs: Lack[][] }
  /** It goes with `partner` in the same line-up, which cannot be registered, for these reasons of its own. */
  | { code: 'partner-refused', course: CourseCode, partner: CourseCode, because: Finding[] }
  /** Kept for students of one of `groups`: programs, class standings or cohorts. */
  | { code: 'restriction', course: CourseCode, label: string, groups: string[] }
  | { code: 'clash', course: CourseCode, label: string, state: 'registered' | 'in the line-up', clash: Clash }
  /** Two parts of the same bundle. */
  | { code: 'own-clash', course: CourseCode, parts: [Part, Part], clash: Clash }
  /** `partners` are the courses that would have to come along, and are counted. */
  | { code: 'load-cap', credits: Credits, cap: Credits, partners: CourseCode[] }
  /** No room on the waitlist either. */
  | { code: 'waitlist-full', course: CourseCode, label: string, waiting: number }
  | { code: 'waiting-already', course: CourseCode, label: string }
  | { code: 'seats-full', ok: true, left: number }
  | { code: 'seats-full', ok: false, course: CourseCode, label: string, seats: SeatCount, other: OtherBundle | null }
)

/** Stable names of everything that can refuse a row. */
export type RefusalCode = Finding['code']

/** What each refusal is about; a code that is missing here is a type error. `gate` stands for one name for each requirement to register. */
export const REFUSALS: Readonly<Record<Exclude<RefusalCode, 'gate'> | `gate-${GateKind}`, string>> = {
  'gate-opening': 'registration is not open for the student yet',
  'gate-closing': 'the term can be added to no more',
  'gate-office': 'the office keeps registration closed',
  'gate-sign-off': 'the advisor has not signed off the term',
  'gate-holds': 'a hold is in the way',
  'gate-program': 'the program is not confirmed',
  'gate-terms': 'the terms are not accepted',
  'section-unknown': 'there is no such section of the course in the term',
  'session-closed': 'sections of this session can be added no more',
  'not-signed': 'the course is not among what the advisor signed off, where only that may be registered',
  'section-cancelled': 'the section is cancelled',
  'bundle-incomplete': 'a part is missing, or the parts do not belong together',
  'own-clash': 'two parts of the choice clash with each other',
  'duplicate': 'the course, or one that gives the same credit, is registered in this term or in the line-up already',
  'taken-elsewhere': 'the course is in progress, or registered in another term, as often as it gives credit',
  'already-passed': 'the course is passed as often as it gives credit, or its credits are used up',
  'same-topic': 'the topic was taken before',
  'exclusion': 'there is no credit for both this course and another one',
  'prerequisite': 'what must come first is missing, or the course is not open to the student',
  'corequisite': 'what must stand beside the course is missing',
  'partner-refused': 'the course goes with another one of the line-up, which is refused',
  'restriction': 'the section is for other students',
  'clash': 'it meets at the hours of another choice, its exam included',
  'load-cap': 'the credits are above the cap',
  'seats-full': 'there is no seat',
  'waitlist-full': 'there is no room on the waitlist either',
  'waiting-already': 'the student is on the waitlist already',
}

/** The name under which a finding is kept where only names are: its code, and for a gate which one. */
export const findingName = (finding: Finding): string => finding.code === 'gate' ? `gate-${finding.gate.kind}` : finding.code

/** Seats of a section as told to somebody who finds none: `held` by offers to people who wait, `kept` free for others. */
export interface SeatCount { capacity: number, taken: number, held: number, waiting: number, kept: { seats: number, for: string[] } }

/** Another bundle of the course that has seats. */
export interface OtherBundle { label: string, meets: { days: Weekday[], start: number } | null, left: number }
