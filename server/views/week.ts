import type { Term } from '@ridgeway/core/catalog'
import type { StudentFile } from '@ridgeway/core/planning'
import { decideBeside, decideRun, type Gate } from '@ridgeway/core/registration'
import { bundlesOf } from '@ridgeway/core/weeks'
import { describeTimes } from '@ridgeway/words'
import type { BundleView, OtherTerm, Sheet, Week } from '#shared/contract/views/student'
import type { Looking } from '../college/asked'
import { findTerm } from '../college/college'
import type { Dossier } from '../db/store/dossiers'
import { creditsPlanned, decisionContext, dossierFor, fileOf, gatesOf, openRows, planIn } from '../college/student'
import { readKept } from '../db/store/week'

/** What is on file, as the decision reads it: always the current plan's. */
async function readForDecision(looking: Looking<{ term: string }>) {
  const { college, at, input } = looking
  const term = findTerm(college, input.term)
  const dossier = (await dossierFor(looking))!
  const file = fileOf(dossier, college, term.code, planIn(dossier).plan, looking.date)
  return { term, date: looking.date, dossier, file, gates: gatesOf(dossier, college, term, file, at, null),
    registered: dossier.registered.filter(row => row.term === term.code) }
}

/** What the Week shows: every bundle of every course planned (or chosen, or registered) for the term, with the one decision. */
export async function readWeekView(looking: Looking<{ term: string }>): Promise<Week> {
  const { college, db, student } = looking
  const { term, date, dossier, file, registered } = await readForDecision(looking)
  const lineUp = dossier.lineUp.filter(row => row.term === term.code)
  const wanted = [...new Set([
    ...registered.map(row => row.course),
    ...lineUp.map(row => row.course),
    ...file.entries.filter(entry => entry.term === term.code).map(entry => entry.course),
  ])].sort()
  const sections = await college.sections.now(db, term.code, wanted)
  const held = sections.filter(section => registered.some(row => row.section === section.id))
  // The Week asks "would this go through once the gates are open?": gates are Register's business.
  const context = decisionContext(college, dossier, { file, gates: [], term, date }, sections, held)
  const courses = wanted.map((code) => {
    const chosen = lineUp.find(row => row.course === code)
    const others = openRows(dossier, file, term.code).filter(row => row.course !== code)
    const decide = decideBeside(others, context)
    const bundles = bundlesOf(college.catalog.courses.get(code)!, sections).map((bundle): BundleView => {
      const sectionIds = bundle.sections.map(section => section.id)
      const row = { id: -1, course: code, sectionIds, credits: chosen?.credits ?? creditsPlanned(file, code, term.code) }
      return {
        id: bundle.id,
        course: code,
        sections: bundle.sections,
        times: describeTimes(bundle.sections),
        decision: decide(row),
        picked: chosen !== undefined && sameSet(chosen.sectionIds, sectionIds),
        registered: sectionIds.every(id => held.some(section => section.id === id)),
      }
    })
    return { course: code, bundles }
  })
  return { courses, ...await readKept(db, student, term.code) }
}

const sameSet = (a: readonly number[], b: readonly number[]) => a.length === b.length && a.every(id => b.includes(id))

/** The line-up's rows with what would become of each; reads nothing when it is empty. */
export async function decideLineUp({ college, db }: Pick<Looking<unknown>, 'college' | 'db'>, about: {
  dossier: Dossier
  file: StudentFile
  gates: Gate[]
  term: Term
  date: string
}): Promise<Omit<Sheet, 'at'>> {
  const { dossier, file, gates, term, date } = about
  const rows = openRows(dossier, file, term.code)
  if (rows.length === 0) return { rows: [], sections: [] }
  const registered = dossier.registered.filter(row => row.term === term.code)
  // Siblings give the way forward where a section is full.
  const courses = [...new Set([...dossier.lineUp.filter(row => row.term === term.code), ...registered].map(row => row.course))]
  const sections = await college.sections.now(db, term.code, courses)
  const held = sections.filter(section => registered.some(row => row.section === section.id))
  return { rows: decideRun(rows, decisionContext(college, dossier, { file, gates, term, date }, sections, held)), sections }
}

/** The dry run: the same decision as the registration, on the seats as they are now, changing nothing. */
export async function readSheet(looking: Looking<{ term: string }>): Promise<Sheet> {
  return { at: looking.at, ...await decideLineUp(looking, await readForDecision(looking)) }
}

/** The run sheets of all other terms for which something is lined up and that are not over. */
export async function readOtherTermsView(looking: Looking<{ term: string }>): Promise<OtherTerm[]> {
  const { college, date, input } = looking
  const dossier = (await dossierFor(looking))!
  const lined = new Set(dossier.lineUp.map(row => row.term))
  const others: OtherTerm[] = []
  for (const term of college.catalog.terms.filter(one => one.code !== input.term && one.end >= date && lined.has(one.code))) {
    const about = await readForDecision({ ...looking, input: { term: term.code } })
    const sheet = await decideLineUp(looking, about)
    if (sheet.rows.length === 0) continue
    const labels = Object.fromEntries(sheet.rows.map(row => [row.course,
      row.sectionIds.map(id => sheet.sections.find(one => one.id === id)?.label ?? '').join(' + ')]))
    others.push({ ...sheet, at: looking.at, term: term.code, gates: about.gates, labels })
  }
  return others
}
