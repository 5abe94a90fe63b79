import { linked, sameCourse } from '../catalog/linked'
import type { Course, CourseCode, CourseItem, Credits } from '../catalog/types'
import type { GradeScale } from '../grades/scale'
import { gradeValue, isPassed, timesFor } from './attempts'

/** A grade of C or better is sufficient unless a rule asks for more; below it a course may be repeated (common practice, no source). */
const SUFFICIENT = 200

/** Grade points that rules ask of a course, by its code; courses that are not named are asked nothing. */
export type GradesAsked = (code: CourseCode) => number
export const NO_GRADES_ASKED: GradesAsked = () => 0

/** In the way of a repeat: passed well enough for all that is asked, or still going on or intended. */
function isInTheWay(item: CourseItem, scale: GradeScale, asked: number): boolean {
  return item.state !== 'completed' || (isPassed(item, scale) && gradeValue(item, scale) >= Math.max(SUFFICIENT, asked))
}

/** Why a course gives no more credit. */
export interface Taken {
  by: CourseItem
  /** How often the course gives credit. */
  times: number
  /** The most credits that it gives in all, where those do not suffice for another attempt. */
  most?: Credits
}

/**
 * Taken already: the course or an equivalent is passed, under way, registered or placed as often as it gives credit, or its credits are
 * used up. `items` are without the attempt that is asked about, which is for `credits`, or for as few as the course can be taken for;
 * `asked` are the grade points that rules ask of the course.
 */
export function takenAlready(course: Pick<Course, 'code'>, items: readonly CourseItem[], { courses, scale }: Rules, asked = 0,
  credits: Credits = courses.get(course.code)?.credits ?? 0): Taken | null {
  const same = sameCourse(course.code, courses)
  const had = items.filter(item => same.includes(item.course) && isInTheWay(item, scale, asked))
  const own = had.filter(item => item.course === course.code)
  const times = timesFor(course.code, courses)
  const { repeatLimit = 1, repeatCredits } = courses.get(course.code) ?? {}
  if (own.length >= repeatLimit) return { by: own[0]!, times: repeatLimit }
  const used = own.reduce((sum, item) => sum + item.credits, 0)
  if (own.length > 0 && repeatCredits && used + credits > repeatCredits) return { by: own[0]!, times, most: repeatCredits }
  return had.length >= times ? { by: had[0]!, times } : null
}

/**
 * Where this topic of a course, or of an equivalent, was taken before or is intended: it gives credit once, another topic would. It may be
 * repeated where the grade is below `asked`.
 */
export function topicTaken(course: Pick<Course, 'code'>, topic: string, items: readonly CourseItem[], { courses, scale }: Rules,
  asked = 0): CourseItem | null {
  const same = sameCourse(course.code, courses)
  return items.find(item => item.topic === topic && same.includes(item.course) && isInTheWay(item, scale, asked)) ?? null
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
