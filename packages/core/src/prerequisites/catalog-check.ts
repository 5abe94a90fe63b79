import { sameCourse } from '../catalog/linked'
import type { Course, CourseCode } from '../catalog/types'
import { type GradeScale, LETTER_SCALE } from '../grades/scale'
import { coursesIn } from './evaluate'
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
    for (const names of new Set([...coursesIn(mine.prerequisite), ...coursesIn(mine.corequisite)])) {
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
 * What is left when nothing more can be taken waits for itself. Conditions on anything but courses are held to be met.
 */
function ringsAmong(courses: ReadonlyMap<CourseCode, Course>, rules: ReadonlyMap<CourseCode, Rules>): CourseCode[][] {
  const before = new Set<CourseCode>()
  const holds = (rule: Expression | null, beside: ReadonlySet<CourseCode>, corequisite: boolean): boolean => {
    if (!rule) return true
    switch (rule.kind) {
      case 'course':
        return sameCourse(rule.course, courses).some(code =>
          before.has(code) || ((corequisite || rule.alongside) && beside.has(code)) || !courses.has(code),
        )
      case 'all':
        return rule.of.every(part => holds(part, beside, corequisite))
      case 'any':
        return rule.of.some(part => holds(part, beside, corequisite))
      case 'atLeast':
        return rule.of.filter(part => holds(part, beside, corequisite)).length >= rule.n
      default:
        return true
    }
  }
  for (;;) {
    // The largest set of courses that can stand in one term, given what came before: what cannot is taken out until nothing changes.
    const together = new Set([...courses.keys()].filter(code => !before.has(code)))
    for (let again = true; again;) {
      again = false
      for (const code of together) {
        const { prerequisite, corequisite } = rules.get(code)!
        if (holds(prerequisite, together, false) && holds(corequisite, together, true)) continue
        together.delete(code)
        again = true
      }
    }
    if (together.size === 0) break
    for (const code of together) before.add(code)
  }
  const stuck = new Set([...courses.keys()].filter(code => !before.has(code)))
  const rings: CourseCode[][] = []
  const seen = new Set<CourseCode>()
  for (const start of [...stuck].sort()) {
    const path: CourseCode[] = []
    for (let code: CourseCode | undefined = start; code !== undefined && !seen.has(code);) {
      if (path.includes(code)) {
        rings.push(path.slice(path.indexOf(code)))
        break
      }
      path.push(code)
      // What must come before is followed first: a ring is one because of it.
      const { prerequisite, corequisite }: Rules = rules.get(code)!
      const strict = comesBefore(prerequisite)
      const named: CourseCode[] = [...strict, ...coursesIn(prerequisite), ...coursesIn(corequisite)].flatMap(name =>
        sameCourse(name, courses),
      )
      code = named.find(name => stuck.has(name))
    }
    path.forEach(code => seen.add(code))
  }
  return rings
}

/** Courses that a rule wants before the term, and not beside it. */
function comesBefore(rule: Expression | null): CourseCode[] {
  if (!rule) return []
  if ('of' in rule) return rule.of.flatMap(comesBefore)
  return rule.kind === 'course' && !rule.alongside ? [rule.course] : []
}
