import type { RunResult } from '#shared/contract/acts/student'
import type { Executor } from '../database'
import { change, fromInstantText, plain } from './plain'

/** A decided press, as it is kept. */
export interface Run {
  student: number
  actor: number
  term: string
  key: string
  asked: string
  at: string
  claims: { sectionId: number, poolId: number, course: string, credits: number }[]
  /** Line-up rows that are registered now. */
  rowsDone: number[]
  refusals: { course: string, codes: string[] }[]
  result: RunResult
}

/** Presses that were answered before, by student; at most one key a student is asked for. */
export async function findRuns(db: Executor, presses: readonly { student: number, key: string }[]) {
  if (presses.length === 0) return new Map<number, { asked: string, result: RunResult }>()
  const rows = await plain<{ student: number, asked: string, result: string }>(db,
    'SELECT student, asked, result FROM registration_runs WHERE (student, run_key) IN (?)',
    [presses.map(({ student, key }) => [student, key])])
  return new Map(rows.map(row => [row.student, { asked: row.asked, result: JSON.parse(row.result) as RunResult }]))
}

/** Keeps decided presses together: seats, registrations, what leaves the line-ups, ledger, answers, and the versions of the files. */
export async function keepRuns(tx: Executor, runs: readonly Run[]): Promise<void> {
  const claims = runs.flatMap(run => run.claims.map(claim => ({ run, claim })))
  if (claims.length > 0) {
    const seats = new Map<number, number>()
    for (const { claim } of claims) seats.set(claim.poolId, (seats.get(claim.poolId) ?? 0) + 1)
    for (const taken of new Set(seats.values())) {
      const pools = [...seats].filter(([, count]) => count === taken).map(([pool]) => pool)
      await change(tx, 'UPDATE seat_pools SET taken = taken + ? WHERE id IN (?)', [taken, pools])
    }
    await plain(tx, 'INSERT INTO registrations (student, section, pool, term, course, credits, run, registered_at) VALUES ?',
      [claims.map(({ run, claim }) => [run.student, claim.sectionId, claim.poolId, run.term, claim.course, claim.credits, run.key,
        fromInstantText(run.at)])])
    await plain(tx, 'DELETE FROM line_up_rows WHERE id IN (?)', [runs.flatMap(run => run.rowsDone)])
    const changed = [...new Set(claims.map(({ run }) => run.student))]
    await plain(tx, 'UPDATE students SET version = version + 1 WHERE person IN (?)', [changed])
  }
  const told = runs.flatMap(run => [
    ...run.claims.map(claim => [fromInstantText(run.at), run.actor, run.student, 'register', claim.sectionId, claim.poolId, run.key,
      JSON.stringify({ course: claim.course })]),
    ...run.refusals.map(refusal => [fromInstantText(run.at), run.actor, run.student, 'refuse', null, null, run.key,
      JSON.stringify(refusal)]),
  ])
  if (told.length > 0)
    await plain(tx, 'INSERT INTO ledger (happened_at, actor, student, action, section, pool, run, detail) VALUES ?', [told])
  await plain(tx, 'INSERT INTO registration_runs (student, run_key, term, asked, run_at, result) VALUES ?',
    [runs.map(run => [run.student, run.key, run.term, run.asked, fromInstantText(run.at), JSON.stringify(run.result)])])
}
