import { sameCourse } from '../catalog/linked'
import type { Course, CourseCode } from '../catalog/types'
import { type GradeScale, LETTER_SCALE } from '../grades/scale'
import { apartByCourse, coursesIn, coursesMentioned } from './evaluate'
import { parseExpression } from './parse'
import type { Expression, ParseProblem } from './types'

/** Something in a catalog that no student can get past. */
export type CatalogProblem
  = | { code: 'unreadable rule', course: CourseCode, rule: 'prerequisite' | 'corequisite', text: string, problem: ParseProblem }
    | { code: 'unknown course', course: CourseCode, names: CourseCode }
  /** Courses that wait for each other, in order around the ring; none of them can ever be taken. */
    | { code: 'ring', courses: CourseCode[] }

interface Rules {
  prerequisite: Expression | null
  corequisite: Expression | null
}

/** Checks the rules of a catalog: every one can be read, names courses that there are, and lets its course be taken some day. */
export function checkCatalog(courses: ReadonlyMap<CourseCode, Course>, scale: GradeScale = LETTER_SCALE): CatalogProblem[] {
  const problems: CatalogProblem[] = []
  const rules = new Map<CourseCode, Rules>()
  for (const course of courses.values()) {
    const read = (rule: 'prerequisite' | 'corequisite'): Expression | null => {
      const parsed = parseExpression(course[rule], scale)
      if (parsed.ok) return parsed.expression
      problems.push({ code: 'unreadable rule', course: course.code, rule, text: course[rule], problem: parsed.problem })
      return null
    }
    const mine = { prerequisite: read('prerequisite'), corequisite: read('corequisite') }
    rules.set(course.code, mine)
    for (const names of new Set([mine.prerequisite, mine.corequisite].flatMap(coursesMentioned))) {
      if (!courses.has(names)) problems.push({ code: 'unknown course', course: course.code, names })
    }
  }
  return [...problems, ...ringsAmong(courses, rules).map((ring): CatalogProblem => ({ code: 'ring', courses: ring }))]
}

/** The rings of a catalog, each as the list of courses around it; empty when every course can be taken some day. */
export function findRings(courses: ReadonlyMap<CourseCode, Course>): CourseCode[][] {
  const read = (text: string) => {
    const parsed = parseExpression(text, null)
    return parsed.ok ? parsed.expression : null
  }
  return ringsAmong(courses, new Map(
    [...courses.values()].map(
      course => [course.code, { prerequisite: read(course.prerequisite), corequisite: read(course.corequisite) }],
    ),
  ))
}

/**
 * Lets term after term go by in which everything is taken that can be: courses that may stand beside each other are taken together.
 * What is left when nothing more can be taken waits for itself, or for what does. Only courses that would wait for each other even if all
 * others were taken are a ring. Conditions on anything but courses are held to be met.
 */
function ringsAmong(courses: ReadonlyMap<CourseCode, Course>, rules: ReadonlyMap<CourseCode, Rules>): CourseCode[][] {
  const holds = (rule: Expression | null, before: ReadonlySet<CourseCode>, beside: ReadonlySet<CourseCode>,
    corequisite: boolean): boolean => {
    if (!rule) return true
    const each = (part: Expression) => holds(part, before, beside, corequisite)
    switch (rule.kind) {
      case 'course':
        return sameCourse(rule.course, courses).some(code =>
          before.has(code) || ((corequisite || rule.alongside) && beside.has(code)) || !courses.has(code),
        )
      case 'all':
        return rule.of.every(each)
      case 'any':
        return rule.of.some(each)
      case 'atLeast':
        return apartByCourse(rule.of, courses).filter(each).length >= rule.n
      default:
        return true
    }
  }
  /** The largest set of these that can stand in one term, given what came before: what cannot is taken out until nothing changes. */
  const standTogether = (codes: Iterable<CourseCode>, before: ReadonlySet<CourseCode>): Set<CourseCode> => {
    const together = new Set(codes)
    for (let size = -1; size !== together.size;) {
      size = together.size
      for (const code of together) {
        const { prerequisite, corequisite } = rules.get(code)!
        if (!holds(prerequisite, before, together, false) || !holds(corequisite, before, together, true)) together.delete(code)
      }
    }
    return together
  }
  const left = (before: ReadonlySet<CourseCode>) => [...courses.keys()].filter(code => !before.has(code))
  const before = new Set<CourseCode>()
  for (let now = standTogether(left(before), before); now.size > 0; now = standTogether(left(before), before)) {
    for (const code of now) before.add(code)
  }
  const stuck = new Set(left(before))
  const named = (list: readonly CourseCode[]) => list.flatMap(name => sameCourse(name, courses)).filter(name => stuck.has(name))
  const waitsFor = (code: CourseCode) =>
    named([...coursesIn(rules.get(code)!.prerequisite), ...coursesIn(rules.get(code)!.corequisite)])
  const rings: CourseCode[][] = []
  const seen = new Set<CourseCode>()
  for (const start of [...stuck].sort()) {
    if (seen.has(start)) continue
    const component = [...pathsFrom(start, waitsFor).keys()].filter(code => pathsFrom(code, waitsFor).has(start)).sort()
    component.forEach(code => seen.add(code))
    const others = new Set([...courses.keys()].filter(code => !component.includes(code)))
    if (component.length === 0 || standTogether(component, others).size > 0) continue
    // What must come before is in every ring: it is one because of it.
    const from = component.find(code => named(comesBefore(rules.get(code)!.prerequisite)).some(to => component.includes(to)))!
    const to = named(comesBefore(rules.get(from)!.prerequisite)).find(code => component.includes(code))!
    const ring = to === from ? [from] : [from, to, ...pathsFrom(to, waitsFor).get(from)!.slice(0, -1)]
    const first = ring.indexOf([...ring].sort()[0]!)
    rings.push([...ring.slice(first), ...ring.slice(0, first)])
  }
  return rings
}

/** Everything that can be reached in one step or more, with a shortest way there; the start itself where a way leads back to it. */
function pathsFrom(start: CourseCode, next: (code: CourseCode) => readonly CourseCode[]): Map<CourseCode, CourseCode[]> {
  const paths = new Map<CourseCode, CourseCode[]>()
  const queue: { code: CourseCode, path: CourseCode[] }[] = [{ code: start, path: [] }]
  for (const { code, path } of queue) {
    for (const other of next(code)) {
      if (paths.has(other)) continue
      const there = [...path, other]
      paths.set(other, there)
      queue.push({ code: other, path: there })
    }
  }
  return paths
}

/** Courses that a rule wants before the term, and not beside it. */
function comesBefore(rule: Expression | null): CourseCode[] {
  if (!rule) return []
  if ('of' in rule) return rule.of.flatMap(comesBefore)
  return rule.kind === 'course' && !rule.alongside ? [rule.course] : []
}
