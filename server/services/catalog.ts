import type { Course, Site, Term, TravelTime } from '@ridgeway/core/catalog'
import type { Catalog } from '@ridgeway/core/planning'
import { type CatalogProblem, checkCatalog } from '@ridgeway/core/prerequisites'
import type { OpeningRule } from '@ridgeway/core/registration'
import type { Program } from '@ridgeway/core/requirements'
import type { Database } from '../db/connect'
import { Refusal } from './errors'

export interface College {
  name: string
  zone: string
  creditPrice: number
  termsText: string
  sites: Site[]
  travel: TravelTime[]
  openings: (OpeningRule & { term: string })[]
  programs: Map<string, Program>
  catalog: Catalog & { courses: Map<string, Course>, terms: Term[] }
  /** What no student can get past in the rules of the courses. */
  problems: CatalogProblem[]
}

const loaded = new WeakMap<Database, Promise<College>>()

/** The college's slowly changing data, read once a server. */
export function loadCollege(db: Database): Promise<College> {
  const known = loaded.get(db)
  if (known) return known
  const reading = readCollege(db).catch((problem: unknown) => {
    loaded.delete(db)
    throw problem
  })
  loaded.set(db, reading)
  return reading
}

/** After a change of the catalog: the next reader reads it afresh. */
export function forgetCollege(db: Database): void {
  loaded.delete(db)
}

async function readCollege(db: Database): Promise<College> {
  const [institution, sites, travel, terms, sessions, openings, courses, programs] = await Promise.all([
    db.query.institution.findFirst(),
    db.query.sites.findMany(),
    db.query.siteTravel.findMany(),
    db.query.terms.findMany(),
    db.query.termSessions.findMany(),
    db.query.openings.findMany(),
    db.query.courses.findMany(),
    db.query.programs.findMany(),
  ])
  if (!institution) throw new Error('the database has no institution; load the demo or import a college first')
  const { name, zone, creditPrice, termsText, gradeScale, repeatPolicy } = institution
  const byCode = new Map(courses.map(course => [course.code, course]))
  return {
    problems: checkCatalog(byCode, gradeScale),
    name,
    zone,
    creditPrice,
    termsText,
    sites,
    travel,
    openings: openings.map(({ id: _, ...rule }) => rule),
    programs: new Map(programs.map(program => [program.id, program.body])),
    catalog: {
      courses: byCode,
      programs: programs.map(program => program.body),
      terms: terms.map(term => ({ ...term,
        sessions: sessions.filter(session => session.term === term.code).map(({ term: _, ...session }) => session) }),
      )
        .sort((a, b) => a.start.localeCompare(b.start)),
      scale: gradeScale,
      repeatPolicy,
    },
  }
}

export function findTerm(college: College, code: string): Term {
  const term = college.catalog.terms.find(candidate => candidate.code === code)
  if (!term) throw new Refusal(404, 'term-unknown', `There is no term ${code}.`, 'Choose a working term from the list.')
  return term
}
