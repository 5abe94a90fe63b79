import type { Course, CourseCode } from './types'

/** Which courses a requirement line accepts. Every part that is given must hold; `list` is taken as it stands. */
export interface CourseFilter {
  list?: CourseCode[]
  subjects?: string[]
  /** Levels as numbers are printed: 300 is every course numbered 300 to 399, 3000 every one numbered 3000 to 3999. */
  levelMin?: number
  levelMax?: number
  attributes?: string[]
  /** Courses carrying none of these: remedial ones left out of a total. */
  withoutAttributes?: string[]
  except?: CourseCode[]
}

/**
 * The level of a course is told by the first digit of its number, however long the numbers of the institution are: 300 for 310, 3000 for
 * 3104 (common practice, no source).
 */
export function courseLevel({ number }: Pick<Course, 'number'>): number {
  const step = number >= 1000 ? 1000 : 100
  return Math.floor(number / step) * step
}

export function matchesFilter(course: Course, filter: CourseFilter): boolean {
  const { list } = filter
  if (list && !list.includes(course.code) && !course.equivalents.some(code => list.includes(code))) return false
  return matchesBesidesList(course, filter)
}

/** What a filter asks of a course besides being listed. */
export function matchesBesidesList(course: Course, { subjects, levelMin, levelMax, attributes, withoutAttributes,
  except }: CourseFilter): boolean {
  if (except?.includes(course.code)) return false
  if (subjects && !subjects.includes(course.subject)) return false
  if (levelMin !== undefined && courseLevel(course) < levelMin) return false
  if (levelMax !== undefined && courseLevel(course) > levelMax) return false
  if (attributes && !attributes.some(attribute => course.attributes.includes(attribute))) return false
  if (withoutAttributes?.some(attribute => course.attributes.includes(attribute))) return false
  return true
}
