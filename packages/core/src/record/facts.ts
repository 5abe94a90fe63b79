import type { CourseItem } from '../catalog/types'

/** What is on file about a student that rules ask for, besides the courses. */
export interface FactsOnFile {
  programs: readonly string[]
  /** Cohorts that the student belongs to, by their codes. */
  cohorts?: readonly string[]
  placements: Readonly<Record<string, number>>
  /** Courses for which permission was given, or the prerequisite was lifted by an exception. */
  permissions: readonly string[]
}

/** What a student brings to a rule. */
export interface StudentFacts extends FactsOnFile { items: readonly CourseItem[] }

/** The facts of a student's file, read with these courses. */
export const factsOf = ({ programs, cohorts, placements, permissions }: FactsOnFile, items: readonly CourseItem[]): StudentFacts =>
  ({ programs, ...cohorts ? { cohorts } : {}, placements, permissions, items })
