import { eq, sql } from 'drizzle-orm'
import { programId, type Program } from '@ridgeway/core/requirements'
import type { CasesFile } from '@ridgeway/formats'
import type { Executor } from '../database'
import { collegeStamp, ledger, programs } from '../schema'
import { change, fromInstantText, plain, toInstant } from './plain'

/** A program in its catalog year with what is kept beside its rules, held for the transaction; null where there is none. */
export async function lockProgram(tx: Executor, id: string): Promise<{ version: number, cases: CasesFile | null } | null> {
  const [row] = await tx.select({ version: programs.version, cases: programs.cases }).from(programs).where(eq(programs.id, id))
    .for('update')
  return row ?? null
}

/** Keeps programs as they are, before others take their place: who replaces them, and when. */
export async function keepHistory(tx: Executor, ids: readonly string[], { at, by }: { at: string, by: number }) {
  if (ids.length === 0) return
  await plain(tx, `INSERT INTO program_history (program, version, body, cases, replaced_at, replaced_by)
    SELECT id, version, body, cases, ?, ? FROM programs WHERE id IN (?)`, [fromInstantText(at), by, [...ids]])
  await change(tx, 'UPDATE programs SET version = version + 1 WHERE id IN (?)', [[...ids]])
}

interface Kept { program: Program, cases: CasesFile | null, known: boolean, actor: number, at: string }
/** Puts a program in force in its catalog year, with its worked cases; what it was is kept. Every server reads it anew. */
export async function keepProgram(tx: Executor, { program, cases, known, actor, at }: Kept) {
  const id = programId(program)
  await tx.update(collegeStamp).set({ version: sql`${collegeStamp.version} + 1` })
  await keepHistory(tx, [id], { at, by: actor })
  await tx.insert(programs).values({ id, code: program.code, catalogYear: program.catalogYear, body: program, cases })
    .onDuplicateKeyUpdate({ set: { body: program, cases } })
  await tx.insert(ledger).values({ at, actor, student: null, action: known ? 'replace program' : 'add program', detail: { program: id } })
}

/** Students of a program after one, by id: some of them, and how many there are in all. */
export async function studentsIn(db: Executor, program: string, after: number, most: number) {
  const some = await plain<{ id: number, name: string }>(db,
    `SELECT p.id, p.name FROM student_programs sp JOIN people p ON p.id = sp.student WHERE sp.program = ? AND sp.student > ?
     ORDER BY p.id LIMIT ?`, [program, after, most])
  const [count] = await plain<{ total: number, before: number }>(db,
    'SELECT COUNT(*) total, IFNULL(SUM(student <= ?), 0) `before` FROM student_programs WHERE program = ?', [after, program])
  return { some, total: count!.total, before: Number(count!.before) }
}

/** When a program was replaced and by whom, the newest first. */
export const historyOf = async (db: Executor, program: string) => (await plain<{ version: number, at: string, by: string | null }>(db,
  `SELECT h.version, h.replaced_at at, p.name \`by\` FROM program_history h LEFT JOIN people p ON p.id = h.replaced_by
   WHERE h.program = ? ORDER BY h.version DESC LIMIT 40`, [program])).map(row => ({ ...row, at: toInstant(row.at) }))

interface OldRow { body: string, cases: string | null }
/** A program as it is, or as it was in an earlier version; null where there is no such one. */
export async function programAt(db: Executor, id: string, version: number | undefined):
Promise<{ program: Program, cases: CasesFile | null, version: number } | null> {
  const [now] = await db.select().from(programs).where(eq(programs.id, id))
  if (!now) return null
  if (version === undefined || version === now.version) return { program: now.body, cases: now.cases, version: now.version }
  const [old] = await plain<OldRow>(db, 'SELECT body, cases FROM program_history WHERE program = ? AND version = ?', [id, version])
  return old
    ? { program: JSON.parse(old.body) as Program, cases: old.cases === null ? null : JSON.parse(old.cases) as CasesFile, version }
    : null
}
