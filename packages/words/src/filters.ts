import type { CourseFilter } from '@ridgeway/core/catalog'
import { joinWords } from './lists'

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
