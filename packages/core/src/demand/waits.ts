import { isOffered } from '../catalog/terms'
import type { Course, CourseCode, Credits, Term } from '../catalog/types'
import { coursesIn } from '../prerequisites/evaluate'
import { ruleOf } from '../prerequisites/rule-of'
import type { Expression } from '../prerequisites/types'
import { type Activity, criticalPath, type Dependency } from '../planning/critical-path'

/** What a student has still to take: courses that are passed or under way left out, in the order in which they are suggested. */
export interface Ahead {
  courses: readonly CourseCode[]
  /** Passed, or under way and taken to be passed. */
  had: ReadonlySet<CourseCode>
  /** Most credits that they take in a long term. */
  load: Credits
}

/** What it comes to when a course is not to be had in the first term ahead. */
export interface Wait {
  course: CourseCode
  /** Courses ahead that wait for it, directly or through others. */
  names: CourseCode[]
  /** Fall and spring terms by which the finish moves; at least 1 where it does. */
  delay: number
}

/**
 * For each of these courses what waits behind it, and by how many terms the student's finish moves when it can only be taken the next time
 * that it is given. The finish is the sooner of none: the longest way through prerequisites and the terms in which courses are given, and
 * the terms that the credits ahead fill at the student's load. Of several courses that will do, the first that is ahead is waited for.
 */
export function waitsFor(asked: readonly CourseCode[], { courses: ahead, had, load }: Ahead, courses: ReadonlyMap<CourseCode, Course>,
  terms: readonly Pick<Term, 'code' | 'season' | 'year'>[]): Wait[] {
  const known = ahead.filter(code => courses.has(code))
  const activities = known.map((code): Activity => ({ id: code, slots: terms.flatMap((term, slot) =>
    isOffered(courses.get(code)!, term) ? [slot] : []) }))
  const dependencies = known.flatMap(code => dependenciesOf(code, courses.get(code)!, known, had))
  const windows = criticalPath(activities, dependencies, terms.length - 1)
  const chain = Math.max(-1, ...[...windows.values()].map(one => one.earliest ?? -1))
  const end = Math.max(chain, endByLoad(known, load, courses, terms))
  const latest = criticalPath(activities, dependencies, end)
  return asked.filter(code => known.includes(code)).map((code) => {
    const again = activities.find(one => one.id === code)!.slots.find(slot => slot > 0)
    const last = latest.get(code)!.latest
    const waits = { course: code, names: [...behindOf(code, dependencies)], delay: 0 }
    if (again === undefined || (last !== null && again <= last)) return waits
    const moved = criticalPath(activities.map(one => one.id === code ? { ...one, slots: one.slots.filter(slot => slot > 0) } : one),
      dependencies, terms.length - 1)
    const later = Math.max(...[...moved.values()].map(one => one.earliest ?? -1))
    return later <= end ? waits : { ...waits, delay: Math.max(1, terms.slice(end + 1, later + 1).filter(isLong).length) }
  })
}

const isLong = ({ season }: Pick<Term, 'season'>) => season !== 'summer'

/** The slot in which the credits ahead are all taken, at so many a long term; summers are left free. */
function endByLoad(codes: readonly CourseCode[], load: Credits, courses: ReadonlyMap<CourseCode, Course>,
  terms: readonly Pick<Term, 'season'>[]): number {
  let left = codes.reduce((sum, code) => sum + courses.get(code)!.credits, 0)
  for (const [slot, term] of terms.entries()) {
    if (left <= 0) return slot - 1
    if (isLong(term)) left -= Math.max(1, load)
  }
  return terms.length - 1
}

function dependenciesOf(code: CourseCode, course: Course, ahead: readonly CourseCode[], had: ReadonlySet<CourseCode>): Dependency[] {
  const from = (rule: Expression | null, beside: boolean): Dependency[] => {
    if (!rule) return []
    if (rule.kind === 'course')
      return ahead.includes(rule.course) && !had.has(rule.course)
        ? [{ before: rule.course, after: code, lag: beside || rule.alongside ? 0 : 1 }]
        : []
    if (rule.kind === 'all') return rule.of.flatMap(part => from(part, beside))
    if (rule.kind !== 'any' && rule.kind !== 'atLeast') return []
    const n = rule.kind === 'any' ? 1 : rule.n
    const there = rule.of.filter(part => coursesIn(part).some(one => had.has(one))).length
    const coming = rule.of.filter(part => coursesIn(part).some(one => ahead.includes(one)))
      .sort((a, b) => ahead.findIndex(one => coursesIn(a).includes(one)) - ahead.findIndex(one => coursesIn(b).includes(one)))
    return coming.slice(0, Math.max(0, n - there)).flatMap(part => from(part, beside))
  }
  return [...from(ruleOf(course.prerequisite), false), ...from(ruleOf(course.corequisite), true)]
}

function behindOf(code: CourseCode, dependencies: readonly Dependency[]): Set<CourseCode> {
  const behind = new Set<CourseCode>()
  const queue = [code]
  for (const one of queue) for (const { before, after } of dependencies) {
    if (before !== one || behind.has(after) || after === code) continue
    behind.add(after)
    queue.push(after)
  }
  return behind
}
