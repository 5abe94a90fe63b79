import type { ProgramsPolicy } from '../requirements/allocation/problem'

/** Kinds of exceptions: what a person entitled to it can lift for one student. */
export const EXCEPTION_KINDS = ['substitution', 'waiver', 'prerequisite', 'load', 'restriction', 'seat', 'clash', 'late add'] as const
export type ExceptionKind = typeof EXCEPTION_KINDS[number]
/** Who may grant a kind: the student's advisor, the registrar's office, or either of them. */
type Entitled = 'advisor' | 'office' | 'either'

/** How an institution handles sign-off and exceptions. */
export interface AdvisingPolicy {
  /**
   * What a change of a signed term comes to: it is shown to student and advisor, or it also closes registration for the courses that
   * were not signed.
   */
  changedAfter: 'shown' | 'closed'
  /** Whether a release code opens the gate in place of a sign-off, or is asked for besides. */
  releaseCode: 'instead' | 'besides'
  /** Days for which a release code is good. */
  releaseDays: number
  entitled: Record<ExceptionKind, Entitled>
  /** How several programs of one student are read; in order where it is not said. */
  programs?: ProgramsPolicy
  /** Days without a sign of life after which an advisor is told. */
  silentDays: number
}

/** Whether somebody of a role may grant a kind; that an advisor is the student's own is asked elsewhere. */
export const mayGrant = (kind: ExceptionKind, role: string, { entitled }: Pick<AdvisingPolicy, 'entitled'>): boolean =>
  entitled[kind] === 'either' ? role === 'advisor' || role === 'office' : entitled[kind] === role
