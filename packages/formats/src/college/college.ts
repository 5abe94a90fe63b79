import { z } from 'zod'
import type { Course } from '@ridgeway/core/catalog'
import type { GradeScale } from '@ridgeway/core/grades'
import { coursesMentioned, parseExpression } from '@ridgeway/core/prerequisites'
import { linesOfProgram, type Program, programId } from '@ridgeway/core/requirements'
import { checkShape, type FormatProblem, readJson } from '../json'
import { readProgramText, writeProgramText } from '../program'
import { PLANS_FILE, readPlansJson, readRecordsJson, RECORDS_FILE, type StudentPlan } from './bulk'
import { toCourse } from './convert'
import { type CollegeProblem, readRows, type RowPlace, type Table, writeRows } from './table'
import { type CollegeRows, type TableName, TABLES } from './tables'

/** Names the shape of the folder and its version. */
const COLLEGE_FORMAT = 'ridgeway-college/1'
export const COLLEGE_FILE = 'college.json'
const isZone = (zone: string) => {
  try {
    return new Intl.DateTimeFormat('en', { timeZone: zone }).resolvedOptions().timeZone.length > 0
  }
  catch {
    return false
  }
}
export const zone = z.string().min(1).max(60).refine(isZone, 'a time zone such as America/Denver')
const CollegeFile = z.strictObject({
  $schema: z.string().optional(),
  format: z.literal(COLLEGE_FORMAT, `this must be "${COLLEGE_FORMAT}"`),
  name: z.string().trim().min(1).max(120),
  zone,
  repeatPolicy: z.enum(['best', 'latest']).describe('Which of several graded attempts at a course stands.'),
  termsText: z.string().max(2000).describe('What students accept before they register.'),
}).meta({ title: 'Ridgeway college', description: 'The institution itself, in the file college.json of a college\'s folder.' })
export const collegeJsonSchema = () => z.toJSONSchema(CollegeFile, { io: 'input' })

export type InstitutionRow = Omit<z.output<typeof CollegeFile>, 'format' | '$schema'>

/** A college's folder as it was read: the tables that were there, the programs, and the institution if its file was. */
export interface CollegeRead {
  institution: InstitutionRow | null
  rows: Partial<CollegeRows>
  programs: Program[]
  plans: StudentPlan[]
}

/** What stands in the database already: rows of a folder may refer to it. */
export interface KnownCollege {
  sites: ReadonlySet<string>
  terms: ReadonlyMap<string, { start: string, end: string }>
  /** `2027SP full` */
  sessions: ReadonlySet<string>
  courses: ReadonlyMap<string, Course>
  programs: ReadonlyMap<string, Program>
  /** Roles by sign-in name. */
  people: ReadonlyMap<string, string>
  /** `2027SP HYD 230 02` */
  sections: ReadonlySet<string>
  scale: GradeScale
}

export type ReadCollege = { ok: true, college: CollegeRead } | { ok: false, problems: CollegeProblem[] }
/** A folder's files by name; programs stand in `programs/`. */
export type CollegeFiles = Readonly<Record<string, string>>

/** Rows that came in another shape than the tables', and where in its files each was said. */
export interface RowsElsewhere {
  rows: Partial<CollegeRows>
  places: ReadonlyMap<unknown, RowPlace>
}

/**
 * Reads a folder; all of it is right, or every problem is named by file, row and column and nothing is taken. Rows that came in another
 * shape are checked with those of the tables.
 */
export function readCollege(files: CollegeFiles, known: KnownCollege, elsewhere?: RowsElsewhere): ReadCollege {
  const reader = new Reader(known)
  return reader.read(files, elsewhere)
}

/** What may lie beside the tables without being one. */
const isIgnored = (name: string) => /(^|\/)(\.|__MACOSX\/|README|manifest\.json)/i.test(name)

class Reader {
  private readonly problems: CollegeProblem[] = []
  private readonly rows: Partial<CollegeRows> = {}
  private readonly at = new Map<unknown, RowPlace>()

  constructor(private readonly known: KnownCollege) {}

  read(files: CollegeFiles, elsewhere?: RowsElsewhere): ReadCollege {
    const names = new Map(Object.values(TABLES).map(one => [one.file, one]))
    const programs: [name: string, text: string][] = []
    let plans: string | null = null
    let institution: InstitutionRow | null = null
    for (const [path, content] of Object.entries(files)) {
      if (isIgnored(path)) continue
      const name = /(^|\/)(programs\/[^/]+\.json|[^/]+)$/.exec(path)?.[2] ?? path
      const known = names.get(name)
      if (known) this.readOne(known as Table<unknown>, content)
      else if (name === COLLEGE_FILE) institution = this.readInstitution(content)
      else if (name === RECORDS_FILE) {
        const { problems, ...records } = readRecordsJson(content)
        this.problems.push(...problems)
        this.join({ ...records, rows: { records: records.rows } })
      }
      else if (name === PLANS_FILE) plans = content
      else if (name.startsWith('programs/')) programs.push([name, content])
      else this.say(path, null, null, `No file of this name is read. The files are college.json, ${
        [...names.keys(), RECORDS_FILE, PLANS_FILE].join(', ')}, and programs in programs/.`)
    }
    if (elsewhere) this.join(elsewhere)
    const read = this.readPrograms(programs)
    this.checkAll(new Set([...this.known.programs.keys(), ...read.map(programId)]))
    const planned = plans === null ? [] : this.readPlans(plans, read)
    if (this.problems.length > 0) return { ok: false, problems: this.problems }
    return { ok: true, college: { institution, rows: this.rows, programs: read, plans: planned } }
  }

  private say(file: string, row: number | null, column: string | null, message: string) {
    this.problems.push({ file, row, column, message })
  }

  private readOne(table: Table<unknown>, content: string) {
    const { rows, at, problems } = readRows(table, content)
    this.problems.push(...problems)
    const name = (Object.keys(TABLES) as TableName[]).find(one => TABLES[one].file === table.file)!
    this.rows[name] = rows as never
    rows.forEach((row, i) => this.at.set(row, { file: table.file, row: at[i]! }))
  }

  private join({ rows, places }: RowsElsewhere) {
    for (const [row, place] of places) this.at.set(row, place)
    for (const name of Object.keys(rows) as TableName[]) {
      const table = TABLES[name] as Table<unknown>
      const before = new Set((this.rows[name] ?? []).map(row => table.keyOf(row)))
      for (const row of rows[name]!) {
        const place = places.get(row)
        // What a cell of the table could not hold is no more right for having come in another shape.
        for (const { name: column, title, cell, preset } of table.columns) {
          const text = cell.write((row as unknown as Record<string, unknown>)[column])
          if ((text === '' && preset !== undefined) || cell.read(text) !== undefined) continue
          this.say(place?.file ?? table.file, place?.row ?? null, title, text === ''
            ? `This is empty; write ${cell.words}.`
            : `"${text.slice(0, 60)}" is not ${cell.words}.`)
        }
        if (before.has(table.keyOf(row))) this.say(place?.file ?? table.file, place?.row ?? null, null,
          `${table.keyOf(row)} stands in ${table.file} as well; say it in one of the two.`)
      }
      this.rows[name] = [...this.rows[name] ?? [], ...rows[name]!] as never
    }
  }

  private readInstitution(content: string): InstitutionRow | null {
    const read = readJson(content)
    const shape = read.ok ? checkShape(CollegeFile, read.json) : null
    const wrong: FormatProblem[] = !read.ok ? read.problems : shape && !shape.ok ? shape.problems : []
    for (const { line, path, message } of wrong) this.say(COLLEGE_FILE, line, path || null, message)
    if (!shape?.ok) return null
    const { format: _, $schema: __, ...institution } = shape.data
    return institution
  }

  private readPrograms(files: readonly [string, string][]): Program[] {
    const courses = this.allCourses()
    const codes = new Set([...this.known.programs.values()].map(program => program.code))
    for (const [, content] of files) for (const [, code] of content.matchAll(/"code"\s*:\s*"([A-Z0-9-]+)"/g)) codes.add(code!)
    const found = new Map<string, string>()
    return files.flatMap(([name, content]) => {
      const read = readProgramText(content, { courses, scale: this.known.scale, programs: codes })
      if (!read.ok) {
        for (const { line, path, message } of read.problems) this.say(name, line, path || null, message)
        return []
      }
      const id = programId(read.program)
      const before = found.get(id)
      if (before) this.say(name, null, null, `${id} stands in ${before} already.`)
      found.set(id, name)
      return [read.program]
    })
  }

  private readPlans(content: string, fresh: readonly Program[]): StudentPlan[] {
    const lines = new Set([...this.known.programs.values(), ...fresh].flatMap(program =>
      linesOfProgram(program).map(line => `${program.code}/${line.id}`)))
    const terms = [...this.known.terms.keys(), ...(this.rows.terms ?? []).map(row => row.code)].map(code => ({ code }))
    const { plans, problems } = readPlansJson(content, { courses: this.allCourses(), terms, lines })
    this.problems.push(...problems)
    const roles = this.allRoles()
    return plans.map(({ at, ...one }) => {
      if (roles.get(one.username) !== 'student') this.say(PLANS_FILE, at, 'student',
        `There is no student ${one.username}. Add them to people.csv.`)
      return one
    })
  }

  private allRoles(): Map<string, string> {
    return new Map([...this.known.people, ...(this.rows.people ?? []).map(row => [row.username, row.role] as const)])
  }

  private allCourses(): Map<string, Course> {
    return new Map([...this.known.courses, ...(this.rows.courses ?? []).map(row => [row.code, toCourse(row)] as const)])
  }

  /** Every row with its place, and whether what it names is there; a table that is not sent has nothing to check. */
  private each<K extends TableName>(name: K, check: (row: CollegeRows[K][number], say: (column: string, message: string) => void) => void) {
    const { file } = TABLES[name]
    for (const row of this.rows[name] ?? [])
      check(row as CollegeRows[K][number], (column, message) => {
        const place = this.at.get(row)
        this.say(place?.file ?? file, place?.row ?? null, column, message)
      })
  }

  private checkAll(programs: ReadonlySet<string>) {
    const { known, rows } = this
    const sites = new Set([...known.sites, ...(rows.sites ?? []).map(row => row.code)])
    const terms = new Map([...known.terms, ...(rows.terms ?? []).map(row => [row.code, row] as const)])
    const sessions = new Set([...known.sessions, ...(rows.sessions ?? []).map(row => `${row.term} ${row.code}`)])
    const courses = this.allCourses()
    const people = this.allRoles()
    const sections = new Set([...known.sections, ...(rows.sections ?? []).map(row => `${row.term} ${row.course} ${row.label}`)])
    const need = (there: { has: (key: string) => boolean }, what: string, key: string, say: (message: string) => void, way: string) => {
      if (!there.has(key)) say(`There is no ${what} ${key}. ${way}`)
    }
    this.each('travel', ({ from, to }, say) => {
      for (const [column, site] of [['from', from], ['to', to]] as const)
        need(sites, 'site', site, message => say(column, message), 'Add it to sites.csv.')
    })
    this.each('terms', ({ start, end, addBy, dropBy, withdrawBy, fullTime, loadCap }, say) => {
      if (end <= start) say('last day', 'The term ends before it begins.')
      if (dropBy < addBy || withdrawBy < dropBy) say('drop by', 'The last days come in this order: add by, drop by, withdraw by.')
      if (fullTime > loadCap) say('full time', 'Full time is more than the cap on credits.')
    })
    this.each('sessions', ({ term, start, end }, say) => {
      const whole = terms.get(term)
      if (!whole) return say('term', `There is no term ${term}. Add it to terms.csv.`)
      if (end <= start || start < whole.start || end > whole.end) say('first day',
        `A session lies within its term, ${whole.start} to ${whole.end}.`)
    })
    this.each('openings', ({ term }, say) => need(terms, 'term', term, message => say('term', message), 'Add it to terms.csv.'))
    this.each('courses', (row, say) => {
      if (row.creditsMax !== null && row.creditsMax < row.credits) say('credits at most', 'This is less than the credits.')
      for (const [column, rule] of [['prerequisite', row.prerequisite], ['corequisite', row.corequisite]] as const) {
        const read = parseExpression(rule, null)
        if (read.ok) {
          for (const code of coursesMentioned(read.expression))
            need(courses, 'course', code, message => say(column, message), 'Add it to courses.csv, or write the rule without it.')
          continue
        }
        const { at } = read.problem
        say(column, `This rule cannot be read from its ${at + 1}. character on: "${rule.slice(at, at + 30)}".`)
      }
      for (const [column, codes] of [['no credit beside', row.exclusions], ['same as', row.equivalents]] as const)
        for (const code of codes) need(courses, 'course', code, message => say(column, message),
          'Add it to courses.csv, or leave it out here.')
    })
    this.each('sections', (row, say) => {
      need(courses, 'course', row.course, message => say('course', message), 'Add it to courses.csv.')
      const term = terms.get(row.term)
      if (!term) return say('term', `There is no term ${row.term}. Add it to terms.csv.`)
      need(sessions, 'session', `${row.term} ${row.session}`, message => say('session', message), 'Add it to sessions.csv.')
      for (const { site, first, last } of row.meets) {
        need(sites, 'site', site, message => say('meets', message), 'Add it to sites.csv.')
        if (first < term.start || last > term.end) say('meets', `A meeting lies within its term, ${term.start} to ${term.end}.`)
      }
      if (row.sharesWith !== null) {
        const [course, other] = row.sharesWith.split('-') as [string, string]
        if (row.sharesWith === `${row.course}-${row.label}` || !sections.has(`${row.term} ${course} ${other}`))
          say('shares seats with', `There is no other section ${row.sharesWith} in ${row.term}.`)
        if (row.seats > 0 || row.reserved.length > 0) say('seats', 'Its seats are those of the other section: write 0, and keep none here.')
      }
    })
    this.each('people', ({ username, role, advisor, programs: chosen }, say) => {
      const was = known.people.get(username)
      if (was && was !== role) say('role', `${username} is ${was} here already; what somebody is does not change by a file.`)
      if (role !== 'student' && (advisor !== null || chosen.length > 0)) say('role', 'Only students have an advisor and programs.')
      if (advisor !== null && people.get(advisor) !== 'advisor') say('advisor',
        `There is no advisor ${advisor}. Add them to this table with the role advisor.`)
      for (const id of chosen) need(programs, 'program', id, message => say('programs', message), 'Put its file into programs/.')
    })
    this.each('records', ({ username, course, term, source, grade, state }, say) => {
      if (people.get(username) !== 'student') say('sign-in name', `There is no student ${username}. Add them to people.csv.`)
      if (source === 'here') need(courses, 'course', course, message => say('course', message),
        'Add it to courses.csv; a course of another college has the source transfer.')
      if (term !== null) need(terms, 'term', term, message => say('term', message), 'Add it to terms.csv.')
      else if (source === 'here') say('term', 'What was taken here was taken in a term.')
      if (grade !== null && !(grade in known.scale)) say('grade',
        `${grade} is not on the grade scale: ${Object.keys(known.scale).join(', ')}.`)
      if ((grade === null) !== (state === 'under way')) say('grade', 'What is completed has a grade, and what is under way has none.')
    })
  }
}

/** A table without rows: its columns' names, to be filled in. */
export const emptyTable = (name: TableName) => writeRows(TABLES[name] as Table<unknown>, [])

interface WholeCollege {
  institution: InstitutionRow
  rows: CollegeRows
  programs: readonly Program[]
}

/** Writes a folder that reads as this college: the same college gives the same bytes. Tables without rows are written all the same. */
export function writeCollege({ institution, rows, programs }: WholeCollege): Record<string, string> {
  return {
    [COLLEGE_FILE]: `${JSON.stringify({ format: COLLEGE_FORMAT, ...institution }, null, 2)}\n`,
    ...Object.fromEntries((Object.keys(TABLES) as TableName[]).map(name =>
      [TABLES[name].file, writeRows(TABLES[name] as Table<unknown>, rows[name])])),
    ...Object.fromEntries([...programs].map(program => [`programs/${programId(program).toLowerCase()}.json`, writeProgramText(program)])
      .sort(([a], [b]) => a! < b! ? -1 : 1)),
  }
}
