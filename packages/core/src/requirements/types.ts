import type { CourseFilter } from '../catalog/filter'
import type { CourseCode, Credits } from '../catalog/types'

/** A line that courses fill: `courses` of them and/or `credits` from the filter, each with at least `minGrade`. */
export interface CourseLine {
  kind: 'courses'
  id: string
  title: string
  filter: CourseFilter
  courses?: number
  credits?: Credits
  minGrade?: string
}

export interface AllOf { kind: 'all', id: string, title: string, children: RequirementNode[] }
export interface SomeOf { kind: 'some', id: string, title: string, n: number, children: RequirementNode[] }
export type RequirementNode = CourseLine | AllOf | SomeOf

export type Hue = 'moss' | 'lake' | 'clay' | 'slate' | 'plum' | 'fern'

/** A top-level area of a program; it is also a lane of the plan. */
export interface Area extends AllOf { hue: Hue }

export interface Program {
  code: string
  kind: 'major' | 'minor' | 'certificate' | 'institution'
  title: string
  catalogYear: number
  totalCredits: Credits
  /** Hundredths of a grade point. */
  gpaMinimum: number
  /** Credits that must be earned at this institution. */
  creditsHere: Credits
  areas: Area[]
  /** Lines that look across the base tree: a course that counts there counts here again. */
  overlays: CourseLine[]
  /** The sequence that departments hand out: courses (or line ids for a choice) by suggested term. */
  suggested: { name: string, courses: CourseCode[] }[]
}
