import type { CourseItem } from '../catalog/types'

/** What a student brings to a rule. */
export interface StudentFacts {
  items: readonly CourseItem[]
  programs: readonly string[]
  placements: Readonly<Record<string, number>>
  /** Courses for which permission was given, or the rule was lifted by an exception. */
  permissions: readonly string[]
}
