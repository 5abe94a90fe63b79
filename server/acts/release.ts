import { createHash, randomInt } from 'node:crypto'
import type { z } from 'zod'
import { nameOf } from '@ridgeway/core/catalog'
import { formatCredits } from '@ridgeway/words'
import type * as contract from '#shared/contract/acts/student'
import { DONE } from '#shared/contract/define'
import type { Doing } from '../college/asked'
import { findTerm } from '../college/college'
import { Refusal } from '../college/refusal'
import { listPlans, planOf } from '../db/store/plans'
import type { Executor } from '../db/database'
import { countTries } from '../db/store/people'
import { answerWish, askForSignOff, keepAcceptance, keepReleaseCode, keepSignOff, keepWish, markProgramConfirmed, newestWish, programsHeld,
  replacePrograms, takeBackWish, useReleaseCode } from '../db/store/release'

type Input<Act extends { input: z.ZodType }> = z.output<Act['input']>

async function plannedIn({ tx, student }: Pick<Doing<unknown>, 'tx' | 'student'>, term: string) {
  const current = (await listPlans(tx, student)).find(plan => plan.current)
  return current ? (await planOf(tx, current)).entries.filter(entry => entry.term === term) : []
}

/** The student asks the advisor to sign off a term; asking again renews the request. */
export async function askSignOff(doing: Doing<Input<typeof contract.askSignOff>>) {
  const { tx, student, college, at, input } = doing
  findTerm(college, input.term)
  if ((await plannedIn(doing, input.term)).length === 0) {
    throw new Refusal(422, 'nothing-planned', 'Nothing is planned for this term yet.',
      'Place at least one course in the term, then ask for sign-off.')
  }
  await askForSignOff(tx, { student, ...input, askedAt: at })
  return DONE
}

/** The advisor releases a term and keeps a copy of what was agreed: what the advisor saw, or nothing. Signing again renews both. */
export async function signOff(doing: Doing<Input<typeof contract.signOff>>) {
  const { tx, student, actor, college, at, input, ledger } = doing
  const term = findTerm(college, input.term)
  const copy = await plannedIn(doing, input.term)
  const moved = differences(input.seen, copy)
  if (moved.length > 0)
    throw new Refusal(409, 'moved-on', `${nameOf(term).name} has changed since you looked: ${moved.join('; ')}.`,
      'Look at the term again, then sign off what stands there now.')
  if (copy.length === 0)
    throw new Refusal(422, 'nothing-planned', 'Nothing is planned for this term; there is nothing to sign off.',
      'Place courses together with the student first.')
  await keepSignOff(tx, { student, term: input.term, advisor: actor, at, note: input.note, copy })
  await ledger('sign off', { term: input.term, courses: copy.map(entry => entry.course) })
  return DONE
}

type Seen = readonly { course: string, credits: number }[]
function differences(seen: Seen, now: Seen): string[] {
  const added = now.filter(one => !seen.some(other => other.course === one.course)).map(one => `${one.course} was added`)
  const gone = seen.filter(one => !now.some(other => other.course === one.course)).map(one => `${one.course} was taken out`)
  const resized = now.flatMap((one) => {
    const before = seen.find(other => other.course === one.course)
    return before && before.credits !== one.credits
      ? [`${one.course} has ${formatCredits(one.credits)} cr instead of ${formatCredits(before.credits)}`]
      : []
  })
  return [...added, ...gone, ...resized]
}

export async function acceptTerms({ tx, student, college, at, input, ledger }: Doing<Input<typeof contract.acceptTerms>>) {
  findTerm(college, input.term)
  if (await keepAcceptance(tx, { student, term: input.term, at })) await ledger('accept terms', { term: input.term })
  return DONE
}

export async function confirmProgram({ tx, student, ledger }: Doing<unknown>) {
  await markProgramConfirmed(tx, student)
  await ledger('confirm program', {})
  return DONE
}

const LETTERS = 'ABCDEFGHJKMNPQRSTVWXYZ23456789'
const hashOf = (student: number, term: string, code: string) =>
  createHash('sha256').update(`${student} ${term} ${code.replace('-', '')}`).digest('hex')

/** A code by which the student opens the gate of the sign-off; only what it hashes to is kept, so that it is told this once. */
export async function makeReleaseCode({ tx, student, actor, college, at, input, ledger }: Doing<Input<typeof contract.makeReleaseCode>>) {
  findTerm(college, input.term)
  const letters = Array.from({ length: 8 }, () => LETTERS[randomInt(LETTERS.length)]).join('')
  const code = `${letters.slice(0, 4)}-${letters.slice(4)}`
  await keepReleaseCode(tx, { student, term: input.term, code: hashOf(student, input.term, code), advisor: actor, made: at })
  await ledger('make release code', { term: input.term })
  return { code }
}

/** Codes that are tried in an hour; more are not looked at. */
const MOST_TRIES = 10
const HOUR_MS = 3_600_000

/**
 * Enters a code. A wrong one is counted, for all servers together, so that nobody finds one by trying; the count stands although nothing
 * else of a refusal does, which is why it goes beside the transaction.
 */
export async function enterReleaseCode({ tx, student, college, at, input, ledger }: Doing<Input<typeof contract.enterReleaseCode>>) {
  findTerm(college, input.term)
  if (!await useReleaseCode(tx, { student, term: input.term, code: hashOf(student, input.term, input.code), used: at }))
    throw new Refusal(422, 'code-wrong', `This code does not release ${input.term}.`,
      'Look at it again; each code is for one student and one term, and works once.')
  await ledger('use release code', { term: input.term })
  return DONE
}

/** Refuses who has tried too many codes within the hour. */
export async function countCodeTry(tx: Executor, student: number) {
  const now = new Date()
  const [tries] = await countTries(tx, [`release ${student}`], now.toISOString(), new Date(now.getTime() + HOUR_MS).toISOString())
  if (tries! > MOST_TRIES)
    throw new Refusal(429, 'too-many-codes', 'Too many codes were tried.',
      'Try again in an hour, or ask your advisor to sign off the term.')
}

/** The student asks to be in these programs from now on; a new wish replaces one that is not answered yet. */
export async function askProgramChange({ tx, student, college, at, input, ledger }: Doing<Input<typeof contract.askProgramChange>>) {
  const chosen = input.programs.map((id) => {
    const program = college.programs.get(id)
    if (!program) throw new Refusal(422, 'program-unknown', `There is no program ${id}.`, 'Choose programs from the list.')
    return program
  })
  if (new Set(chosen.map(program => program.code)).size < chosen.length)
    throw new Refusal(422, 'program-twice', 'A program can be followed in one catalog year only.', 'Leave one of the two out.')
  const held = await programsHeld(tx, student)
  if (held.join() === input.programs.join())
    throw new Refusal(422, 'no-change', 'These are the programs you are in.', 'Choose another program or catalog year first.')
  await takeBackWish(tx, student)
  await keepWish(tx, { student, programs: input.programs, note: input.note, askedAt: at })
  await ledger('ask program change', { from: held, to: input.programs })
  return DONE
}

export async function takeBackProgramChange({ tx, student }: Doing<unknown>) {
  await takeBackWish(tx, student)
  return DONE
}

/** The advisor grants the wish that was read, which makes it so at once, or declines it with words. */
export async function decideProgramChange(doing: Doing<Input<typeof contract.decideProgramChange>>) {
  const { tx, student, actor, college, at, input, ledger } = doing
  const wish = await newestWish(tx, student)
  if (wish?.state !== 'asked')
    throw new Refusal(409, 'not-asked', 'No change of program is waiting for an answer.',
      'Reload the page; it may have been answered or taken back.')
  if (wish.id !== input.request) {
    const titles = wish.programs.map(id => college.programs.get(id)?.title ?? id)
    throw new Refusal(409, 'moved-on', `The student has asked for something else since you looked: ${titles.join(' and ')}.`,
      'Read the new wish, then answer it.')
  }
  if (!input.granted && input.words.trim() === '')
    throw new Refusal(422, 'words-missing', 'Say why, so that the student knows what to do.', 'Write a line in the note, then decline.')
  await answerWish(tx, wish.id, { state: input.granted ? 'granted' : 'declined', decidedBy: actor, decidedAt: at, words: input.words })
  if (input.granted) await replacePrograms(tx, student, wish.programs)
  await ledger(input.granted ? 'grant program change' : 'decline program change', { to: wish.programs, words: input.words })
  return DONE
}
