import type { CourseCode, TermCode } from '../catalog/types'

/**
 * Ids that are made of others: each a type of its own, printed and read here and nowhere else.
 * A plain string is none of them; what comes from outside is checked once, where it comes in.
 */

/** A requirement line of a program, `WSC-BS/voices`: what a pinned use or a place to choose is for. */
export type LineRef = `${string}/${string}`
export const lineRef = (program: string, line: string): LineRef => `${program}/${line}`
export function parseLineRef(ref: LineRef): { program: string, line: string } {
  const at = ref.indexOf('/')
  return { program: ref.slice(0, at), line: ref.slice(at + 1) }
}

/** A milestone of a program, `WSC-BS/portfolio`. */
export type MilestoneRef = LineRef

/** A course whose bundle is chosen in a term, `HYD 230 2027SP`. */
export type PickRef = `${CourseCode} ${TermCode}`
export const pickRef = (course: CourseCode, term: TermCode): PickRef => `${course} ${term}`

/** What stands on the record (`r12`, by its row) or is registered (`g340`, by its first section). */
export type FirmItemId = `r${number}` | `g${number}`
export const recordItemId = (row: number): FirmItemId => `r${row}`
export const registrationItemId = (section: number): FirmItemId => `g${section}`

/** A plan entry's id is made of course and term at the time of placing: the same placement by two people is the same entry. */
export function newEntryId(course: CourseCode, term: TermCode): string {
  return `${course.replace(' ', '')}-${term}`
}

/** A fresh id for one more placement of a course in a term, when the plain one is taken. */
export function freshEntryId(course: CourseCode, term: TermCode, taken: (id: string) => boolean): string {
  const id = newEntryId(course, term)
  if (!taken(id)) return id
  let again = `${id}-again`
  for (let n = 2; taken(again); n++) again = `${id}-again${n}`
  return again
}

/** The course in an entry's id, for an entry that is gone: `HYD310-2027FA` → `HYD 310`; null when it is none of ours. */
export function courseOfEntryId(id: string): CourseCode | null {
  const match = /^([A-Z]+)(\d+[A-Z]?)-/.exec(id)
  return match ? `${match[1]} ${match[2]}` : null
}
