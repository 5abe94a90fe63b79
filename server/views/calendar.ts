import type { Instant } from '@ridgeway/core/catalog'
import { writeCalendar } from '@ridgeway/formats/calendar'
import type { College } from '../college/college'
import type { Executor } from '../db/database'
import { readDossiers } from '../db/store/dossiers'

/** The calendar of a student: what is registered and picked in every term that has sections, exams, and the terms' deadlines. */
export async function readCalendar(db: Executor, college: College, student: number, at: Instant): Promise<string> {
  const dossier = (await readDossiers(db, [student])).get(student)!
  const terms = await Promise.all(college.catalog.terms.filter(term => term.scheduled).map(async (term) => {
    const registered = new Set(dossier.registered.filter(row => row.term === term.code).map(row => row.section))
    const picked = new Set(dossier.lineUp.filter(row => row.term === term.code).flatMap(row => row.sectionIds))
    const courses = [...new Set([...dossier.registered, ...dossier.lineUp].filter(row => row.term === term.code).map(row => row.course))]
    const sections = await college.sections.now(db, term.code, courses)
    return { term, sections: sections.filter(section => registered.has(section.id) || picked.has(section.id))
      .map(section => ({ section, state: registered.has(section.id) ? 'registered' as const : 'picked' as const })) }
  }))
  return writeCalendar({ name: `${dossier.name}, ${college.name}`, zone: college.zone, sites: college.sites,
    courses: college.catalog.courses,
    terms, at })
}
