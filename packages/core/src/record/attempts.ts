import { termOrder } from '../catalog/terms'
import type { Course, CourseItem } from '../catalog/types'
import type { GradeScale } from '../grades/scale'

export type RepeatPolicy = 'best' | 'latest'

/** Attempts that stand after the repeat policy, and those that another attempt replaced. */
export interface StandingAttempts { standing: CourseItem[], replaced: CourseItem[] }

/**
 * Sorts out repeats: of several graded attempts at a course (or at courses that are equivalent or exclude each other)
 * as many stand as the course may be repeated for credit; the institution's policy says which.
 * Attempts that give neither credit nor a GPA grade (withdrawn, incomplete) never stand.
 */
export function standingAttempts(
  items: readonly CourseItem[], courses: ReadonlyMap<string, Course>, scale: GradeScale, policy: RepeatPolicy,
): StandingAttempts {
  const groups = new Map<string, CourseItem[]>()
  for (const item of items) {
    if (item.state !== 'completed') continue
    const key = creditFamily(item.course, courses)
    groups.set(key, [...groups.get(key) ?? [], item])
  }
  const standing: CourseItem[] = []
  const replaced: CourseItem[] = []
  for (const attempts of groups.values()) {
    const limit = courses.get(attempts[0]!.course)?.repeatLimit ?? 1
    const worth = (item: CourseItem) => scale[item.grade ?? '']?.standsFor ?? -1
    const when = (item: CourseItem) => item.term ? termOrder(item.term) : 0
    const counted = attempts.filter((item) => {
      const meaning = scale[item.grade ?? '']
      return meaning !== undefined && (meaning.earns || meaning.inGpa)
    })
    counted.sort((a, b) => (policy === 'best' ? worth(b) - worth(a) : 0) || when(b) - when(a) || a.id.localeCompare(b.id))
    standing.push(...counted.slice(0, limit))
    replaced.push(...counted.slice(limit))
  }
  return { standing, replaced }
}

/** One name for all the courses that give credit only once between them. */
export function creditFamily(code: string, courses: ReadonlyMap<string, Course>): string {
  const seen = new Set([code])
  const queue = [code]
  for (let next = queue.pop(); next !== undefined; next = queue.pop()) {
    const course = courses.get(next)
    for (const other of [...course?.exclusions ?? [], ...course?.equivalents ?? []]) {
      if (!seen.has(other)) {
        seen.add(other)
        queue.push(other)
      }
    }
  }
  return [...seen].sort()[0]!
}
