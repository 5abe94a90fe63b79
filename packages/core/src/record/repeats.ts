import type { Course, CourseItem } from '../catalog/types'
import { earnsCredit, type GradeScale, meetsGrade } from '../grades/scale'

/**
 * Passed, under way or placed already: as often as it gives credit. A grade that is too low for the line and below C
 * may be repeated (common practice, no source).
 */
export function isTaken(course: Course, items: readonly CourseItem[], scale: GradeScale, minGrade?: string): boolean {
  const had = items.filter(item => (item.course === course.code || course.equivalents.includes(item.course))
    && (item.state !== 'completed' || (earnsCredit(scale, item.grade) && !mayRepeat(item, scale, minGrade))))
  return had.length >= course.repeatLimit
}

const SUFFICIENT = 200

const mayRepeat = (item: CourseItem, scale: GradeScale, minGrade?: string) =>
  minGrade !== undefined && !meetsGrade(scale, item.grade, minGrade) && scale[item.grade ?? '']!.standsFor < SUFFICIENT

/** No credit for both: the other course is passed, under way or placed. */
export const isExcluded = (course: Course, items: readonly CourseItem[], scale: GradeScale) =>
  items.some(item => course.exclusions.includes(item.course) && (item.state !== 'completed' || earnsCredit(scale, item.grade)))
