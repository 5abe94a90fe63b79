import type { z } from 'zod'
import { formatCredits } from '@ridgeway/words'
import type * as contract from '#shared/contract/acts/student'
import { DONE } from '#shared/contract/define'
import type { Doing } from '../college/asked'
import { findTerm } from '../college/college'
import { LIFTED } from '../college/lifted'
import { Refusal } from '../college/refusal'
import { readDossiers } from '../db/store/dossiers'
import { addException, findException, removeException } from '../db/store/requirements'

type Input<Act extends { input: z.ZodType }> = z.output<Act['input']>

/** Lifts a rule of registering for one student and one term; who did it and why is kept with it and in the ledger. */
export async function liftRule({ tx, student, actor, college, at, input, ledger }: Doing<Input<typeof contract.liftRule>>) {
  const term = findTerm(college, input.term)
  const course = input.kind === 'load' ? null : input.course
  if (course && !college.catalog.courses.has(course))
    throw new Refusal(422, 'course-unknown', `There is no course ${course}.`, 'Choose one from the list.')
  if (input.kind === 'load' && input.credits <= term.loadCap)
    throw new Refusal(422, 'no-more', `${formatCredits(input.credits)} credits are within the cap of ${term.name} already.`,
      `Choose more than ${formatCredits(term.loadCap)}.`)
  const value = input.kind === 'load' ? input.credits : null
  const known = (await readDossiers(tx, [student])).get(student)!.exceptions.some(one => one.kind === input.kind && one.course === course
    && one.term === term.code)
  if (known) throw new Refusal(409, 'granted-already', 'This is granted already.', 'Take it back first to grant it anew.')
  await addException(tx, { student, kind: input.kind, course, term: term.code, value,
    reason: input.reason, grantedBy: actor, grantedAt: at })
  await ledger('lift rule', { kind: input.kind, term: term.code, course, value, reason: input.reason })
  return DONE
}

/** The rule holds again; what was registered while it did not stays registered. */
export async function takeBackLifted({ tx, student, input, ledger }: Doing<Input<typeof contract.takeBackLifted>>) {
  const known = await findException(tx, student, input.id)
  if (!known || !LIFTED.includes(known.kind))
    throw new Refusal(404, 'exception-unknown', 'There is no such exception.', 'Reload the page; it may have been taken back already.')
  await removeException(tx, input.id)
  await ledger('take back lifted rule', { kind: known.kind, term: known.term, course: known.course })
  return DONE
}
