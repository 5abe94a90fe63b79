import { sameCourse } from '../catalog/linked'
import { isOffered, termOrder, termPhase } from '../catalog/terms'
import type { CourseItem, LocalDate, Term, TermCode } from '../catalog/types'
import { evaluate, readCourseRules, restsOn } from '../prerequisites/evaluate'
import type { Expression } from '../prerequisites/types'
import { factsOf } from '../record/facts'
import { type Activity, chainTo, criticalPath, type Dependency } from './critical-path'
import type { Catalog, StudentFile } from './student-file'

/** Where one planned course can stand without moving the finish. */
interface CourseWindow {
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
  file: StudentFile
  items: readonly CourseItem[]
  catalog: Catalog
  today: LocalDate
}

/**
 * Earliest and latest term of every planned course, from prerequisites, corequisites and offering patterns; loads are not looked at,
 * but credits and class standing that a rule asks for come no sooner than the plan brings them.
 * A pinned, picked or registered course stays where it is. Courses that ask for each other move as one.
 */
export function projectPlan(input: ProjectionInput): Projection {
  const { file, catalog } = input
  const terms = catalog.terms.filter(term => termPhase(term, input.today) === 'future').sort((a, b) =>
    termOrder(a.code) - termOrder(b.code),
  )
  const slotOf = new Map(terms.map((term, slot) => [term.code, slot]))
  const planned = input.items.filter(item => item.state !== 'completed' && item.state !== 'under way' && item.term && slotOf.has(item.term))
  if (planned.length === 0) return { finish: null, soonest: null, chain: [], windows: {} }
  const needs = planned.map(item => needsOf(item, planned, terms, input))
  const raw = needs.flatMap(need => need.dependencies)
  const partners = joinPartners(planned.map(item => item.id), raw)
  const activities = [...new Set(partners.values())].map((lead): Activity => {
    const members = planned.filter(item => partners.get(item.id) === lead)
    const held = members.find(item => item.state !== 'planned' || file.entries.find(entry => entry.id === item.id)?.pinned)
    const from = Math.max(...members.map(item => needs[planned.indexOf(item)]!.from))
    const slots = terms.flatMap((term, slot) =>
      slot >= from && members.every(item => isOffered(catalog.courses.get(item.course)!, term)) ? [slot] : [],
    )
    return { id: lead, slots, ...(held ? { fixed: slotOf.get(held.term!)! } : {}) }
  })
  const dependencies = raw.map(({ before, after, lag }) => ({ before: partners.get(before)!, after: partners.get(after)!, lag })).filter((
    { before, after },
  ) => before !== after)
  const end = Math.max(...planned.map(item => slotOf.get(item.term!)!))
  const windows = criticalPath(activities, dependencies, end)
  const last = activities.reduce((best, { id }) => (windows.get(id)!.earliest ?? -1) > (windows.get(best)!.earliest ?? -1) ? id : best,
    activities[0]!.id)
  const code = (slot: number | null) => slot === null ? null : terms[slot]!.code
  return {
    finish: terms[end]!.code,
    soonest: code(windows.get(last)!.earliest),
    chain: chainTo(last, windows),
    windows: Object.fromEntries(planned.map((item) => {
      const { earliest, latest } = windows.get(partners.get(item.id)!)!
      const fits = earliest === null || latest === null
        ? []
        : activities.find(({ id }) => id === partners.get(item.id))!.slots.filter(slot => slot >= earliest && slot <= latest)
      const here = slotOf.get(item.term!)!
      return [item.id, { earliest: code(earliest), latest: code(latest), terms: fits.map(slot => terms[slot]!.code),
        slack: fits.filter(slot => slot > here).length }]
    })),
  }
}

/** What one planned course waits for: other planned courses, and the first slot in which credits and standing are there. */
interface Needs {
  dependencies: Dependency[]
  from: number
}

function needsOf(item: CourseItem, planned: readonly CourseItem[], terms: readonly Term[],
  { file, items, catalog }: ProjectionInput): Needs {
  const needs: Needs = { dependencies: [], from: 0 }
  const course = catalog.courses.get(item.course)
  if (!course) return needs
  const { before, beside } = readCourseRules(course, item.term!, factsOf(file, items), catalog)
  for (const [rule, corequisite] of [[before, false], [beside, true]] as const) {
    if (!rule || rule.firmness === 'unmet') continue
    for (const { expression } of restsOn(rule.reason)) {
      if (expression.kind === 'course') {
        const accepted = sameCourse(expression.course, catalog.courses)
        const lag = corequisite || expression.alongside ? 0 : 1
        const first = planned.find(other =>
          other.id !== item.id && accepted.includes(other.course) && termOrder(other.term!) + lag <= termOrder(item.term!),
        )
        if (first) needs.dependencies.push({ before: first.id, after: item.id, lag })
      }
      else needs.from = Math.max(needs.from, firstSlotWith(expression, item, terms, { file, items, catalog }))
    }
  }
  return needs
}

/**
 * The first slot in which a condition that is no course holds, with everything else where it stands; 0 for what does not depend on the
 * term.
 */
function firstSlotWith(expression: Expression, item: CourseItem, terms: readonly Term[],
  { file, items, catalog }: Omit<ProjectionInput, 'today'>): number {
  const others = items.filter(other => other.id !== item.id)
  const facts = factsOf(file, others)
  const slot = terms.findIndex(term => evaluate(expression, term.code, facts, { ...catalog, course: item.course })?.firmness !== 'unmet')
  return Math.max(0, slot)
}

/** Courses that ask for each other, each beside the other, stand in one term: every item under the name of the first of them. */
function joinPartners(ids: readonly string[], dependencies: readonly Dependency[]): Map<string, string> {
  const beside = dependencies.filter(({ lag }) => lag === 0)
  const reach = (from: string): Set<string> => {
    const seen = new Set([from])
    for (const id of seen) for (const { before, after } of beside) if (before === id) seen.add(after)
    return seen
  }
  const reached = new Map(ids.map(id => [id, reach(id)]))
  return new Map(ids.map(id => [id, ids.find(other => reached.get(id)!.has(other) && reached.get(other)!.has(id))!]))
}
