import { createHash, randomInt } from 'node:crypto'
import type { z } from 'zod'
import { differencesOf, isSame, readSelfCheck } from '@ridgeway/core/advising'
import { nameOf } from '@ridgeway/core/catalog'
import { readStanding } from '@ridgeway/core/planning'
import { sayDifferences } from '@ridgeway/words'
import type * as advising from '#shared/contract/acts/advising'
import type * as contract from '#shared/contract/acts/student'
import { DONE } from '#shared/contract/define'
import type { Doing } from '../college/asked'
import { findTerm, programsAt } from '../college/college'
import { Refusal } from '../college/refusal'
import { fileOf, planIn } from '../college/student'
import { advisingOf, tell } from '../college/tell'
import { readDossiers } from '../db/store/dossiers'
import { listPlans, planOf } from '../db/store/plans'
import type { Executor } from '../db/database'
import { countTries } from '../db/store/people'
import { answerWish, askForSignOff, giveBack, keepAcceptance, keepReleaseCode, keepSignOff, keepWish, markProgramConfirmed, newestWish,
  programsHeld,
  removeSignOff, replacePrograms, takeBackWish, useReleaseCode } from '../db/store/release'

type Input<Act extends { input: z.ZodType }> = z.output<Act['input']>

async function plannedIn({ tx, student }: Pick<Doing<unknown>, 'tx' | 'student'>, term: string) {
  const current = (await listPlans(tx, student)).find(plan => plan.current)
  return current ? (await planOf(tx, current)).entries.filter(entry => entry.term === term) : []
}

/** The student asks the advisor to sign off a term, with what the plan answers to the self-check; asking again renews the request. */
export async function askSignOff(doing: Doing<Input<typeof contract.askSignOff>>) {
  const { tx, student, college, at, date, input } = doing
  const term = findTerm(college, input.term)
  if ((await plannedIn(doing, input.term)).length === 0) {
    throw new Refusal(422, 'nothing-planned', 'Nothing is planned for this term yet.',
      'Place at least one course in the term, then ask for sign-off.')
  }
  const dossier = (await readDossiers(tx, [student])).get(student)!
  const file = fileOf(dossier, college, term.code, planIn(dossier).plan, date)
  const standing = readStanding(file, { ...college.catalog, programs: programsAt(college, dossier.programs) }, date)
  const answers = readSelfCheck(standing, term.code, term.fullTime)
  await askForSignOff(tx, { student, ...input, askedAt: at, answers })
  await tell(doing, await advisingOf(doing), { code: 'sign-off asked', term: term.code })
  return DONE
}

/** The advisor releases a term and keeps a copy of what was agreed: what the advisor saw, or nothing. Signing again renews both. */
export async function signOff(doing: Doing<Input<typeof contract.signOff>>) {
  const { tx, student, actor, college, at, input, ledger } = doing
  const term = findTerm(college, input.term)
  const copy = await plannedIn(doing, input.term)
  const moved = differencesOf(input.seen, copy)
  if (!isSame(moved))
    throw new Refusal(409, 'moved-on', `${nameOf(term).name} has changed since you looked: ${sayDifferences(moved)}.`,
      'Look at the term again, then sign off what stands there now.')
  if (copy.length === 0)
    throw new Refusal(422, 'nothing-planned', 'Nothing is planned for this term; there is nothing to sign off.',
      'Place courses together with the student first.')
  await keepSignOff(tx, { student, term: input.term, advisor: actor, at, note: input.note, copy })
  await ledger('sign off', { term: input.term, courses: copy.map(entry => entry.course) })
  await tell(doing, [student], { code: 'signed off', term: term.code })
  return DONE
}

/** The plan goes back to the student, with what is to be changed. */
export async function returnPlan(doing: Doing<Input<typeof advising.returnPlan>>) {
  const { tx, student, at, college, input, ledger, visitor } = doing
  const term = findTerm(college, input.term)
  const returned = { by: visitor!.name, at, words: input.words, withdrawn: false }
  if (!await giveBack(tx, { student, term: term.code, at, returned }, true))
    throw new Refusal(409, 'not-asked', `Sign-off of ${term.name} is not asked for, or was answered already.`,
      'Write a comment instead, or suggest a change.')
  await ledger('return plan', { term: term.code, words: input.words })
  await tell(doing, [student], { code: 'returned', term: term.code })
  return DONE
}

/** Takes a sign-off back: the gate closes again. What is registered stays registered. */
export async function withdrawSignOff(doing: Doing<Input<typeof advising.withdrawSignOff>>) {
  const { tx, student, at, college, input, ledger, visitor } = doing
  const term = findTerm(college, input.term)
  if (!await removeSignOff(tx, student, term.code))
    throw new Refusal(409, 'not-signed', `${term.name} is not signed off.`, 'Reload the page; it may have been withdrawn already.')
  await giveBack(tx, { student, term: term.code, at, returned: { by: visitor!.name, at, words: input.words, withdrawn: true } }, false)
  await ledger('withdraw sign-off', { term: term.code, words: input.words })
  await tell(doing, [student], { code: 'sign-off withdrawn', term: term.code })
  return DONE
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
  const until = new Date(Date.parse(at) + college.advising.releaseDays * DAY_MS).toISOString()
  await keepReleaseCode(tx, { student, term: input.term, code: hashOf(student, input.term, code), advisor: actor, made: at, until })
  await ledger('make release code', { term: input.term })
  return { code }
}

/** Codes that are tried in an hour; more are not looked at. */
const MOST_TRIES = 10
const HOUR_MS = 3_600_000
const DAY_MS = 24 * HOUR_MS

/**
 * Enters a code. A wrong one is counted, for all servers together, so that nobody finds one by trying; the count stands although nothing
 * else of a refusal does, which is why it goes beside the transaction.
 */
export async function enterReleaseCode({ tx, student, college, at, input, ledger }: Doing<Input<typeof contract.enterReleaseCode>>) {
  findTerm(college, input.term)
  if (!await useReleaseCode(tx, { student, term: input.term, code: hashOf(student, input.term, input.code), used: at }))
    throw new Refusal(422, 'code-wrong', `This code does not release ${input.term}.`,
      'Look at it again; each code is for one student and one term, works once, and ends after some days.')
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
export async function askProgramChange(doing: Doing<Input<typeof contract.askProgramChange>>) {
  const { tx, student, college, at, input, ledger } = doing
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
  await tell(doing, await advisingOf(doing), { code: 'program asked' })
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
  await tell(doing, [student], { code: 'program answered' })
  return DONE
}
