import { and, eq } from 'drizzle-orm'
import type { Executor } from '../database'
import { lineUpRows } from '../schema'

export const dropChoice = (tx: Executor, student: number, term: string, course: string) =>
  tx.delete(lineUpRows).where(and(eq(lineUpRows.student, student), eq(lineUpRows.term, term), eq(lineUpRows.course, course)))
export const keepChoice = (tx: Executor, row: { student: number, term: string, course: string, position: number, sectionIds: number[] }) =>
  tx.insert(lineUpRows).values(row).onDuplicateKeyUpdate({ set: { sectionIds: row.sectionIds } })
