import { matchesFilter } from '../catalog/filter'
import type { CourseItem, Credits } from '../catalog/types'
import type { CompileContext } from './compile'
import type { Counted, Program } from './types'

/** Whether a course is of the kind that a maximum is about. What is only intended has no grade, and is taken here. */
export function isCounted(item: CourseItem, { filter, source, gradeAtMost, ungraded }: Counted,
  { courses, scale }: Pick<CompileContext, 'courses' | 'scale'>): boolean {
  const course = courses.get(item.course)
  if (filter && (!course || !matchesFilter(course, filter))) return false
  if (source && (source === 'elsewhere' ? item.source === 'here' : item.source !== source)) return false
  const grade = item.state === 'completed' ? scale[item.grade ?? ''] : undefined
  if (gradeAtMost !== undefined && !(grade?.inGpa && grade.standsFor <= (scale[gradeAtMost]?.standsFor ?? -1))) return false
  return !ungraded || (grade !== undefined && grade.earns && !grade.inGpa && item.source === 'here')
}

/**
 * The credits of each item that count towards a program's total: all that its filter lets through, and of each maximum's kind no more than
 * it allows. What is over is taken from the last of them, and from what the lines use only where nothing else is left.
 */
export function creditsTowardsTotal(program: Program, earning: readonly CourseItem[], used: readonly CourseItem[],
  context: Pick<CompileContext, 'courses' | 'scale'>): { item: CourseItem, credits: Credits }[] {
  const inUse = new Set(used.map(item => item.id))
  const counted = earning.flatMap((item) => {
    const course = context.courses.get(item.course)
    return !program.totalFilter || (course && matchesFilter(course, program.totalFilter)) ? [{ item, credits: item.credits }] : []
  })
  for (const rule of program.rules) {
    if (rule.kind !== 'maximum') continue
    let room = rule.credits ?? Infinity
    let places = rule.courses ?? Infinity
    for (const one of [...counted].sort((a, b) => Number(inUse.has(b.item.id)) - Number(inUse.has(a.item.id)))) {
      if (one.credits === 0 || !isCounted(one.item, rule.of, context)) continue
      one.credits = places > 0 ? Math.min(one.credits, room) : 0
      room -= one.credits
      places--
    }
  }
  return counted
}
