import type { Commitment, CourseCode, CourseItem, Credits, LocalDate, OfferingPattern, TermCode, TermName } from '../catalog/types'
import type { Lack } from '../prerequisites/evaluate'
import type { RuleReport } from '../requirements/rules'
import type { Catalog, StudentFile } from './student-file'

export interface CheckPlace {
  /** Stable while the problem stays: kind, item or term. */
  id: string
  severity: 'blocker' | 'caution'
  /** The item or placeholder it is about. */
  itemId: string | null
  course: CourseCode | null
  /** Null for what concerns the plan as a whole. */
  term: TermCode | null
}

/** What is wrong, by kind, with what its words need. */
export type CheckFinding
  = | { kind: 'term over', in: TermName }
    | { kind: 'not offered', in: TermName, offered: OfferingPattern }
  /** Nobody has said yet in which terms the course is given. */
    | { kind: 'offering not announced', in: TermName }
    | { kind: 'prerequisite', in: TermName, needs: Lack[][] }
    | { kind: 'corequisite', needs: Lack[][] }
  /** `most` are the credits that the course gives in all, where those are used up. */
    | { kind: 'already passed' | 'repeat limit', by: CourseCode, state: Commitment, grade: string | null, times: number, most?: Credits }
    | { kind: 'excluded', by: CourseCode, state: Commitment }
    | { kind: 'over the cap', in: TermName, credits: Credits, cap: Credits }
    | { kind: 'under the wish', in: TermName, credits: Credits, wish: Credits }
    | { kind: 'term off', in: TermName }
    | { kind: 'past the wished finish', in: TermName, finish: TermCode }
    | { kind: 'differs from sign-off', in: TermName, gone: CourseCode[], added: CourseCode[] }
    | { kind: 'differs from registration', in: TermName }
    | { kind: 'to choose', in: TermName, over: boolean }
    | { kind: 'counts for nothing' }
  /** Credits of lines without a place, an overlay that nothing carries, or a rule about the whole program. */
    | {
      kind: 'not reached'
      program: string
      lacks: { open: Credits } | { overlay: string, open: Credits } | { rule: RuleReport, held: Credits }
    }
    | { kind: 'gpa', program: string, rule: RuleReport }

export type PlanCheck = CheckPlace & CheckFinding

/** What the checks look at: a student, with record, registrations and entries as one list, and the catalog. */
export interface CheckInput {
  file: StudentFile
  items: readonly CourseItem[]
  catalog: Catalog
  today: LocalDate
}
