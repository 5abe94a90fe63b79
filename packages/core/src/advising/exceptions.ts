import type { CourseCode, Credits, TermCode } from '../catalog/types'
import type { Finding } from '../registration/findings'
import type { ExceptionKind } from './policy'

/** An exception as it is asked for or granted: what it lifts, and where. */
export type ExceptionAsked
  = | { kind: 'prerequisite' | 'late add' | 'restriction', course: CourseCode, term: TermCode }
  /** Any seat of the section that is free, whoever it is kept for; never more than there are. */
    | { kind: 'seat', course: CourseCode, term: TermCode, section: number }
  /** Two courses may meet at the same time. */
    | { kind: 'clash', course: CourseCode, instead: CourseCode, term: TermCode }
    | { kind: 'load', term: TermCode, credits: Credits }
    | { kind: 'substitution', program: string, line: string, course: CourseCode, instead: CourseCode | null }
  /** The line, one of its listed courses, or only `amount` of it, in hundredths of a credit or of a course. */
    | { kind: 'waiver', program: string, line: string, course: CourseCode | null, amount?: number | null | undefined }

/** What an exception is about, as one text: two that say the same are the same. */
export const exceptionKey = (asked: ExceptionAsked): string => [asked.kind, 'course' in asked ? asked.course : '',
  'term' in asked ? asked.term : '', 'program' in asked ? asked.program : '', 'line' in asked ? asked.line : '',
  'section' in asked ? asked.section : '', 'instead' in asked ? asked.instead : '', 'credits' in asked ? asked.credits : '',
  'amount' in asked ? asked.amount : ''].join('|')

/** Exceptions of registering hold for a term; those of a program hold for as long as they stand. */
export const isOfProgram = (kind: ExceptionKind): boolean => kind === 'substitution' || kind === 'waiver'

/**
 * The exception that would lift what a row of a line-up is refused for; null where nobody can lift it.
 * `sections` are those of the row by their label.
 */
export function exceptionFor(finding: Finding, row: { course: CourseCode, term: TermCode, sections: ReadonlyMap<string, number> }):
  ExceptionAsked | null {
  const { course, term } = row
  if (finding.ok) return null
  switch (finding.code) {
    case 'prerequisite':
      return { kind: 'prerequisite', course, term }
    case 'restriction':
      return { kind: 'restriction', course, term }
    case 'session-closed':
      return { kind: 'late add', course, term }
    case 'gate':
      return finding.gate.kind === 'closing' ? { kind: 'late add', course, term } : null
    case 'clash':
      return { kind: 'clash', course, instead: finding.course, term }
    case 'load-cap':
      return { kind: 'load', term, credits: finding.credits }
    case 'seats-full': {
      const section = row.sections.get(finding.label)
      // A seat that is there and kept for others can be opened; one that is taken cannot.
      return section !== undefined && finding.seats.kept.seats > 0 ? { kind: 'seat', course, term, section } : null
    }
    default:
      return null
  }
}
