import { matchesFilter } from '../catalog/filter'
import type { Course, CourseCode, CourseItem } from '../catalog/types'
import { coursesIn } from '../prerequisites/evaluate'
import { ruleOf } from '../prerequisites/rule-of'
import type { Expression } from '../prerequisites/types'
import { linesOfProgram, type Program } from '../requirements/types'

/** A course on the map of what opens what. */
interface MapCourse {
  code: CourseCode
  /** Named by a line of the program, or only on the way to one that is. */
  named: boolean
  /** Courses of the map that wait for it, directly or through others; those that are passed wait for nothing. */
  opens: number
  /** Courses on the longest way from it to the end, itself included: a lower bound on the terms from here on. */
  depth: number
}

interface MapWay {
  from: CourseCode
  to: CourseCode
  /** One of several that will do, so that this very course need not be the one. */
  either: boolean
  /** May be taken in the same term. */
  alongside: boolean
  /** Nobody waits for it here: another of the several is passed or planned already. */
  spare: boolean
}

export interface PrerequisiteMap {
  courses: MapCourse[]
  ways: MapWay[]
}

/**
 * The courses that a program names and those that must come before them, with what opens what. Lines that name no courses, such as
 * electives, bring those of their courses that the student has or plans. Ways in a ring are left out of the counts.
 */
export function prerequisiteMap(program: Program, courses: ReadonlyMap<string, Course>,
  items: readonly Pick<CourseItem, 'course' | 'state'>[] = []): PrerequisiteMap {
  const taken = new Set(items.map(item => item.course))
  const passed = new Set(items.filter(item => item.state === 'completed').map(item => item.course))
  const lines = linesOfProgram(program)
  const named = new Set(lines.flatMap(line => line.filter.list ?? []).filter(code => courses.has(code)))
  for (const code of taken) if (courses.has(code) && lines.some(line => matchesFilter(courses.get(code)!, line.filter))) named.add(code)
  const known = new Set(named)
  const ways = new Map<string, MapWay>()
  for (const code of known) {
    const rule = ruleOf(courses.get(code)!.prerequisite)
    for (const way of waysOf(rule, code, false, passed.has(code), taken)) {
      if (!courses.has(way.from)) continue
      ways.set(`${way.from}>${way.to}`, way)
      // A course that is only one of several ways in is on the map when it is named; the only way in is always on it.
      if (!way.either || ![...coursesIn(rule)].some(other => known.has(other))) known.add(way.from)
    }
  }
  const kept = [...ways.values()].filter(way => known.has(way.from) && known.has(way.to))
  const next = new Map<string, string[]>()
  for (const { from, to, spare } of kept) if (!spare) next.set(from, [...next.get(from) ?? [], to])
  const reached = (code: string, seen = new Set<string>()): Set<string> => {
    for (const to of next.get(code) ?? []) {
      if (seen.has(to)) continue
      seen.add(to)
      reached(to, seen)
    }
    return seen
  }
  const depths = new Map<string, number>()
  const depth = (code: string, path: readonly string[]): number => {
    const before = depths.get(code)
    if (before !== undefined) return before
    const found = 1 + Math.max(0, ...(next.get(code) ?? []).filter(to => !path.includes(to)).map(to => depth(to, [...path, code])))
    depths.set(code, found)
    return found
  }
  return {
    courses: [...known].sort().map((code) => {
      const after = reached(code)
      after.delete(code)
      for (const one of passed) after.delete(one)
      return { code, named: named.has(code), opens: after.size, depth: depth(code, []) }
    }),
    ways: kept.sort((a, b) => a.from.localeCompare(b.from) || a.to.localeCompare(b.to)),
  }
}

function waysOf(rule: Expression | null, to: CourseCode, either: boolean, spare: boolean, taken: ReadonlySet<string>): MapWay[] {
  if (!rule) return []
  if (rule.kind === 'course') return [{ from: rule.course, to, either, alongside: rule.alongside, spare }]
  if (rule.kind === 'all') return rule.of.flatMap(part => waysOf(part, to, either, spare, taken))
  if (rule.kind !== 'any' && rule.kind !== 'atLeast') return []
  const n = rule.kind === 'any' ? 1 : rule.n
  const there = rule.of.filter(part => coursesIn(part).length > 0 && coursesIn(part).every(code => taken.has(code)))
  return rule.of.flatMap(part =>
    waysOf(part, to, rule.of.length > n || either, spare || (there.length >= n && !there.includes(part)), taken),
  )
}
