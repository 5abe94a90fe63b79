import type { z } from 'zod'
import { type ExceptionAsked, isOfProgram, mayGrant } from '@ridgeway/core/advising'
import { linesOfProgram } from '@ridgeway/core/requirements'
import { formatCredits, sayCredits, sayExceptionKind } from '@ridgeway/words'
import type * as advising from '#shared/contract/acts/advising'
import type * as contract from '#shared/contract/acts/student'
import { DONE } from '#shared/contract/define'
import { LIMITS } from '#shared/contract/limits'
import type { Doing } from '../college/asked'
import { findTerm, programsAt } from '../college/college'
import { LIFTED } from '../college/lifted'
import { Refusal } from '../college/refusal'
import { advisingOf, tell } from '../college/tell'
import { addRequest, answerRequest, countRequests, findRequest } from '../db/store/advising'
import { type Dossier, readDossiers } from '../db/store/dossiers'
import { addException, type ExceptionRow, findException, removeException } from '../db/store/requirements'

type Input<Act extends { input: z.ZodType }> = z.output<Act['input']>
type Here = Pick<Doing<unknown>, 'tx' | 'student' | 'college'>

const dossierOf = async ({ tx, student }: Here): Promise<Dossier> => (await readDossiers(tx, [student])).get(student)!

/** Lifts a rule of registering for one student and one term; who did it and why is kept with it and in the ledger. */
export async function liftRule(doing: Doing<Input<typeof contract.liftRule>>) {
  const { reason, until, ...asked } = doing.input
  await grant(doing, asked, { reason, until })
  return DONE
}

/** Grants a substitution or a waiver on a requirement line; who did it and why is kept with it and in the ledger. */
export async function grantException(doing: Doing<Input<typeof contract.grantException>>) {
  const { reason, ...asked } = doing.input
  await grant(doing, asked, { reason, until: null })
  return DONE
}

/** The student asks; whoever may grant it is told. */
export async function askException(doing: Doing<Input<typeof advising.askException>>) {
  const { tx, student, at, input, ledger } = doing
  await check(doing, input.asked)
  if (await countRequests(tx, student) >= LIMITS.requests)
    throw new Refusal(422, 'too-many-requests', `${LIMITS.requests} of your requests are not answered yet.`,
      'Take one back that you no longer need.')
  if (await addRequest(tx, { student, ...input, at }) === 0)
    throw new Refusal(409, 'asked-already', 'You have asked for this already.', 'The answer will stand under Now.')
  await ledger('ask exception', { ...input.asked, reason: input.reason })
  await tell(doing, await advisingOf(doing), { code: 'exception asked', kind: input.asked.kind })
  return DONE
}

export async function takeBackAsked({ tx, student, actor, at, input }: Doing<Input<typeof advising.takeBackAsked>>) {
  const known = await findRequest(tx, student, input.id)
  if (!known || await answerRequest(tx, known.id, { state: 'taken back', by: actor, at, words: '' }) === 0) throw answeredAlready()
  return DONE
}

const answeredAlready = () =>
  new Refusal(409, 'answered-already', 'This request is answered already, or was taken back.', 'Here it is as it stands.')

/** Grants what the student asked, as if it had been granted by itself, or declines it with words. */
export async function answerException(doing: Doing<Input<typeof advising.answerException>>) {
  const { tx, student, actor, at, input, ledger } = doing
  const known = await findRequest(tx, student, input.id)
  if (!known) throw answeredAlready()
  if (!input.granted && input.words.length < 3)
    throw new Refusal(422, 'words-missing', 'Say why, so that the student knows what to do.', 'Write a line, then decline.')
  checkEntitled(doing, known.asked)
  const state = input.granted ? 'granted' : 'declined'
  if (await answerRequest(tx, known.id, { state, by: actor, at, words: input.words }) === 0) throw answeredAlready()
  if (input.granted) await grant(doing, known.asked, { reason: input.words || known.reason, until: input.until })
  else await ledger('decline exception', { ...known.asked, words: input.words })
  if (!input.granted) await tell(doing, [student], { code: 'exception declined', kind: known.asked.kind })
  return DONE
}

/** The rule holds again; what was registered while it did not stays registered. */
export async function takeBackLifted(doing: Doing<Input<typeof contract.takeBackLifted>>) {
  const known = await findException(doing.tx, doing.student, doing.input.id)
  if (!known || !LIFTED.includes(known.kind)) throw unknownException()
  await takeBack(doing, known)
  await doing.ledger('take back lifted rule', { kind: known.kind, term: known.term, course: known.course })
  return DONE
}

/** Takes back a substitution or a waiver. */
export async function takeBackException(doing: Doing<Input<typeof contract.takeBackException>>) {
  const known = await findException(doing.tx, doing.student, doing.input.id)
  if (!known || !isOfProgram(known.kind)) throw unknownException()
  await takeBack(doing, known)
  await doing.ledger(known.kind === 'waiver' ? 'take back waiver' : 'take back substitution', { program: known.program, line: known.line,
    course: known.course })
  return DONE
}

const unknownException = () =>
  new Refusal(404, 'exception-unknown', 'There is no such exception.', 'Reload the page; it may have been taken back already.')

async function takeBack(doing: Doing<unknown>, known: ExceptionRow) {
  checkEntitled(doing, known)
  await removeException(doing.tx, known.id)
  await tell(doing, [doing.student], { code: 'exception ended', kind: known.kind })
}

/** Who may lift which rule is the institution's to say; that an advisor is the student's own was asked before. */
function checkEntitled({ visitor, college }: Pick<Doing<unknown>, 'visitor' | 'college'>, { kind }: Pick<ExceptionAsked, 'kind'>) {
  if (mayGrant(kind, visitor!.role, college.advising)) return
  const who = college.advising.entitled[kind] === 'office' ? 'the registrar\'s office' : 'the student\'s advisor'
  throw new Refusal(403, 'not-entitled', `At ${college.name} ${who} decides about ${sayExceptionKind(kind)}.`,
    `Ask ${who}; a request of the student stands there too.`)
}

async function grant(doing: Doing<unknown>, asked: ExceptionAsked, { reason, until }: { reason: string, until: string | null }) {
  const { tx, student, actor, at, date, ledger } = doing
  checkEntitled(doing, asked)
  if (until !== null && until < date)
    throw new Refusal(422, 'over-already', 'The last day on which it holds is over.', 'Choose a later day, or none.')
  const dossier = await check(doing, asked)
  const row = rowOf(asked)
  const known = dossier.exceptions.find(one => one.kind === row.kind && one.course === row.course && one.term === row.term
    && one.program === row.program && one.line === row.line && one.section === row.section
    && (row.kind !== 'clash' || one.instead === row.instead))
  if (known && (known.until === null || known.until >= date))
    throw new Refusal(409, 'granted-already', 'This is granted already.', 'Take it back first to grant it anew.')
  // One that is over makes room for the new one.
  if (known) await removeException(tx, known.id)
  await addException(tx, { student, ...row, reason, until, grantedBy: actor, grantedAt: at })
  if (isOfProgram(asked.kind))
    await ledger(asked.kind === 'waiver' ? 'grant waiver' : 'grant substitution', { program: row.program, line: row.line,
      course: row.course, instead: row.instead, reason, ...(row.value === null ? {} : { value: row.value }) })
  else await ledger('lift rule', { kind: row.kind, term: row.term, course: row.course, value: row.value, reason,
    ...row.section ? { section: row.section } : {}, ...row.instead ? { instead: row.instead } : {}, ...until ? { until } : {} })
  await tell(doing, [student], { code: 'exception granted', kind: asked.kind })
}

/** An exception as it is kept. */
const rowOf = (asked: ExceptionAsked) => ({
  kind: asked.kind,
  course: 'course' in asked ? asked.course : null,
  term: 'term' in asked ? asked.term : null,
  program: 'program' in asked ? asked.program : null,
  line: 'line' in asked ? asked.line : null,
  instead: 'instead' in asked ? asked.instead : null,
  section: 'section' in asked ? asked.section : null,
  value: 'credits' in asked ? asked.credits : 'amount' in asked ? asked.amount ?? null : null,
})

/** What an exception names must be there, and make sense for this student. Gives what stands about the student. */
async function check(doing: Here, asked: ExceptionAsked): Promise<Dossier> {
  const { college } = doing
  const { course, instead, term: code } = rowOf(asked)
  const dossier = await dossierOf(doing)
  // What another college's course is called stands on the record alone, and only a substitution makes it count.
  const isOnRecord = (one: string) => asked.kind === 'substitution' && one === course && dossier.record.some(item => item.course === one)
  for (const one of [course, instead]) {
    if (one && !college.catalog.courses.has(one) && !isOnRecord(one))
      throw new Refusal(422, 'course-unknown', `There is no course ${one}.`, 'Write the code as in the catalog, such as HYD 230.')
  }
  const term = code === null ? null : findTerm(college, code)
  if (asked.kind === 'load' && asked.credits <= term!.loadCap)
    throw new Refusal(422, 'no-more', `${sayCredits(asked.credits)} are within the cap of ${term!.name} already.`,
      `Choose more than ${formatCredits(term!.loadCap)}.`)
  if (asked.kind === 'clash' && asked.course === asked.instead)
    throw new Refusal(422, 'one-course', 'A course does not clash with itself.', 'Choose two courses.')
  if (asked.kind === 'seat') await checkSection(doing, asked)
  if (asked.kind === 'substitution' || asked.kind === 'waiver') checkLine(doing, dossier, asked)
  return dossier
}

async function checkSection({ tx, college }: Here, { section, course, term }: Extract<ExceptionAsked, { kind: 'seat' }>) {
  const sections = await college.sections.now(tx, term, [course])
  if (!sections.some(one => one.id === section))
    throw new Refusal(422, 'section-unknown', `This is no section of ${course} in that term.`, 'Choose one of its sections.')
}

function checkLine({ college }: Here, dossier: Dossier, asked: Extract<ExceptionAsked, { kind: 'substitution' | 'waiver' }>) {
  const program = programsAt(college, dossier.programs).find(candidate => candidate.code === asked.program)
  if (!program)
    throw new Refusal(422, 'program-unknown', `This student is not in ${asked.program}.`,
      'Choose a line of one of the student\'s own programs.')
  const line = linesOfProgram(program).find(candidate => candidate.id === asked.line)
  if (!line)
    throw new Refusal(422, 'line-unknown', `${program.title} has no such requirement.`, 'Open the requirement again and grant it there.')
  const listed = asked.kind === 'waiver' ? asked.course : asked.instead
  const most = line.credits ?? (line.courses ?? 0) * 100
  if (asked.kind === 'waiver' && asked.amount && (asked.course !== null || asked.amount >= most))
    throw new Refusal(422, 'amount-too-large', `${line.title} asks for no more than that.`,
      'Waive less of it, or leave the amount empty to waive the whole line.')
  if (listed && !line.filter.list?.includes(listed))
    throw new Refusal(422, 'not-listed', `${line.title} does not list ${listed}.`, 'Choose one of the courses that the line lists.')
}
