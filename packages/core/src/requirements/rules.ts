import { matchesFilter } from '../catalog/filter'
import { termOrder } from '../catalog/terms'
import { sameCourse } from '../catalog/linked'
import type { CourseItem, Credits } from '../catalog/types'
import { gpa } from '../grades/gpa'
import type { GradeScale } from '../grades/scale'
import { averagedAttempts, type RecordRules, type RepeatPolicy } from '../record/attempts'
import { acceptsCourse, type CompileContext, type CompiledLine, gradeSuffices } from './compile'
import { creditsTowardsTotal, isCounted } from './counted'
import type { CourseLine, LineState, Program, ProgramRule } from './types'

/** A rule about the whole program, read: what it asks, what there is, and whether it can still be reached. */
export interface RuleReport {
  id: string
  /** As the program names it; empty for the total, which has no name of its own. */
  title: string
  state: LineState
  reading: RuleReading
}

type RuleReading
  = | { kind: 'total' | 'credits' | 'residence', done: Credits, asked: Credits, withPlan: Credits }
  /** What counts of the kind, the most that may, and what is kept out by it; in credits, or in courses where `courses` is true. */
    | { kind: 'maximum', used: number, most: number, courses: boolean, over: number }
    | { kind: 'gpa', now: number | null, asked: number, outlook: GpaOutlook | null }
  /** `words` are the program's own. */
    | { kind: 'milestone', words: string }

/** What the credits still to come can do for an average that is too low; null when it is met, or has no grade yet. */
export type GpaOutlook
  /** This average over these credits gets there, in hundredths of a point; what they repeat is taken out by the policy. */
  = | { code: 'needs average', average: number, credits: Credits }
  /** Nothing that counts in it is to come. */
    | { code: 'nothing ahead' }
  /** Not even the highest grade in all that is planned; more courses could be added. */
    | { code: 'too little planned', credits: Credits }
  /** Not even the highest grade in all that is left of the program. */
    | { code: 'out of reach', top: number, credits: Credits }

/** Whether a rule cannot be met any more, whatever is planned. */
export const isOutOfReach = ({ reading }: RuleReport): boolean => reading.kind === 'gpa' && reading.outlook?.code === 'out of reach'

/** Whether a rule is about an average that has a value, and one too low. */
export const isBelow = ({ state, reading }: RuleReport): boolean => reading.kind === 'gpa' && reading.now !== null && state === 'open'

export interface RuleFacts {
  /** All items, failed and replaced attempts as well: some count in the GPA. */
  all: readonly CourseItem[]
  /** Items whose credits count, each credit once. */
  earning: readonly CourseItem[]
  /** Items that the base tree uses. */
  used: readonly CourseItem[]
  /** The lines of the base tree. */
  compiled: readonly CompiledLine[]
  context: CompileContext
  repeatPolicy: RepeatPolicy
  milestones: readonly string[]
}

/** The highest grade on the scale, in hundredths of a point. */
const topGrade = (scale: GradeScale) => Math.max(...Object.values(scale).map(grade => grade.points))

/** Reads the rules about the whole program; the total of credits comes first. */
export function readRules(program: Program, facts: RuleFacts): RuleReport[] {
  const total: ProgramRule = { kind: 'credits', id: 'total', title: '', credits: program.totalCredits }
  // A minor or certificate has no total of its own beyond what its lines ask.
  const own = hasTotal(program) ? [readCredits(total, { ...facts, earning: towardsTotal(program, facts) }, 'total')] : []
  return [...own,
    ...program.rules.map(rule =>
      readRule(rule, program, facts),
    )]
}

function readRule(rule: ProgramRule, program: Program, facts: RuleFacts): RuleReport {
  switch (rule.kind) {
    case 'gpa':
      return readGpa(rule, program, facts)
    case 'credits':
      return readCredits(rule, rule.used ? { ...facts, earning: facts.used } : facts)
    case 'residence':
      return readResidence(rule, program, facts)
    case 'maximum':
      return readMaximum(rule, facts)
    case 'milestone':
      return readMilestone(rule, facts)
  }
}

/** What gives credit, each with as much of it as counts towards the total. */
const towardsTotal = (program: Program, { earning, used, context }: RuleFacts): CourseItem[] =>
  creditsTowardsTotal(program, earning, used, context).map(({ item, credits }) => credits === item.credits ? item : { ...item, credits })

/**
 * Of the last credits that count towards the total so many here: the latest courses until the credits are full, what is passed for now,
 * and everything for the plan.
 * It is met only with the whole total, because until then the last credits are still to come.
 */
function readResidence(rule: Extract<ProgramRule, { kind: 'residence' }>, program: Program, facts: RuleFacts): RuleReport {
  const order = (item: CourseItem) => item.term ? termOrder(item.term) : 0
  const hereIn = (items: readonly CourseItem[]): { here: Credits, last: Credits, all: Credits } => {
    let last = 0
    let here = 0
    // Of courses of one term those taken here count last: the order within a term is nobody's to choose.
    for (const item of [...items].sort((a, b) => order(b) - order(a) || Number(b.source === 'here') - Number(a.source === 'here'))) {
      const credits = Math.min(item.credits, rule.of - last)
      last += credits
      if (item.source === 'here') here += credits
    }
    return { here, last, all: items.reduce((sum, item) => sum + item.credits, 0) }
  }
  const counted = towardsTotal(program, facts)
  const done = hereIn(counted.filter(item => item.state === 'completed'))
  const all = hereIn(counted)
  const isWhole = done.all >= program.totalCredits && done.here >= rule.credits
  // What is elsewhere among the last credits may still move back, as long as enough is to come.
  const couldBe = all.here >= rule.credits || all.last - all.here <= rule.of - rule.credits
  return { id: rule.id, title: rule.title, state: isWhole ? 'met' : couldBe ? 'covered' : 'open',
    reading: { kind: 'residence', done: done.here, asked: rule.credits, withPlan: all.here } }
}

/** A maximum is always kept: what is over it is used nowhere, and not in the total. */
function readMaximum(rule: Extract<ProgramRule, { kind: 'maximum' }>, { earning, context }: RuleFacts): RuleReport {
  const mine = earning.filter(item => isCounted(item, rule.of, context))
  const courses = rule.courses !== undefined
  const there = courses ? mine.length : mine.reduce((sum, item) => sum + item.credits, 0)
  const most = rule.courses ?? rule.credits ?? 0
  return { id: rule.id, title: rule.title, state: 'met',
    reading: { kind: 'maximum', used: Math.min(there, most), most, courses, over: Math.max(0, there - most) } }
}

export type ProgramCreditsRule = Extract<ProgramRule, { kind: 'credits' }>

/** Whether the credits of an item count for a rule on credits. */
export function countsForRule({ here, filter }: Pick<ProgramCreditsRule, 'here' | 'filter'>, item: CourseItem,
  courses: CompileContext['courses']): boolean {
  const course = courses.get(item.course)
  return (!here || item.source === 'here') && (!filter || (course !== undefined && matchesFilter(course, filter)))
}

const hasTotal = ({ kind }: Program) => kind === 'major' || kind === 'institution'

function readCredits(rule: Extract<ProgramRule, { kind: 'credits' }>, { earning, context: { courses } }: RuleFacts,
  kind: 'credits' | 'total' = 'credits'): RuleReport {
  const mine = earning.filter(item => countsForRule(rule, item, courses))
  const upTo = (states: CourseItem['state'][]): Credits =>
    mine.filter(item => states.includes(item.state)).reduce((sum, item) => sum + item.credits, 0)
  const done = upTo(['completed'])
  const passed = done + upTo(['under way'])
  const planned = passed + upTo(['registered', 'picked', 'planned'])
  return {
    id: rule.id,
    title: rule.title,
    state: done >= rule.credits ? 'met' : passed >= rule.credits ? 'under way' : planned >= rule.credits ? 'covered' : 'open',
    reading: { kind, done, asked: rule.credits, withPlan: planned },
  }
}

function readGpa(rule: Extract<ProgramRule, { kind: 'gpa' }>, program: Program, facts: RuleFacts): RuleReport {
  const { context: { courses, scale } } = facts
  const rules: RecordRules = { courses, scale, repeatPolicy: facts.repeatPolicy }
  const inScope = scopeOf(rule, facts)
  const mine = facts.all.filter(inScope)
  const now = gpa(averagedAttempts(mine, rules), scale)
  const report = (state: LineState, outlook: GpaOutlook | null): RuleReport => ({ id: rule.id, title: rule.title, state,
    reading: { kind: 'gpa', now: now.value, asked: rule.minimum, outlook } })
  if (now.value === null) return report('open', null)
  if (now.value >= rule.minimum) return report('met', null)
  const intended = mine.filter(item => item.state !== 'completed')
  // Beyond the plan there is room up to the program's total; a narrower scope, or a program without a total, has no room that could be
  // counted.
  const counted = facts.earning.reduce((sum, item) => sum + item.credits, 0)
  const endless = rule.scope !== 'overall' || !hasTotal(program)
  const room = endless ? 0 : Math.max(0, program.totalCredits - counted)
  const credits = intended.reduce((sum, item) => sum + item.credits, 0) + room
  if (credits === 0) return report('open', { code: 'nothing ahead' })
  const top = topGrade(scale)
  /** The average when everything to come is graded so; a repeat takes out what it replaces. */
  const withAll = (points: number): number => {
    const graded: GradeScale = { ...scale, [TO_COME]: { points, inGpa: true, earns: true, standsFor: points } }
    const done = mine.map((item): CourseItem =>
      item.state === 'completed' ? item : { ...item, state: 'completed', grade: TO_COME, source: 'here' },
    )
    const after = gpa(averagedAttempts(done, { ...rules, scale: graded }), graded)
    return Math.floor((after.points + room * points) / (after.attempted + room))
  }
  if (withAll(top) < rule.minimum)
    return report('open', endless ? { code: 'too little planned', credits } : { code: 'out of reach', top, credits })
  let [average, over] = [top, -1]
  while (average - over > 1) {
    const middle = Math.floor((average + over) / 2)
    if (withAll(middle) >= rule.minimum) average = middle
    else over = middle
  }
  return report('open', { code: 'needs average', average, credits })
}

/** A grade that stands for whatever will be given. */
const TO_COME = 'to come'

/** Which attempts and intentions an average is over. */
function scopeOf(rule: Extract<ProgramRule, { kind: 'gpa' }>, { used, compiled, context }: RuleFacts): (item: CourseItem) => boolean {
  const { scope } = rule
  if (scope === 'overall') return () => true
  if (scope !== 'program') {
    return (item) => {
      const course = context.courses.get(item.course)
      return course !== undefined && matchesFilter(course, scope)
    }
  }
  const usedIds = new Set(used.map(item => item.id))
  const usedCourses = new Set(used.flatMap(item => sameCourse(item.course, context.courses)))
  return item => usedIds.has(item.id) || usedCourses.has(item.course) || failsALine(item, compiled, context)
}

/** An attempt that a line names and that was not good enough for it: part of the program's average, whether it is repeated or not. */
export const failsALine = (item: CourseItem, compiled: readonly CompiledLine[], context: CompileContext): boolean =>
  item.state === 'completed' && compiled.some((target) => {
    const course = context.courses.get(item.course)
    return course && namesCourses(target.line) && acceptsCourse(course, target, context)
      && !gradeSuffices(item, target.line, context.scale)
  })

/** A line that says which courses it wants, and is not for free electives. */
const namesCourses = ({ filter: { list, subjects, attributes } }: CourseLine) => Boolean(list ?? subjects ?? attributes)

function readMilestone(rule: Extract<ProgramRule, { kind: 'milestone' }>, { milestones }: RuleFacts): RuleReport {
  const done = milestones.includes(rule.id)
  return { id: rule.id, title: rule.title, state: done ? 'met' : 'open', reading: { kind: 'milestone', words: rule.words } }
}
