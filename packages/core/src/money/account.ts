import { shiftDate } from '../catalog/terms'
import type { LocalDate } from '../catalog/types'
import type { Cents, DuePart, MoneyEntry, MoneyPolicy, PaymentPlan } from './types'

/** How a term's account stands on a date. */
export interface TermAccount {
  /** What was charged, less what came back. */
  charged: Cents
  /** What was paid, less what was sent back. */
  paid: Cents
  /** What is still to pay in all; negative when the college owes the student. */
  balance: Cents
  parts: DuePart[]
  /** What should have been paid by this date. */
  overdue: Cents
  /** The next part that is open, overdue or not. */
  next: DuePart | null
  /** The day after which the registration is voided unless the first part is paid; null when it is, or nothing is owed. */
  voidAfter: LocalDate | null
}

const sumOf = (entries: readonly MoneyEntry[], ...kinds: MoneyEntry['kind'][]) =>
  entries.reduce((sum, entry) => sum + (kinds.includes(entry.kind) ? entry.cents : 0), 0)

/**
 * What is due when. Each charge is split by the plan, each of its parts due at the plan's date or some days after the charge, whichever is
 * later; the last part takes what rounding leaves. What came back lessens the latest parts first; what was paid settles the earliest.
 */
export function readAccount(entries: readonly MoneyEntry[], { feesDue, plan, policy, date }: {
  feesDue: LocalDate
  plan: Pick<PaymentPlan, 'parts'>
  policy: Pick<MoneyPolicy, 'lateDays' | 'graceDays'>
  date: LocalDate
}): TermAccount {
  const back = sumOf(entries, 'refund', 'void')
  const sides = balancesOf(entries)
  const [charged, paid] = [sides.college, 0 - sides.desk]
  const asked = new Map<string, DuePart>()
  for (const entry of entries) {
    if (entry.kind !== 'charge') continue
    const late = shiftDate(entry.date, policy.lateDays)
    for (const [part, cents] of splitBy(plan, entry.cents).entries()) {
      const planned = shiftDate(feesDue, plan.parts[part]!.days)
      const due = planned > late ? planned : late
      const key = `${due} ${part}`
      const before = asked.get(key) ?? { due, part, cents: 0, open: 0 }
      asked.set(key, { ...before, cents: before.cents + cents })
    }
  }
  const inOrder = [...asked.values()].sort((a, b) => a.due < b.due ? -1 : a.due > b.due ? 1 : a.part - b.part)
  let lessened = back
  for (const part of [...inOrder].reverse()) {
    const gone = Math.min(part.cents, lessened)
    part.cents -= gone
    lessened -= gone
  }
  let left = paid
  const parts = inOrder.filter(part => part.cents > 0).map((part) => {
    const settled = Math.max(0, Math.min(part.cents, left))
    left -= settled
    return { ...part, open: part.cents - settled }
  })
  const open = parts.filter(part => part.open > 0)
  const first = open.find(part => part.part === 0)
  return {
    charged, paid, balance: 0 - sides.student, parts,
    overdue: open.reduce((sum, part) => sum + (part.due < date ? part.open : 0), 0),
    next: open[0] ?? null,
    voidAfter: first ? shiftDate(first.due, policy.graceDays) : null,
  }
}

/** An amount in the parts of a plan; the last takes what rounding leaves, so that nothing is made or lost. */
export function splitBy({ parts }: Pick<PaymentPlan, 'parts'>, cents: Cents): Cents[] {
  const shares = parts.slice(0, -1).map(({ percent }) => Math.floor(cents * percent / 100))
  return [...shares, cents - shares.reduce((sum, share) => sum + share, 0)]
}

/**
 * Where money comes from and where it goes: every entry is a transfer between two of three accounts, so that all together are always
 * nought.
 */
const FLOWS: Record<MoneyEntry['kind'], { from: MoneySide, to: MoneySide }> = {
  charge: { from: 'student', to: 'college' },
  refund: { from: 'college', to: 'student' },
  void: { from: 'college', to: 'student' },
  payment: { from: 'desk', to: 'student' },
  payback: { from: 'student', to: 'desk' },
}
type MoneySide = 'student' | 'college' | 'desk'

/** What stands on each side after some entries; they add up to nothing. */
export function balancesOf(entries: readonly Pick<MoneyEntry, 'kind' | 'cents'>[]): Record<MoneySide, Cents> {
  const sides = { student: 0, college: 0, desk: 0 }
  for (const { kind, cents } of entries) {
    sides[FLOWS[kind].from] -= cents
    sides[FLOWS[kind].to] += cents
  }
  return sides
}
