import type { Course } from '../catalog/types'
import { coursesIn } from './evaluate'
import { parseExpression } from './parse'

/**
 * Finds a cycle among prerequisites, as the list of courses around it, or null.
 * A catalog with a cycle cannot be planned; it is reported when the catalog is loaded.
 */
export function findCycle(courses: ReadonlyMap<string, Course>): string[] | null {
  const done = new Set<string>()
  for (const start of courses.keys()) {
    const cycle = walk(start, [], courses, done)
    if (cycle) return cycle
  }
  return null
}

function walk(code: string, path: string[], courses: ReadonlyMap<string, Course>, done: Set<string>): string[] | null {
  const before = path.indexOf(code)
  if (before >= 0) return path.slice(before)
  if (done.has(code)) return null
  const parsed = parseExpression(courses.get(code)?.prerequisite ?? '')
  const needs = parsed.ok ? coursesIn(parsed.expression) : []
  for (const next of needs) {
    const cycle = walk(next, [...path, code], courses, done)
    if (cycle) return cycle
  }
  done.add(code)
  return null
}
