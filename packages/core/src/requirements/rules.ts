import { matchesFilter } from '../catalog/filter'
import type { Course, CourseItem, Credits } from '../catalog/types'
import { gpa } from '../grades/gpa'
import type { GradeScale } from '../grades/scale'
import { type RepeatPolicy, standingAttempts } from '../record/attempts'
import type { LineState, Program, ProgramRule } from './types'

/** A rule about the whole program, read: what it asks, what there is, and whether it can still be reached. */
export interface RuleReport {
  id: string
  /** As the program names it; empty for the total, which has no name of its own. */
  title: string
  state: LineState
  reading: RuleReading
}

export type RuleReading
  = | { kind: 'total' | 'credits', done: Credits, asked: Credits, withPlan: Credits }
    | { kind: 'gpa', now: number | null, asked: number, outlook: GpaOutlook | null }
    /** `words` are the program's own. */
    | { kind: 'milestone', words: string }

/** What the credits still to come can do for an average that is too low; null when there are none, or it is met. */
export type GpaOutlook
  /** This average over these credits gets there, in hundredths of a point. */
  = | { code: 'needs average', average: number, credits: Credits }
    /** Not even the highest grade in all that is planned; more courses could be added. */
    | { code: 'too little planned', credits: Credits }
    /** Not even the highest grade in all that is left of the program. */
    | { code: 'out of reach', top: number, credits: Credits }

/** Whether a rule cannot be met any more, whatever is planned. */
export const isOutOfReach = ({ reading }: RuleReport): boolean => reading.kind === 'gpa' && reading.outlook?.code === 'out of reach'

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
  const total: ProgramRule = { kind: 'credits', id: 'total', title: '', credits: program.totalCredits }
  // A minor or certificate has no total of its own beyond what its lines ask.
  const own = program.kind === 'major' || program.kind === 'institution' ? [readCredits(total, facts, 'total')] : []
  return [...own, ...program.rules.map(rule => rule.kind === 'gpa' ? readGpa(rule, program, facts) : rule.kind === 'credits' ? readCredits(rule, facts) : readMilestone(rule, facts))]
}

function readCredits(rule: Extract<ProgramRule, { kind: 'credits' }>, { counted, courses }: RuleFacts, kind: 'credits' | 'total' = 'credits'): RuleReport {
  const mine = counted.filter((item) => {
    const course = courses.get(item.course)
    return course !== undefined && (!rule.here || item.source === 'here') && (!rule.filter || matchesFilter(course, rule.filter))
  })
  const upTo = (states: CourseItem['state'][]): Credits => mine.filter(item => states.includes(item.state)).reduce((sum, item) => sum + item.credits, 0)
  const done = upTo(['completed'])
  const passed = done + upTo(['under way'])
  const planned = passed + upTo(['registered', 'picked', 'planned'])
  return {
    id: rule.id, title: rule.title,
    state: done >= rule.credits ? 'met' : passed >= rule.credits ? 'under way' : planned >= rule.credits ? 'covered' : 'open',
    reading: { kind, done, asked: rule.credits, withPlan: planned },
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
  if (now.value === null) return { id: rule.id, title: rule.title, state: 'open', reading: { kind: 'gpa', now: null, asked: rule.minimum, outlook: null } }
  const lacking = rule.minimum * (now.attempted + ahead) - now.points
  const average = ahead > 0 ? Math.ceil(lacking / ahead) : Infinity
  const tooHigh = average > topGrade(facts.scale)
  const beyondReach = !met && rule.scope === 'overall' && tooHigh
  // Outside the overall average more courses can always be added to the plan: what is planned may not be enough, yet nothing is lost.
  const outlook: GpaOutlook | null = met
    ? null
    : beyondReach
      ? { code: 'out of reach', top: topGrade(facts.scale), credits: ahead }
      : ahead === 0 ? null : tooHigh ? { code: 'too little planned', credits: ahead } : { code: 'needs average', average, credits: ahead }
  return { id: rule.id, title: rule.title, state: met ? 'met' : 'open', reading: { kind: 'gpa', now: now.value, asked: rule.minimum, outlook } }
}

function readMilestone(rule: Extract<ProgramRule, { kind: 'milestone' }>, { milestones }: RuleFacts): RuleReport {
  const done = milestones.includes(rule.id)
  return { id: rule.id, title: rule.title, state: done ? 'met' : 'open', reading: { kind: 'milestone', words: rule.words } }
}
