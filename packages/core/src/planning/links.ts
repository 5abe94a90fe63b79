import { termOrder } from '../catalog/terms'
import type { Course, CourseCode, CourseItem, TermCode } from '../catalog/types'
import type { GradeScale } from '../grades/scale'
import { coursesIn, evaluate, type EvaluationContext } from '../prerequisites/evaluate'
import { ruleOf } from '../prerequisites/rule-of'
import type { StudentFacts } from '../record/facts'
import { newEntryId } from '../record/ids'
import type { PlanEntry, PlanOperation } from './plan'

export interface LinkInput {
  items: readonly CourseItem[]
  courses: ReadonlyMap<string, Course>
}

/** What a course on the board rests on, and what rests on it: ids of items. */
export interface Links { before: string[], beside: string[], after: string[] }

/** Everything on record or in the plan that a course's rules name, and everything intended that names the course. */
export function findLinks(item: Pick<CourseItem, 'id' | 'course'>, { items, courses }: LinkInput): Links {
  const named = (rule: string) => new Set(coursesIn(ruleOf(rule)).flatMap(code => [code, ...courses.get(code)?.equivalents ?? []]))
  const course = courses.get(item.course)
  const before = named(course?.prerequisite ?? '')
  const beside = named(course?.corequisite ?? '')
  const accepts = [item.course, ...course?.equivalents ?? []]
  const waiting = items.filter((other) => {
    const rules = courses.get(other.course)
    return other.state !== 'completed' && other.id !== item.id && rules && coursesIn(ruleOf(rules.prerequisite)).some(code => accepts.includes(code))
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
  return entries.filter(other => other.id !== entry.id && other.term === entry.term && !other.pinned && isPlanned(other.id) && (names(entry.course, other.course) || names(other.course, entry.course)))
}

export interface PlaceInput extends LinkInput {
  entries: readonly PlanEntry[]
  facts: Omit<StudentFacts, 'items'>
  scale: GradeScale
}

/**
 * Places a course, and in the same move what must stand beside it and is not there yet: the smallest set of courses that
 * its corequisites name. What they ask of other kinds is left to the checks.
 */
export function placeWithPartners(code: CourseCode, term: TermCode, input: PlaceInput, id: string): PlanOperation[] {
  const { courses, items, facts, scale, entries } = input
  const operations: PlanOperation[] = []
  const taken = new Set(entries.map(entry => entry.id))
  const placed: CourseItem[] = [...items]
  const place = (course: CourseCode, entry: string, seen: readonly CourseCode[]) => {
    const credits = courses.get(course)!.credits
    operations.push({ kind: 'place', entry, course, term, credits })
    placed.push({ id: entry, course, term, credits, grade: null, state: 'planned', source: 'here' })
    const context: EvaluationContext = { courses, scale, course, corequisite: true }
    const found = evaluate(ruleOf(courses.get(course)!.corequisite), term, { ...facts, items: placed }, context)
    const partners = found?.missing.find(set => set.every(one => one.kind === 'course' && courses.has(one.course) && !seen.includes(one.course) && isFree(one.course)))
    for (const one of partners ?? []) {
      if (one.kind !== 'course') continue
      const name = newEntryId(one.course, term)
      place(one.course, taken.has(name) ? `${name}-again` : name, [...seen, one.course])
    }
  }
  // A partner that stands in a later term is for the student to move, not to be placed twice.
  const isFree = (course: CourseCode) => !placed.some(item => item.course === course && item.state !== 'completed' && item.term !== null && termOrder(item.term) >= termOrder(term))
  place(code, id, [code])
  return operations
}
