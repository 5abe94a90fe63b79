import type { CourseCode, Credits } from '../catalog/types'
import type { ClassStanding } from '../grades/status'

/** A prerequisite or corequisite rule. */
export type Expression
  = | { kind: 'course', course: CourseCode, minGrade?: string, alongside: boolean }
    | { kind: 'credits', credits: Credits, subject?: string, levelMin?: number }
    | { kind: 'placement', test: string, score: number }
    | { kind: 'program', program: string }
    | { kind: 'standing', standing: ClassStanding }
    | { kind: 'permission' }
    | { kind: 'all', of: Expression[] }
    | { kind: 'any', of: Expression[] }
    | { kind: 'atLeast', n: number, of: Expression[] }

/** What could not be read, where (0-based character), and what was expected there. */
export interface ParseProblem { at: number, message: string }
export type Parsed = { ok: true, expression: Expression | null } | { ok: false, problem: ParseProblem }
