import { and, asc, desc, eq, isNull } from 'drizzle-orm'
import { type CourseItem, nameOf, type Section, type Term } from '@ridgeway/core/catalog'
import { EMPTY_FILE, gradesAskedOf, itemsOf, type Plan, type PlanEntry, type StudentFile } from '@ridgeway/core/planning'
import { earnedCredits, factsOf, lineRef, pickRef, recordItemId, registrationItemId } from '@ridgeway/core/record'
import { type Gate, openingFor, readGates } from '@ridgeway/core/registration'
import type { RequirementException } from '@ridgeway/core/requirements'
import type { Database, Executor } from '../db/connect'
import * as s from '../db/schema'
import { findTerm, loadCollege, type College } from './catalog'
import { today } from './clock'
import { Refusal } from './errors'
import { listPlans, readComments, readPlan, type PlanComment, type PlanHead } from './plans'

/** All that is on file about one student, for one working term. */
export interface StudentState {
  id: number
  name: string
  email: string
  advisor: { id: number, name: string, email: string } | null
  programConfirmed: boolean
  targetLoad: number | null
  /** The plan that was asked for, else the current one; its entries stand in the file. */
  plan: PlanHead & Pick<Plan, 'note' | 'termNotes'>
  plans: PlanHead[]
  comments: PlanComment[]
  file: StudentFile
  /** Programs with their catalog year, in order. */
  programIds: string[]
  /** The newest wish to change them, with its answer. */
  programChange: ProgramChange | null
  lineUp: LineUpRow[]
  registered: Registered[]
  waitlisted: { section: number, course: string, label: string, place: number, offerUntil: string | null }[]
  gates: Gate[]
  opening: { from: string, words: string } | null
  holds: { reason: string, contact: string, placed: string }[]
  signOff: { by: string, at: string, note: string, copy: PlanEntry[] } | null
  signOffAskedAt: string | null
  termsAcceptedAt: string | null
}

export interface ProgramChange {
  programs: string[]
  note: string
  askedAt: string
  state: 'asked' | 'granted' | 'declined' | 'taken back'
  words: string
}
/** `credits` are those that the plan has the course for; null where it is not in the plan. */
export interface LineUpRow {
  id: number
  course: string
  sectionIds: number[]
  position: number
  credits: number | null
}
export interface Registered {
  section: number
  course: string
  label: string
  term: string
  credits: number
  at: string
  run: string
}

/**
 * Reads everything that the rules and the views need about a student. A registration needs nothing of what only
 * the requirements look at, and leaves it out.
 */
export async function readStudent(db: Database, tx: Executor, id: number, termCode: string,
  { forViews = true, plan: planId }: { forViews?: boolean, plan?: number | undefined } = {}): Promise<StudentState> {
  const college = await loadCollege(db)
  const term = findTerm(college, termCode)
  const clock = await today(tx, college.zone)
  const [row] = await tx.select({ person: s.people, student: s.students }).from(s.students)
    .innerJoin(s.people, eq(s.people.id, s.students.person)).where(eq(s.students.person, id))
  if (!row) throw new Refusal(404, 'student-unknown', 'There is no such student.', 'Go back to the list of advisees.')
  const [advisor, programRows, records, registered, planned, lineUp, exceptions, holds, signOff, asked, accepted, waitlisted] = [
    row.student.advisor ? (await tx.select().from(s.people).where(eq(s.people.id, row.student.advisor)))[0] ?? null : null,
    await tx.select().from(s.studentPrograms).where(eq(s.studentPrograms.student, id)).orderBy(asc(s.studentPrograms.position)),
    await tx.select().from(s.records).where(eq(s.records.student, id)).orderBy(asc(s.records.id)),
    await readRegistered(tx, id),
    await readPlan(tx, id, planId),
    await tx.select().from(s.lineUpRows).where(and(eq(s.lineUpRows.student, id), eq(s.lineUpRows.term, termCode))).orderBy(
      asc(s.lineUpRows.position),
      asc(s.lineUpRows.id),
    ),
    await tx.select().from(s.exceptions).where(eq(s.exceptions.student, id)),
    await tx.select().from(s.holds).where(and(eq(s.holds.student, id), isNull(s.holds.cleared))),
    await readSignOff(tx, id, termCode),
    (await tx.select().from(s.signOffRequests).where(and(eq(s.signOffRequests.student, id), eq(s.signOffRequests.term, termCode))))[0]
    ?? null,
    (await tx.select().from(s.termsAcceptances).where(and(eq(s.termsAcceptances.student, id), eq(s.termsAcceptances.term, termCode))))[0]
    ?? null,
    await readWaitlisted(tx, id, termCode),
  ] as const
  const programs = programRows.map(program => college.programs.get(program.program)).filter(program => program !== undefined)
  const record = [...records.map(toItem), ...toRegisteredItems(registered)]
  const file: StudentFile = {
    ...EMPTY_FILE,
    record,
    entries: planned.plan.entries,
    placeholders: planned.plan.placeholders,
    wishes: planned.plan.wishes,
    picked: lineUp.map(line => pickRef(line.course, termCode)),
    programs: programs.map(program => program.code),
    placements: row.student.placements,
    permissions: exceptions.filter(exception => exception.kind === 'prerequisite' && exception.course).map(exception => exception.course!),
    capRaised: Object.fromEntries(exceptions.filter(e => e.kind === 'load' && e.term && e.value).map(e => [e.term!, e.value!])),
    exceptions: exceptions.flatMap(row => toRequirementException(row, '')),
    ...(forViews ? await readRequirementFacts(tx, id) : {}),
  }
  const earned = earnedCredits(record, college.catalog)
  const openings = college.openings.filter(rule => rule.term === termCode)
  const opening = openingFor(openings, file.programs, earned)
  const gates = readGates({
    term: nameOf(term),
    now: clock.now,
    zone: college.zone,
    openings,
    programs: file.programs,
    earned,
    signedOff: signOff ? { by: signOff.by, on: signOff.at.slice(0, 10) } : null,
    signOffAsked: asked !== null,
    advisor: advisor?.name ?? null,
    holds: holds.map(({ reason, contact, placed }) => ({ reason, contact, placed })),
    programConfirmed: row.student.programConfirmed,
    programTitle: programs[0]?.title ?? '',
    termsAccepted: accepted?.at.slice(0, 10) ?? null,
  })
  return {
    id,
    name: row.person.name,
    email: row.person.email,
    programConfirmed: row.student.programConfirmed,
    targetLoad: row.student.targetLoad,
    advisor: advisor && { id: advisor.id, name: advisor.name, email: advisor.email },
    programChange: forViews ? await readProgramChange(tx, id) : null,
    plan: { ...planned.head, note: planned.plan.note, termNotes: planned.plan.termNotes },
    plans: forViews ? await listPlans(tx, id) : [],
    comments: forViews ? await readComments(tx, id) : [],
    file,
    programIds: programRows.map(program => program.program),
    lineUp: lineUp.map(({ id: rowId, course, sectionIds, position }) => ({ id: rowId, course, sectionIds, position,
      credits: creditsPlanned(planned.plan.entries, course, termCode) }),
    ),
    registered,
    waitlisted,
    gates,
    opening: opening && { from: opening.from, words: opening.words },
    holds: holds.map(({ reason, contact, placed }) => ({ reason, contact, placed })),
    signOff,
    signOffAskedAt: asked?.askedAt ?? null,
    termsAcceptedAt: accepted?.at ?? null,
  }
}

/** What only the views need: sign-offs, pinned uses, milestones, and who granted an exception. */
async function readRequirementFacts(tx: Executor,
  student: number): Promise<Pick<StudentFile, 'usePins' | 'exceptions' | 'milestones' | 'signedOff'>> {
  const signed = await tx.select({ term: s.signOffs.term, copy: s.signOffs.copy }).from(s.signOffs).where(eq(s.signOffs.student, student))
  const pins = await tx.select().from(s.usePins).where(eq(s.usePins.student, student))
  const granted = await tx.select({ exception: s.exceptions, by: s.people.name }).from(s.exceptions)
    .innerJoin(s.people, eq(s.people.id, s.exceptions.grantedBy)).where(eq(s.exceptions.student, student)).orderBy(asc(s.exceptions.id))
  const done = await tx.select().from(s.milestones).where(eq(s.milestones.student, student))
  return {
    signedOff: signed,
    usePins: pins.map(({ item, program, line }) => ({ item, program, line })),
    exceptions: granted.flatMap(({ exception, by }) => toRequirementException(exception, by)),
    milestones: done.map(row => lineRef(row.program, row.milestone)),
  }
}

/** A substitution or a waiver; an exception of another kind is none. */
function toRequirementException({ id, kind, program, line, course, instead, reason }: typeof s.exceptions.$inferSelect,
  by: string): RequirementException[] {
  if (!program || !line) return []
  if (kind === 'waiver') return [{ id, kind, program, line, course, reason, by }]
  return kind === 'substitution' && course ? [{ id, kind, program, line, course, instead, reason, by }] : []
}

async function readProgramChange(tx: Executor, student: number): Promise<ProgramChange | null> {
  const [row] = await tx.select().from(s.programRequests).where(eq(s.programRequests.student, student)).orderBy(desc(s.programRequests.id))
    .limit(1)
  return row ? { programs: row.programs, note: row.note, askedAt: row.askedAt, state: row.state, words: row.words } : null
}

function toItem(row: typeof s.records.$inferSelect): CourseItem {
  const { id, course, term, credits, grade, state, source } = row
  return { id: recordItemId(id), course, term, credits, grade, state, source }
}

/** Registered sections as one item a course; the credits stand on the bundle's first section. */
export function toRegisteredItems(registered: readonly Registered[]): CourseItem[] {
  return registered.filter(row => row.credits > 0).map(row => ({
    id: registrationItemId(row.section),
    course: row.course,
    term: row.term,
    credits: row.credits,
    grade: null,
    state: 'registered',
    source: 'here',
  }))
}

async function readRegistered(tx: Executor, student: number): Promise<Registered[]> {
  return tx.select({
    section: s.registrations.section,
    course: s.registrations.course,
    label: s.sections.label,
    term: s.registrations.term,
    credits: s.registrations.credits,
    at: s.registrations.at,
    run: s.registrations.run,
  }).from(s.registrations).innerJoin(s.sections, eq(s.sections.id, s.registrations.section))
    .where(eq(s.registrations.student, student)).orderBy(asc(s.registrations.id))
}

async function readWaitlisted(tx: Executor, student: number, term: string): Promise<StudentState['waitlisted']> {
  const mine = await tx.select({ entry: s.waitlistEntries, section: s.sections }).from(s.waitlistEntries)
    .innerJoin(s.sections, eq(s.sections.id, s.waitlistEntries.section)).where(
      and(eq(s.waitlistEntries.student, student), eq(s.sections.term, term)),
    )
  return Promise.all(mine.map(async ({ entry, section }) => {
    const all = await tx.select().from(s.waitlistEntries).where(eq(s.waitlistEntries.section, section.id)).orderBy(
      asc(s.waitlistEntries.joined),
      asc(s.waitlistEntries.id),
    )
    return { section: section.id, course: section.course, label: section.label, place: all.findIndex(other => other.id === entry.id) + 1,
      offerUntil: entry.offerUntil }
  }))
}

async function readSignOff(tx: Executor, student: number, term: string): Promise<StudentState['signOff']> {
  const [found] = await tx.select({ signOff: s.signOffs, advisor: s.people.name }).from(s.signOffs)
    .innerJoin(s.people, eq(s.people.id, s.signOffs.advisor)).where(and(eq(s.signOffs.student, student), eq(s.signOffs.term, term)))
  return found ? { by: found.advisor, at: found.signOff.at, note: found.signOff.note, copy: found.signOff.copy } : null
}

/** The student's programs in their own catalog years. */
export const programsOfStudent = (college: College, ids: readonly string[]) => ids.flatMap(id => college.programs.get(id) ?? [])

/** Credits that the plan has a course for in a term, null where it does not stand there. */
export const creditsPlanned = (entries: readonly PlanEntry[], course: string, term: string): number | null =>
  entries.find(entry => entry.course === course && entry.term === term)?.credits ?? null

/** The parts of a student's state that the registration decision reads. */
export function decisionContext(college: College, state: StudentState, term: Term, sections: readonly Section[],
  registered: readonly Section[]) {
  const { courses, scale, repeatPolicy, terms } = college.catalog
  const { file } = state
  const items = itemsOf(file)
  return {
    ...factsOf(file, file.record),
    term,
    terms,
    gates: state.gates,
    courses,
    scale,
    repeatPolicy,
    sections: new Map(sections.map(section => [section.id, section])),
    travel: college.travel,
    asked: gradesAskedOf({ file, items, catalog: { ...college.catalog, programs: programsOfStudent(college, state.programIds) } }),
    loadCap: file.capRaised[term.code] ?? term.loadCap,
    registered,
  }
}
