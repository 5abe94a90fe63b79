import type { Course, Section } from '../catalog/types'
import { bundlesOf } from '../weeks/bundles'
import type { RowDecision } from './decision'
import { checkSeats } from './seats'

/**
 * A decision with the seats as they are now: what it says of seats is worked out again, everything else is kept. A page that gets news of
 * seats keeps its decisions right by it without a request to the server; what registers is always decided there. `sections` are those of
 * the decision, `all` every section of the course, both with their seats as they are now: another one with a seat is looked for in them.
 */
export function withSeatsNow(decision: RowDecision, sections: readonly Section[], groups: readonly string[],
  course: Pick<Course, 'code' | 'parts'>, all: readonly Section[]): RowDecision {
  if (!decision.findings.some(finding => finding.code === 'seats-full')) return decision
  const { claims, findings } = checkSeats(course, sections, groups, () => bundlesOf(course, all))
  const others = decision.findings.filter(finding => finding.code !== 'seats-full')
  const full = findings.some(finding => !finding.ok)
  /** What becomes of what was decided, where nothing else refuses it. */
  const turned = (was: RowDecision['outcome'], refuses: boolean) =>
    refuses ? was : !full ? 'register' : was === 'register' ? 'refused' : was
  const outcome = turned(decision.outcome, others.some(finding => !finding.ok))
  const once = decision.once && turned(decision.once, others.some(finding => !finding.ok && finding.code !== 'gate'))
  const waits = decision.waits.map((wait) => {
    const section = sections.find(one => one.id === wait.sectionId)
    return section ? { ...wait, place: section.waiting + 1 } : wait
  })
  return { ...decision, outcome, ...once ? { once } : {}, findings: [...others, ...findings], waits,
    claims: outcome === 'register' ? claims : [] }
}
