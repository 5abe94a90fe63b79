import { sameCourse } from '../catalog/linked'
import { termOrder } from '../catalog/terms'
import type { Course, CourseCode, CourseItem, TermCode } from '../catalog/types'
import { coursesIn, readCourseRules } from '../prerequisites/evaluate'
import { ruleOf } from '../prerequisites/rule-of'
import type { RecordRules } from '../record/attempts'
import { factsOf, type FactsOnFile } from '../record/facts'
import { freshEntryId } from '../record/ids'
import type { Placeholder, PlanEntry, PlanOperation } from './plan'

export interface LinkInput {
  items: readonly CourseItem[]
  courses: ReadonlyMap<string, Course>
}

/** What a course on the board rests on, and what rests on it: ids of items. */
export interface Links {
  before: string[]
  beside: string[]
  after: string[]
}

/** Everything on record or in the plan that a course's rules name, and everything intended that names the course. */
export function findLinks(item: Pick<CourseItem, 'id' | 'course'>, { items, courses }: LinkInput): Links {
  const named = (rule: string) => new Set(coursesIn(ruleOf(rule)).flatMap(code => sameCourse(code, courses)))
  const course = courses.get(item.course)
  const before = named(course?.prerequisite ?? '')
  const beside = named(course?.corequisite ?? '')
  const accepts = sameCourse(item.course, courses)
  const waiting = items.filter((other) => {
    const rules = courses.get(other.course)
    return other.state !== 'completed' && other.id !== item.id && rules
      && coursesIn(ruleOf(rules.prerequisite)).some(code => accepts.includes(code))
  })
  return {
    before: items.filter(other => other.id !== item.id && before.has(other.course)).map(other => other.id),
    beside: items.filter(other => other.id !== item.id && beside.has(other.course)).map(other => other.id),
    after: waiting.map(other => other.id),
  }
}

/** Planned courses of the same term that go with this one by either's corequisite, and may move along: neither pinned nor picked. */
export function partnersOf(entry: PlanEntry, entries: readonly PlanEntry[], { items, courses }: LinkInput): PlanEntry[] {
  const names = (a: string, b: string) => coursesIn(ruleOf(courses.get(a)?.corequisite ?? '')).includes(b)
  const isPlanned = (id: string) => items.find(item => item.id === id)?.state === 'planned'
  return entries.filter(other =>
    other.id !== entry.id && other.term === entry.term && !other.pinned && isPlanned(other.id)
    && (names(entry.course, other.course) || names(other.course, entry.course)),
  )
}

export interface PlaceInput extends LinkInput, RecordRules {
  entries: readonly PlanEntry[]
  facts: FactsOnFile
}

/** Puts a course where a place was held for it, in use for the line that it was held for. */
export const fillPlaceholder = ({ id, line, term }: Pick<Placeholder, 'id' | 'line' | 'term'>, course: Course, entry: string):
PlanOperation[] => [
  { kind: 'remove', entry: id },
  { kind: 'place', entry, course: course.code, term, credits: course.credits },
  { kind: 'pin use', entry, line },
]

/**
 * Places a course, and in the same move what must stand beside it and is not there yet: the smallest set of courses that
 * its corequisites name. What they ask of other kinds is left to the checks.
 */
export function placeWithPartners(code: CourseCode, term: TermCode, input: PlaceInput, id: string): PlanOperation[] {
  const { courses, items, facts, entries } = input
  const operations: PlanOperation[] = []
  const taken = new Set(entries.map(entry => entry.id))
  const placed: CourseItem[] = [...items]
  const place = (course: CourseCode, entry: string, seen: readonly CourseCode[]) => {
    const credits = courses.get(course)!.credits
    operations.push({ kind: 'place', entry, course, term, credits })
    placed.push({ id: entry, course, term, credits, grade: null, state: 'planned', source: 'here' })
    const { beside } = readCourseRules(courses.get(course)!, term, factsOf(facts, [...placed]), input)
    const partners = beside?.missing.find(set =>
      set.every(one => one.kind === 'course' && courses.has(one.course) && !seen.includes(one.course) && isFree(one.course)),
    )
    for (const one of partners ?? []) {
      if (one.kind !== 'course') continue
      place(one.course, freshEntryId(one.course, term, id => taken.has(id)), [...seen, one.course])
    }
  }
  // A partner that stands in a later term is for the student to move, not to be placed twice.
  const isFree = (course: CourseCode) =>
    !placed.some(item =>
      item.course === course && item.state !== 'completed' && item.term !== null && termOrder(item.term) >= termOrder(term),
    )
  place(code, id, [code])
  return operations
}
