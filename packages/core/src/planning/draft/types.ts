import type { Course, Credits, Term } from '../../catalog/types'
import type { GradeScale } from '../../grades/scale'
import type { Wait } from './waits'

/** What the terms ahead and the rules are, for a draft. */
export interface DraftFacts {
  /** Terms ahead that may be planned, in order; their positions are the slots. */
  terms: readonly Term[]
  courses: ReadonlyMap<string, Course>
  scale: GradeScale
  programs: readonly string[]
  placements: Readonly<Record<string, number>>
  permissions: readonly string[]
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
