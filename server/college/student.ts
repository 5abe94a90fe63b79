import { type CourseCode, type Credits, type Instant, lastToAdd, type LocalDate, nameOf, type Section,
  type Term } from '@ridgeway/core/catalog'
import { EMPTY_FILE, EMPTY_PLAN, gradesAskedOf, itemsOf, type Plan, type StudentFile } from '@ridgeway/core/planning'
import { earnedCredits, factsOf, type GradesAsked, lineRef, pickRef, recordItemId, registrationItemId } from '@ridgeway/core/record'
import { clashPair, type Gate, readGates } from '@ridgeway/core/registration'
import type { RequirementException } from '@ridgeway/core/requirements'
import { type Dossier, readDossiers } from '../db/store/dossiers'
import type { Looking } from './asked'
import { type College, dateIn, programsAt } from './college'
import { Refusal } from './refusal'

/** The plan whose entries a dossier holds: the one that was asked for, or the current one. */
export function planIn(dossier: Dossier, id?: number) {
  const head = dossier.plans.find(plan => id === undefined ? plan.current : plan.id === id)
  if (!head && id !== undefined)
    throw new Refusal(404, 'plan-unknown', 'There is no such plan; it may have been deleted.', 'Go back to your current plan.')
  const plan: Plan = { ...(head?.details ?? EMPTY_PLAN), entries: dossier.entries.map(({ plan: _, ...entry }) => entry) }
  return { head, plan }
}

/** What stands about the student whom a view is about, with the entries of the current plan or of the one that was asked for. */
export async function dossierFor({ db, student, shared }: Looking<unknown>, plan?: number): Promise<Dossier | undefined> {
  const key = `${student} ${plan ?? ''}`
  const reading = shared?.get(key) ?? readDossiers(db, [student], plan)
  shared?.set(key, reading)
  return (await reading).get(student)
}

/** Exceptions that hold on a date. */
export const inForce = ({ exceptions }: Pick<Dossier, 'exceptions'>, date: LocalDate) =>
  exceptions.filter(one => one.until === null || one.until >= date)

/** A dossier as the core's file, for a working term, on a date. */
export function fileOf(dossier: Dossier, college: College, term: string, plan: Plan, date: LocalDate): StudentFile {
  const exceptions = inForce(dossier, date)
  return {
    ...EMPTY_FILE,
    record: [
      ...dossier.record.map(row => ({ ...row, id: recordItemId(row.id) })),
      // The credits of a bundle stand on its first section.
      ...dossier.registered.filter(row => row.credits > 0).map(row => ({ id: registrationItemId(row.section), course: row.course,
        term: row.term, credits: row.credits, grade: null, topic: row.topic || null, state: 'registered' as const,
        source: 'here' as const })),
    ],
    entries: plan.entries,
    placeholders: plan.placeholders,
    wishes: plan.wishes,
    picked: dossier.lineUp.filter(line => line.term === term).map(line => pickRef(line.course, term)),
    programs: programsAt(college, dossier.programs).map(program => program.code),
    cohorts: dossier.cohorts,
    placements: dossier.placements,
    permissions: exceptions.flatMap(one => one.kind === 'prerequisite' && one.course ? [one.course] : []),
    capRaised: Object.fromEntries(exceptions.flatMap(one => one.kind === 'load' && one.term && one.value ? [[one.term, one.value]] : [])),
    exceptions: exceptions.flatMap(toRequirementException),
    signedOff: dossier.signOffs.map(({ term: signed, copy }) => ({ term: signed, copy })),
    usePins: dossier.usePins,
    milestones: dossier.milestones.map(row => lineRef(row.program, row.milestone)),
  }
}

/** A substitution or a waiver; an exception of another kind is none. */
function toRequirementException({ id, kind, program, line, course, instead, value, reason, by }: Dossier['exceptions'][number]):
RequirementException[] {
  if (!program || !line) return []
  if (kind === 'waiver') return [{ id, kind, program, line, course, reason, by, ...(value === null ? {} : { amount: value }) }]
  return kind === 'substitution' && course ? [{ id, kind, program, line, course, instead, reason, by }] : []
}

/** All gates of a term as they stand at an instant. `advisor` is the name to say. */
export function gatesOf(dossier: Dossier, college: College, term: Term, file: StudentFile, at: Instant, advisor: string | null): Gate[] {
  const signed = dossier.signOffs.find(one => one.term === term.code)
  const accepted = dossier.accepted.find(one => one.term === term.code)
  const released = dossier.released.find(one => one.term === term.code)
  return readGates({
    term: nameOf(term),
    now: at,
    today: dateIn(at, college.zone),
    addBy: lastToAdd(term),
    closedBecause: term.closedBecause,
    zone: college.zone,
    openings: college.openings.filter(rule => rule.term === term.code),
    programs: file.programs,
    earned: earnedCredits(file.record, college.catalog),
    signedOff: signed ? { by: signed.by, on: signed.at.slice(0, 10) } : null,
    released: released ? dateIn(released.at, college.zone) : null,
    releaseCode: college.advising.releaseCode,
    signOffAsked: dossier.asked.some(one => one.term === term.code && !one.returned),
    returned: dossier.asked.find(one => one.term === term.code)?.returned?.words ?? null,
    advisor,
    holds: dossier.holds,
    programConfirmed: dossier.programConfirmed,
    programTitle: programsAt(college, dossier.programs)[0]?.title ?? '',
    termsAccepted: accepted?.at.slice(0, 10) ?? null,
  })
}

/** Rows of the line-up of a term that are not registered yet, each with the credits that the plan has its course for. */
export function openRows(dossier: Dossier, file: StudentFile, term: string) {
  const registered = new Set(dossier.registered.filter(row => row.term === term).map(row => row.course))
  return dossier.lineUp.filter(row => row.term === term && !registered.has(row.course)).map(row => ({ ...row,
    credits: row.credits ?? creditsPlanned(file, row.course, term) }))
}

/** Credits that the plan has a course for in a term, null where it does not stand there. */
export const creditsPlanned = ({ entries }: Pick<StudentFile, 'entries'>, course: string, term: string): Credits | null =>
  entries.find(entry => entry.course === course && entry.term === term)?.credits ?? null

/** What may be registered of a term where only what was signed off may; null where anything may, or nothing is signed yet. */
function signedFor({ advising }: College, dossier: Dossier, term: Term) {
  const signed = advising.changedAfter === 'closed' ? dossier.signOffs.find(one => one.term === term.code) : undefined
  return signed ? { courses: new Set(signed.copy.map(entry => entry.course)), by: signed.by } : null
}

/** For which term, and when, something is decided; the date is that in the college's zone. */
interface Deciding {
  file: StudentFile
  gates: Gate[]
  term: Term
  date: LocalDate
}

const byId = new WeakMap<readonly Section[], ReadonlyMap<number, Section>>()
/** Sections by id; once for a list, so that what is made of them stands for as long as the list does. */
function byIdOf(sections: readonly Section[]): ReadonlyMap<number, Section> {
  const before = byId.get(sections)
  if (before) return before
  const made = new Map(sections.map(section => [section.id, section]))
  byId.set(sections, made)
  return made
}

/** What the registration decision reads about a student. */
export function decisionContext(college: College, dossier: Dossier, about: Deciding,
  sections: readonly Section[], registered: readonly Section[]) {
  const { courses, scale, repeatPolicy, terms } = college.catalog
  const { file, gates, term, date } = about
  const here = inForce(dossier, date).filter(one => one.term === null || one.term === term.code)
  const lifted = (kind: string) => new Set(here.flatMap(one => one.kind === kind && one.course ? [one.course] : []))
  // Most courses in a line-up were never had before: what rules ask of them is not worked out.
  let asked: GradesAsked | undefined
  return {
    ...factsOf(file, file.record),
    term, terms, gates, courses, scale, repeatPolicy,
    sections: byIdOf(sections),
    travel: college.travel,
    asked: (code: CourseCode) => {
      asked ??= gradesAskedOf({ file, items: itemsOf(file),
        catalog: { ...college.catalog, programs: programsAt(college, dossier.programs) } })
      return asked(code)
    },
    loadCap: file.capRaised[term.code] ?? term.loadCap,
    registered,
    today: date,
    lifted: { lateAdd: lifted('late add'), restriction: lifted('restriction'),
      clash: new Set(here.flatMap(one => one.kind === 'clash' && one.course && one.instead ? [clashPair(one.course, one.instead)] : [])),
      seat: new Set(here.flatMap(one => one.kind === 'seat' && one.section ? [one.section] : [])) },
    signed: signedFor(college, dossier, term),
    waitlisted: new Set(dossier.waitlisted.map(row => row.section)),
  }
}
