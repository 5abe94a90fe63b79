import type { AccountView } from '#shared/contract/views/student'
import type { Looking } from '../college/asked'
import { findTerm } from '../college/college'
import { chosenPlan, paymentsOf, readEntries } from '../db/store/money'

/** What was charged, came back and was paid for a term. */
export async function readAccountOf({ db, student, college, input }: Looking<{ term: string }>): Promise<AccountView> {
  const term = findTerm(college, input.term).code
  return { entries: await readEntries(db, student, term), plan: await chosenPlan(db, student, term),
    payments: (await paymentsOf(db, student, term)).map(({ student: _, term: __, ...payment }) => payment) }
}
