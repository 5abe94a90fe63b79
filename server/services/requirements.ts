import { and, eq } from 'drizzle-orm'
import { itemsOf, readPrograms } from '@ridgeway/core/planning'
import { parseFirmItemId } from '@ridgeway/core/record'
import { linesOfProgram, type Program } from '@ridgeway/core/requirements'
import type { Database } from '../db/connect'
import { inTransaction } from '../db/retry'
import { exceptions, ledger, milestones, records, registrations, usePins } from '../db/schema'
import { loadCollege, type College } from './catalog'
import { currentInstant } from './clock'
import { Refusal } from './errors'
import { readStudent } from './students'

/** Pins the use of a course of the record or of a registration, or lets it go with `line: null`. A planned course is pinned in its plan. */
export async function pinUse(db: Database,
  pin: { student: number, actor: number, item: string, program: string, line: string | null }): Promise<void> {
  const college = await loadCollege(db)
  const program = await programOf(db, college, pin.student, pin.program)
  await inTransaction(db, async (tx) => {
    if (!await ownsItem(tx, pin.student, pin.item))
      throw new Refusal(404, 'item-unknown', 'This course is not on the record.', 'Reload the page; the record may have changed.')
    const here = and(eq(usePins.student, pin.student), eq(usePins.item, pin.item), eq(usePins.program, pin.program))
    if (pin.line === null) await tx.delete(usePins).where(here)
    else {
      await checkFits(db, college, program, pin.student, pin.item, pin.line)
      await tx.insert(usePins).values({ student: pin.student, item: pin.item, program: pin.program, line: pin.line }).onDuplicateKeyUpdate({
        set: { line: pin.line },
      })
    }
    const at = await currentInstant(tx)
    await tx.insert(ledger).values({ at, actor: pin.actor, student: pin.student, action: 'pin use',
      detail: { item: pin.item, program: pin.program, line: pin.line } })
  })
}

type Transaction = Parameters<Parameters<Database['transaction']>[0]>[0]

async function ownsItem(tx: Transaction, student: number, item: string): Promise<boolean> {
  const id = parseFirmItemId(item)
  if (!id) return false
  const rows = id.on === 'record'
    ? await tx.select({ id: records.id }).from(records).where(and(eq(records.student, student), eq(records.id, id.key)))
    : await tx.select({ id: registrations.id }).from(registrations).where(
        and(eq(registrations.student, student), eq(registrations.section, id.key)),
      )
  return rows.length > 0
}

async function checkFits(db: Database, college: College, program: Program, student: number, item: string, line: string) {
  const { file } = await readStudent(db, db, student, college.catalog.terms.at(-1)!.code)
  const items = itemsOf(file)
  const { reports } = readPrograms([program], items, file, college.catalog)
  if (!reports[0]!.couldCount[item]?.includes(line))
    throw new Refusal(422, 'does-not-fit', 'This course cannot count on that line.', 'Choose one of the lines that light up for it.')
}

async function programOf(db: Database, college: College, student: number, code: string): Promise<Program> {
  const { programIds } = await readStudent(db, db, student, college.catalog.terms.at(-1)!.code)
  const program = programIds.map(id => college.programs.get(id)).find(candidate => candidate?.code === code)
  if (!program)
    throw new Refusal(422, 'program-unknown', `This student is not in ${code}.`, 'Choose a line of one of the student\'s own programs.')
  return program
}

export type ExceptionGrant
  = & { student: number, advisor: number, program: string, line: string, reason: string }
    & ({ kind: 'substitution', course: string, instead: string | null } | { kind: 'waiver', course: string | null })

/** Grants a substitution or a waiver on a requirement line; who did it and why is kept with it and in the ledger. */
export async function grantException(db: Database, grant: ExceptionGrant): Promise<void> {
  const college = await loadCollege(db)
  const program = await programOf(db, college, grant.student, grant.program)
  const line = linesOfProgram(program).find(candidate => candidate.id === grant.line)
  if (!line)
    throw new Refusal(422, 'line-unknown', `${program.title} has no such requirement.`, 'Open the requirement again and grant it there.')
  if (grant.course && !college.catalog.courses.has(grant.course))
    throw new Refusal(422, 'course-unknown', `There is no course ${grant.course}.`, 'Write the code as in the catalog, such as HYD 230.')
  const listed = grant.kind === 'waiver' ? grant.course : grant.instead
  if (listed && !line.filter.list?.includes(listed))
    throw new Refusal(422, 'not-listed', `${line.title} does not list ${listed}.`, 'Choose one of the courses that the line lists.')
  await inTransaction(db, async (tx) => {
    const { student, advisor, kind, course, reason } = grant
    const known = await tx.select().from(exceptions).where(
      and(eq(exceptions.student, student), eq(exceptions.program, grant.program), eq(exceptions.line, grant.line),
        eq(exceptions.kind, kind)),
    )
    if (known.some(other => other.course === course))
      throw new Refusal(409, 'granted-already', 'This exception is granted already.', 'It stands in the drawer of the requirement.')
    const at = await currentInstant(tx)
    const instead = grant.kind === 'substitution' ? grant.instead : null
    await tx.insert(exceptions).values({ student, kind, program: grant.program, line: grant.line, course, instead, reason,
      grantedBy: advisor, grantedAt: at })
    await tx.insert(ledger).values({ at, actor: advisor, student, action: kind === 'waiver' ? 'grant waiver' : 'grant substitution',
      detail: { program: grant.program, line: grant.line, course, instead, reason } })
  })
}

/** Takes back a substitution or a waiver. */
export async function takeBackException(db: Database, take: { student: number, advisor: number, id: number }): Promise<void> {
  await inTransaction(db, async (tx) => {
    const [known] = await tx.select().from(exceptions).where(and(eq(exceptions.id, take.id), eq(exceptions.student, take.student)))
    if (!known || (known.kind !== 'substitution' && known.kind !== 'waiver'))
      throw new Refusal(404, 'exception-unknown', 'There is no such exception.', 'Reload the page; it may have been taken back already.')
    await tx.delete(exceptions).where(eq(exceptions.id, take.id))
    const at = await currentInstant(tx)
    await tx.insert(ledger).values({ at, actor: take.advisor, student: take.student,
      action: known.kind === 'waiver' ? 'take back waiver' : 'take back substitution',
      detail: { program: known.program, line: known.line, course: known.course } })
  })
}

/** Records a requirement without credit as done, or takes that back. */
export async function recordMilestone(db: Database,
  record: { student: number, advisor: number, program: string, milestone: string, done: boolean }): Promise<void> {
  const college = await loadCollege(db)
  const program = await programOf(db, college, record.student, record.program)
  if (!program.rules.some(rule => rule.kind === 'milestone' && rule.id === record.milestone))
    throw new Refusal(422, 'milestone-unknown', `${program.title} has no such milestone.`, 'Reload the page.')
  await inTransaction(db, async (tx) => {
    const at = await currentInstant(tx)
    const { student, program: code, milestone, advisor } = record
    if (record.done)
      await tx.insert(milestones).values({ student, program: code, milestone, recordedBy: advisor, recordedAt: at }).onDuplicateKeyUpdate({
        set: { milestone },
      })
    else await tx.delete(milestones).where(
      and(eq(milestones.student, student), eq(milestones.program, code), eq(milestones.milestone, milestone)),
    )
    await tx.insert(ledger).values({ at, actor: advisor, student, action: record.done ? 'record milestone' : 'take back milestone',
      detail: { program: code, milestone } })
  })
}
