import { and, eq } from 'drizzle-orm'
import type { Database } from '../db/connect'
import { inTransaction } from '../db/retry'
import { ledger, signOffRequests, signOffs, students, termsAcceptances } from '../db/schema'
import { findTerm, loadCollege } from './catalog'
import { currentInstant } from './clock'
import { Refusal } from './errors'
import { readPlan } from './plans'

/** The student asks the advisor to sign off a term; asking again renews the request. */
export async function askSignOff(db: Database, ask: { student: number, term: string, note: string }): Promise<void> {
  findTerm(await loadCollege(db), ask.term)
  const { plan: { entries } } = await readPlan(db, ask.student)
  if (!entries.some(entry => entry.term === ask.term)) {
    throw new Refusal(422, 'nothing-planned', 'Nothing is planned for this term yet.',
      'Place at least one course in the term, then ask for sign-off.')
  }
  const askedAt = await currentInstant(db)
  await db.insert(signOffRequests).values({ ...ask, askedAt }).onDuplicateKeyUpdate({ set: { askedAt, note: ask.note } })
}

/** The advisor releases a term and keeps a copy of what was agreed; signing again renews both. */
export async function signOff(db: Database, release: { student: number, advisor: number, term: string, note: string }): Promise<void> {
  findTerm(await loadCollege(db), release.term)
  await inTransaction(db, async (tx) => {
    const { plan: { entries } } = await readPlan(tx, release.student)
    const copy = entries.filter(entry => entry.term === release.term)
    if (copy.length === 0)
      throw new Refusal(422, 'nothing-planned', 'Nothing is planned for this term; there is nothing to sign off.',
        'Place courses together with the student first.')
    const at = await currentInstant(tx)
    await tx.insert(signOffs).values({ ...release, at, copy }).onDuplicateKeyUpdate({
      set: { advisor: release.advisor, at, note: release.note, copy },
    })
    await tx.delete(signOffRequests).where(and(eq(signOffRequests.student, release.student), eq(signOffRequests.term, release.term)))
    await tx.insert(ledger).values({ at, actor: release.advisor, student: release.student, action: 'sign off',
      detail: { term: release.term, courses: copy.map(entry => entry.course) } })
  })
}

export async function acceptTerms(db: Database, accept: { student: number, term: string }): Promise<void> {
  findTerm(await loadCollege(db), accept.term)
  await inTransaction(db, async (tx) => {
    const at = await currentInstant(tx)
    await tx.insert(termsAcceptances).values({ ...accept, at }).onDuplicateKeyUpdate({ set: { term: accept.term } })
    await tx.insert(ledger).values({ at, actor: accept.student, student: accept.student, action: 'accept terms',
      detail: { term: accept.term } })
  })
}

export async function confirmProgram(db: Database, student: number): Promise<void> {
  await inTransaction(db, async (tx) => {
    const at = await currentInstant(tx)
    await tx.update(students).set({ programConfirmed: true }).where(eq(students.person, student))
    await tx.insert(ledger).values({ at, actor: student, student, action: 'confirm program', detail: {} })
  })
}
