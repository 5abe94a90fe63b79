import { COURSE_CODE } from '@ridgeway/core/catalog'
import type { CollegeFiles, RowsElsewhere } from '../college/college'
import { type CollegeProblem, readCells, type RowPlace } from '../college/table'
import type { CollegeRows } from '../college/tables'
import { plainCell } from '../spreadsheet'
import { OTHER_FILES, REQUIRED, ROSTER_FILES, ROSTER_VERSION, type RosterFile, rosterFileOf } from './columns'

/** What a roster says of a college, in its tables' rows; or what is wrong with it. `asides` tell in words what was not taken, and why. */
export type ReadRoster = { ok: true, elsewhere: RowsElsewhere, asides: string[] } | { ok: false, problems: CollegeProblem[] }

/** A row of a roster's file by its columns, with its place. */
interface RosterRow { at: number, of: Readonly<Record<string, string>> }

/** Problems that are named. */
const MOST_PROBLEMS = 100

/**
 * Reads a roster against the college as it stands. A roster has neither credits, seats, times nor deadlines: terms and courses must be
 * here already, a class that is new comes without seats, and what Ridgeway knows besides stays as it is. Students come with their name and
 * mail; teachers are read for their names; nobody else is taken, and nobody is taken away. `registered` holds `username term course`.
 */
export function readRoster(files: CollegeFiles, now: CollegeRows, registered: ReadonlySet<string>): ReadRoster {
  const reader = new RosterReader(now, registered)
  return reader.read(files)
}

class RosterReader {
  private readonly problems: CollegeProblem[] = []
  private readonly places = new Map<unknown, RowPlace>()
  private readonly asides = new Map<string, number>()
  private readonly rows = new Map<string, RosterRow[]>()

  constructor(private readonly now: CollegeRows, private readonly registered: ReadonlySet<string>) {}

  read(files: CollegeFiles): ReadRoster {
    for (const [path, content] of Object.entries(files)) {
      const name = rosterFileOf(path)
      if (name in ROSTER_FILES) this.rows.set(name, this.readFile(name as RosterFile, content))
      else if (!OTHER_FILES.some(other => name === `${other}.csv`))
        this.say(path, null, null, 'This is no file of a roster. Bring a roster in by itself, and other tables after it.')
    }
    this.checkManifest()
    if (this.problems.length > 0) return { ok: false, problems: this.problems }
    const terms = this.readTerms()
    const courses = this.readCourses()
    const people = this.readUsers()
    const sections = this.readClasses(terms, courses)
    const records = this.readEnrollments(people, sections)
    if (this.problems.length > 0) return { ok: false, problems: this.problems }
    const filled = Object.fromEntries(Object.entries({ courses: [...courses.rows], people: [...people.rows], sections: [...sections.rows],
      records }).filter(([, list]) => list.length > 0)) as Partial<CollegeRows>
    return { ok: true, elsewhere: { rows: filled, places: this.places },
      asides: [...this.asides].map(([words, times]) => `${times} × ${words}`) }
  }

  private say(file: string, row: number | null, column: string | null, message: string) {
    if (this.problems.length < MOST_PROBLEMS) this.problems.push({ file, row, column, message })
  }

  private leave(words: string) {
    this.asides.set(words, (this.asides.get(words) ?? 0) + 1)
  }

  private readFile(file: RosterFile, content: string): RosterRow[] {
    const data = readCells(content, (row, message) => this.say(file, row, null, message))
    if (!data) return []
    const titles = (data[0] ?? []).map(title => title.trim())
    for (const column of REQUIRED[file]) if (!titles.includes(column)) this.say(file, 1, column, 'This column is missing.')
    return data.slice(1).flatMap((cells, i): RosterRow[] => {
      if (cells.every(cell => cell.trim() === '')) return []
      const at = i + 2
      if (cells.length > titles.length) {
        this.say(file, at, null, `This row has ${cells.length} cells, and there are ${titles.length} columns.`)
        return []
      }
      const of = Object.fromEntries(titles.map((title, c) => [title, plainCell(cells[c] ?? '').trim()]))
      for (const column of REQUIRED[file])
        if (titles.includes(column) && of[column] === '') this.say(file, at, column, 'This is empty, and must be filled in.')
      return [{ at, of }]
    })
  }

  private checkManifest() {
    const said = new Map((this.rows.get('manifest.csv') ?? []).map(({ of }) => [of.propertyName!, of.value ?? '']))
    const version = said.get('oneroster.version')
    if (version !== ROSTER_VERSION)
      this.say('manifest.csv', null, 'oneroster.version',
        `Version ${version || 'nothing'} is not read here. Export version ${ROSTER_VERSION}.`)
    for (const file of Object.keys(ROSTER_FILES)) {
      const how = said.get(`file.${file.replace(/\.csv$/, '')}`)
      if (how && how !== 'absent' && !this.rows.has(file))
        this.say('manifest.csv', null, `file.${file.replace(/\.csv$/, '')}`, `The manifest names ${file}, and it is not there.`)
    }
  }

  /** Rows of a file that are to be taken; one that says of itself that it is to be deleted is left aside. */
  private taken(file: RosterFile): RosterRow[] {
    const seen = new Map<string, number>()
    return (this.rows.get(file) ?? []).filter(({ at, of }) => {
      if (of.status === 'tobedeleted') {
        this.leave(`a row of ${file} that is to be deleted: nothing is taken away by a file`)
        return false
      }
      const before = seen.get(of.sourcedId!)
      if (before !== undefined) this.say(file, at, 'sourcedId', `${of.sourcedId} stands in row ${before} already.`)
      seen.set(of.sourcedId!, at)
      return before === undefined
    })
  }

  /** The term behind every academic session, its parts included. */
  private readTerms(): Map<string, string> {
    const rows = this.taken('academicSessions.csv')
    const found = new Map<string, string>()
    for (const { of } of rows) {
      const term = this.now.terms.find(({ code, name }) => code === of.sourcedId || name === of.title)
        ?? this.now.terms.find(({ start, end }) => start === of.startDate && end === of.endDate)
      if (term) found.set(of.sourcedId!, term.code)
    }
    for (const { of } of rows) {
      const parent = found.get(of.parentSourcedId ?? '')
      if (!found.has(of.sourcedId!) && parent) found.set(of.sourcedId!, parent)
      if (!found.has(of.sourcedId!) && of.type !== 'schoolYear') this.leave('an academic session that is no term here')
    }
    return found
  }

  private readCourses() {
    const known = new Map(this.now.courses.map(row => [plainCode(row.code), row]))
    const bySource = new Map<string, CollegeRows['courses'][number]>()
    const rows: CollegeRows['courses'] = []
    for (const { at, of } of this.taken('courses.csv')) {
      const row = known.get(plainCode(of.courseCode || of.sourcedId!))
      if (!row) {
        this.say('courses.csv', at, 'courseCode', COURSE_CODE.test(of.courseCode ?? '')
          ? `There is no course ${of.courseCode} here, and a roster says no credits. Bring it in with Ridgeway's own courses.csv first.`
          : `"${of.courseCode}" is no course here.`)
        continue
      }
      const after = { ...row, title: of.title! }
      bySource.set(of.sourcedId!, after)
      this.places.set(after, { file: 'courses.csv', row: at })
      rows.push(after)
    }
    return { rows, bySource }
  }

  private readUsers() {
    const known = new Map(this.now.people.map(row => [row.username, row]))
    const students = new Map<string, string>()
    const all = new Set<string>()
    const rows: CollegeRows['people'] = []
    for (const { at, of } of this.taken('users.csv')) {
      const name = nameOf(of)
      all.add(of.sourcedId!)
      if (of.role !== 'student') {
        this.leave(of.role === 'teacher'
          ? 'a teacher, read for the name'
          : 'somebody who is no student: advisors and the office are invited')
        continue
      }
      if (of.enabledUser === 'false') {
        this.leave('a student who is not enabled')
        continue
      }
      const username = (of.username || of.sourcedId!).toLowerCase()
      if (!/^[a-z0-9][a-z0-9._-]{0,39}$/.test(username)) {
        this.say('users.csv', at, 'username',
          `"${username.slice(0, 60)}" cannot be signed in with: small letters, digits, dots and hyphens.`)
        continue
      }
      const before = known.get(username)
      const email = of.email || before?.email || ''
      if (!/^[^\s@;,<>]{1,60}@[^\s@;,<>]{1,59}$/.test(email)) {
        this.say('users.csv', at, 'email', 'A student needs a mail address, to be invited to sign in.')
        continue
      }
      const row: CollegeRows['people'][number] = { ...before ?? { role: 'student', advisor: null, programs: [], confirmed: false,
        residence: 'resident', cohorts: [], placements: [] }, username, name, email }
      if (row.role !== 'student') {
        this.say('users.csv', at, 'role', `${username} is ${row.role} here already; what somebody is does not change by a file.`)
        continue
      }
      students.set(of.sourcedId!, username)
      this.places.set(row, { file: 'users.csv', row: at })
      rows.push(row)
    }
    return { rows, students, all }
  }

  private readClasses(terms: ReadonlyMap<string, string>, { bySource }: { bySource: Map<string, CollegeRows['courses'][number]> }) {
    const known = new Map(this.now.sections.map(row => [`${row.term} ${row.course} ${row.label}`, row]))
    const teaching = this.readTeachers()
    let number = Math.max(10_000, ...this.now.sections.map(row => Number(row.number)))
    const rows: CollegeRows['sections'] = []
    const found = new Map<string, { row: CollegeRows['sections'][number], credits: number }>()
    for (const { at, of } of this.taken('classes.csv')) {
      const say = (column: string, message: string) => this.say('classes.csv', at, column, message)
      const course = bySource.get(of.courseSourcedId!)
      const term = of.termSourcedIds!.split(',').map(id => terms.get(id.trim())).find(code => code !== undefined)
      if (!course) {
        say('courseSourcedId', `There is no course ${of.courseSourcedId} in courses.csv.`)
        continue
      }
      if (!term) {
        say('termSourcedIds', `${of.termSourcedIds} is no term here: neither its code, its name nor its days are those of one.`)
        continue
      }
      const label = /([A-Z0-9]{1,6})$/.exec((of.classCode || of.sourcedId!).toUpperCase())?.[1]
      if (!label) {
        say('classCode', 'This must end in a section label such as 02.')
        continue
      }
      const before = known.get(`${term} ${course.code} ${label}`)
      const teachers = teaching.get(of.sourcedId!) ?? []
      const session = this.now.sessions.find(one => one.term === term)?.code ?? 'full'
      if (!before) this.leave('a class that is new here: it comes without seats and times, which a roster does not say')
      const row: CollegeRows['sections'][number] = before
        ? { ...before, instructors: teachers.length > 0 ? teachers : before.instructors }
        : { term, course: course.code, label, number: String(++number), session, part: 'lecture', link: label, seats: 0, reserved: [],
            sharesWith: null, waitlist: 0, meets: [], exam: null, delivery: 'on site', instructors: teachers, topic: '', notes: '', fee: 0,
            gradingModes: ['letter'], group: '', onlyPrograms: [], onlyStandings: [], onlyCohorts: [], cancelled: false }
      found.set(of.sourcedId!, { row, credits: course.credits })
      this.places.set(row, { file: 'classes.csv', row: at })
      rows.push(row)
    }
    return { rows, found }
  }

  /** The names of who teaches each class, the primary one first. */
  private readTeachers(): Map<string, string[]> {
    const names = new Map((this.rows.get('users.csv') ?? []).map(({ of }) => [of.sourcedId!, nameOf(of)]))
    const found = new Map<string, string[]>()
    for (const { of } of this.rows.get('enrollments.csv') ?? []) {
      const name = names.get(of.userSourcedId!)
      if (of.role !== 'teacher' || of.status === 'tobedeleted' || !name) continue
      const before = found.get(of.classSourcedId!) ?? []
      found.set(of.classSourcedId!, of.primary === 'true' ? [name, ...before] : [...before, name])
    }
    return found
  }

  /** Students of a class take its course: what they have not registered here is under way on their record. */
  private readEnrollments({ students, all }: ReturnType<RosterReader['readUsers']>,
    { found }: ReturnType<RosterReader['readClasses']>): CollegeRows['records'] {
    const known = new Set(this.now.records.map(row => `${row.username} ${row.term} ${row.course}`))
    const rows: CollegeRows['records'] = []
    for (const { at, of } of this.taken('enrollments.csv')) {
      const section = found.get(of.classSourcedId!)
      if (!section) this.say('enrollments.csv', at, 'classSourcedId', `There is no class ${of.classSourcedId} in classes.csv.`)
      if (!all.has(of.userSourcedId!)) this.say('enrollments.csv', at, 'userSourcedId',
        `There is no user ${of.userSourcedId} in users.csv.`)
      const username = students.get(of.userSourcedId!)
      if (!section || !username || of.role !== 'student') continue
      const { term, course, part } = section.row
      const key = `${username} ${term} ${course}`
      if (part !== 'lecture') continue
      if (this.registered.has(key) || known.has(key)) {
        this.leave('an enrolment that stands here already')
        continue
      }
      known.add(key)
      const row: CollegeRows['records'][number] = { username, course, term, attempt: 1, credits: section.credits, grade: null,
        earnedGrade: null, topic: null, gradedAt: null, state: 'under way', source: 'here' }
      this.places.set(row, { file: 'enrollments.csv', row: at })
      rows.push(row)
    }
    return rows
  }
}

/** The name as one writes it; a hyphen stands for a family name that there is none of. */
const nameOf = (of: RosterRow['of']) => [of.givenName, of.middleName, of.familyName].filter(part => part && part !== '-').join(' ')

/** A course code however its parts are joined: HYD 230, HYD-230, hyd230. */
const plainCode = (code: string) => code.replaceAll(/[\s._-]/g, '').toUpperCase()
