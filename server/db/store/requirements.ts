import { and, eq } from 'drizzle-orm'
import type { Executor } from '../database'
import { exceptions, milestones, usePins } from '../schema'

export type ExceptionRow = typeof exceptions.$inferSelect

export async function keepUsePin(tx: Executor, pin: { student: number, item: string, program: string, line: string | null }) {
  const { student, item, program, line } = pin
  if (line === null) {
    await tx.delete(usePins).where(and(eq(usePins.student, student), eq(usePins.item, item), eq(usePins.program, program)))
  }
  else await tx.insert(usePins).values({ student, item, program, line }).onDuplicateKeyUpdate({ set: { line } })
}

export const addException = (tx: Executor, granted: typeof exceptions.$inferInsert) => tx.insert(exceptions).values(granted)
export async function findException(db: Executor, student: number, id: number): Promise<ExceptionRow | undefined> {
  return (await db.select().from(exceptions).where(and(eq(exceptions.student, student), eq(exceptions.id, id))))[0]
}
export const removeException = (tx: Executor, id: number) => tx.delete(exceptions).where(eq(exceptions.id, id))

/** Records a milestone, or takes it back; false when it stood so already. */
export async function keepMilestone(tx: Executor,
  kept: { student: number, program: string, milestone: string, done: boolean, recordedBy: number, recordedAt: string }): Promise<boolean> {
  const { student, program, milestone, done, ...by } = kept
  const [changed] = done
    ? await tx.insert(milestones).ignore().values({ student, program, milestone, ...by })
    : await tx.delete(milestones).where(
        and(eq(milestones.student, student), eq(milestones.program, program), eq(milestones.milestone, milestone)))
  return changed.affectedRows > 0
}
