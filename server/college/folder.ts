import { type CollegeFiles, type CollegeProblem, compareCollege, isRoster, type KnownCollege, PLANS_FILE, readCollege, readRoster,
  RECORDS_FILE, type RowChange, sayDifference, type SectionRow, type StudentPlan, type TableName, TABLES, toCourse, writeCollege,
  writePlanJson, writePlansJson, writeProgramText, writeRecordsJson, writeRoster } from '@ridgeway/formats'
import { type Program, programId } from '@ridgeway/core/requirements'
import type { Executor } from '../db/database'
import type { Step } from './long-work'
import { type CollegeAsRows, keepCollegeRows, lockUsed, readCollegeAsRows, sectionKey } from '../db/store/college-folder'
import { keepPlans, readPlansOf, readRegistered } from '../db/store/college-plans'
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

/** What a folder comes to: every problem by its place; or what it would change, and what was not taken and why (`asides`). */
export type FolderResult
  = | { ok: false, problems: CollegeProblem[] }
    | { ok: true, kept: boolean, tables: FileChange[], changes: RowChange[], asides: string[] }

/** Rows of each table that are shown one by one. */
const SHOWN = 40

interface TakingFolder {
  keep: boolean
  actor: number | null
  at: string
  step?: Step
  /** The college as it was read in this transaction, after it was locked. */
  standing?: CollegeAsRows
}

/**
 * Reads a folder against the college as it stands and says what it would change; with `keep` it is put in force, all of it or nothing, in
 * the transaction that `tx` is. `step` hears how far it is, and may throw to give it up.
 */
export async function takeFolder(tx: Executor, files: CollegeFiles,
  { keep, actor, at, step = async () => {}, standing }: TakingFolder): Promise<FolderResult> {
  // Two folders at the same moment: the second is read against what the first has left.
  if (keep) await lockCollege(tx)
  const now = standing ?? await readCollegeAsRows(tx)
  await step('checking', 0, 0)
  const refuse = async (problems: CollegeProblem[]): Promise<FolderResult> => {
    const { file, row, message } = problems[0]!
    if (keep)
      await writeLedger(tx, { at, actor, student: null, action: 'import refused', detail: { problems: problems.length,
        first: `${file}${row === null ? '' : `, row ${row}`}: ${message}`.slice(0, 300) } })
    return { ok: false, problems }
  }
  const roster = isRoster(files) ? readRoster(files, now.rows, registeredFor(await readRegistered(tx))) : null
  if (roster && !roster.ok) return refuse(roster.problems)
  const read = roster ? readCollege({}, knownOf(now), roster.elsewhere) : readCollege(files, knownOf(now))
  if (!read.ok) return refuse(read.problems)
  const { institution, rows, programs } = read.college
  const plans = await comparePlans(tx, read.college.plans, now)
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
    ...read.college.plans.length > 0
      ? [{ file: PLANS_FILE, added: plans.added.length, changed: plans.changed.length, same: plans.same, left: plans.left }]
      : [],
  ]
  const changes = [...sayDifference(difference, SHOWN),
    ...fresh.slice(0, SHOWN).map((program): RowChange => ({ file: 'programs', key: programId(program),
      columns: isNew(program) ? null : [{ title: 'requirements', from: 'as they stand', to: 'as in the file' }] })),
    ...[...plans.changed, ...plans.added].slice(0, SHOWN).map(({ username, name, before }): RowChange => ({ file: PLANS_FILE,
      key: `${username}, ${name}`, columns: before ? [{ title: 'plan', from: 'as it stands', to: 'as in the file' }] : null }))]
  if (keep) {
    const people = await keepCollegeRows(tx, { institution, programs: fresh, difference }, now, { at, by: actor ?? 0, step })
    await keepPlans(tx, [...plans.changed, ...plans.added], people, { by: actor, at, step })
    await step('finishing', 0, 0)
    await writeLedger(tx, { at, actor, student: null, action: 'import', detail: { tables } })
  }
  return { ok: true, kept: keep, tables, changes, asides: roster?.asides ?? [] }
}

const pick = ({ name, zone, repeatPolicy, termsText }: CollegeAsRows['institution']) => ({ name, zone, repeatPolicy, termsText })

/** Plans that are new or other than they stand, told apart by student and name; and how many stand besides. */
async function comparePlans(tx: Executor, sent: readonly StudentPlan[], now: CollegeAsRows) {
  const result = { added: [] as (StudentPlan & { before: null })[], changed: [] as (StudentPlan & { before: StudentPlan })[], same: 0,
    left: 0 }
  if (sent.length === 0) return result
  const standing = await readPlansOf(tx, [...new Set(sent.flatMap(one => now.ids.people.get(one.username) ?? []))])
  const before = new Map(standing.map(one => [`${one.username} ${one.name}`, one]))
  for (const one of sent) {
    const known = before.get(`${one.username} ${one.name}`)
    if (!known) result.added.push({ ...one, before: null })
    else if (writePlanJson('', known.plan) === writePlanJson('', one.plan) && (known.current || !one.current)) result.same++
    else result.changed.push({ ...one, before: known })
  }
  result.left = before.size - result.same - result.changed.length
  return result
}

const registeredFor = (all: Awaited<ReturnType<typeof readRegistered>>): Set<string> =>
  new Set(all.map(({ username, term, course }) => `${username} ${term} ${course}`))

/** The college as a roster of the open standard. */
export async function giveRoster(db: Executor): Promise<CollegeFiles> {
  const { institution, rows } = await readCollegeAsRows(db)
  return writeRoster({ name: institution.name, rows, registered: await readRegistered(db) })
}

/** All records and all plans, as JSON. */
export async function giveRecordsAndPlans(db: Executor): Promise<CollegeFiles> {
  const { rows } = await readCollegeAsRows(db)
  return { [RECORDS_FILE]: writeRecordsJson(rows.records), [PLANS_FILE]: writePlansJson(await readPlansOf(db, null)) }
}

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
