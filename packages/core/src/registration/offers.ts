import type { Instant } from '../catalog/types'
import type { RefusalCode } from './findings'
import type { RowDecision } from './decision'

/** Until when an offer made now stands: so many hours, as the institution has it, and never past the end of adding. */
export function offerUntil(now: Instant, addEnds: Instant, hours: number): Instant {
  const full = new Date(Date.parse(now) + hours * 3_600_000).toISOString()
  return full < addEnds ? full : addEnds
}

/** What a person can still put in order while the seat is held, and is told of with the offer. */
const CAN_BE_SETTLED: readonly RefusalCode[] = ['gate', 'clash', 'load-cap']

/** Whether a seat is offered to somebody whose registration would be decided so: nothing refuses it that cannot be settled meanwhile. */
export const mayBeOffered = ({ findings }: Pick<RowDecision, 'findings'>): boolean =>
  findings.every(finding => finding.ok || CAN_BE_SETTLED.includes(finding.code))

/** Offers of the parts of one bundle as one, with all their labels: they are taken, or let go, together. What only waits stays as it is. */
export function offersAsBundles<W extends { course: string, label: string, offerUntil: string | null, bundle: readonly number[] }>(
  waits: readonly W[]): W[] {
  const offers = new Map<string, W>()
  const whole: W[] = []
  for (const wait of waits) {
    const key = `${wait.course} ${wait.bundle.join()}`
    const before = wait.offerUntil === null || wait.bundle.length < 2 ? undefined : offers.get(key)
    if (before) {
      const joined = { ...before, label: `${before.label} + ${wait.label}` }
      whole[whole.indexOf(before)] = joined
      offers.set(key, joined)
      continue
    }
    if (wait.offerUntil !== null) offers.set(key, wait)
    whole.push(wait)
  }
  return whole
}
