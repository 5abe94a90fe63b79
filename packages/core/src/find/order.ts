import type { Course, CourseCode, Section } from '../catalog/types'
import { placeToMend } from '../next/mend-week'
import type { Finding } from '../registration/findings'

/** How what is found is put in order: what answers best, by code, by the earliest hour, by the most seats. */
export type SearchOrder = 'best' | 'code' | 'time' | 'seats'

/** A bundle that was found: how well it answers, when its first meeting begins in minutes of the day, and what is known of it. */
interface Answering {
  course: Course
  score: number
  shape: { start: number }
  bundle: { sections: readonly Section[] }
  found: { refusals: readonly Finding[], hits: readonly string[], seats: number, picked: boolean, registered: boolean } | null
}
/** A course among the results: how well it answers, and of its bundles the earliest hour, the easiest and the most seats. */
interface Ordered<B> { course: Course, score: number, earliest: number, easiest: number, seats: number, bundles: B[] }

/** Courses in order, and the bundles of the first `most` of them; of all bundles everything is known. */
export function inOrder<B extends Answering>(shown: readonly B[], order: SearchOrder, most: number,
  linesOf: (course: Course) => readonly unknown[]): Ordered<B>[] {
  const courses = new Map<CourseCode, Ordered<B>>()
  for (const one of shown) {
    const { course, score, found, shape } = one
    const its = courses.get(course.code) ?? { course, score: 0, earliest: 2000, easiest: 9, seats: 0, bundles: [] }
    its.score = Math.max(its.score, score)
    its.earliest = Math.min(its.earliest, shape.start)
    its.easiest = Math.min(its.easiest, ease(found!))
    its.seats = Math.max(its.seats, found!.seats)
    its.bundles.push(one)
    courses.set(course.code, its)
  }
  type One = Ordered<B>
  const byCode = (a: One, b: One) => compare(a.course.code, b.course.code)
  const ORDERS: Record<SearchOrder, (a: One, b: One) => number> = {
    best: (a, b) => Math.round((b.score - a.score) * 10) || Math.sign(linesOf(b.course).length) - Math.sign(linesOf(a.course).length)
      || a.easiest - b.easiest,
    code: byCode,
    time: (a, b) => a.earliest - b.earliest,
    seats: (a, b) => b.seats - a.seats,
  }
  const all = [...courses.values()].sort((a, b) => ORDERS[order](a, b) || byCode(a, b))
  for (const { bundles } of all.slice(0, most)) bundles.sort(WITHIN[order])
  return all
}

/** 0 where it could be registered as it is, then what another bundle or a free hour mends, then the rest. */
const ease = ({ refusals, hits, registered, picked }: NonNullable<Answering['found']>): number =>
  registered || picked ? 0 : refusals.length > 0 ? refusals.every(one => placeToMend(one) === 'week') ? 2 : 3 : hits.length > 0 ? 1 : 0
/** The bundles of one course: in the order that was asked for where it is one of bundles, else those that fit first. */
const byEase = (a: Answering, b: Answering) =>
  ease(a.found!) - ease(b.found!) || compare(a.bundle.sections[0]!.label, b.bundle.sections[0]!.label)
const WITHIN: Record<SearchOrder, (a: Answering, b: Answering) => number> = {
  best: byEase,
  code: byEase,
  time: (a, b) => a.shape.start - b.shape.start || byEase(a, b),
  seats: (a, b) => b.found!.seats - a.found!.seats || byEase(a, b),
}
const compare = (a: string, b: string) => a < b ? -1 : a > b ? 1 : 0
