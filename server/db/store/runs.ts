import type { RunResult } from '#shared/contract/acts/student'
import type { Executor } from '../database'
import { type Dossier, dossiersFrom, dossierStatement } from './dossiers'
import { endWaits, type Joined } from './changes'
import { chargeOf, INSERT_MONEY } from './money'
import { fromInstantText, type Statement, together } from './plain'

/** A decided press, as it is kept. */
export interface Run {
  student: number
  actor: number
  term: string
  key: string
  asked: string
  at: string
  claims: { sectionId: number, poolId: number, course: string, credits: number, grading: string, tuition: number, fees: number }[]
  /** Waitlists that are joined, with the place on each. */
  waits: Joined[]
  /** Line-up rows that are registered now. */
  rowsDone: number[]
  /** Waits that end because their course is registered now. */
  waitsDone: { id: number, section: number, course: string }[]
  /** The date in the college's zone, for what is charged. */
  date: string
  refusals: { course: string, codes: string[] }[]
  result: RunResult
}

/** What is read for presses before they are decided. */
export interface BeforeRuns {
  /** Students whose rows are locked now; the others' are held by somebody, and what was read of them counts for nothing. */
  locked: Set<number>
  /** The catalog's stamp, and those of the sections of the terms. */
  catalog: number
  stamps: Map<string, number>
  /** What was answered before to the same keys, by student. */
  runs: Map<number, { asked: string, result: RunResult }>
  dossiers: Map<number, Dossier>
}

/**
 * Starts the transaction, locks the rows of different students who press, and reads what the decision needs, in one round trip.
 * With `skip`, rows that somebody holds are left out; otherwise they are waited for.
 */
export async function readForRuns(tx: Executor, presses: readonly { student: number, key: string, term: string }[], skip: boolean):
Promise<BeforeRuns> {
  const students = presses.map(press => press.student)
  const [locks, before, dossiers] = await together(tx, [
    ['START TRANSACTION', []],
    ['SELECT person, (SELECT version FROM college_stamp WHERE id = 1) catalog FROM students FORCE INDEX (PRIMARY) WHERE person IN (?) '
      + `ORDER BY person FOR UPDATE${skip ? ' SKIP LOCKED' : ''}`, [students]],
    [`SELECT student, asked, result, 0 stamp FROM registration_runs WHERE (student, run_key) IN (?)
      UNION ALL SELECT NULL, code, NULL, sections_version FROM terms WHERE code IN (?)`,
    [presses.map(({ student, key }) => [student, key]), presses.map(press => press.term)]],
    dossierStatement(students),
  ]) as [{ person: number, catalog: number }[], { student: number | null, asked: string, result: string, stamp: number }[], unknown[]]
  const runs: BeforeRuns['runs'] = new Map()
  const stamps: BeforeRuns['stamps'] = new Map()
  for (const { student, asked, result, stamp } of before) {
    if (student === null) stamps.set(asked, stamp)
    else runs.set(student, { asked, result: JSON.parse(result) as RunResult })
  }
  return { locked: new Set(locks.map(row => row.person)), catalog: locks[0]?.catalog ?? 0, stamps, runs, dossiers: dossiersFrom(dossiers) }
}

/** Keeps decided presses together: seats, registrations, what leaves the line-ups, ledger, answers, and the versions of the files. */
export async function keepRuns(tx: Executor, runs: readonly Run[]): Promise<void> {
  const statements: Statement[] = []
  const claims = runs.flatMap(run => run.claims.map(claim => ({ run, claim })))
  if (claims.length > 0) {
    const seats = new Map<number, number>()
    for (const { claim } of claims) seats.set(claim.poolId, (seats.get(claim.poolId) ?? 0) + 1)
    for (const taken of new Set(seats.values())) {
      const pools = [...seats].filter(([, count]) => count === taken).map(([pool]) => pool)
      statements.push(['UPDATE seat_pools SET taken = taken + ? WHERE id IN (?)', [taken, pools]])
    }
    statements.push([`INSERT INTO registrations
      (student, section, pool, term, course, credits, run, registered_at, grading, tuition, fees) VALUES ?`,
    [claims.map(({ run, claim }) => [run.student, claim.sectionId, claim.poolId, run.term, claim.course, claim.credits, run.key,
      fromInstantText(run.at), claim.grading, claim.tuition, claim.fees])]])
  }
  const waits = runs.flatMap(run => run.waits.map(wait => ({ run, wait })))
  if (waits.length > 0)
    statements.push(['INSERT INTO waitlist_entries (student, section, joined_at, bundle, grading, credits, joined_as) VALUES ?',
      [waits.map(({ run, wait }) => [run.student, wait.sectionId, fromInstantText(run.at), JSON.stringify(wait.bundle), wait.grading,
        wait.credits, wait.place])]])
  const changed = [...new Set([...claims, ...waits].map(({ run }) => run.student))]
  if (changed.length > 0) {
    statements.push(...endWaits(runs.flatMap(run => run.waitsDone.map(one => one.id)), runs[0]!.at))
    statements.push(['DELETE FROM line_up_rows WHERE id IN (?)', [runs.flatMap(run => run.rowsDone)]])
    statements.push(['UPDATE students SET version = version + 1 WHERE person IN (?)', [changed]])
  }
  const charges = runs.map(run => chargeOf(run, run.claims)).filter(row => row !== null)
  if (charges.length > 0) statements.push([INSERT_MONEY, [charges]])
  const told = runs.flatMap(run => [
    ...run.claims.map(claim => [fromInstantText(run.at), run.actor, run.student, 'register', claim.sectionId, claim.poolId, run.key,
      JSON.stringify({ course: claim.course })]),
    ...run.waits.map(wait => [fromInstantText(run.at), run.actor, run.student, 'join waitlist', wait.sectionId, null, run.key,
      JSON.stringify({ course: wait.course, place: wait.place })]),
    ...run.waitsDone.map(wait => [fromInstantText(run.at), run.actor, run.student, 'leave waitlist', wait.section, null, run.key,
      JSON.stringify({ course: wait.course, because: 'registered' })]),
    ...run.refusals.map(refusal => [fromInstantText(run.at), run.actor, run.student, 'refuse', null, null, run.key,
      JSON.stringify(refusal)]),
  ])
  if (told.length > 0)
    statements.push(['INSERT INTO ledger (happened_at, actor, student, action, section, pool, run, detail) VALUES ?', [told]])
  statements.push(['INSERT INTO registration_runs (student, run_key, term, asked, run_at, result) VALUES ?',
    [runs.map(run => [run.student, run.key, run.term, run.asked, fromInstantText(run.at), JSON.stringify(run.result)])]])
  await together(tx, statements)
}
