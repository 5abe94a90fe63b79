import { familyOf, linked } from '../catalog/linked'
import { termOrder } from '../catalog/terms'
import type { Course, CourseCode, CourseItem, Credits } from '../catalog/types'
import { earnsCredit, type GradeScale } from '../grades/scale'

/** Which of several graded attempts at a course stand. */
export type RepeatPolicy = 'best' | 'latest'

/** What an institution says about credit: its courses, its grades, and which attempt stands. */
export interface RecordRules {
  courses: ReadonlyMap<CourseCode, Course>
  scale: GradeScale
  repeatPolicy: RepeatPolicy
}

/** States from firm to loose; registered and planned courses are weighed in this order. */
export const TIERS = { 'completed': 0, 'under way': 1, 'registered': 2, 'picked': 3, 'planned': 3 } as const

/** Passed: completed with a grade that earns credit. Whether it is earned again is another matter: see `readCredit`. */
export const isPassed = (item: Pick<CourseItem, 'state' | 'grade'>, scale: GradeScale): boolean =>
  item.state === 'completed' && earnsCredit(scale, item.grade)

/**
 * The grade that is compared with a minimum and with other attempts: the one earned elsewhere where it is on file, else the one on the
 * record.
 */
export const comparedGrade = ({ grade, earnedGrade }: Pick<CourseItem, 'grade' | 'earnedGrade'>): string | null => earnedGrade || grade

/** What an attempt is worth beside others, in hundredths of a grade point; -1 without a grade that earns credit. */
export const gradeValue = (item: Pick<CourseItem, 'grade' | 'earnedGrade'>, scale: GradeScale): number =>
  scale[comparedGrade(item) ?? '']?.standsFor ?? -1

/** Where every credit of a student comes from. */
export interface CreditReading {
  /** Items that give credit, or will when they are passed: each credit once, firmest first, then in order of term. */
  earning: CourseItem[]
  /** Passed courses without credit, because a course that excludes them was passed as well. */
  rivals: CourseItem[]
  /** Ids of attempts that another attempt at the course replaced, by the policy or because credit is given only so often. */
  replaced: ReadonlySet<string>
  /** What is intended and gives no credit: repeats of what gives all its credit, and courses that something excludes. */
  idle: CourseItem[]
}

const readings = new WeakMap<readonly CourseItem[], { rules: RecordRules, reading: CreditReading }>()

/**
 * Settles which attempts and intentions give credit: each credit is earned once.
 * - A course and its equivalents give credit as often as the most repeatable of them, each no more often than it says itself.
 *   Of passed attempts beyond that the institution's policy keeps the best or the latest; a failed attempt takes no credit away.
 *   The same topic of a course is a repeat, another topic is not.
 * - Of courses that exclude each other the one passed first keeps the credit (common practice, no source);
 *   of two passed in one term the better grade, then the larger course.
 * - What is intended earns only what is left, in order of firmness and term.
 * Audit, average, standing, prerequisites, checks and registration all read this.
 */
export function readCredit(items: readonly CourseItem[], rules: RecordRules): CreditReading {
  const before = readings.get(items)
  if (before && sameRules(before.rules, rules)) return before.reading
  const reading = settle(items, rules)
  readings.set(items, { rules, reading })
  return reading
}

const sameRules = (a: RecordRules, b: RecordRules) =>
  linked(a.courses) === linked(b.courses) && a.scale === b.scale && a.repeatPolicy === b.repeatPolicy

function settle(items: readonly CourseItem[], rules: RecordRules): CreditReading {
  const { scale } = rules
  const courses = linked(rules.courses)
  const completed = items.filter(item => item.state === 'completed')
  const { kept, replaced: repeated } = keepAttempts(completed, rules, item => isPassed(item, scale))
  const graded = keepAttempts(completed, rules, item => isPassed(item, scale) || (scale[item.grade ?? '']?.inGpa ?? false))
  const replaced = new Set([...repeated, ...completed.flatMap(item =>
    !isPassed(item, scale) && graded.replaced.has(item.id) ? [item.id] : [])])
  const earning: CourseItem[] = []
  const rivals: CourseItem[] = []
  const holders = new Set<CourseCode>()
  const room = new Room(courses)
  const earn = (item: CourseItem) => {
    earning.push(item)
    holders.add(item.course)
    room.take(item)
  }
  const isExcluded = (code: CourseCode) => courses.get(code)?.exclusions.some(other => holders.has(other)) ?? false
  for (const item of kept.sort((a, b) => firstPassed(a, b, scale))) {
    if (isExcluded(item.course)) rivals.push(item)
    else earn(item)
  }
  const idle: CourseItem[] = []
  for (const item of items.filter(one => one.state !== 'completed').sort(byFirmness)) {
    if (room.has(item) && !isExcluded(item.course)) earn(item)
    else idle.push(item)
  }
  return { earning: earning.sort(byFirmness), rivals, replaced, idle }
}

/** Attempts without a term, from elsewhere or by examination, come before the first term here. */
const when = (item: CourseItem) => item.term ? termOrder(item.term) : 0

/**
 * The order in which attempts were made: by term, then by the instant of the grade. 0 where the record does not tell which came first:
 * then the better grade stands, and the order of rows decides nothing.
 */
const byTime = (a: CourseItem, b: CourseItem): number => when(a) - when(b) || byCode(a.gradedAt ?? '', b.gradedAt ?? '')
const byCode = (a: string, b: string) => a < b ? -1 : a > b ? 1 : 0

/** Firmest first, then in order of term; the rest only makes the order the same whatever the rows' order is. */
export const byFirmness = (a: CourseItem, b: CourseItem): number =>
  TIERS[a.state] - TIERS[b.state] || when(a) - when(b) || byCode(a.course, b.course) || byCode(a.id, b.id)

function firstPassed(a: CourseItem, b: CourseItem, scale: GradeScale): number {
  const worth = (item: CourseItem) => gradeValue(item, scale)
  return byTime(a, b) || worth(b) - worth(a) || b.credits - a.credits || byCode(a.course, b.course) || byCode(a.id, b.id)
}

/** How often the courses of a family may still be taken: the family as often as its most repeatable course, each as often as it says. */
class Room {
  private readonly taken = new Map<CourseCode, number>()
  private readonly takenInFamily = new Map<CourseCode, number>()
  private readonly credits = new Map<CourseCode, Credits>()
  private readonly topics = new Set<string>()
  constructor(private readonly courses: ReadonlyMap<CourseCode, Course>) {}

  has({ course: code, credits, topic }: CourseItem): boolean {
    if (topic && this.topics.has(this.nameOf(code, topic))) return false
    const most = this.courses.get(code)?.repeatCredits
    return (this.taken.get(code) ?? 0) < this.limit(code)
      && (this.takenInFamily.get(familyOf(code, this.courses)) ?? 0) < timesFor(code, this.courses)
      && (most === undefined || most === null || (this.credits.get(code) ?? 0) + credits <= most)
  }

  take({ course: code, credits, topic }: CourseItem) {
    if (topic) this.topics.add(this.nameOf(code, topic))
    this.credits.set(code, (this.credits.get(code) ?? 0) + credits)
    const family = familyOf(code, this.courses)
    this.taken.set(code, (this.taken.get(code) ?? 0) + 1)
    this.takenInFamily.set(family, (this.takenInFamily.get(family) ?? 0) + 1)
  }

  private nameOf = (code: CourseCode, topic: string) => `${familyOf(code, this.courses)} ${topic}`
  private limit = (code: CourseCode) => this.courses.get(code)?.repeatLimit ?? 1
}

/** How often a course and its equivalents give credit together: as often as the most repeatable of them. */
export function timesFor(code: CourseCode, courses: ReadonlyMap<CourseCode, Course>): number {
  const course = linked(courses).get(code)
  if (!course) return 1
  return Math.max(course.repeatLimit, ...course.equivalents.map(other => courses.get(other)?.repeatLimit ?? 1))
}

/** Of attempts that count, those that stand by the policy, as many as the course may be repeated, and the ids of the others. */
function keepAttempts(attempts: readonly CourseItem[], { courses, scale, repeatPolicy }: RecordRules,
  counts: (item: CourseItem) => boolean) {
  const better = (a: CourseItem, b: CourseItem) => gradeValue(b, scale) - gradeValue(a, scale)
  const order = attempts.filter(counts).sort((a, b) =>
    (repeatPolicy === 'best' ? better(a, b) : 0) || byTime(b, a) || better(a, b) || byCode(a.course, b.course) || byCode(a.id, b.id),
  )
  const room = new Room(linked(courses))
  const kept: CourseItem[] = []
  const replaced = new Set<string>()
  for (const item of order) {
    if (room.has(item)) {
      room.take(item)
      kept.push(item)
    }
    else replaced.add(item.id)
  }
  return { kept, replaced }
}

/**
 * The attempts behind a grade point average: taken here, with a grade that counts in it. A repeat takes an earlier attempt out by the
 * institution's policy; a transferred or pass/fail repeat, or a course that excludes another, takes nothing out.
 */
export function averagedAttempts(items: readonly CourseItem[], rules: RecordRules): CourseItem[] {
  const graded = items.filter(item => item.state === 'completed' && item.source === 'here')
  return keepAttempts(graded, rules, item => rules.scale[item.grade ?? '']?.inGpa ?? false).kept
}

/** Credits earned: what is passed, each credit once. */
export function earnedCredits(items: readonly CourseItem[], rules: RecordRules): Credits {
  return readCredit(items, rules).earning.reduce((sum, item) => sum + (item.state === 'completed' ? item.credits : 0), 0)
}
