import type { z } from 'zod'
import { itemsOf, readPrograms } from '@ridgeway/core/planning'
import type { Program } from '@ridgeway/core/requirements'
import type * as contract from '#shared/contract/acts/student'
import { DONE } from '#shared/contract/define'
import type { Doing } from '../college/asked'
import { programsAt } from '../college/college'
import { Refusal } from '../college/refusal'
import { fileOf, planIn } from '../college/student'
import { type Dossier, readDossiers } from '../db/store/dossiers'
import { keepMilestone, keepUsePin } from '../db/store/requirements'

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
  const file = fileOf(dossier, college, college.catalog.terms.at(-1)!.code, planIn(dossier).plan, doing.date)
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
