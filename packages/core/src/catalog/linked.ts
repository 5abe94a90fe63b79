import type { Course, CourseCode } from './types'

type Courses = ReadonlyMap<CourseCode, Course>
const known = new WeakMap<Courses, Courses>()

/**
 * The same courses with what they say about each other made whole: an equivalence or an exclusion that one side states holds both ways,
 * equivalents of equivalents are equivalent, and a course that excludes another excludes its equivalents too.
 * Two courses that a third excludes do not exclude each other. Made once a catalog; every reading of the core begins with it.
 */
export function linked(courses: Courses): Courses {
  const before = known.get(courses)
  if (before) return before
  const made = link(courses)
  known.set(courses, made)
  known.set(made, made)
  return made
}

/** Pairs of some courses of which only one may be taken, since they exclude each other or give the same credit. */
export function pairsApart(codes: readonly CourseCode[], courses: Courses): [CourseCode, CourseCode][] {
  const all = linked(courses)
  return codes.flatMap((code, i) => {
    const course = all.get(code)
    return codes.slice(i + 1).filter(other => course?.exclusions.includes(other) || course?.equivalents.includes(other))
      .map((other): [CourseCode, CourseCode] => [code, other])
  })
}

function link(courses: Courses): Courses {
  const family = familiesOf(courses)
  const excluded = new Map<CourseCode, Set<CourseCode>>()
  const exclude = (from: CourseCode, to: CourseCode) => {
    for (const one of family.get(from) ?? [from]) {
      const all = excluded.get(one) ?? new Set()
      for (const other of family.get(to) ?? [to]) all.add(other)
      excluded.set(one, all)
    }
  }
  for (const course of courses.values()) {
    for (const other of course.exclusions) {
      exclude(course.code, other)
      exclude(other, course.code)
    }
  }
  return new Map([...courses].map(([code, course]) => {
    const same = family.get(code)!
    return [code, {
      ...course, equivalents: same.filter(other => other !== code),
      exclusions: [...excluded.get(code) ?? []].filter(other => !same.includes(other)).sort(),
    }]
  }))
}

/** For every course, and every code that one names, all that give the same credit, itself included, in order of their codes. */
function familiesOf(courses: Courses): Map<CourseCode, CourseCode[]> {
  const next = new Map<CourseCode, Set<CourseCode>>()
  const join = (a: CourseCode, b: CourseCode) => next.set(a, (next.get(a) ?? new Set()).add(b))
  for (const { code, equivalents } of courses.values()) {
    join(code, code)
    for (const other of equivalents) {
      join(code, other)
      join(other, code)
    }
  }
  const families = new Map<CourseCode, CourseCode[]>()
  for (const start of next.keys()) {
    if (families.has(start)) continue
    const seen = new Set([start])
    for (const code of seen) for (const other of next.get(code)!) seen.add(other)
    const all = [...seen].sort()
    for (const code of all) families.set(code, all)
  }
  return families
}

/** A course's own code and its equivalents, as a linked catalog has them. */
export const sameCourse = (code: CourseCode, courses: Courses): CourseCode[] => [code, ...linked(courses).get(code)?.equivalents ?? []]

/** The one name of a course and its equivalents. */
export const familyOf = (code: CourseCode, courses: Courses): CourseCode => {
  const course = linked(courses).get(code)
  return course && course.equivalents.length > 0 && course.equivalents[0]! < code ? course.equivalents[0]! : code
}
