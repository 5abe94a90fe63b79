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
    /** An average over everything of at least so much, in hundredths of a grade point. */
    | { kind: 'gpa', minimum: number }
    /** Not open to whom this holds for: a program, a standing, a course that is passed or going on. */
    | { kind: 'not', condition: Closed }
    | { kind: 'all', of: Expression[] }
    | { kind: 'any', of: Expression[] }
    | { kind: 'atLeast', n: number, of: Expression[] }

/** What may close a course to somebody. */
export type Closed = Extract<Expression, { kind: 'program' | 'standing' | 'course' }>

/** What would have been right at a place of a rule's text. */
export type Expected
  = | { code: 'a token' | 'and, or, or the end' | 'the name of a placement test' | 'the score' | 'a program code' }
    | { code: 'a number' | 'a level' | 'a subject' | 'a course number' }
    | { code: 'fewer parentheses' | 'an average' | 'a program, a standing or a course' }
    | { code: 'a word', words: string[] }
    | { code: 'a number from 1', to: number }
    /** One of these grades: those of the scale that earn credit; none are named where the scale is not known. */
    | { code: 'a grade', grades: string[] }

/** What could not be read, where (0-based character), and what was expected there. */
export interface ParseProblem { at: number, expected: Expected }
export type Parsed = { ok: true, expression: Expression | null } | { ok: false, problem: ParseProblem }
