import { linked, sameCourse } from '../catalog/linked'
import type { Course, CourseCode, CourseItem } from '../catalog/types'
import type { GradeScale } from '../grades/scale'
import { isPassed, timesFor } from './attempts'

/** A grade of C or better is sufficient unless a rule asks for more; below it a course may be repeated (common practice, no source). */
const SUFFICIENT = 200

/** Grade points that rules ask of a course, by its code; courses that are not named are asked nothing. */
export type GradesAsked = (code: CourseCode) => number
export const NO_GRADES_ASKED: GradesAsked = () => 0

/** In the way of a repeat: passed well enough for all that is asked, or still going on or intended. */
function isInTheWay(item: CourseItem, scale: GradeScale, asked: number): boolean {
  return item.state !== 'completed' || (isPassed(item, scale) && scale[item.grade!]!.standsFor >= Math.max(SUFFICIENT, asked))
}

/** What stands in the way of taking a course (again); `times` is how often it gives credit. */
export interface Taken {
  by: CourseItem
  times: number
}

/**
 * Taken already: the course or an equivalent is passed, under way, registered or placed as often as it gives credit.
 * `items` are without the attempt that is asked about; `asked` are the grade points that rules ask of the course.
 */
export function takenAlready(course: Pick<Course, 'code'>, items: readonly CourseItem[], { courses, scale }: Rules, asked = 0): Taken
  | null {
  const same = sameCourse(course.code, courses)
  const had = items.filter(item => same.includes(item.course) && isInTheWay(item, scale, asked))
  const own = had.filter(item => item.course === course.code)
  const times = timesFor(course.code, courses)
  if (own.length >= (courses.get(course.code)?.repeatLimit ?? 1)) return { by: own[0]!, times: courses.get(course.code)?.repeatLimit ?? 1 }
  return had.length >= times ? { by: had[0]!, times } : null
}

/** Where this topic of a course, or of an equivalent, was taken before or is intended: it gives credit once, another topic would. */
export function topicTaken(course: Pick<Course, 'code'>, topic: string, items: readonly CourseItem[], { courses, scale }: Rules): CourseItem
  | null {
  const same = sameCourse(course.code, courses)
  return items.find(item => item.topic === topic && same.includes(item.course) && isInTheWay(item, scale, 0)) ?? null
}

interface Rules {
  courses: ReadonlyMap<CourseCode, Course>
  scale: GradeScale
}

/** The first of these items that leaves no credit for the course: one excludes the other, and it is passed, going on or intended. */
export function excludedBy(course: Pick<Course, 'code'>, items: readonly CourseItem[], { courses, scale }: Rules): CourseItem | null {
  const exclusions = linked(courses).get(course.code)?.exclusions ?? []
  return items.find(item => exclusions.includes(item.course) && (item.state !== 'completed' || isPassed(item, scale))) ?? null
}
