import type { LocalDate, Section, Term } from '@ridgeway/core/catalog'
import type { StudentFile } from '@ridgeway/core/planning'
import { decideRun, type LineUpRow, type RowDecision } from '@ridgeway/core/registration'
import { bundlesOf, distanceInWeek } from '@ridgeway/core/weeks'
import type { Given } from '../db/store/changes'
import type { Dossier } from '../db/store/dossiers'
import type { College } from './college'
import { decisionContext, gatesOf } from './student'

/** Whose registration it is, in which term and when; what is given up for it. */
export interface Instead {
  college: College
  dossier: Dossier
  file: StudentFile
  term: Term
  at: string
  date: LocalDate
  gone: readonly Pick<Given, 'course' | 'pool' | 'section'>[]
  /** Whether it waits for gates that are closed; what is only held for somebody does not. */
  asksGates?: boolean
}

/**
 * Decides on a bundle as if what is given up for it were gone. `sections` are those of its course and of all that stays registered, with
 * their seats as they are. Who keeps a section keeps the seat in it, whomever it is kept for.
 */
export function decideInstead({ college, dossier, file, term, at, date, gone, asksGates = true }: Instead, row: LineUpRow,
  sections: readonly Section[]): RowDecision {
  const courses = new Set(gone.map(one => one.course))
  const without: StudentFile = { ...file, record: file.record.filter(item =>
    !(item.term === term.code && item.state === 'registered' && courses.has(item.course))) }
  const stays = new Set(staysBeside(dossier, term.code, courses).map(one => one.section))
  const free = sections.map((section): Section => {
    const mine = gone.find(one => one.section === section.id)
    return { ...section, pools: section.pools.filter(pool => !mine || pool.id === mine.pool).map(pool => ({ ...pool,
      forGroup: mine ? null : pool.forGroup, taken: pool.taken - gone.filter(one => one.pool === pool.id).length })) }
  })
  const gates = asksGates ? gatesOf(dossier, college, term, without, at, null) : []
  const context = decisionContext(college, dossier, { file: without, gates, term, date }, free,
    free.filter(section => stays.has(section.id)))
  return decideRun([row], context)[0]!
}

/** What stays registered in a term when some courses are given up. */
export const staysBeside = ({ registered }: Pick<Dossier, 'registered'>, term: string, courses: ReadonlySet<string>) =>
  registered.filter(row => row.term === term && !courses.has(row.course))

/**
 * Another bundle for a registered course of which a section does not take place: the one that keeps most of its sections and whose hours
 * are nearest to those before, of all that fit beside the rest and have a seat. Null where there is none.
 */
export function otherBundleFor(instead: Instead, course: string, sections: readonly Section[]): RowDecision | null {
  const { college, gone } = instead
  const mine = new Set(gone.map(one => one.section))
  const before = sections.filter(section => mine.has(section.id)).flatMap(section => section.meetings)
  const offered = new Set(instead.dossier.waitlisted.filter(one => one.offerUntil !== null).map(one => one.section))
  const bundles = bundlesOf(college.catalog.courses.get(course)!, sections)
    .filter(bundle => bundle.sections.every(section => !offered.has(section.id)))
    .map(bundle => ({ bundle, kept: bundle.sections.filter(section => mine.has(section.id)).length,
      far: distanceInWeek(bundle.sections.flatMap(section => section.meetings), before) }))
    .sort((a, b) => b.kept - a.kept || a.far - b.far || (a.bundle.id < b.bundle.id ? -1 : 1))
  const credits = instead.dossier.registered.find(row => row.course === course && row.term === instead.term.code
    && row.credits > 0)?.credits
  for (const { bundle } of bundles) {
    const decision = decideInstead({ ...instead, asksGates: false }, { id: 1, course,
      sectionIds: bundle.sections.map(section => section.id),
      credits: credits ?? null }, sections)
    if (decision.outcome === 'register') return decision
  }
  return null
}
