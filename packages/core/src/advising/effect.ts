import type { Credits, LocalDate, TermCode } from '../catalog/types'
import type { PlanCheck } from '../planning/checks'
import { applyAll, type Plan, type PlanOperation } from '../planning/plan'
import { readStanding, type Standing } from '../planning/standing'
import type { Catalog, StudentFile } from '../planning/student-file'

/** What a change of a plan would come to. */
export interface Effect {
  finish: [before: TermCode | null, after: TermCode | null]
  /** Credits without a course or a place. */
  open: [before: Credits, after: Credits]
  /** Blockers that would go away, and that would be new. */
  mended: PlanCheck[]
  broken: PlanCheck[]
  /** Terms whose load changes. */
  loads: { term: TermCode, before: Credits, after: Credits }[]
}

/** What operations on a plan would come to, against how it stands. */
export function effectOf(standing: Standing, after: Standing): Effect {
  const blocking = ({ checks }: Standing) => checks.filter(check => check.severity === 'blocker')
  const lacks = (checks: readonly PlanCheck[], others: readonly PlanCheck[]) =>
    checks.filter(check => !others.some(other => other.id === check.id))
  return {
    finish: [standing.finish, after.finish],
    open: [standing.unplaced, after.unplaced],
    mended: lacks(blocking(standing), blocking(after)),
    broken: lacks(blocking(after), blocking(standing)),
    loads: after.loads.flatMap(({ term, credits }) => {
      const before = standing.loads.find(load => load.term === term)?.credits ?? 0
      return before === credits ? [] : [{ term, before, after: credits }]
    }),
  }
}

/** The reading of a file with operations done to its plan; null where they make no sense any more: somebody changed the plan meanwhile. */
export function standingWith(file: StudentFile, plan: Plan, operations: readonly PlanOperation[], catalog: Catalog,
  today: LocalDate): Standing | null {
  const next = applyAll(plan, operations)
  if (typeof next === 'string') return null
  const { entries, placeholders, wishes } = next
  return readStanding({ ...file, entries, placeholders, wishes }, catalog, today)
}
