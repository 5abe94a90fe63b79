import type { z } from 'zod'
import type * as contract from '#shared/contract/acts/advising'
import { DONE } from '#shared/contract/define'
import type { Doing } from '../college/asked'
import { Refusal } from '../college/refusal'
import { tell } from '../college/tell'
import { addDeputy, deputiesNamed, findAdvisor, removeDeputy, replaceAdvisor } from '../db/store/advisors'
import { advisorOf } from '../db/store/people'

type Input<Act extends { input: z.ZodType }> = z.output<Act['input']>

/** Deputies whose time is not over that one advisor names at most. */
const MOST_DEPUTIES = 10

/** Gives a student another advisor: the earlier one is out at the next request, and open pages of theirs close. */
export async function reassignAdvisor(doing: Doing<Input<typeof contract.reassignAdvisor>>) {
  const { tx, student, actor, at, input, ledger } = doing
  const next = await findAdvisor(tx, input.advisor)
  if (!next) throw new Refusal(422, 'advisor-unknown', 'This is no advisor.', 'Choose one from the list.')
  const before = await advisorOf(tx, student)
  if (before === next.id)
    throw new Refusal(422, 'no-change', `${next.name} advises this student already.`, 'Choose another advisor.')
  await replaceAdvisor(tx, { student, advisor: next.id, at, by: actor, reason: input.reason })
  await ledger('reassign advisor', { from: before ?? null, to: next.id, reason: input.reason })
  await tell(doing, [student, next.id, ...before ? [before] : []], { code: 'advisor changed' })
  return DONE
}

/** Another advisor stands in for a time. */
export async function nameDeputy({ tx, actor, date, input, ledger }: Doing<Input<typeof contract.nameDeputy>>) {
  const deputy = await findAdvisor(tx, input.deputy)
  if (!deputy || deputy.id === actor)
    throw new Refusal(422, 'advisor-unknown', 'This is no other advisor.', 'Choose one from the list.')
  if (input.until < date) throw new Refusal(422, 'over-already', 'The last day is over.', 'Choose a later one.')
  const named = await deputiesNamed(tx, actor, date)
  if (named.length >= MOST_DEPUTIES)
    throw new Refusal(422, 'too-many-deputies', `${MOST_DEPUTIES} deputies are named already.`, 'End one of them first.')
  await addDeputy(tx, actor, deputy.id, input.from, input.until)
  await ledger('name deputy', { advisor: actor, deputy: deputy.id, from: input.from, until: input.until })
  return DONE
}

export async function endDeputy({ tx, actor, input, ledger }: Doing<Input<typeof contract.endDeputy>>) {
  if (await removeDeputy(tx, actor, input.id) === 0)
    throw new Refusal(404, 'deputy-unknown', 'There is no such deputy of yours.', 'Reload the page.')
  await ledger('name deputy', { advisor: actor, ended: input.id })
  return DONE
}
