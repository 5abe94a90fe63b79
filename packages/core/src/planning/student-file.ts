import type { CourseItem, Credits, Term, TermCode } from '../catalog/types'
import type { RecordRules } from '../record/attempts'
import type { FactsOnFile } from '../record/facts'
import type { MilestoneRef, PickRef } from '../record/ids'
import type { ProgramsPolicy } from '../requirements/allocation/problem'
import type { Program, RequirementException } from '../requirements/types'
import { NO_WISHES, type Placeholder, type PlanEntry, type Wishes } from './plan'

/** The advisor's release of a term, with the entries that were agreed. */
export interface SignedTerm { term: TermCode, copy: readonly PlanEntry[] }

/** Everything about one student that the rules read. */
export interface StudentFile extends FactsOnFile {
  /** Completed, under way and registered items. */
  record: CourseItem[]
  entries: PlanEntry[]
  placeholders: Placeholder[]
  wishes: Wishes
  signedOff: SignedTerm[]
  /** Courses whose bundle is chosen, with the term. */
  picked: PickRef[]
  programs: string[]
  placements: Record<string, number>
  permissions: string[]
  /** Credits that may be taken in a term above its cap, where an exception was granted. */
  capRaised: Record<TermCode, Credits>
  /** Uses pinned for items that are not in the plan. */
  usePins: { item: string, program: string, line: string }[]
  exceptions: RequirementException[]
  milestones: MilestoneRef[]
}

/** A student of whom nothing is known: what a file begins with. */
export const EMPTY_FILE: StudentFile = {
  record: [], entries: [], placeholders: [], wishes: NO_WISHES, signedOff: [], picked: [], programs: [], placements: {}, permissions: [],
  capRaised: {}, usePins: [], exceptions: [], milestones: [],
}

/** What an institution offers and asks. */
export interface Catalog extends RecordRules {
  programs: readonly Program[]
  terms: readonly Term[]
  /** How several programs of one student are weighed; in order where it is not said. */
  programsPolicy?: ProgramsPolicy
}

/** What the reading of programs looks at. */
export type ProgramRules = RecordRules & Pick<Catalog, 'programsPolicy'>

/** The student's programs in their order; what the catalog does not know is left out. */
export const programsOf = (file: Pick<StudentFile, 'programs'>, catalog: Pick<Catalog, 'programs'>): Program[] =>
  file.programs.flatMap(code => catalog.programs.find(program => program.code === code) ?? [])
