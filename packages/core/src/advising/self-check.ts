import type { CourseCode, Credits, TermCode } from '../catalog/types'
import type { Standing } from '../planning/standing'

/** What a plan answers by itself before an advisor is asked to look at a term of it. */
export interface SelfCheck {
  /** Credits of the requirements that have no course yet. */
  open: Credits
  /** What blocks in the term itself. */
  blockers: number
  /** What blocks in later terms. */
  later: number
  /** Credits of the term, and whether that is full-time. */
  credits: Credits
  fullTime: boolean
  /** Courses of the term that count for nothing. */
  offPath: CourseCode[]
}

/** The self-check of a term, read from the standing that every view shows. */
export function readSelfCheck(standing: Pick<Standing, 'unplaced' | 'checks' | 'loads' | 'items'>, term: TermCode,
  fullTime: Credits): SelfCheck {
  const blockers = standing.checks.filter(check => check.severity === 'blocker')
  const credits = standing.loads.find(load => load.term === term)?.credits ?? 0
  return {
    open: standing.unplaced,
    blockers: blockers.filter(check => check.term === term).length,
    later: blockers.filter(check => check.term !== term).length,
    credits,
    fullTime: credits >= fullTime,
    offPath: standing.checks.flatMap(check => check.kind === 'counts for nothing' && check.term === term && check.course
      ? [check.course]
      : []),
  }
}
