import type { z } from 'zod'
import { linesOfProgram, programId } from '@ridgeway/core/requirements'
import { readProgramText } from '@ridgeway/formats'
import type * as contract from '#shared/contract/acts/college'
import type { ProgramCheck } from '#shared/contract/acts/college'
import { DONE } from '#shared/contract/define'
import type { Doing } from '../college/asked'
import { findTerm } from '../college/college'
import { Refusal } from '../college/refusal'
import { keepAdvising, keepClock, keepClosing, keepProgram } from '../db/store/college'

type Input<Act extends { input: z.ZodType }> = z.output<Act['input']>

/** Checks a program file and, with `keep`, makes it the program's rules in its catalog year; a file with a problem changes nothing. */
export async function loadProgramFile({ tx, actor, college, at, input }: Doing<Input<typeof contract.loadProgramFile>>):
Promise<ProgramCheck> {
  const read = readProgramText(input.text, {
    courses: college.catalog.courses,
    scale: college.catalog.scale,
    programs: new Set([...college.programs.values()].map(program => program.code)),
  })
  if (!read.ok) return read
  const { program } = read
  const id = programId(program)
  const known = college.programs.has(id)
  if (input.keep) await keepProgram(tx, { id, program, known, actor, at })
  return { ok: true, id, title: program.title, catalogYear: program.catalogYear, lines: linesOfProgram(program).length, known,
    kept: input.keep }
}

/** The office closes registration of a term for everybody, with what is told, or opens it again. */
export async function setRegistration({ tx, college, input, ledger }: Doing<Input<typeof contract.setRegistration>>) {
  const term = findTerm(college, input.term)
  await keepClosing(tx, term.code, input.because)
  await ledger(input.because === null ? 'open registration' : 'close registration', { term: term.code,
    ...input.because === null ? {} : { because: input.because } })
  return DONE
}

/** The office says how sign-off and exceptions are handled; every server follows from the next request on. */
export async function setAdvising({ tx, input, ledger }: Doing<Input<typeof contract.setAdvising>>) {
  await keepAdvising(tx, input)
  await ledger('set advising', input)
  return DONE
}

const YEAR_MS = 365 * 86_400_000

/** Demonstration only: moves the clock, from a year before the calendar begins to a year after it ends. */
export async function setClock({ tx, college, input }: Doing<Input<typeof contract.setClock>>) {
  const { terms } = college.catalog
  const first = Date.parse(terms[0]!.start) - YEAR_MS
  const last = Math.max(...terms.map(term => Date.parse(term.end))) + YEAR_MS
  const wanted = Date.parse(input.now)
  if (!(wanted >= first && wanted <= last)) {
    const year = (moment: number) => new Date(moment).toISOString().slice(0, 10)
    throw new Refusal(422, 'clock-range', 'The college has no calendar for that time.',
      `Choose a moment between ${year(first)} and ${year(last)}.`)
  }
  const now = new Date(wanted).toISOString()
  await keepClock(tx, now)
  return { now }
}
