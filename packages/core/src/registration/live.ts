import type { Course, Section } from '../catalog/types'
import type { RowDecision } from './decision'
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
  const full = findings.some(finding => !finding.ok)
  /** What becomes of what was decided, where nothing else refuses it. */
  const turned = (was: RowDecision['outcome'], refuses: boolean) =>
    refuses ? was : !full ? 'register' : was === 'register' ? 'refused' : was
  const outcome = turned(decision.outcome, others.some(finding => !finding.ok))
  const once = decision.once && turned(decision.once, others.some(finding => !finding.ok && finding.code !== 'gate'))
  return { ...decision, outcome, ...once ? { once } : {}, findings: [...others, ...findings], claims: outcome === 'register' ? claims : [] }
}
