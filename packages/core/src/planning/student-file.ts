import type { Course, CourseItem, Credits, Term, TermCode } from '../catalog/types'
import type { GradeScale } from '../grades/scale'
import type { RepeatPolicy } from '../record/attempts'
import type { Program, RequirementException } from '../requirements/types'
import type { Placeholder, PlanEntry, Wishes } from './plan'

/** The advisor's release of a term, with the entries that were agreed. */
export interface SignedTerm { term: TermCode, copy: readonly PlanEntry[] }

/** Everything about one student that the rules read. */
export interface StudentFile {
  /** Completed, under way and registered items. */
  record: CourseItem[]
  entries: PlanEntry[]
  placeholders?: Placeholder[]
  wishes?: Wishes
  signedOff?: SignedTerm[]
  /** `HYD 230 2027SP` for each course whose bundle is chosen. */
  picked: string[]
  programs: string[]
  placements: Record<string, number>
  permissions: string[]
  capRaised: Record<TermCode, Credits>
  /** Uses pinned for items that are not in the plan: `item` is the item's id. */
  usePins?: { item: string, program: string, line: string }[]
  exceptions?: RequirementException[]
  /** Milestones done, `WSC-BS/portfolio`. */
  milestones?: string[]
}

export interface Catalog {
  courses: ReadonlyMap<string, Course>
  programs: readonly Program[]
  terms: readonly Term[]
  scale: GradeScale
  repeatPolicy: RepeatPolicy
}
