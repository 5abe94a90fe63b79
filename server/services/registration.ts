import { and, eq, inArray, sql } from 'drizzle-orm'
import type { Section } from '@ridgeway/core/catalog'
import { decideRun, findingName, type RowDecision } from '@ridgeway/core/registration'
import { bundlesOf } from '@ridgeway/core/weeks'
import { describeTimes } from '@ridgeway/words'
import type { Database } from '../db/connect'
import { findSections } from '../db/repositories/sections'
import { inTransaction } from '../db/retry'
import * as s from '../db/schema'
import { findTerm, loadCollege } from './catalog'
import { currentInstant } from './clock'
import { Refusal } from './errors'
import { creditsPlanned, decisionContext, readStudent, type StudentState } from './students'

export interface RunResult {
  reference: string
  at: string
  /** True when this answer repeats one given before to the same key. */
  repeated: boolean
  rows: RowDecision[]
}

/** A bundle with what would happen if it were registered now. */
export interface BundleView {
  id: string
  course: string
  sections: Section[]
  times: string
  decision: RowDecision
  picked: boolean
  registered: boolean
}

/** What the Week shows: every bundle of every course planned (or chosen, or registered) for the term, with the one decision. */
export async function readWeek(db: Database, student: number,
  termCode: string): Promise<{ courses: { course: string, bundles: BundleView[] }[] }> {
  const college = await loadCollege(db)
  const state = await readStudent(db, db, student, termCode, { forViews: false })
  const term = findTerm(college, termCode)
  const registered = state.registered.filter(row => row.term === termCode)
  const wanted = [...new Set([
    ...registered.map(row => row.course),
    ...state.lineUp.map(row => row.course),
    ...state.file.entries.filter(entry => entry.term === termCode).map(entry => entry.course),
  ])].sort()
  const sections = await findSections(db, { term: termCode, courses: wanted })
  const held = sections.filter(section => registered.some(row => row.section === section.id))
  // The Week asks "would this go through once the gates are open?": gates are Register's business.
  const context = { ...decisionContext(college, state, term, sections, held), gates: [] }
  const courses = wanted.map((code) => {
    const course = college.catalog.courses.get(code)!
    const chosen = state.lineUp.find(row => row.course === code)
    const others = state.lineUp.filter(row => row.course !== code && !held.some(section => section.course === row.course))
    const bundles = bundlesOf(course, sections).map((bundle): BundleView => {
      const sectionIds = bundle.sections.map(section => section.id)
      const row = { id: -1, course: code, sectionIds, credits: creditsPlanned(state.file.entries, code, termCode) }
      const decision = decideRun([...others, row], context).at(-1)!
      return {
        id: bundle.id,
        course: code,
        sections: bundle.sections,
        times: describeTimes(bundle.sections),
        decision,
        picked: chosen !== undefined && sameSet(chosen.sectionIds, sectionIds),
        registered: sectionIds.every(id => held.some(section => section.id === id)),
      }
    })
    return { course: code, bundles }
  })
  return { courses }
}

const sameSet = (a: readonly number[], b: readonly number[]) => a.length === b.length && a.every(id => b.includes(id))

/** The dry run: the same decision as the registration, on the seats as they are now, changing nothing. */
export async function dryRun(db: Database, student: number,
  termCode: string): Promise<{ at: string, rows: RowDecision[], sections: Section[] }> {
  const college = await loadCollege(db)
  const state = await readStudent(db, db, student, termCode, { forViews: false })
  const sections = await sectionsFor(db, state, termCode)
  const held = sections.filter(section => state.registered.some(row => row.section === section.id))
  const rows = openRows(state, termCode)
  return { at: await currentInstant(db),
    rows: decideRun(rows, decisionContext(college, state, findTerm(college, termCode), sections, held)), sections }
}

/** Rows of the line-up that are not registered yet. */
function openRows(state: StudentState, termCode: string) {
  const registered = new Set(state.registered.filter(row => row.term === termCode).map(row => row.course))
  return state.lineUp.filter(row => !registered.has(row.course))
}

/** Sections of every course in the line-up (the siblings give the way forward) and of what is registered. */
async function sectionsFor(db: Parameters<typeof findSections>[0], state: StudentState, termCode: string): Promise<Section[]> {
  const courses = [
    ...new Set([...state.lineUp.map(row => row.course), ...state.registered.filter(row => row.term === termCode).map(row => row.course)]),
  ]
  return findSections(db, { term: termCode, courses })
}

/**
 * Registers the rows of a line-up: every rule, one transaction, all-or-nothing per bundle.
 * The student's row is locked first (two runs of one student follow each other), then the seats in order of id,
 * so that no two runs can wait for each other in a circle. The same key acts once and gives the same answer again.
 */
export async function register(db: Database,
  request: { student: number, actor: number, term: string, key: string, rowIds: readonly number[] }): Promise<RunResult> {
  const college = await loadCollege(db)
  const term = findTerm(college, request.term)
  return inTransaction(db, async (tx) => {
    await tx.select({ person: s.students.person }).from(s.students).where(eq(s.students.person, request.student)).for('update')
    const [before] = await tx.select().from(s.registrationRuns)
      .where(and(eq(s.registrationRuns.student, request.student), eq(s.registrationRuns.key, request.key)))
    if (before) return { ...before.result as RunResult, repeated: true }

    const state = await readStudent(db, tx, request.student, request.term, { forViews: false })
    const rows = openRows(state, request.term).filter(row => request.rowIds.includes(row.id))
    if (rows.length === 0)
      throw new Refusal(422, 'nothing-chosen', 'None of the chosen rows is in your line-up any more.',
        'Look at the line-up again: it was changed, or everything in it is registered.')
    const locked = await findSections(tx, { term: request.term, ids: rows.flatMap(row => row.sectionIds) }, true)
    const held = await findSections(tx, { term: request.term,
      ids: state.registered.filter(row => row.term === request.term).map(row => row.section) })
    let decisions = decideRun(rows, decisionContext(college, state, term, [...locked, ...held], held))
    if (decisions.some(decision => decision.findings.some(finding => !finding.ok && finding.code === 'seats-full'))) {
      // Only a full section needs its siblings, to say where there is room.
      const lockedIds = new Set(locked.map(section => section.id))
      const siblings = (await sectionsFor(tx, state, request.term)).filter(section => !lockedIds.has(section.id))
      decisions = decideRun(rows, decisionContext(college, state, term, [...locked, ...siblings], held))
    }
    const at = await currentInstant(tx)
    const result: RunResult = { reference: request.key.slice(0, 8).toUpperCase(), at, repeated: false, rows: decisions }

    const accepted = decisions.filter(decision => decision.outcome === 'register')
    const claims = accepted.flatMap(decision =>
      decision.claims.map((claim, index) => ({ ...claim, course: decision.course, credits: index === 0 ? decision.credits : 0 })),
    )
    if (claims.length > 0) {
      await tx.update(s.seatPools).set({ taken: sql`${s.seatPools.taken} + 1` }).where(
        inArray(s.seatPools.id, claims.map(claim => claim.poolId)),
      )
      await tx.insert(s.registrations).values(claims.map(claim => ({
        student: request.student,
        section: claim.sectionId,
        pool: claim.poolId,
        term: request.term,
        course: claim.course,
        credits: claim.credits,
        run: request.key,
        at,
      })))
      await tx.delete(s.lineUpRows).where(inArray(s.lineUpRows.id, accepted.map(decision => decision.rowId)))
    }
    await tx.insert(s.ledger).values([
      ...claims.map(claim => ({
        at,
        actor: request.actor,
        student: request.student,
        action: 'register' as const,
        section: claim.sectionId,
        pool: claim.poolId,
        run: request.key,
        detail: { course: claim.course },
      })),
      ...decisions.filter(decision => decision.outcome === 'refused').map(decision => ({
        at,
        actor: request.actor,
        student: request.student,
        action: 'refuse' as const,
        section: null,
        pool: null,
        run: request.key,
        detail: { course: decision.course, codes: decision.findings.filter(finding => !finding.ok).map(findingName) },
      })),
    ])
    await tx.insert(s.registrationRuns).values({ student: request.student, key: request.key, term: request.term, at, result })
    return result
  })
}
