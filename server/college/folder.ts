import { type CollegeFiles, type CollegeProblem, compareCollege, type KnownCollege, readCollege, type RowChange, sayDifference,
  type SectionRow, type TableName, TABLES, toCourse, writeCollege, writeProgramText } from '@ridgeway/formats'
import { type Program, programId } from '@ridgeway/core/requirements'
import type { Executor } from '../db/database'
import { type CollegeAsRows, keepCollegeRows, lockUsed, readCollegeAsRows, sectionKey } from '../db/store/college-folder'
import { lockCollege } from '../db/store/college'
import { writeLedger } from '../db/store/students'

/** What becomes of the rows of one file. */
interface FileChange {
  file: string
  added: number
  changed: number
  same: number
  left: number
}

/** What a folder comes to: every problem by its place, or what it would change. */
export type FolderResult
  = | { ok: false, problems: CollegeProblem[] }
    | { ok: true, kept: boolean, tables: FileChange[], changes: RowChange[] }

/** Rows of each table that are shown one by one. */
const SHOWN = 40

/**
 * Reads a folder against the college as it stands and says what it would change; with `keep` it is put in force, all of it or nothing, in
 * the transaction that `tx` is.
 */
export async function takeFolder(tx: Executor, files: CollegeFiles,
  { keep, actor, at }: { keep: boolean, actor: number | null, at: string }): Promise<FolderResult> {
  // Two folders at the same moment: the second is read against what the first has left.
  if (keep) await lockCollege(tx)
  const now = await readCollegeAsRows(tx)
  const read = readCollege(files, knownOf(now))
  const refuse = async (problems: CollegeProblem[]): Promise<FolderResult> => {
    const { file, row, message } = problems[0]!
    if (keep)
      await writeLedger(tx, { at, actor, student: null, action: 'import refused', detail: { problems: problems.length,
        first: `${file}${row === null ? '' : `, row ${row}`}: ${message}`.slice(0, 300) } })
    return { ok: false, problems }
  }
  if (!read.ok) return refuse(read.problems)
  const { institution, rows, programs } = read.college
  const difference = compareCollege(now.rows, read.college)
  const others = (difference.sections?.changed ?? []).map(one => one.after)
  // What is put in force is decided on seats that nobody can take meanwhile.
  const problems = seatProblems(keep ? await lockUsed(tx, now, others) : now.used, others)
  if (problems.length > 0) return refuse(problems)
  const before = new Map(now.programs.map(program => [programId(program), writeProgramText(program)]))
  const isNew = (program: Program) => !before.has(programId(program))
  const isOther = (program: Program) => !isNew(program) && before.get(programId(program)) !== writeProgramText(program)
  const fresh = programs.filter(program => isNew(program) || isOther(program))
  const isOtherCollege = institution !== null && JSON.stringify(institution) !== JSON.stringify(pick(now.institution))
  const tables = [
    ...(Object.keys(TABLES) as TableName[]).flatMap((name) => {
      const found = difference[name]
      return found && rows[name]
        ? [{ file: TABLES[name].file, added: found.added.length, changed: found.changed.length, same: found.same, left: found.left }]
        : []
    }),
    ...institution ? [{ file: 'college.json', added: 0, changed: isOtherCollege ? 1 : 0, same: isOtherCollege ? 0 : 1, left: 0 }] : [],
    ...programs.length > 0
      ? [{ file: 'programs', added: fresh.filter(isNew).length, changed: fresh.filter(isOther).length,
          same: programs.length - fresh.length, left: now.programs.length - programs.filter(program => !isNew(program)).length }]
      : [],
  ]
  const changes = [...sayDifference(difference, SHOWN),
    ...fresh.slice(0, SHOWN).map((program): RowChange => ({ file: 'programs', key: programId(program),
      columns: isNew(program) ? null : [{ title: 'requirements', from: 'as they stand', to: 'as in the file' }] }))]
  if (keep) {
    await keepCollegeRows(tx, { institution, programs: fresh, difference }, now, at, actor ?? 0)
    await writeLedger(tx, { at, actor, student: null, action: 'import', detail: { tables } })
  }
  return { ok: true, kept: keep, tables, changes }
}

const pick = ({ name, zone, repeatPolicy, termsText }: CollegeAsRows['institution']) => ({ name, zone, repeatPolicy, termsText })

/** The college as a folder. */
export async function giveFolder(db: Executor): Promise<CollegeFiles> {
  return writeCollege(await readCollegeAsRows(db))
}

function knownOf({ rows, programs, scale }: CollegeAsRows): KnownCollege {
  return {
    sites: new Set(rows.sites.map(row => row.code)),
    terms: new Map(rows.terms.map(row => [row.code, row])),
    sessions: new Set(rows.sessions.map(row => `${row.term} ${row.code}`)),
    courses: new Map(rows.courses.map(row => [row.code, toCourse(row)])),
    programs: new Map(programs.map(program => [programId(program), program])),
    people: new Map(rows.people.map(row => [row.username, row.role])),
    sections: new Set(rows.sections.map(sectionKey)),
    scale,
  }
}

/** Seats that somebody has cannot be taken away by a file. */
function seatProblems(used: CollegeAsRows['used'], changed: readonly SectionRow[]): CollegeProblem[] {
  return changed.flatMap((row) => {
    const key = sectionKey(row)
    const kept = (forGroup: string | null) => forGroup === null ? row.seats : row.reserved.find(one => one.for === forGroup)?.seats ?? 0
    return (used.get(key) ?? []).filter(one => one.seats > kept(one.forGroup)).map(({ seats, forGroup }) => ({
      file: TABLES.sections.file, row: null, column: forGroup === null ? 'seats' : 'seats kept',
      message: `${key}: ${seats} of its seats${forGroup === null ? '' : ` for ${forGroup}`} are taken or held; it cannot have fewer. `
        + 'Move those students first.' }))
  })
}
