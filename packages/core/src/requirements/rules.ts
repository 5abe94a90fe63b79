import { formatCredits } from '../catalog/credits'
import { matchesFilter } from '../catalog/filter'
import type { Course, CourseItem, Credits } from '../catalog/types'
import { formatGpa, gpa } from '../grades/gpa'
import type { GradeScale } from '../grades/scale'
import { type RepeatPolicy, standingAttempts } from '../record/attempts'
import type { LineState, Program, ProgramRule } from './types'

/** A rule about the whole program, read: what it asks, what there is, and whether it can still be reached. */
export interface RuleReport {
  id: string
  kind: ProgramRule['kind'] | 'total'
  title: string
  state: LineState
  /** "2.43 now, 2.00 asked", "12 of 30 cr, 45 with the plan". */
  words: string
  /** Why it cannot be reached any more; null while it can. */
  unreachable: string | null
}

export interface RuleFacts {
  /** All items, failed and replaced attempts as well: some count in the GPA. */
  all: readonly CourseItem[]
  /** Items that can give credit. */
  counted: readonly CourseItem[]
  /** Items that the base tree uses. */
  used: readonly CourseItem[]
  courses: ReadonlyMap<string, Course>
  scale: GradeScale
  repeatPolicy: RepeatPolicy
  milestones: readonly string[]
}

/** The highest grade on the scale, in hundredths of a point. */
const topGrade = (scale: GradeScale) => Math.max(...Object.values(scale).map(grade => grade.points))

/** Reads the rules about the whole program; the total of credits comes first. */
export function readRules(program: Program, facts: RuleFacts): RuleReport[] {
  const total: ProgramRule = { kind: 'credits', id: 'total', title: `${formatCredits(program.totalCredits)} credits in all`, credits: program.totalCredits }
  // A minor or certificate has no total of its own beyond what its lines ask.
  const own = program.kind === 'major' || program.kind === 'institution' ? [{ ...readCredits(total, facts), kind: 'total' as const }] : []
  return [...own, ...program.rules.map(rule => rule.kind === 'gpa' ? readGpa(rule, program, facts) : rule.kind === 'credits' ? readCredits(rule, facts) : readMilestone(rule, facts))]
}

function readCredits(rule: Extract<ProgramRule, { kind: 'credits' }>, { counted, courses }: RuleFacts): RuleReport {
  const mine = counted.filter((item) => {
    const course = courses.get(item.course)
    return course !== undefined && (!rule.here || item.source === 'here') && (!rule.filter || matchesFilter(course, rule.filter))
  })
  const upTo = (states: CourseItem['state'][]): Credits => mine.filter(item => states.includes(item.state)).reduce((sum, item) => sum + item.credits, 0)
  const done = upTo(['completed'])
  const passed = done + upTo(['under way'])
  const planned = passed + upTo(['registered', 'picked', 'planned'])
  return {
    id: rule.id, kind: 'credits', title: rule.title, unreachable: null,
    state: done >= rule.credits ? 'met' : passed >= rule.credits ? 'under way' : planned >= rule.credits ? 'covered' : 'open',
    words: `${formatCredits(done)} of ${formatCredits(rule.credits)} cr earned${planned > done ? `, ${formatCredits(planned)} with all that is under way and planned` : ''}`,
  }
}

function readGpa(rule: Extract<ProgramRule, { kind: 'gpa' }>, program: Program, facts: RuleFacts): RuleReport {
  const usedIds = new Set(facts.used.map(item => item.id))
  const usedCourses = new Set(facts.used.map(item => item.course))
  const inScope = (item: CourseItem) => {
    const course = facts.courses.get(item.course)
    if (rule.scope === 'overall') return true
    // A failed attempt at a course that the program uses, or would use, is part of the program's average.
    if (rule.scope === 'program') return usedIds.has(item.id) || usedCourses.has(item.course)
    return course !== undefined && matchesFilter(course, rule.scope)
  }
  const { standing } = standingAttempts(facts.all.filter(inScope), facts.courses, facts.scale, facts.repeatPolicy)
  const now = gpa(standing, facts.scale)
  const counted = facts.counted.reduce((sum, item) => sum + item.credits, 0)
  const intended = facts.counted.filter(item => item.state !== 'completed' && inScope(item)).reduce((sum, item) => sum + item.credits, 0)
  // Beyond the plan there is room up to the program's total; a narrower scope has no such room of its own.
  const ahead = intended + (rule.scope === 'overall' ? Math.max(0, program.totalCredits - counted) : 0)
  const met = now.value !== null && now.value >= rule.minimum
  const asked = `${formatGpa(rule.minimum)} asked`
  if (now.value === null) return { id: rule.id, kind: 'gpa', title: rule.title, state: 'open', words: `no grades yet, ${asked}`, unreachable: null }
  const lacking = rule.minimum * (now.attempted + ahead) - now.points
  const average = ahead > 0 ? Math.ceil(lacking / ahead) : Infinity
  const tooHigh = average > topGrade(facts.scale)
  const beyondReach = !met && rule.scope === 'overall' && tooHigh
  // Outside the overall average more courses can always be added to the plan: what is planned may not be enough, yet nothing is lost.
  const outlook = met || beyondReach || ahead === 0
    ? ''
    : tooHigh
      ? `; the ${formatCredits(ahead)} cr of it still to come cannot lift it that far`
      : `; an average of ${formatGpa(average)} over the next ${formatCredits(ahead)} cr gets there`
  return {
    id: rule.id, kind: 'gpa', title: rule.title, state: met ? 'met' : 'open',
    words: `${formatGpa(now.value)} now, ${asked}${outlook}`,
    unreachable: beyondReach ? `Even ${formatGpa(topGrade(facts.scale))} in all the ${formatCredits(ahead)} credits that are left would not bring the average to ${formatGpa(rule.minimum)}. Repeating a course with a low grade can.` : null,
  }
}

function readMilestone(rule: Extract<ProgramRule, { kind: 'milestone' }>, { milestones }: RuleFacts): RuleReport {
  const done = milestones.includes(rule.id)
  return { id: rule.id, kind: 'milestone', title: rule.title, state: done ? 'met' : 'open', words: rule.words, unreachable: null }
}
