import type { Course, CourseCode } from './types'

/** Which courses a requirement line accepts. Every part that is given must hold; `list` is taken as it stands. */
export interface CourseFilter {
  list?: CourseCode[]
  subjects?: string[]
  /** Levels are hundreds: 300 is every course numbered 300 to 399. */
  levelMin?: number
  levelMax?: number
  attributes?: string[]
  except?: CourseCode[]
}

/** The level of a course is the hundred of its number (common practice, no source). */
export function courseLevel(course: Pick<Course, 'number'>): number {
  return Math.floor(course.number / 100) * 100
}

export function matchesFilter(course: Course, filter: CourseFilter): boolean {
  const { list, subjects, levelMin, levelMax, attributes, except } = filter
  if (except?.includes(course.code)) return false
  if (list && !list.includes(course.code) && !course.equivalents.some(code => list.includes(code))) return false
  if (subjects && !subjects.includes(course.subject)) return false
  if (levelMin !== undefined && courseLevel(course) < levelMin) return false
  if (levelMax !== undefined && courseLevel(course) > levelMax) return false
  if (attributes && !attributes.some(attribute => course.attributes.includes(attribute))) return false
  return true
}

/** The filter in plain words: "HYD or GSP courses at 300 or above". */
export function describeFilter(filter: CourseFilter): string {
  const parts: string[] = []
  if (filter.list) parts.push(joinWords(filter.list, 'or'))
  else if (filter.subjects) parts.push(`${joinWords(filter.subjects, 'or')} courses`)
  else parts.push('any courses')
  if (filter.attributes) parts.push(`in ${joinWords(filter.attributes, 'or')}`)
  if (filter.levelMin !== undefined && filter.levelMin === filter.levelMax) parts.push(`at ${filter.levelMin}`)
  else if (filter.levelMin !== undefined && filter.levelMax === undefined) parts.push(`at ${filter.levelMin} or above`)
  else if (filter.levelMin !== undefined) parts.push(`at ${filter.levelMin} to ${filter.levelMax}`)
  else if (filter.levelMax !== undefined) parts.push(`up to ${filter.levelMax}`)
  if (filter.except?.length) parts.push(`except ${joinWords(filter.except, 'and')}`)
  return parts.join(' ')
}

export function joinWords(words: readonly string[], last: 'and' | 'or'): string {
  if (words.length < 2) return words[0] ?? ''
  return `${words.slice(0, -1).join(', ')} ${last} ${words.at(-1)}`
}
