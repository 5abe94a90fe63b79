import type { TermCode } from '../catalog/types'

/** A plan entry's id is made of course and term at the time of placing: the same placement by two people is the same entry. */
export function newEntryId(course: string, term: TermCode): string {
  return `${course.replace(' ', '')}-${term}`
}
