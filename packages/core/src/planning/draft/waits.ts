import { sameCourse } from '../../catalog/linked'
import { termOrder } from '../../catalog/terms'
import type { Course, CourseItem, Credits } from '../../catalog/types'
import { classStanding, creditsToOutgrow, STANDING_CREDITS } from '../../grades/status'
import { apartByCourse, closedFrom, countsFor } from '../../prerequisites/evaluate'
import type { Closed, Expression } from '../../prerequisites/types'
import { readCredit } from '../../record/attempts'
import { gradeSuffices } from '../../requirements/compile'
import type { DraftFacts, Task, Wait } from './types'

export const NOW: Wait = { kind: 'from', slot: -1 }
const NEVER: Wait = { kind: 'from', slot: Infinity }

/** The first slot in which a wait is over, with tasks where `slotOf` says; a task without a slot is never there. */
export function overFrom(wait: Wait, slotOf: (task: number) => number | undefined): number {
  switch (wait.kind) {
    case 'from':
      return wait.slot
    case 'task':
      return (slotOf(wait.task) ?? Infinity) + wait.lag
    case 'some': {
      if (wait.n === 0) return -1
      if (wait.n === 1) return wait.of.reduce((least, part) => Math.min(least, overFrom(part, slotOf)), Infinity)
      if (wait.n === wait.of.length) return wait.of.reduce((most, part) => Math.max(most, overFrom(part, slotOf)), -1)
      return wait.of.map(part => overFrom(part, slotOf)).sort((a, b) => a - b)[wait.n - 1] ?? Infinity
    }
    case 'credits': {
      let lacking = wait.lacking
      if (lacking <= 0 || wait.others) return -1
      const taken = [...wait.fixed, ...wait.tasks.flatMap(({ task, credits }) => {
        const slot = slotOf(task)
        return slot === undefined ? [] : [{ slot, credits }]
      })].sort((a, b) => a.slot - b.slot)
      for (const { slot, credits } of taken) {
        lacking -= credits
        if (lacking <= 0) return slot + 1
      }
      return Infinity
    }
  }
}

/**
 * Translates rules for a list of tasks. `outside` tells when a course that is not among them could come at the earliest; null when there
 * are no others.
 */
export function waitReader(facts: DraftFacts, tasks: readonly Task[], fixed: readonly CourseItem[],
  outside: ((course: string) => number) | null) {
  const slotOfTerm = new Map(facts.terms.map((term, slot) => [term.code, slot]))
  const firstSlot = (item: CourseItem) => item.term === null ? -1 : slotOfTerm.get(item.term) ?? -1
  const credit = readCredit(fixed, facts)

  function read(rule: Expression | null, course: Course, corequisite: boolean): Wait {
    if (!rule) return NOW
    switch (rule.kind) {
      case 'course':
        return readCourse(rule, corequisite)
      case 'credits':
        return readCredits(rule.credits, course => countsFor(rule, course))
      case 'standing':
        return readCredits(STANDING_CREDITS[rule.standing], () => true)
      case 'placement':
        return (facts.placements[rule.test] ?? -1) >= rule.score ? NOW : NEVER
      case 'program':
        return facts.programs.includes(rule.program) ? NOW : NEVER
      // Grades to come decide an average; a draft takes it as it will be asked then.
      case 'gpa':
        return NOW
      case 'not':
        return readOpen(rule.condition)
      case 'permission':
        return facts.permissions.includes(course.code) ? NOW : NEVER
      case 'all':
        return { kind: 'some', n: rule.of.length, of: rule.of.map(part => read(part, course, corequisite)) }
      case 'any':
        return { kind: 'some', n: 1, of: rule.of.map(part => read(part, course, corequisite)) }
      case 'atLeast':
        return { kind: 'some', n: rule.n, of: apartByCourse(rule.of, facts.courses).map(part => read(part, course, corequisite)) }
    }
  }

  /**
   * From when on a course is open. A standing that is not reached yet, or a course that is registered for a later term, closes it only
   * afterwards: a wait cannot say that, so the whole check of a draft does.
   */
  function readOpen(condition: Closed): Wait {
    if (condition.kind === 'program') return facts.programs.includes(condition.program) ? NEVER : NOW
    if (condition.kind === 'course') {
      const from = closedFrom(condition, { items: fixed }, facts)
      return from !== null && (facts.terms.length === 0 || from <= termOrder(facts.terms[0]!.code)) ? NEVER : NOW
    }
    const have = credit.earning.reduce((sum, item) => firstSlot(item) < 0 ? sum + item.credits : sum, 0)
    if (classStanding(have) !== condition.standing) return NOW
    const credits = creditsToOutgrow(condition.standing)
    return credits === null ? NEVER : readCredits(credits, () => true)
  }

  function readCourse(rule: Extract<Expression, { kind: 'course' }>, corequisite: boolean): Wait {
    const lag = rule.alongside || corequisite ? 0 : 1
    const accepted = sameCourse(rule.course, facts.courses)
    const had = fixed.filter(item =>
      accepted.includes(item.course) && !credit.replaced.has(item.id) && gradeSuffices(item, rule, facts.scale),
    )
    const ways: Wait[] = had.map(item => ({ kind: 'from',
      slot: item.state === 'completed' || firstSlot(item) < 0 ? -1 : firstSlot(item) + lag }),
    )
    tasks.forEach((task, index) => {
      if (task.courses.some(one => accepted.includes(one.code))) ways.push({ kind: 'task', task: index, lag })
    })
    if (ways.length === 0) {
      const slot = outside ? Math.min(...accepted.map(outside)) : Infinity
      return { kind: 'from', slot: slot + lag }
    }
    return ways.length === 1 ? ways[0]! : { kind: 'some', n: 1, of: ways }
  }

  function readCredits(credits: Credits, counts: (course: Course | undefined) => boolean): Wait {
    const mine = credit.earning.filter(item => counts(facts.courses.get(item.course)))
    const have = mine.reduce((sum, item) => firstSlot(item) < 0 ? sum + item.credits : sum, 0)
    return {
      kind: 'credits',
      lacking: credits - have,
      others: outside !== null,
      fixed: mine.flatMap(item => firstSlot(item) < 0 ? [] : [{ slot: firstSlot(item), credits: item.credits }]),
      tasks: tasks.flatMap((task, index) => {
        const mine = task.courses.reduce((sum, one) => sum + (counts(facts.courses.get(one.code)) ? one.credits : 0), 0)
        return mine > 0 ? [{ task: index, credits: mine }] : []
      }),
    }
  }
  return read
}
