import { linked } from '../catalog/linked'
import { termOrder } from '../catalog/terms'
import type { CourseCode, CourseItem, Credits, Deadlines, LocalDate, Term } from '../catalog/types'
import type { StudentFile } from '../planning/student-file'
import { readCourseRules } from '../prerequisites/evaluate'
import type { RecordRules } from '../record/attempts'
import { factsOf } from '../record/facts'

/** What giving up registered courses of a term comes to. */
export interface Leaving {
  /**
   * `drop` leaves no trace on the record, `withdraw` leaves a W for one of them at least; `closed` when the last day for both is over for
   * one of them.
   */
  kind: 'drop' | 'withdraw' | 'closed'
  /** The last day on which it is that; null when it is closed. */
  until: LocalDate | null
  credits: { before: Credits, after: Credits }
  fullTime: { before: boolean, after: boolean }
  /** Courses that stay registered and ask for one of them: they could not have been registered without it. */
  alone: CourseCode[]
  /** Courses planned for later whose rules hold no more. */
  planned: CourseCode[]
  /** Whether the advisor's sign-off of the term has one of them. */
  signedOff: boolean
  /** Those that leave a W. */
  withdrawn: CourseCode[]
  /** Nothing of the term stays registered. */
  everything: boolean
}

/** How a registered course can be left on a date, by the deadlines of its session (common practice, no source). */
export function leavingKind({ dropBy, withdrawBy }: Pick<Deadlines, 'dropBy' | 'withdrawBy'>, date: LocalDate): Pick<Leaving, 'kind'
  | 'until'> {
  if (date <= dropBy) return { kind: 'drop', until: dropBy }
  return date <= withdrawBy ? { kind: 'withdraw', until: withdrawBy } : { kind: 'closed', until: null }
}

/** The grade that a withdrawal leaves on the record; it earns nothing and counts in no average (common practice, no source). */
export const WITHDRAWN = 'W'

/**
 * What it comes to when a student gives up registered courses of a term: all that the page tells before, and what the server refuses by.
 * Rules are read as they stand with the courses and without; what did not hold before is no consequence.
 */
export function readLeaving(courses: readonly CourseCode[], { term, date, file, rules, instead = [], deadlines = () => term }: {
  term: Term
  date: LocalDate
  file: Pick<StudentFile, 'record' | 'entries' | 'signedOff'> & Parameters<typeof factsOf>[0]
  rules: RecordRules
  /** What is registered in the same move. */
  instead?: readonly CourseItem[]
  /** The last days of a registered course: those of its session. */
  deadlines?: (course: CourseCode) => Deadlines
}): Leaving {
  const kinds = courses.map(course => ({ course, ...leavingKind(deadlines(course), date) }))
  const worst = kinds.find(one => one.kind === 'closed') ?? kinds.find(one => one.kind === 'withdraw') ?? kinds[0]
    ?? leavingKind(term, date)
  const goes = (item: Pick<CourseItem, 'course' | 'term' | 'state'>) =>
    item.term === term.code && item.state === 'registered' && courses.includes(item.course)
  const left = [...file.record.filter(item => !goes(item)), ...instead]
  const inTerm = (items: readonly CourseItem[]) => items.filter(item => item.term === term.code && item.state !== 'completed')
  const sum = (items: readonly CourseItem[]) => items.reduce((total, item) => total + item.credits, 0)
  const credits = { before: sum(inTerm(file.record)), after: sum(inTerm(left)) }
  const all = linked(rules.courses)
  const holds = (code: CourseCode, when: string, items: readonly CourseItem[]) => {
    const course = all.get(code)
    if (!course) return true
    const { before, beside } = readCourseRules(course, when, factsOf(file, [...items]), { ...rules, courses: all })
    return before?.firmness !== 'unmet' && beside?.firmness !== 'unmet'
  }
  const broken = (code: CourseCode, when: string, before: readonly CourseItem[], after: readonly CourseItem[]) =>
    holds(code, when, before) && !holds(code, when, after)
  // A dropped course may stand in the plan of its term: it is not taken then, so that it helps nobody.
  const planned = file.entries.filter(entry => !(entry.term === term.code && courses.includes(entry.course)))
  const asItem = (entry: StudentFile['entries'][number]): CourseItem => ({ id: entry.id, course: entry.course, term: entry.term,
    credits: entry.credits, grade: null, state: 'planned', source: 'here' })
  const later = planned.filter(entry => termOrder(entry.term) > termOrder(term.code))
  const withPlan = (items: readonly CourseItem[]) => [...items, ...planned.filter(entry => termOrder(entry.term) >= termOrder(term.code))
    .map(asItem)]
  return {
    kind: worst.kind,
    until: worst.until,
    credits,
    fullTime: { before: credits.before >= term.fullTime, after: credits.after >= term.fullTime },
    alone: inTerm(left).filter(item => item.state === 'registered' && !instead.includes(item)
      && broken(item.course, term.code, file.record, left)).map(item => item.course),
    planned: [...new Set(later.filter(entry => broken(entry.course, entry.term, withPlan(file.record), withPlan(left)))
      .map(entry => entry.course))],
    signedOff: file.signedOff.some(one => one.term === term.code && one.copy.some(entry => courses.includes(entry.course))),
    withdrawn: kinds.filter(one => one.kind === 'withdraw').map(one => one.course),
    everything: courses.length > 0 && !left.some(item => item.term === term.code && item.state === 'registered'),
  }
}
