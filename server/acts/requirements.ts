import type { z } from 'zod'
import { itemsOf, readPrograms } from '@ridgeway/core/planning'
import { linesOfProgram, type Program } from '@ridgeway/core/requirements'
import type * as contract from '#shared/contract/acts/student'
import { DONE } from '#shared/contract/define'
import type { Doing } from '../college/asked'
import { programsAt } from '../college/college'
import { Refusal } from '../college/refusal'
import { fileOf, planIn } from '../college/student'
import { type Dossier, readDossiers } from '../db/store/dossiers'
import { addException, findException, keepMilestone, keepUsePin, removeException } from '../db/store/requirements'

type Input<Act extends { input: z.ZodType }> = z.output<Act['input']>
type Here = Pick<Doing<unknown>, 'tx' | 'student' | 'college'>

const dossierOf = async ({ tx, student }: Here): Promise<Dossier> => (await readDossiers(tx, [student])).get(student)!

function programIn(dossier: Dossier, { college }: Here, code: string): Program {
  const program = programsAt(college, dossier.programs).find(candidate => candidate.code === code)
  if (!program)
    throw new Refusal(422, 'program-unknown', `This student is not in ${code}.`, 'Choose a line of one of the student\'s own programs.')
  return program
}

/** Pins the use of a course of the record or of a registration, or lets it go with `line: null`. A planned course is pinned in its plan. */
export async function pinUse(doing: Doing<Input<typeof contract.pinUse>>) {
  const { tx, student, college, input, ledger } = doing
  const dossier = await dossierOf(doing)
  const program = programIn(dossier, doing, input.program)
  const file = fileOf(dossier, college, college.catalog.terms.at(-1)!.code, planIn(dossier).plan)
  if (!file.record.some(item => item.id === input.item))
    throw new Refusal(404, 'item-unknown', 'This course is not on the record.', 'Reload the page; the record may have changed.')
  if (input.line !== null) {
    const { reports } = readPrograms([program], itemsOf(file), file, college.catalog)
    if (!reports[0]!.couldCount[input.item]?.includes(input.line))
      throw new Refusal(422, 'does-not-fit', 'This course cannot count on that line.', 'Choose one of the lines that light up for it.')
  }
  await keepUsePin(tx, { student, ...input })
  await ledger('pin use', input)
  return DONE
}

/** Grants a substitution or a waiver on a requirement line; who did it and why is kept with it and in the ledger. */
export async function grantException(doing: Doing<Input<typeof contract.grantException>>) {
  const { tx, student, actor, college, at, input, ledger } = doing
  const dossier = await dossierOf(doing)
  const program = programIn(dossier, doing, input.program)
  const line = linesOfProgram(program).find(candidate => candidate.id === input.line)
  if (!line)
    throw new Refusal(422, 'line-unknown', `${program.title} has no such requirement.`, 'Open the requirement again and grant it there.')
  const instead = input.kind === 'substitution' ? input.instead : null
  for (const code of [input.course, instead]) {
    if (code && !college.catalog.courses.has(code))
      throw new Refusal(422, 'course-unknown', `There is no course ${code}.`, 'Write the code as in the catalog, such as HYD 230.')
  }
  const listed = input.kind === 'waiver' ? input.course : instead
  if (listed && !line.filter.list?.includes(listed))
    throw new Refusal(422, 'not-listed', `${line.title} does not list ${listed}.`, 'Choose one of the courses that the line lists.')
  const { kind, course, reason } = input
  const known = dossier.exceptions.some(one =>
    one.kind === kind && one.program === input.program && one.line === input.line && one.course === course)
  if (known)
    throw new Refusal(409, 'granted-already', 'This exception is granted already.', 'It stands in the drawer of the requirement.')
  await addException(tx, { student, kind, program: input.program, line: input.line, course, instead, reason, grantedBy: actor,
    grantedAt: at })
  await ledger(kind === 'waiver' ? 'grant waiver' : 'grant substitution', { program: input.program, line: input.line, course, instead,
    reason })
  return DONE
}

/** Takes back a substitution or a waiver. */
export async function takeBackException({ tx, student, input, ledger }: Doing<Input<typeof contract.takeBackException>>) {
  const known = await findException(tx, student, input.id)
  if (!known || (known.kind !== 'substitution' && known.kind !== 'waiver'))
    throw new Refusal(404, 'exception-unknown', 'There is no such exception.', 'Reload the page; it may have been taken back already.')
  await removeException(tx, input.id)
  await ledger(known.kind === 'waiver' ? 'take back waiver' : 'take back substitution', { program: known.program, line: known.line,
    course: known.course })
  return DONE
}

/** Records a requirement without credit as done, or takes that back. */
export async function recordMilestone(doing: Doing<Input<typeof contract.recordMilestone>>) {
  const { tx, student, actor, at, input, ledger } = doing
  const program = programIn(await dossierOf(doing), doing, input.program)
  if (!program.rules.some(rule => rule.kind === 'milestone' && rule.id === input.milestone))
    throw new Refusal(422, 'milestone-unknown', `${program.title} has no such milestone.`, 'Reload the page.')
  if (await keepMilestone(tx, { student, ...input, recordedBy: actor, recordedAt: at }))
    await ledger(input.done ? 'record milestone' : 'take back milestone', { program: input.program, milestone: input.milestone })
  return DONE
}
