import { isOffered, termOrder, termPhase } from '../catalog/terms'
import type { Course, CourseItem, LocalDate, Term, TermCode } from '../catalog/types'
import type { GradeScale } from '../grades/scale'
import { evaluate, type Reason } from '../prerequisites/evaluate'
import { ruleOf } from '../prerequisites/rule-of'
import type { StudentFacts } from '../record/facts'
import { type Activity, chainTo, criticalPath, type Dependency } from './critical-path'
import type { PlanEntry } from './plan'

/** Where one planned course can stand without moving the finish. */
export interface CourseWindow {
  earliest: TermCode | null
  latest: TermCode | null
  /** Terms between the two in which it is offered. */
  terms: TermCode[]
  /** How many of them lie after the term it stands in: the terms it can slide. */
  slack: number
}

export interface Projection {
  /** The last term of the plan; null when nothing is planned. */
  finish: TermCode | null
  /** The first term in which the last course of the plan could stand, if all were taken as early as they can. */
  soonest: TermCode | null
  /** Ids of the courses that decide `soonest`, first to last. */
  chain: string[]
  /** By item id. */
  windows: Record<string, CourseWindow>
}

export interface ProjectionInput {
  items: readonly CourseItem[]
  entries: readonly PlanEntry[]
  facts: Omit<StudentFacts, 'items'>
  courses: ReadonlyMap<string, Course>
  terms: readonly Term[]
  scale: GradeScale
  today: LocalDate
}

/**
 * Earliest and latest term of every planned course, from prerequisites and offering patterns; loads are not looked at.
 * A pinned, picked or registered course stays where it is. Corequisite partners move as one.
 */
export function projectPlan(input: ProjectionInput): Projection {
  const terms = input.terms.filter(term => termPhase(term, input.today) === 'future').sort((a, b) => termOrder(a.code) - termOrder(b.code))
  const slotOf = new Map(terms.map((term, slot) => [term.code, slot]))
  const planned = input.items.filter(item => item.state !== 'completed' && item.state !== 'under way' && item.term && slotOf.has(item.term))
  if (planned.length === 0) return { finish: null, soonest: null, chain: [], windows: {} }
  const partners = findPartners(planned, input.courses)
  const activities = [...new Set(partners.values())].map((lead): Activity => {
    const members = planned.filter(item => partners.get(item.id) === lead)
    const held = members.find(item => item.state !== 'planned' || input.entries.find(entry => entry.id === item.id)?.pinned)
    const slots = terms.flatMap((term, slot) => members.every(item => isOffered(input.courses.get(item.course)!, term)) ? [slot] : [])
    return { id: lead, slots, ...(held ? { fixed: slotOf.get(held.term!)! } : {}) }
  })
  const dependencies = planned.flatMap(item => dependenciesOf(item, planned, input))
    .map(({ before, after, lag }) => ({ before: partners.get(before)!, after: partners.get(after)!, lag })).filter(({ before, after }) => before !== after)
  const end = Math.max(...planned.map(item => slotOf.get(item.term!)!))
  const windows = criticalPath(activities, dependencies, end)
  const last = activities.reduce((best, { id }) => (windows.get(id)!.earliest ?? -1) > (windows.get(best)!.earliest ?? -1) ? id : best, activities[0]!.id)
  const code = (slot: number | null) => slot === null ? null : terms[slot]!.code
  return {
    finish: terms[end]!.code, soonest: code(windows.get(last)!.earliest), chain: chainTo(last, windows),
    windows: Object.fromEntries(planned.map((item) => {
      const { earliest, latest } = windows.get(partners.get(item.id)!)!
      const fits = earliest === null || latest === null ? [] : activities.find(({ id }) => id === partners.get(item.id))!.slots.filter(slot => slot >= earliest && slot <= latest)
      const here = slotOf.get(item.term!)!
      return [item.id, { earliest: code(earliest), latest: code(latest), terms: fits.map(slot => terms[slot]!.code), slack: fits.filter(slot => slot > here).length }]
    })),
  }
}

/** Courses that ask for each other, in one term: each item under the name of the first of them. */
function findPartners(planned: readonly CourseItem[], courses: ReadonlyMap<string, Course>): Map<string, string> {
  const names = (item: CourseItem, other: CourseItem) => courses.get(item.course)?.corequisite.includes(other.course) ?? false
  const partners = new Map<string, string>()
  for (const item of planned) {
    const lead = planned.find(other => partners.has(other.id) && other.term === item.term && names(item, other) && names(other, item))
    partners.set(item.id, lead ? partners.get(lead.id)! : item.id)
  }
  return partners
}

/** Which planned courses this one waits for, by the parts of its rule that hold because of them. */
function dependenciesOf(item: CourseItem, planned: readonly CourseItem[], { items, facts, courses, scale }: ProjectionInput): Dependency[] {
  const course = courses.get(item.course)
  if (!course) return []
  const found = evaluate(ruleOf(course.prerequisite), item.term!, { ...facts, items }, { courses, scale, course: course.code })
  return found && found.firmness !== 'unmet'
    ? leavesUsed(found.reason).flatMap((leaf): Dependency[] => {
        if (leaf.expression.kind !== 'course') return []
        const accepted = [leaf.expression.course, ...courses.get(leaf.expression.course)?.equivalents ?? []]
        const lag = leaf.expression.alongside ? 0 : 1
        const before = planned.find(other => accepted.includes(other.course) && termOrder(other.term!) + lag <= termOrder(item.term!))
        return before ? [{ before: before.id, after: item.id, lag }] : []
      })
    : []
}

const FIRM = ['passed', 'if passed', 'if planned', 'unmet']

/** The conditions on which a rule that holds rests: of alternatives, the firmest that suffice. */
function leavesUsed(reason: Reason): Reason[] {
  if (reason.firmness === 'passed') return []
  if (reason.parts.length === 0) return [reason]
  const { expression } = reason
  const n = expression.kind === 'any' ? 1 : expression.kind === 'atLeast' ? expression.n : reason.parts.length
  return [...reason.parts].sort((a, b) => FIRM.indexOf(a.firmness) - FIRM.indexOf(b.firmness)).slice(0, n).flatMap(leavesUsed)
}
