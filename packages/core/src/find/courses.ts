import { isOffered, termOrder } from '../catalog/terms'
import { sameCourse } from '../catalog/linked'
import type { Course, CourseCode, Term } from '../catalog/types'
import { coursesIn, type Lack, lacksOf, readCourseRules } from '../prerequisites/evaluate'
import { ruleOf } from '../prerequisites/rule-of'
import type { RecordRules } from '../record/attempts'
import type { StudentFacts } from '../record/facts'
import type { LineRef } from '../record/ids'
import { excludedBy, takenAlready } from '../record/repeats'
import { type CountsFor, countsFor, type SearchLine } from './search'
import { readText, type TextIndex } from './text'

/** What is looked for in the whole catalog. */
export interface CourseSearch {
  text: string
  lines?: readonly ('open' | LineRef)[] | undefined
  subjects?: readonly string[] | undefined
  levels?: readonly number[] | undefined
  /** Only what is offered in a term ahead in which its rules hold, and is not taken, planned or excluded already. */
  canTake?: boolean | undefined
}
export interface CatalogCourse {
  course: Course
  countsFor: CountsFor[]
  /** The first terms ahead in which it is offered. */
  offered: Term[]
  /** The first of them in which its rules hold, as record and plan stand; null where they do in none. */
  firstTerm: Term | null
  /** What is missing where they hold in none. */
  needs: Lack[][]
  /** Courses that ask for it. */
  opens: CourseCode[]
}

/** Courses of the catalog that answer to a search, those that count for open lines first. */
export function findCourses({ search, courses, lines, terms, facts, rules, index }: {
  search: CourseSearch
  courses: ReadonlyMap<CourseCode, Course>
  lines: readonly SearchLine[]
  /** Terms ahead, in order. */
  terms: readonly Term[]
  facts: StudentFacts
  rules: RecordRules
  index: TextIndex
}): CatalogCourse[] {
  const query = readText(search.text)
  const words = query.kind === 'words' ? query.words : query.kind === 'code' ? query.course.toLowerCase().split(' ') : null
  const scores = query.kind === 'code' && courses.has(query.course)
    ? new Map([[query.course, { score: 1, asked: ['code'] }]])
    : words && index.search(words).courses
  const most = Math.max(0, ...[...scores?.values() ?? []].map(one => one.asked.length))
  const openBy = new Map<Course, SearchLine[]>()
  const open = (course: Course) => {
    const known = openBy.get(course) ?? lines.filter(line => line.open && line.takes(course))
    openBy.set(course, known)
    return known
  }
  const chosen = [...courses.values()].filter((course) => {
    if (scores && (scores.get(course.code)?.asked.length ?? 0) < Math.max(1, most)) return false
    if (search.subjects?.length && !search.subjects.includes(course.subject)) return false
    if (search.levels?.length && !search.levels.includes(Math.floor(course.number / 100))) return false
    return !search.lines?.length || open(course).some(line => search.lines!.includes('open') || search.lines!.includes(line.line))
  })
  const ahead = [...terms].sort((a, b) => termOrder(a.code) - termOrder(b.code))
  const opens = opensBy(courses)
  return chosen.map((course): CatalogCourse => {
    const offered = ahead.filter(term => isOffered(course, term))
    const holds = (term: Term) => readCourseRules(course, term.code, facts, rules).before?.firmness !== 'unmet'
    const firstTerm = offered.find(holds) ?? null
    const before = firstTerm ? null : readCourseRules(course, (offered[0] ?? ahead[0])?.code ?? '', facts, rules).before
    return { course, countsFor: countsFor(course, lines), offered: offered.slice(0, 3), firstTerm,
      needs: before?.firmness === 'unmet' ? lacksOf(before.missing, facts.items) : [], opens: opens.get(course.code) ?? [] }
  }).filter(({ course, firstTerm }) => !search.canTake
    || (firstTerm !== null && !takenAlready(course, facts.items, rules, 0) && !excludedBy(course, facts.items, rules)))
    .sort((a, b) => (scores?.get(b.course.code)?.score ?? 0) - (scores?.get(a.course.code)?.score ?? 0)
      || Math.sign(open(b.course).length) - Math.sign(open(a.course).length) || (a.course.code < b.course.code ? -1 : 1))
}

const known = new WeakMap<ReadonlyMap<CourseCode, Course>, Map<CourseCode, CourseCode[]>>()
/** By course the courses whose rules name it or one that gives the same credit. */
function opensBy(courses: ReadonlyMap<CourseCode, Course>): Map<CourseCode, CourseCode[]> {
  const before = known.get(courses)
  if (before) return before
  const made = new Map<CourseCode, CourseCode[]>()
  for (const course of courses.values()) {
    const named = new Set(coursesIn(ruleOf(course.prerequisite)).flatMap(code => sameCourse(code, courses)))
    for (const code of named) made.set(code, [...made.get(code) ?? [], course.code])
  }
  known.set(courses, made)
  return made
}
