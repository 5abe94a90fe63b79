import { and, desc, eq } from 'drizzle-orm'
import type { Database } from '../db/connect'
import { inTransaction } from '../db/retry'
import { ledger, programRequests, studentPrograms, students } from '../db/schema'
import { loadCollege } from './catalog'
import { currentInstant } from './clock'
import { Refusal } from './errors'

/** The student asks to be in these programs from now on; a new wish replaces one that is not answered yet. */
export async function askProgramChange(db: Database, ask: { student: number, programs: string[], note: string }): Promise<void> {
  const college = await loadCollege(db)
  const chosen = ask.programs.map((id) => {
    const program = college.programs.get(id)
    if (!program) throw new Refusal(422, 'program-unknown', `There is no program ${id}.`, 'Choose programs from the list.')
    return program
  })
  if (new Set(chosen.map(program => program.code)).size < chosen.length)
    throw new Refusal(422, 'program-twice', 'A program can be followed in one catalog year only.', 'Leave one of the two out.')
  await inTransaction(db, async (tx) => {
    const held = await tx.select().from(studentPrograms).where(eq(studentPrograms.student, ask.student)).orderBy(studentPrograms.position)
    if (held.map(row => row.program).join() === ask.programs.join())
      throw new Refusal(422, 'no-change', 'These are the programs you are in.', 'Choose another program or catalog year first.')
    const at = await currentInstant(tx)
    await tx.update(programRequests).set({ state: 'taken back' }).where(
      and(eq(programRequests.student, ask.student), eq(programRequests.state, 'asked')),
    )
    await tx.insert(programRequests).values({ student: ask.student, programs: ask.programs, note: ask.note, askedAt: at, state: 'asked',
      words: '' })
    await tx.insert(ledger).values({ at, actor: ask.student, student: ask.student, action: 'ask program change',
      detail: { from: held.map(row => row.program), to: ask.programs } })
  })
}

export async function takeBackProgramChange(db: Database, student: number): Promise<void> {
  await db.update(programRequests).set({ state: 'taken back' }).where(
    and(eq(programRequests.student, student), eq(programRequests.state, 'asked')),
  )
}

/** The advisor grants the change, which makes it so at once, or declines it with words. */
export async function decideProgramChange(db: Database,
  decision: { student: number, advisor: number, granted: boolean, words: string }): Promise<void> {
  await inTransaction(db, async (tx) => {
    const [asked] = await tx.select().from(programRequests).where(
      and(eq(programRequests.student, decision.student), eq(programRequests.state, 'asked')),
    ).orderBy(desc(programRequests.id)).limit(1).for('update')
    if (!asked)
      throw new Refusal(409, 'not-asked', 'No change of program is waiting for an answer.',
        'Reload the page; it may have been answered or taken back.')
    if (!decision.granted && decision.words.trim() === '')
      throw new Refusal(422, 'words-missing', 'Say why, so that the student knows what to do.', 'Write a line in the note, then decline.')
    const at = await currentInstant(tx)
    await tx.update(programRequests).set({ state: decision.granted ? 'granted' : 'declined', decidedBy: decision.advisor, decidedAt: at,
      words: decision.words }).where(eq(programRequests.id, asked.id))
    if (decision.granted) {
      await tx.delete(studentPrograms).where(eq(studentPrograms.student, decision.student))
      await tx.insert(studentPrograms).values(asked.programs.map((program, position) => ({ student: decision.student, program, position })))
      await tx.update(students).set({ programConfirmed: true }).where(eq(students.person, decision.student))
    }
    await tx.insert(ledger).values({ at, actor: decision.advisor, student: decision.student,
      action: decision.granted ? 'grant program change' : 'decline program change', detail: { to: asked.programs, words: decision.words } })
  })
}
