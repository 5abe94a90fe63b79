import type { Course, Section } from '../catalog/types'
import type { RowDecision } from './decide'
import { checkSeats } from './seats'

/**
 * A decision with the seats as they are now: what was said of seats is said anew, everything else stands. A page that is told of seats
 * as they change keeps its decisions right by it without asking the server; what registers is always decided there.
 */
export function withSeatsNow(decision: RowDecision, sections: readonly Section[], groups: readonly string[], course: Pick<Course, 'code'>):
RowDecision {
  if (!decision.findings.some(finding => finding.code === 'seats-full')) return decision
  const { claims, findings } = checkSeats(course, sections, groups, () => [])
  const others = decision.findings.filter(finding => finding.code !== 'seats-full')
  const refused = others.some(finding => !finding.ok)
  const full = findings.some(finding => !finding.ok)
  const outcome = refused ? decision.outcome : !full ? 'register' : decision.outcome === 'register' ? 'refused' : decision.outcome
  return { ...decision, outcome, findings: [...others, ...findings], claims: outcome === 'register' ? claims : [] }
}
