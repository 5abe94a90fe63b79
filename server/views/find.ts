import type { Section } from '@ridgeway/core/catalog'
import { countsFor, findSections, makeTextIndex, type SearchInput, searchLines, type SectionSearch,
  type TextIndex } from '@ridgeway/core/find'
import { readStanding } from '@ridgeway/core/planning'
import type { Found, SectionSheet } from '#shared/contract/views/find'
import type { Looking } from '../college/asked'
import { type College, findTerm, programsAt } from '../college/college'
import { Refusal } from '../college/refusal'
import { creditsPlanned, decisionContext, dossierFor, fileOf, openRows, planIn } from '../college/student'
import { readKept } from '../db/store/week'

/** The words of a term's courses and sections, made once for each state of them. */
const indexes = new WeakMap<ReadonlyMap<string, unknown>, Map<string, { sections: number, index: TextIndex }>>()
function indexOf(college: College, term: string, stamp: number, sections: readonly Section[]): TextIndex {
  const byTerm = indexes.get(college.catalog.courses) ?? new Map<string, { sections: number, index: TextIndex }>()
  indexes.set(college.catalog.courses, byTerm)
  const known = byTerm.get(term)
  if (known?.sections === stamp) return known.index
  const offered = new Set(sections.map(section => section.course))
  const index = makeTextIndex([...college.catalog.courses.values()].filter(course => offered.has(course.code)), sections)
  byTerm.set(term, { sections: stamp, index })
  return index
}

/** What a search reads about a student: the file, the term's sections with their seats, and what the requirements still take. */
async function readForSearch(looking: Looking<{ term: string }>): Promise<Omit<SearchInput, 'search' | 'most'>> {
  const { college, db, date, input, student } = looking
  const term = findTerm(college, input.term)
  const dossier = (await dossierFor(looking))!
  const file = fileOf(dossier, college, term.code, planIn(dossier).plan, date)
  const { sections, stamp } = await college.sections.recently(db, term.code)
  const registered = new Set(dossier.registered.filter(row => row.term === term.code).map(row => row.section))
  const context = decisionContext(college, dossier, { file, gates: [], term, date }, sections, sections.filter(section =>
    registered.has(section.id)))
  const standing = readStanding(file, { ...college.catalog, programs: programsAt(college, dossier.programs) }, date)
  const kept = await readKept(db, student, term.code)
  return {
    context,
    rows: openRows(dossier, file, term.code),
    lines: searchLines(standing.reports, college.catalog.courses),
    wishes: kept.wishes,
    shortlist: new Set(kept.shortlist.map(row => row.bundle)),
    creditsOf: code => creditsPlanned(file, code, term.code),
    index: indexOf(college, term.code, stamp, sections),
  }
}

/** Sections of a term for one student. */
export async function readFind(looking: Looking<{ term: string, search: SectionSearch, most: number }>): Promise<Found> {
  const { search, most } = looking.input
  return findSections({ ...await readForSearch(looking), search, most })
}

/** All about one bundle, as it is for one student. */
export async function readSectionSheet(looking: Looking<{ term: string, sections: string }>): Promise<SectionSheet> {
  const input = await readForSearch(looking)
  const ids = looking.input.sections.split('+').map(Number)
  const first = input.context.sections.get(ids[0]!)
  const course = first && input.context.courses.get(first.course)
  const found = first && findSections({ ...input, search: { text: first.course }, most: 1 }).courses[0]?.bundles
  const bundle = found?.find(one => ids.every(id => one.sections.some(section => section.id === id)))
    ?? found?.find(one => one.sections.some(section => section.id === ids[0]))
  if (!course || !bundle)
    throw new Refusal(404, 'section-unknown', 'There is no such section in this term; it may have been cancelled.',
      'Look for another one under Find.')
  return { course: course.code, bundle, countsFor: countsFor(course, input.lines) }
}
