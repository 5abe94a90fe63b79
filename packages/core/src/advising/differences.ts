import type { CourseCode, Credits } from '../catalog/types'

/** A course in a term, as far as a sign-off is concerned. */
export interface Agreed { course: CourseCode, credits: Credits }

/** How a term differs from what was agreed. */
export interface Differences {
  added: CourseCode[]
  gone: CourseCode[]
  /** Courses that have other credits now. */
  resized: { course: CourseCode, before: Credits, now: Credits }[]
}

/** What was added, taken out and resized between two states of one term, by course. */
export function differencesOf(before: readonly Agreed[], now: readonly Agreed[]): Differences {
  const old = new Map(before.map(one => [one.course, one.credits]))
  const fresh = new Set(now.map(one => one.course))
  return {
    added: now.filter(one => !old.has(one.course)).map(one => one.course),
    gone: before.filter(one => !fresh.has(one.course)).map(one => one.course),
    resized: now.flatMap(({ course, credits }) => {
      const was = old.get(course)
      return was === undefined || was === credits ? [] : [{ course, before: was, now: credits }]
    }),
  }
}

export const isSame = ({ added, gone, resized }: Differences): boolean => added.length + gone.length + resized.length === 0
