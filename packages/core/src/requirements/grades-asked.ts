import { linked, sameCourse } from '../catalog/linked'
import type { Course, CourseCode } from '../catalog/types'
import type { GradeScale } from '../grades/scale'
import { ruleOf } from '../prerequisites/rule-of'
import type { Expression } from '../prerequisites/types'
import type { GradesAsked } from '../record/repeats'
import { acceptsCourse, partsOf } from './compile'
import { linesOfProgram, type Program, type RequirementException } from './types'

export interface AskedInput {
  programs: readonly Program[]
  exceptions: readonly RequirementException[]
  courses: ReadonlyMap<CourseCode, Course>
  scale: GradeScale
  /** Courses that are going on or intended: their prerequisites may ask for grades. */
  intended: readonly CourseCode[]
}

/**
 * The grade points that the student's programs, and the prerequisites of what the student goes on to, ask of each course.
 * A course passed with less may be repeated: audit, checks, drafts and registration all ask here.
 */
export function gradesAsked({ programs, exceptions, courses: all, scale, intended }: AskedInput): GradesAsked {
  const courses = linked(all)
  const points = (grade: string | undefined) => grade === undefined ? 0 : scale[grade]?.standsFor ?? 0
  const lines = programs.flatMap(program =>
    linesOfProgram(program).filter(line => line.minGrade !== undefined).map((line) => {
      const mine = exceptions.filter(exception => exception.program === program.code)
      return { asked: points(line.minGrade), parts: partsOf(line, mine, courses), exceptions: mine }
    }),
  )
  const byRule = new Map<CourseCode, number>()
  const visit = (rule: Expression | null) => {
    if (!rule) return
    if ('of' in rule) rule.of.forEach(visit)
    else if (rule.kind === 'course' && rule.minGrade) {
      for (const code of sameCourse(rule.course, courses)) byRule.set(code, Math.max(byRule.get(code) ?? 0, points(rule.minGrade)))
    }
  }
  for (const code of new Set(intended)) {
    const course = courses.get(code)
    visit(course ? ruleOf(course.prerequisite) : null)
    visit(course ? ruleOf(course.corequisite) : null)
  }
  const known = new Map<CourseCode, number>()
  return (code) => {
    const before = known.get(code)
    if (before !== undefined) return before
    const course = courses.get(code)
    const byLines = course
      ? lines.filter(line => line.parts.some(part => acceptsCourse(course, part, line))).map(line => line.asked)
      : []
    const asked = Math.max(0, byRule.get(code) ?? 0, ...byLines)
    known.set(code, asked)
    return asked
  }
}
