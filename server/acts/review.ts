import type { z } from 'zod'
import { applyAll, type PlanOperation } from '@ridgeway/core/planning'
import type * as contract from '#shared/contract/acts/advising'
import { DONE } from '#shared/contract/define'
import { LIMITS } from '#shared/contract/limits'
import type { Doing } from '../college/asked'
import { Refusal } from '../college/refusal'
import { tell } from '../college/tell'
import { addNote, addSuggestions, closeSuggestions, countNotes, keepLook, keepRead, openSuggestions, removeNote as removeOwnNote,
  settleComments } from '../db/store/advising'
import { findPlan, listPlans, planOf, writePlan } from '../db/store/plans'
import { checkChange, checkOperations, checkSize } from './plans'

type Input<Act extends { input: z.ZodType }> = z.output<Act['input']>

/** Marks a thread as settled, or opens it again. */
export async function settleThread({ tx, student, actor, at, input }: Doing<Input<typeof contract.settleThread>>) {
  const found = await settleComments(tx, { student, ...input }, input.settled ? { by: actor, at } : null)
  if (found === 0) throw new Refusal(404, 'no-comments', 'Nothing is written there.', 'Reload the page.')
  return DONE
}

export async function markRead({ tx, student, actor, input }: Doing<Input<typeof contract.markRead>>) {
  await keepRead(tx, actor, student, input.upTo)
  return DONE
}

/** How the file stood when its advisor stopped looking: what comes after is new. */
export async function finishLook({ tx, student, actor, at, input }: Doing<Input<typeof contract.finishLook>>) {
  const plan = (await listPlans(tx, student)).find(one => one.id === input.plan)
  if (!plan) throw unknownPlan()
  await keepLook(tx, { person: actor, student, at, ...input, version: Math.min(input.version, plan.version) })
  await keepRead(tx, actor, student, input.comment)
  return DONE
}

const unknownPlan = () =>
  new Refusal(404, 'plan-unknown', 'There is no such plan; it may have been deleted.', 'Go back to the current plan.')

/** Changes that stand beside a plan until the student takes them or not. Each line has to make sense after those before it. */
export async function suggest(doing: Doing<Input<typeof contract.suggest>>) {
  const { tx, student, actor, college, at, input, ledger } = doing
  checkOperations(college, input.lines.flat())
  const row = (await listPlans(tx, student)).find(one => one.id === input.plan)
  if (!row) throw unknownPlan()
  const open = await openSuggestions(tx, student)
  if (open.length + input.lines.length > LIMITS.suggestions)
    throw new Refusal(422, 'too-many-suggestions', `${open.length} suggestions stand there already.`,
      'Take some back, or wait for the answer.')
  const before = await planOf(tx, row)
  let plan = before
  for (const operation of input.lines.flat()) {
    checkChange(college, plan, operation)
    const next = applyAll(plan, [operation])
    if (typeof next === 'string')
      throw new Refusal(409, 'moved-on', `The plan has changed since you looked: ${next}.`, 'Look at it again, then suggest.')
    plan = next
  }
  checkSize(plan, before)
  await addSuggestions(tx, { student, plan: row.id, set: crypto.randomUUID(), author: actor, at, why: input.why, lines: input.lines })
  await ledger('suggest', { plan: row.id, lines: input.lines.length })
  await tell(doing, [student], { code: 'suggested', count: input.lines.length })
  return DONE
}

/**
 * Takes suggestions into the plan that they are about, one after the other, or declines them. One that does not fit the plan any more is
 * left as it is and named; so is one that was answered or taken back meanwhile.
 */
export async function answerSuggestions(doing: Doing<Input<typeof contract.answerSuggestions>>) {
  const { tx, student, actor, at, input, ledger } = doing
  const open = (await openSuggestions(tx, student)).filter(one => input.ids.includes(one.id))
  const left = input.ids.filter(id => !open.some(one => one.id === id)).map(id => ({ id, why: 'answered or taken back already' }))
  const authors = open.map(one => one.author)
  if (!input.take) {
    await closeSuggestions(tx, open.map(one => one.id), 'declined', at, input.words)
    await tell(doing, authors, { code: 'suggestions answered', count: open.length })
    return { version: 0, left }
  }
  if (new Set(open.map(one => one.plan)).size > 1)
    throw new Refusal(422, 'several-plans', 'These suggestions are about several plans.', 'Take those of one plan at a time.')
  const row = open[0] && await findPlan(tx, student, open[0].plan)
  if (!row || row.deletedAt) throw open.length === 0 ? answered() : unknownPlan()
  const before = await planOf(tx, row)
  let plan = before
  const taken: number[] = []
  const done: { version: number, operation: PlanOperation }[] = []
  for (const { id, operations } of open) {
    const next = applyAll(plan, operations)
    if (typeof next === 'string') {
      left.push({ id, why: next })
      continue
    }
    plan = next
    taken.push(id)
    for (const operation of operations) done.push({ version: row.version + done.length + 1, operation })
  }
  checkSize(plan, before)
  const version = row.version + done.length
  await writePlan(tx, row.id, before, plan, version, { by: actor, at, batch: null, operations: done })
  await closeSuggestions(tx, taken, 'accepted', at)
  await ledger('accept suggestion', { plan: row.id, ids: taken })
  await tell(doing, authors, { code: 'suggestions answered', count: taken.length })
  return { version, left }
}

const answered = () => new Refusal(409, 'answered-already', 'These suggestions are answered already, or were taken back.',
  'Here is the plan as it stands.')

export async function takeBackSuggestions({ tx, student, at, input }: Doing<Input<typeof contract.takeBackSuggestions>>) {
  const mine = (await openSuggestions(tx, student)).filter(one => one.set === input.set).map(one => one.id)
  if (await closeSuggestions(tx, mine, 'taken back', at) === 0) throw answered()
  return DONE
}

/** A note about the student; one that is not shared never leaves the server for the student's pages. */
export async function writeNote(doing: Doing<Input<typeof contract.writeNote>>) {
  const { tx, student, actor, at, input } = doing
  if (await countNotes(tx, student) >= LIMITS.notes)
    throw new Refusal(422, 'too-many-notes', `${LIMITS.notes} notes stand there already.`, 'Remove one of yours first.')
  await addNote(tx, { student, author: actor, at, ...input })
  if (input.shared) await tell(doing, [student], { code: 'note shared' })
  return DONE
}
export async function removeNote({ tx, student, actor, input }: Doing<Input<typeof contract.removeNote>>) {
  if (await removeOwnNote(tx, student, actor, input.id) === 0)
    throw new Refusal(404, 'note-unknown', 'There is no such note of yours.', 'Reload the page.')
  return DONE
}
