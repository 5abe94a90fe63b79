import { and, desc, eq, gt, isNull } from 'drizzle-orm'
import type { SelfCheck } from '@ridgeway/core/advising'
import type { PlanEntry } from '@ridgeway/core/planning'
import type { Executor } from '../database'
import type { Returned } from './dossiers'
import { programRequests, releaseCodes, signOffRequests, signOffs, studentPrograms, students, termsAcceptances } from '../schema'

interface AskedFor { student: number, term: string, note: string, askedAt: string, answers: SelfCheck }
export const askForSignOff = (tx: Executor, asked: AskedFor) => tx.insert(signOffRequests).values({ ...asked, returned: null })
  .onDuplicateKeyUpdate({ set: { askedAt: asked.askedAt, note: asked.note, answers: asked.answers, returned: null } })
interface GivenBack { student: number, term: string, at: string, returned: Returned }
/** Gives a request back, or with `asked` false makes one that is back already; false where there was none that waits. */
export async function giveBack(tx: Executor, { student, term, at, returned }: GivenBack, asked: boolean): Promise<boolean> {
  const [known] = await tx.select().from(signOffRequests).where(and(eq(signOffRequests.student, student), eq(signOffRequests.term, term)))
  if (asked && (!known || known.returned)) return false
  await tx.insert(signOffRequests).values({ student, term, askedAt: at, note: '', answers: null, returned })
    .onDuplicateKeyUpdate({ set: { returned } })
  return true
}
export async function removeSignOff(tx: Executor, student: number, term: string): Promise<boolean> {
  const [done] = await tx.delete(signOffs).where(and(eq(signOffs.student, student), eq(signOffs.term, term)))
  return done.affectedRows > 0
}

export async function keepSignOff(tx: Executor,
  kept: { student: number, term: string, advisor: number, at: string, note: string, copy: PlanEntry[] }) {
  const { student, term, ...again } = kept
  await tx.insert(signOffs).values(kept).onDuplicateKeyUpdate({ set: again })
  await tx.delete(signOffRequests).where(and(eq(signOffRequests.student, student), eq(signOffRequests.term, term)))
}

/** False when the terms were accepted before. */
export async function keepAcceptance(tx: Executor, accepted: { student: number, term: string, at: string }): Promise<boolean> {
  const [done] = await tx.insert(termsAcceptances).ignore().values(accepted)
  return done.affectedRows > 0
}
export const markProgramConfirmed = (tx: Executor, student: number) =>
  tx.update(students).set({ programConfirmed: true }).where(eq(students.person, student))

export async function programsHeld(db: Executor, student: number): Promise<string[]> {
  const rows = await db.select().from(studentPrograms).where(eq(studentPrograms.student, student)).orderBy(studentPrograms.position)
  return rows.map(row => row.program)
}

/** The newest wish to change programs, whatever became of it. */
export async function newestWish(db: Executor, student: number) {
  return (await db.select().from(programRequests).where(eq(programRequests.student, student)).orderBy(desc(programRequests.id)).limit(1))[0]
}
export const takeBackWish = (tx: Executor, student: number) =>
  tx.update(programRequests).set({ state: 'taken back' })
    .where(and(eq(programRequests.student, student), eq(programRequests.state, 'asked')))
export const keepWish = (tx: Executor, wish: { student: number, programs: string[], note: string, askedAt: string }) =>
  tx.insert(programRequests).values({ ...wish, state: 'asked', words: '' })
export const answerWish = (tx: Executor, id: number,
  answer: { state: 'granted' | 'declined', decidedBy: number, decidedAt: string, words: string }) =>
  tx.update(programRequests).set(answer).where(eq(programRequests.id, id))
export async function replacePrograms(tx: Executor, student: number, programs: readonly string[]) {
  await tx.delete(studentPrograms).where(eq(studentPrograms.student, student))
  await tx.insert(studentPrograms).values(programs.map((program, position) => ({ student, program, position })))
  await markProgramConfirmed(tx, student)
}

interface MadeCode { student: number, term: string, code: string, advisor: number, made: string, until: string }
/** A new code in place of one that was not used. */
export const keepReleaseCode = (tx: Executor, made: MadeCode) =>
  tx.insert(releaseCodes).values({ ...made, used: null }).onDuplicateKeyUpdate({ set: { code: made.code, advisor: made.advisor,
    made: made.made, until: made.until, used: null } })
/** False where it is no code of this student and term, or was used before. */
export async function useReleaseCode(tx: Executor, one: { student: number, term: string, code: string, used: string }): Promise<boolean> {
  const [done] = await tx.update(releaseCodes).set({ used: one.used }).where(and(eq(releaseCodes.student, one.student),
    eq(releaseCodes.term, one.term), eq(releaseCodes.code, one.code), isNull(releaseCodes.used), gt(releaseCodes.until, one.used)))
  return done.affectedRows > 0
}
