import { formatCredits } from '../catalog/credits'
import { describeFilter } from '../catalog/filter'
import type { CourseCode, Credits } from '../catalog/types'
import { needsEveryListed } from './compile'
import type { Cap, CourseLine } from './types'

const count = (n: number, one: string) => `${n} ${one}${n === 1 ? '' : 's'}`

/** The line's rule in plain words. */
export function describeLine(line: CourseLine): string {
  const what = describeFilter(line.filter)
  const grade = line.minGrade ? `, each with ${line.minGrade} or better` : ''
  if (needsEveryListed(line)) return `${line.filter.list!.length === 1 ? '' : 'All of '}${line.filter.list!.join(', ')}${grade}.`
  const amount = [line.courses ? count(line.courses, 'course') : '', line.credits ? `${formatCredits(line.credits)} credits` : ''].filter(Boolean).join(' with at least ')
  const spread = line.subjects ? `, from at least ${count(line.subjects, 'subject')}` : ''
  return [`${amount || 'Courses'} from ${what}${spread}${grade}.`, ...(line.caps ?? []).map(describeCap)].join(' ')
}

function describeCap({ filter, courses, credits }: Cap): string {
  return `At most ${courses === undefined ? `${formatCredits(credits ?? 0)} credits` : count(courses, 'course')} of it from ${describeFilter(filter)}.`
}

/** What a line still lacks: "choose 1 more", "6 cr open", "2 courses open". */
export function sayLacking(line: CourseLine, open: Credits, used: number, subjects: number, unfilled: readonly CourseCode[]): string {
  if (open === 0) return ''
  if (needsEveryListed(line)) return unfilled.length === 1 ? `${unfilled[0]} open` : `${unfilled.length} courses open`
  const courses = line.courses ? line.courses - used : 0
  const another = line.subjects !== undefined && subjects < line.subjects && used > 0 ? 'another subject' : ''
  const choose = courses > 0 ? `choose ${courses}${used > 0 ? ' more' : ''}${another ? ` from ${another}` : ''}` : another
  return [choose, line.credits || !choose ? `${formatCredits(open)} cr open` : ''].filter(Boolean).join(', ')
}
