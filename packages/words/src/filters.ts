import type { CourseFilter } from '@ridgeway/core/catalog'
import { joinWords } from './lists'

/** The filter in plain words: "HYD or GSP courses at 300 or above". */
export function describeFilter(filter: CourseFilter): string {
  const { list, subjects, levelMin, levelMax, attributes, withoutAttributes, except } = filter
  const parts = [list ? joinWords(list, 'or') : subjects ? `${joinWords(subjects, 'or')} courses` : 'any courses']
  if (list && subjects) parts.push(`in ${joinWords(subjects, 'or')}`)
  if (attributes) parts.push(`in ${joinWords(attributes, 'or')}`)
  if (levelMin !== undefined && levelMin === levelMax) parts.push(`at ${levelMin}`)
  else if (levelMin !== undefined && levelMax === undefined) parts.push(`at ${levelMin} or above`)
  // A highest level takes in all of its hundred.
  else if (levelMin !== undefined) parts.push(`at ${levelMin} to ${endOf(levelMax!)}`)
  else if (levelMax !== undefined) parts.push(`up to ${endOf(levelMax)}`)
  if (withoutAttributes) parts.push(`not in ${joinWords(withoutAttributes, 'or')}`)
  if (except?.length) parts.push(`except ${joinWords(except, 'and')}`)
  return parts.join(' ')
}

/** The last number of a level: 399 of 300, 3999 of 3000. */
const endOf = (level: number): number => level + (level >= 1000 ? 999 : 99)
