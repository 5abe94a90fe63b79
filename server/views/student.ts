import { movedPicks } from '@ridgeway/core/next'
import { earnedCredits } from '@ridgeway/core/record'
import { openingFor } from '@ridgeway/core/registration'
import type { StudentState } from '#shared/contract/views/student'
import type { Looking } from '../college/asked'
import { findTerm } from '../college/college'
import { Refusal } from '../college/refusal'
import { isLifted } from '../college/lifted'
import { creditsPlanned, dossierFor, fileOf, gatesOf, inForce, planIn } from '../college/student'
import { changesSince, findPlan, headOf, planOf } from '../db/store/plans'
import { readBeside } from '../db/store/students'
import { decideLineUp } from './week'

/** All that is on file about one student, for one working term: two statements, and one more where a line-up is to be decided on. */
export async function readStudentView(looking: Looking<{ term: string, plan?: number | undefined }>): Promise<StudentState> {
  const { db, student, college, at, input } = looking
  const term = findTerm(college, input.term)
  const dossier = await dossierFor(looking, input.plan)
  if (!dossier) throw new Refusal(404, 'student-unknown', 'There is no such student.', 'Go back to the list of advisees.')
  const beside = await readBeside(db, student, term.code, { now: at, date: looking.date })
  const { head, plan } = planIn(dossier, input.plan)
  if (!head) throw new Error('a student without a current plan')
  const file = fileOf(dossier, college, term.code, plan, looking.date)
  const opening = openingFor(college.openings.filter(rule => rule.term === term.code), file.programs,
    earnedCredits(file.record, college.catalog))
  const asked = dossier.asked.find(one => one.term === term.code)
  const signOff = dossier.signOffs.find(one => one.term === term.code)
  const { rows, sections } = await decideLineUp(looking, { dossier, file, gates: [], term, date: looking.date })
  const refused = rows.filter(row => row.outcome === 'refused').flatMap(({ course, findings }) => findings.filter(one => !one.ok).slice(0,
    1).map(finding => ({ course, finding })))
  return {
    id: student,
    version: dossier.version,
    name: dossier.name,
    email: dossier.email,
    advisor: beside.advisor,
    programConfirmed: dossier.programConfirmed,
    residence: dossier.residence,
    account: beside.account,
    targetLoad: dossier.targetLoad,
    plan: { ...headOf(head), note: plan.note, termNotes: plan.termNotes },
    plans: dossier.plans.map(headOf),
    comments: beside.comments,
    read: beside.read,
    suggestions: beside.suggestions,
    asked: beside.asked,
    notes: beside.notes,
    meetings: beside.meetings,
    messages: beside.messages,
    deputy: beside.deputy,
    file,
    programIds: dossier.programs,
    programChange: beside.programChange,
    lineUp: dossier.lineUp.filter(row => row.term === term.code).map(({ term: _, ...row }) => ({ ...row,
      credits: row.credits ?? creditsPlanned(plan, row.course, term.code) })),
    searches: beside.searches,
    gone: beside.gone,
    feedSince: beside.feedSince,
    refused,
    moved: movedPicks(dossier.lineUp.filter(row => row.term === term.code), sections),
    registered: dossier.registered.map(({ id: _, ...row }) => row),
    waitlisted: dossier.waitlisted.filter(row => row.term === term.code).map(({ term: _, ...row }) => ({ ...row,
      before: beside.waitedBefore(row.course) })),
    gates: gatesOf(dossier, college, term, file, at, beside.advisor?.name ?? null),
    opening: opening && { from: opening.from, words: opening.words },
    lifted: inForce(dossier, looking.date).filter(isLifted).filter(one => one.term === null || one.term === term.code)
      .map(({ id, kind, course, term: of, value, section, instead, until, reason, by }) => ({ id, kind, course, term: of, value, section,
        instead, until, reason, by })),
    holds: dossier.holds,
    signOff: signOff ? { by: signOff.by, at: signOff.at, note: signOff.note, copy: signOff.copy } : null,
    signOffAsked: asked && !asked.returned ? { at: asked.at, note: asked.note, answers: asked.answers } : null,
    returned: asked?.returned ?? null,
    termsAcceptedAt: dossier.accepted.find(one => one.term === term.code)?.at ?? null,
  }
}

/** One plan, with what was done to it after a version. */
export async function readPlanView({ db, student, plan: id, input }: Looking<{ since: number }>) {
  const row = await findPlan(db, student, id)
  if (!row || row.deletedAt)
    throw new Refusal(404, 'plan-unknown', 'There is no such plan; it may have been deleted.', 'Go back to your current plan.')
  return { head: headOf(row), plan: await planOf(db, row), changes: await changesSince(db, id, input.since) }
}
