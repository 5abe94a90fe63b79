import type { CourseItem, Credits } from '../catalog/types'
import type { GradeScale } from './scale'

export interface Gpa {
  /** Hundredths of a grade point, cut off and not rounded up (common practice, no source); null before the first grade. */
  value: number | null
  /** Credits behind the value. */
  attempted: Credits
  /** Quality points: Σ credits × points, in hundredths of hundredths. */
  points: number
}

/**
 * Grade point average: the sum of credits × grade points over the sum of credits,
 * over attempts whose grade counts in it. Transfer and exam credit never does (common practice, no source).
 */
export function gpa(attempts: readonly CourseItem[], scale: GradeScale): Gpa {
  let points = 0
  let attempted = 0
  for (const { grade, credits, source } of attempts) {
    const meaning = scale[grade ?? '']
    if (!meaning?.inGpa || source !== 'here') continue
    points += credits * meaning.points
    attempted += credits
  }
  return { value: attempted === 0 ? null : Math.floor(points / attempted), attempted, points }
}
