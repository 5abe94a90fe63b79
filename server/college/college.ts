import type { AdvisingPolicy } from '@ridgeway/core/advising'
import type { Course, Instant, LocalDate, Site, Term, TravelTime } from '@ridgeway/core/catalog'
import type { Catalog } from '@ridgeway/core/planning'
import { type CatalogProblem, checkCatalog } from '@ridgeway/core/prerequisites'
import type { MoneyPolicy } from '@ridgeway/core/money'
import type { OpeningRule } from '@ridgeway/core/registration'
import type { Program } from '@ridgeway/core/requirements'
import { fromInstant } from '@ridgeway/core/weeks'
import type { Executor } from '../db/database'
import { type CollegeStamp, readCollegeRows } from '../db/store/college'
import { Refusal } from './refusal'
import { KeptSections } from './sections'

export interface College {
  /** What tells whether this is still how it is. */
  stamp: number
  name: string
  zone: string
  money: MoneyPolicy
  /** How sign-off and exceptions are handled. */
  advising: AdvisingPolicy
  termsText: string
  /** Hours for which a seat is offered. */
  offerHours: number
  sites: Site[]
  travel: TravelTime[]
  openings: (OpeningRule & { term: string })[]
  programs: Map<string, Program>
  catalog: Catalog & { courses: Map<string, Course>, terms: Term[] }
  sections: KeptSections
  /** What no student can get past in the rules of the courses. */
  problems: CatalogProblem[]
}

/** The college's slowly changing data: kept by each server, and read again when its stamp in the database has moved on. */
export class KeptCollege {
  private kept: { stamp: number, college: Promise<College> } | null = null

  at(db: Executor, stamp: number): Promise<College> {
    if (this.kept?.stamp === stamp) return this.kept.college
    const college = readCollege(db, stamp)
    const kept = { stamp, college }
    this.kept = kept
    college.catch(() => {
      if (this.kept === kept) this.kept = null
    })
    return college
  }
}

async function readCollege(db: Executor, stamp: number): Promise<College> {
  const { institution, sites, travel, terms, sessions, openings, courses, programs } = await readCollegeRows(db)
  if (!institution)
    throw new Refusal(503, 'no-college', 'This Ridgeway holds no college yet.',
      'Whoever runs it puts one into the database; then reload this page.')
  const { name, zone, money, advising, termsText, gradeScale, repeatPolicy, offerHours } = institution
  const byCode = new Map(courses.map(course => [course.code, course]))
  return {
    stamp, sections: new KeptSections(), name, zone, money, advising, termsText, offerHours, sites, travel,
    problems: checkCatalog(byCode, gradeScale),
    openings: openings.map(({ id: _, ...rule }) => rule),
    programs: new Map(programs.map(program => [program.id, program.body])),
    catalog: {
      courses: byCode,
      programs: programs.map(program => program.body),
      terms: terms.map(({ sectionsVersion: _, ...term }) => ({ ...term,
        sessions: sessions.filter(session => session.term === term.code).map(({ term: _, ...session }) => session) }),
      ).sort((a, b) => a.start.localeCompare(b.start)),
      scale: gradeScale,
      repeatPolicy,
      programsPolicy: advising.programs ?? 'in order',
    },
  }
}

/**
 * The instant of a moment of this machine's clock, in milliseconds, now if none is said: that one, or in a demonstration the demo clock's,
 * which runs on from where it was set.
 */
export function presentInstant({ demoNow, setAt }: CollegeStamp, moment = Date.now()): Instant {
  if (process.env.RIDGEWAY_DEMO !== '1' || !demoNow || !setAt) return new Date(moment).toISOString()
  return new Date(Date.parse(demoNow) + moment - Date.parse(setAt)).toISOString()
}

let lastDate = { minute: '', zone: '', date: '' }
/** The date of an instant in a zone; within one minute it is the same. */
export function dateIn(at: Instant, zone: string): LocalDate {
  const minute = at.slice(0, 16)
  if (lastDate.minute !== minute || lastDate.zone !== zone) lastDate = { minute, zone, date: fromInstant(at, zone).date }
  return lastDate.date
}

export function findTerm(college: College, code: string): Term {
  const term = college.catalog.terms.find(candidate => candidate.code === code)
  if (!term) throw new Refusal(404, 'term-unknown', `There is no term ${code}.`, 'Choose a working term from the list.')
  return term
}

/** The student's programs in their own catalog years. */
export const programsAt = (college: College, ids: readonly string[]): Program[] => ids.flatMap(id => college.programs.get(id) ?? [])
