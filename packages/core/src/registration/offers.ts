import type { Instant } from '../catalog/types'
import type { RefusalCode } from './findings'
import type { RowDecision } from './decide'

/** Hours for which a seat that came free is held for the next on the waitlist (common practice: about two days, no source). */
const OFFER_HOURS = 48

/** Until when an offer made now stands: its hours, and never past the end of adding. */
export function offerUntil(now: Instant, addEnds: Instant): Instant {
  const full = new Date(Date.parse(now) + OFFER_HOURS * 3_600_000).toISOString()
  return full < addEnds ? full : addEnds
}

/** What a person can still put in order while the seat is held, and is told of with the offer. */
const CAN_BE_SETTLED: readonly RefusalCode[] = ['gate', 'clash', 'load-cap']

/** Whether a seat is offered to somebody whose registration would be decided so: nothing refuses it that cannot be settled meanwhile. */
export const mayBeOffered = ({ findings }: Pick<RowDecision, 'findings'>): boolean =>
  findings.every(finding => finding.ok || CAN_BE_SETTLED.includes(finding.code))
