import type { Section } from '@ridgeway/core/catalog'
import { decideRun, findingName, type RowDecision } from '@ridgeway/core/registration'
import type { RunResult } from '#shared/contract/acts/student'
import { type College, findTerm } from '../college/college'
import { Refusal } from '../college/refusal'
import { decisionContext, fileOf, gatesOf, openRows, planIn } from '../college/student'
import type { Executor } from '../db/database'
import type { Dossier } from '../db/store/dossiers'
import { readDossiers } from '../db/store/dossiers'
import { findRuns, keepRuns, type Run } from '../db/store/runs'
import { findSections } from '../db/store/sections'
import { lockStudent } from '../db/store/students'

/** One press of the button. */
export interface Press {
  student: number
  actor: number
  term: string
  key: string
  rowIds: readonly number[]
}

/** What a press asks for, as one text: a key stands for one press only. */
export const askedBy = ({ term, rowIds }: Press) => `${term} ${[...rowIds].sort((a, b) => a - b).join()}`

/**
 * Registers the rows of a line-up: every rule, one transaction, all-or-nothing per bundle.
 * The student's row is locked first (two runs of one student follow each other), then the seats in order of id,
 * so that no two runs can wait for each other in a circle. The same key acts once and gives the same answer again.
 */
export async function registerOne(tx: Executor, press: Press, college: College, at: string): Promise<RunResult> {
  await lockStudent(tx, press.student)
  const before = (await findRuns(tx, [press])).get(press.student)
  if (before) return repeatOf(before, press)
  const dossier = (await readDossiers(tx, [press.student])).get(press.student)!
  const rows = chosenRows(dossier, college, press)
  const locked = await findSections(tx, { term: press.term, ids: rows.flatMap(row => row.sectionIds) }, true)
  const heldIds = dossier.registered.filter(row => row.term === press.term).map(row => row.section)
  const held = await findSections(tx, { term: press.term, ids: heldIds })
  let decisions = decide(press, dossier, college, at, [...locked, ...held], held)
  if (needsSiblings(decisions)) {
    // Only a full section needs its siblings, to say where there is room.
    const courses = [...new Set(rows.map(row => row.course))]
    const siblings = await findSections(tx, { term: press.term, courses })
    const known = new Set([...locked, ...held].map(section => section.id))
    decisions = decide(press, dossier, college, at, [...locked, ...held, ...siblings.filter(one => !known.has(one.id))], held)
  }
  const run = runOf(press, decisions, at)
  await keepRuns(tx, [run])
  return run.result
}

/** The answer given before, where the key stands for the same press; a refusal where it stands for another. */
export function repeatOf(before: { asked: string, result: RunResult }, press: Press): RunResult {
  if (before.asked !== askedBy(press))
    throw new Refusal(409, 'key-used', 'This press was sent before with other rows or another term.', 'Press the button again.')
  return { ...before.result, repeated: true }
}

export function chosenRows(dossier: Dossier, college: College, press: Press) {
  const file = fileOf(dossier, college, press.term, planIn(dossier).plan)
  const rows = openRows(dossier, file, press.term).filter(row => press.rowIds.includes(row.id))
  if (rows.length === 0)
    throw new Refusal(422, 'nothing-chosen', 'None of the chosen rows is in your line-up any more.',
      'Look at the line-up again: it was changed, or everything in it is registered.')
  return rows
}

export function decide(press: Press, dossier: Dossier, college: College, at: string, sections: readonly Section[],
  held: readonly Section[]): RowDecision[] {
  const term = findTerm(college, press.term)
  const file = fileOf(dossier, college, press.term, planIn(dossier).plan)
  const gates = gatesOf(dossier, college, term, file, at, null)
  return decideRun(chosenRows(dossier, college, press), decisionContext(college, dossier, { file, gates, term }, sections, held))
}

export const needsSiblings = (decisions: readonly RowDecision[]) =>
  decisions.some(decision => decision.findings.some(finding => !finding.ok && finding.code === 'seats-full'))

/** What is to be kept of a decided press: seats, rows that leave the line-up, the ledger, and the answer under its key. */
export function runOf(press: Press, decisions: RowDecision[], at: string): Run {
  const accepted = decisions.filter(decision => decision.outcome === 'register')
  return {
    student: press.student, actor: press.actor, term: press.term, key: press.key, asked: askedBy(press), at,
    claims: accepted.flatMap(decision => decision.claims.map((claim, index) => ({ ...claim, course: decision.course,
      credits: index === 0 ? decision.credits : 0 }))),
    rowsDone: accepted.map(decision => decision.rowId),
    refusals: decisions.filter(decision => decision.outcome === 'refused').map(decision => ({ course: decision.course,
      codes: decision.findings.filter(finding => !finding.ok).map(findingName) })),
    result: { reference: press.key.slice(0, 8).toUpperCase(), at, repeated: false, rows: decisions },
  }
}
