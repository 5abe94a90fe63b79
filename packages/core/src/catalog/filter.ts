import type { Course, CourseCode } from './types'

/** Which courses a requirement line accepts. Every part that is given must hold; `list` is taken as it stands. */
export interface CourseFilter {
  list?: CourseCode[]
  subjects?: string[]
  /** Levels are hundreds: 300 is every course numbered 300 to 399. */
  levelMin?: number
  levelMax?: number
  attributes?: string[]
  except?: CourseCode[]
}

/** The level of a course is the hundred of its number (common practice, no source). */
function courseLevel(course: Pick<Course, 'number'>): number {
  return Math.floor(course.number / 100) * 100
}

export function matchesFilter(course: Course, filter: CourseFilter): boolean {
  const { list } = filter
  if (list && !list.includes(course.code) && !course.equivalents.some(code => list.includes(code))) return false
  return matchesBesidesList(course, filter)
}

/** What a filter asks of a course besides being listed. */
export function matchesBesidesList(course: Course, { subjects, levelMin, levelMax, attributes, except }: CourseFilter): boolean {
  if (except?.includes(course.code)) return false
  if (subjects && !subjects.includes(course.subject)) return false
  if (levelMin !== undefined && courseLevel(course) < levelMin) return false
  if (levelMax !== undefined && courseLevel(course) > levelMax) return false
  if (attributes && !attributes.some(attribute => course.attributes.includes(attribute))) return false
  return true
}
