import { linesOfProgram, programId } from '@ridgeway/core/requirements'
import { type FormatProblem, readProgramText } from '@ridgeway/formats'
import type { Database } from '../db/connect'
import { inTransaction } from '../db/retry'
import { ledger, programs } from '../db/schema'
import { forgetCollege, loadCollege } from './catalog'
import { currentInstant } from './clock'

/** What a program file holds, or what is wrong with it, line by line. */
export type ProgramCheck
  = | { ok: false, problems: FormatProblem[] }
    | { ok: true, id: string, title: string, catalogYear: number, lines: number, known: boolean, kept: boolean }

/** Checks a program file and, with `keep`, makes it the program's rules in its catalog year; a file with a problem changes nothing. */
export async function loadProgramFile(db: Database, file: { actor: number, text: string, keep: boolean }): Promise<ProgramCheck> {
  const college = await loadCollege(db)
  const read = readProgramText(file.text, {
    courses: college.catalog.courses,
    scale: college.catalog.scale,
    programs: new Set([...college.programs.values()].map(program => program.code)),
  })
  if (!read.ok) return read
  const { program } = read
  const id = programId(program)
  const known = college.programs.has(id)
  if (file.keep) {
    await inTransaction(db, async (tx) => {
      await tx.insert(programs).values({ id, code: program.code, catalogYear: program.catalogYear, body: program }).onDuplicateKeyUpdate({
        set: { body: program },
      })
      const at = await currentInstant(tx)
      await tx.insert(ledger).values({ at, actor: file.actor, student: null, action: known ? 'replace program' : 'add program',
        detail: { program: id } })
    })
    forgetCollege(db)
  }
  return { ok: true, id, title: program.title, catalogYear: program.catalogYear, lines: linesOfProgram(program).length, known,
    kept: file.keep }
}
