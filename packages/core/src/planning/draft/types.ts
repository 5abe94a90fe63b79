import type { CourseCode, Credits, LocalDate, Term, TermCode } from '../../catalog/types'
import type { RecordRules } from '../../record/attempts'
import type { FactsOnFile } from '../../record/facts'
import type { Catalog, StudentFile } from '../student-file'

/** What the terms ahead and the rules are, for a draft. */
export interface DraftFacts extends RecordRules, FactsOnFile {
  /** Terms ahead that may be planned, in order; their positions are the slots. */
  terms: readonly Term[]
}

/** A course to take, for so many credits. */
export interface ChosenCourse {
  code: CourseCode
  credits: Credits
}

/** A course to be placed, or several that must stand in one term together. */
export interface Task {
  courses: { code: string, credits: Credits, entry: string | null }[]
  credits: Credits
  /** Slots in which it may stand. */
  slots: readonly number[]
  /** Where the plan has it now; null when it is new. */
  was: number | null
  /** Where the program's suggested sequence would have it; null when that names no place. */
  suggested: number | null
}

/** Tasks, what each waits for, and the room there is. */
export interface ScheduleProblem {
  tasks: readonly Task[]
  waits: readonly Wait[]
  /** Credits that may still be placed in each slot. */
  room: readonly Credits[]
  /** Credits that stand in each slot already. */
  base: readonly Credits[]
  /** Slots of summer terms: left empty where nothing needs them. */
  summer: readonly boolean[]
}

/** A slot for every task. */
export type Schedule = readonly number[]

/**
 * A prerequisite rule turned into what it waits for, so that "from which term on does it hold?" is a matter of numbers.
 * Slots count the terms ahead from 0; -1 is before all of them.
 */
export type Wait /** Holds from this slot on; Infinity never. */
  = | { kind: 'from', slot: number }
/** Holds from `lag` slots after the task on. */
    | { kind: 'task', task: number, lag: 0 | 1 }
/**
 * Holds once so many more credits of these tasks, of what is `fixed` in terms ahead, or of `others` that are not named yet, are taken in
 * earlier slots.
 */
    | {
      kind: 'credits'
      lacking: Credits
      tasks: { task: number, credits: Credits }[]
      fixed: { slot: number, credits: Credits }[]
      others: boolean
    }
/** Holds from the n-th earliest of its parts on. */
    | { kind: 'some', n: number, of: Wait[] }

/** What a draft is at. */
export type DraftStage = 'choosing courses' | 'looking for an earlier finish' | 'proving the finish' | 'evening out the loads'
  | 'lighter terms' | 'the suggested sequence' | 'done'

export interface DraftRequest {
  file: StudentFile
  catalog: Catalog
  today: LocalDate
  wishes: DraftWishes
  seed?: number
  /** How much of the work is done, 0 to 1, and what is being done. */
  progress?: (share: number, stage: DraftStage) => void
}

/** What is asked of a draft besides covering everything that is open. */
export interface DraftWishes {
  /** Most credits in a term; null for the term's own cap. */
  load: Credits | null
  termsOff: readonly TermCode[]
  latestFinish: TermCode | null
  /** Summers for what is offered in no other season only, or for anything. */
  summers: 'when needed' | 'freely'
  /** What stays where it is: pinned courses, or all that is placed. */
  around: 'pinned' | 'placed'
}
