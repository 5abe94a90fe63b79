import type { z } from 'zod'
import type { Course } from '@ridgeway/core/catalog'
import { applyAll, applyToPlan, EMPTY_PLAN, type Plan, type PlanOperation } from '@ridgeway/core/planning'
import { parseLineRef, type LineRef } from '@ridgeway/core/record'
import { linesOfProgram } from '@ridgeway/core/requirements'
import { creditRange, formatCredits } from '@ridgeway/words'
import type * as contract from '#shared/contract/acts/student'
import { DONE } from '#shared/contract/define'
import { LIMITS } from '#shared/contract/limits'
import type { Doing } from '../college/asked'
import { type College, findTerm } from '../college/college'
import { Refusal } from '../college/refusal'
import { advisingOf, tell } from '../college/tell'
import { settleComments } from '../db/store/advising'
import { addComment, addPlan, batchIsKnown, countComments, findPlan, headOf, listPlans, makeCurrent, markDeleted, planOf, type PlanRow,
  renamePlan, writePlan } from '../db/store/plans'
import { readBeside } from '../db/store/students'

type Input<Act extends { input: z.ZodType }> = z.output<Act['input']>

/**
 * Applies operations to one of the student's plans. The plan may have moved on since `baseVersion`: operations are merged onto it as
 * it is, and those that no longer make sense are skipped and named. A batch that was done before is not done again.
 */
export async function editPlan({ tx, student, actor, college, at, input }: Doing<Input<typeof contract.editPlan>>) {
  checkOperations(college, input.operations)
  const kept = await listPlans(tx, student)
  const row = input.plan === undefined ? kept.find(one => one.current) : kept.find(one => one.id === input.plan)
  if (!row) throw unknownPlan()
  if (row.version < input.baseVersion)
    throw new Refusal(409, 'plan-version', 'This plan is older than the one on your screen.', 'Reload the page.')
  const before = await planOf(tx, row)
  const skipped: { operation: PlanOperation, why: string }[] = []
  if (input.batch && await batchIsKnown(tx, row.id, input.batch)) return { version: row.version, plan: before, skipped }
  let plan = before
  const done: { version: number, operation: PlanOperation }[] = []
  for (const operation of input.operations) {
    checkChange(college, plan, operation)
    const next = applyToPlan(plan, operation)
    if (typeof next === 'string') {
      skipped.push({ operation, why: next })
      continue
    }
    plan = next
    done.push({ version: row.version + done.length + 1, operation })
  }
  checkSize(plan, before)
  const version = row.version + done.length
  await writePlan(tx, row.id, before, plan, version, { by: actor, at, batch: input.batch ?? null, operations: done })
  return { version, plan, skipped }
}

const unknownPlan = () =>
  new Refusal(404, 'plan-unknown', 'There is no such plan; it may have been deleted.', 'Go back to your current plan.')

/** What an operation names must be there: courses, terms of the calendar, lines of a program. */
export function checkOperations(college: College, operations: readonly PlanOperation[]) {
  for (const operation of operations) {
    if (operation.kind === 'place') {
      const course = college.catalog.courses.get(operation.course)
      if (!course) throw new Refusal(422, 'course-unknown', `There is no course ${operation.course}.`, 'Search the catalog for its code.')
      checkCredits(course, operation.credits)
    }
    if ('term' in operation) findTerm(college, operation.term)
    if ('line' in operation && operation.line !== null) checkLine(college, operation.line)
    if (operation.kind === 'wishes')
      [...operation.wishes.termsOff, operation.wishes.latestFinish].forEach(term => term && findTerm(college, term))
  }
}

/** Any program of the college: a plan may be made for one that the student only thinks of. */
function checkLine(college: College, ref: LineRef) {
  const { program, line } = parseLineRef(ref)
  const known = [...college.programs.values()].some(one => one.code === program && linesOfProgram(one).some(other => other.id === line))
  if (!known)
    throw new Refusal(422, 'line-unknown', `There is no requirement ${line} in ${program}.`, 'Reload the page and choose the line again.')
}

/** An operation on what stands in the plan has to fit the course that it is about. */
export function checkChange(college: College, plan: Plan, operation: PlanOperation) {
  const changing = operation.kind === 'credits' ? plan.entries.find(entry => entry.id === operation.entry) : undefined
  if (changing && operation.kind === 'credits') checkCredits(college.catalog.courses.get(changing.course)!, operation.credits)
}

function checkCredits(course: Course, credits: number) {
  if (credits >= course.credits && credits <= course.creditsMax) return
  throw new Refusal(422, 'credits-range', `${course.code} has ${creditRange(course)}, not ${formatCredits(credits)}.`,
    'Choose credits within the course\'s range.')
}

/** A plan may grow to its limits; one that is larger already may only shrink. */
export function checkSize(plan: Plan, before: Plan) {
  for (const [what, most] of [['entries', LIMITS.entries], ['placeholders', LIMITS.placeholders]] as const) {
    if (plan[what].length > most && plan[what].length > before[what].length)
      throw new Refusal(422, 'plan-full', `A plan holds at most ${most} ${what === 'entries' ? 'courses' : 'places held'}.`,
        'Take something out of it first, or begin another plan.')
  }
}

/** Makes another plan, empty or as a copy, and applies operations to it; all of it or nothing. */
export async function makePlan({ tx, student, college, input }: Doing<Input<typeof contract.makePlan>>) {
  checkOperations(college, input.operations ?? [])
  const kept = await listPlans(tx, student)
  if (kept.length >= LIMITS.plans) throw tooManyPlans()
  const source = input.copyOf === null ? null : kept.find(one => one.id === input.copyOf)
  if (source === undefined) throw unknownPlan()
  const start = source ? await planOf(tx, source) : EMPTY_PLAN
  const plan = applyAll(start, input.operations ?? [])
  if (typeof plan === 'string')
    throw new Refusal(422, 'plan-operations', `The plan could not be made: ${plan}.`, 'Nothing was kept. Check the file and try again.')
  checkSize(plan, EMPTY_PLAN)
  const name = freeName(input.name, kept)
  return headOf({ id: await addPlan(tx, { student, name, plan }), name, version: 0, current: false })
}

const tooManyPlans = () =>
  new Refusal(422, 'too-many-plans', `You keep ${LIMITS.plans} plans already.`, 'Delete one that you no longer need.')

function freeName(name: string, kept: readonly { name: string }[]): string {
  for (let n = 1; ; n++) {
    const candidate = n === 1 ? name : `${name.slice(0, 55)} ${n}`
    if (!kept.some(plan => plan.name === candidate)) return candidate
  }
}

/** Renames a plan, makes it the current one, deletes it or brings it back: one of these. */
export async function changePlan({ tx, student, plan: id, at, input }: Doing<Input<typeof contract.changePlan>>) {
  const row = await findPlan(tx, student, id)
  if (!row) throw new Refusal(404, 'plan-unknown', 'There is no such plan.', 'Go back to your current plan.')
  const kept = await listPlans(tx, student)
  if (input.name !== undefined) await rename(tx, row, kept, input.name)
  else if (input.current) {
    if (row.deletedAt) throw new Refusal(422, 'plan-deleted', 'This plan was deleted.', 'Bring it back first.')
    await makeCurrent(tx, student, id)
  }
  else if (input.deleted) {
    if (row.current)
      throw new Refusal(422, 'plan-current', 'The current plan cannot be deleted: sign-off and registration read it.',
        'Make another plan the current one first.')
    if (!row.deletedAt) await markDeleted(tx, row, at, LIMITS.deletedPlans)
  }
  else if (row.deletedAt) {
    if (kept.length >= LIMITS.plans) throw tooManyPlans()
    await markDeleted(tx, row, null, LIMITS.deletedPlans)
  }
  return DONE
}

async function rename(tx: Doing<unknown>['tx'], row: PlanRow, kept: readonly PlanRow[], name: string) {
  if (kept.some(other => other.id !== row.id && other.name === name))
    throw new Refusal(422, 'plan-name', `Another plan is called ${name}.`, 'Choose a name of its own.')
  await renamePlan(tx, row.id, name)
}

export async function comment(doing: Doing<Input<typeof contract.comment>>) {
  const { tx, student, actor, college, at, input } = doing
  if (input.term) findTerm(college, input.term)
  if (await countComments(tx, student) >= LIMITS.comments)
    throw new Refusal(422, 'too-many-comments', `${LIMITS.comments} comments stand beside these plans already.`,
      'Write a note on the course, the term or the plan instead.')
  await addComment(tx, { student, author: actor, at, ...input })
  // What was settled is open again when somebody writes on.
  await settleComments(tx, { student, term: input.term, entry: input.entry }, null)
  const place = input.entry ? 'course' : input.term ? 'term' : 'plan'
  await tell(doing, [student, ...await advisingOf(doing)], { code: 'comment', place })
  return (await readBeside(tx, student, '', { now: at, date: doing.date })).comments
}
