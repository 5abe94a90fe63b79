import { eq, getTableColumns, getTableName, isNull, sql } from 'drizzle-orm'
import type { MySqlTable } from 'drizzle-orm/mysql-core'
import { type CollegeDifference, type CollegeRows, fromCourse, fromSection, fromTerm, type InstitutionRow, seasonAndYear, type SectionRow,
  TABLES, toCourse } from '@ridgeway/formats'
import { EMPTY_PLAN } from '@ridgeway/core/planning'
import { type Program, programId } from '@ridgeway/core/requirements'
import type { Section } from '@ridgeway/core/catalog'
import type { GradeScale } from '@ridgeway/core/grades'
import type { Executor } from '../database'
import * as s from '../schema'
import { readCollegeRows } from './college'
import { groupBy } from './group'
import type { Progress } from './long-works'
import { change, plain } from './plain'
import { keepHistory } from './programs'
import { changeSections, keepSeats, lockSeats, readTermSections, type SeatsWanted } from './sections'

/** The whole college as the rows of its folder, and what the rows are in the tables. */
export interface CollegeAsRows {
  institution: InstitutionRow
  rows: CollegeRows
  programs: Program[]
  /** Ids by key: sections by term, course and label, people by their sign-in names. */
  ids: { sections: ReadonlyMap<string, number>, people: ReadonlyMap<string, number> }
  /** Seats that are taken or held, by the section's key. */
  used: ReadonlyMap<string, readonly UsedSeats[]>
  scale: GradeScale
}

/** One category of a section's seats, and how many of it are taken or held. */
export interface UsedSeats {
  pool: number
  forGroup: string | null
  seats: number
}

export const sectionKey = ({ term, course, label }: Pick<SectionRow, 'term' | 'course' | 'label'>) => `${term} ${course} ${label}`

/** Reads everything that a folder holds. */
export async function readCollegeAsRows(db: Executor): Promise<CollegeAsRows> {
  const { institution, sites, travel, terms, sessions, openings, courses, programs } = await readCollegeRows(db)
  const { name, zone, repeatPolicy, termsText } = institution!
  const sections = (await Promise.all(terms.map(term => readTermSections(db, term.code))))
    .flatMap(term => [...term.byId.values()])
  const seats = new Map((await plain<{ id: number, capacity: number, used: number }>(db,
    'SELECT id, capacity, taken + held used FROM seat_pools')).map(row => [row.id, row]))
  const byId = new Map(sections.map(section => [section.id, section]))
  const full = (section: Section): Section => ({ ...section,
    pools: section.seatsWith === null ? section.pools.map(pool => ({ ...pool, capacity: seats.get(pool.id)?.capacity ?? 0 })) : [] })
  const nameOf = (id: number) => {
    const other = byId.get(id)
    return other ? `${other.course}-${other.label}` : null
  }
  const people = await db.select().from(s.people).where(isNull(s.people.erased))
  const students = new Map((await db.select().from(s.students)).map(row => [row.person, row]))
  const chosen = groupBy((await db.select().from(s.studentPrograms)).sort((a, b) => a.position - b.position), row => row.student)
  const nameById = new Map(people.map(person => [person.id, person.username]))
  const attempts = new Map<string, number>()
  return {
    institution: { name, zone, repeatPolicy, termsText },
    scale: institution!.gradeScale,
    programs: programs.map(program => program.body),
    ids: { sections: new Map(sections.map(section => [sectionKey(section), section.id])),
      people: new Map(people.map(person => [person.username, person.id])) },
    used: new Map(sections.filter(section => section.seatsWith === null).map(section => [sectionKey(section), section.pools.map(pool =>
      ({ pool: pool.id, forGroup: pool.forGroup, seats: seats.get(pool.id)?.used ?? 0 }))] as const)),
    rows: {
      sites, travel,
      terms: terms.map(({ sectionsVersion: _, ...term }) => fromTerm({ ...term, sessions: [] })),
      sessions: sessions.map(({ deadlines, ...session }) => ({ ...session, addBy: deadlines?.addBy ?? null,
        dropBy: deadlines?.dropBy ?? null, withdrawBy: deadlines?.withdrawBy ?? null })),
      openings: openings.map(({ id: _, ...opening }) => opening),
      courses: courses.map(fromCourse),
      sections: sections.map(section => fromSection(full(section), nameOf)),
      people: people.map((person) => {
        const student = students.get(person.id)
        return { username: person.username, name: person.name, email: person.email, role: person.role,
          advisor: student?.advisor ? nameById.get(student.advisor) ?? null : null,
          programs: (chosen.get(person.id) ?? []).map(row => row.program), confirmed: student?.programConfirmed ?? false,
          residence: student?.residence ?? 'resident', cohorts: student?.cohorts ?? [],
          placements: Object.entries(student?.placements ?? {}).map(([test, score]) => ({ test, score })) }
      }),
      records: (await db.select().from(s.records).orderBy(s.records.id)).map(({ id: _, listedCourse: __, student, ...row }) => {
        const key = `${student} ${row.course} ${row.term}`
        const attempt = (attempts.get(key) ?? 0) + 1
        attempts.set(key, attempt)
        return { username: nameById.get(student)!, attempt, ...row }
      }),
    },
  }
}

/** Seats of these sections that are taken or held, locked: until this transaction ends they stay so. All are locked in one order. */
export async function lockUsed(tx: Executor, { used }: CollegeAsRows, rows: readonly SectionRow[]): Promise<CollegeAsRows['used']> {
  const mine = rows.flatMap((row) => {
    const pools = used.get(sectionKey(row))
    return pools ? [[sectionKey(row), pools] as const] : []
  })
  const locked = await lockSeats(tx, mine.flatMap(([, pools]) => pools.map(one => one.pool)))
  const now = new Map(locked.map(seats => [seats.pool, seats.taken + seats.held]))
  return new Map(mine.map(([key, pools]) => [key, pools.map(one => ({ ...one, seats: now.get(one.pool) ?? 0 }))]))
}

/** Hears that so many rows more are written. */
type Went = (rows: number) => Promise<void>
const NOWHERE: Went = async () => {}

/** Rows in one statement. */
const TOGETHER = 500

/** Puts rows in, or in the place of those with their key. */
async function put(tx: Executor, table: MySqlTable, rows: readonly Record<string, unknown>[], columns: readonly string[],
  went: Went = NOWHERE) {
  const all = getTableColumns(table) as Record<string, { name: string }>
  const set = Object.fromEntries(columns.map(name => [name, sql.raw(`values(\`${all[name]!.name}\`)`)]))
  for (let at = 0; at < rows.length; at += TOGETHER) {
    await tx.insert(table).values(rows.slice(at, at + TOGETHER) as never).onDuplicateKeyUpdate({ set: set as never })
    await went(Math.min(TOGETHER, rows.length - at))
  }
}

const nextId = async (tx: Executor, table: MySqlTable) =>
  Number((await plain<{ next: number }>(tx, `SELECT IFNULL(MAX(id), 0) + 1 next FROM ${getTableName(table)}`))[0]!.next)

/** What a folder brings, told apart from what stands. */
export interface CollegeChange {
  institution: InstitutionRow | null
  programs: readonly Program[]
  difference: CollegeDifference
}

/**
 * Puts a folder's rows in force, in the order in which they refer to each other, inside one transaction. Nothing is taken away that is not
 * in the folder. Every server hears of it through the stamps. Gives the ids of all people by their sign-in names.
 */
export async function keepCollegeRows(tx: Executor, { institution, programs, difference }: CollegeChange,
  now: CollegeAsRows, { at, by, step }: { at: string, by: number, step: Progress }): Promise<ReadonlyMap<string, number>> {
  const fresh = <K extends keyof CollegeRows>(name: K): CollegeRows[K][number][] => {
    const found = difference[name]
    return found ? [...found.added, ...found.changed.map(one => one.after)] as CollegeRows[K][number][] : []
  }
  const total = (Object.keys(difference) as (keyof CollegeRows)[]).reduce((sum, name) => sum + fresh(name).length, 0)
  let done = 0
  const went = (stage: string): Went => rows => step(stage, done += rows, total)
  await change(tx, 'UPDATE college_stamp SET version = version + 1')
  if (institution) await tx.update(s.institution).set(institution)
  await put(tx, s.sites, fresh('sites'), ['name', 'online'], went('sites'))
  await put(tx, s.siteTravel, fresh('travel'), ['minutes'])
  await put(tx, s.terms, fresh('terms').map(row => ({ ...row, ...seasonAndYear(row.code) })), ['name', 'start', 'end', 'noClass',
    'movedDays', 'loadCap', 'fullTime', 'addBy', 'dropBy', 'withdrawBy', 'feesDue', 'scheduled'])
  await put(tx, s.termSessions, fresh('sessions').map(({ addBy, dropBy, withdrawBy, ...row }) => ({ ...row,
    deadlines: addBy && dropBy && withdrawBy ? { addBy, dropBy, withdrawBy } : null })), ['name', 'start', 'end', 'deadlines'])
  for (const { before } of difference.openings?.changed ?? [])
    await tx.delete(s.openings).where(sql`${s.openings.term} = ${before.term} AND ${s.openings.from} = ${before.from}
      AND ${s.openings.program} <=> ${before.program} AND ${s.openings.earnedMin} = ${before.earnedMin}`)
  for (const row of fresh('openings')) await tx.insert(s.openings).values(row)
  const courseRows = fresh('courses').map(toCourse)
  await put(tx, s.courses, courseRows.map(row => ({ ...row })), ['title', 'credits', 'creditsMax', 'description', 'attributes',
    'prerequisite', 'corequisite', 'exclusions', 'equivalents', 'repeatLimit', 'repeatCredits', 'offered', 'parts', 'fee'], went('courses'))
  await keepHistory(tx, programs.map(programId), { at, by })
  await put(tx, s.programs, programs.map(program => ({ id: programId(program), code: program.code, catalogYear: program.catalogYear,
    body: program })), ['body'])
  const peopleIds = await keepPeople(tx, fresh('people'), now, went('people'))
  await keepSections(tx, difference.sections, now, at, went('sections'))
  await keepRecords(tx, difference.records, peopleIds, went('records'))
  return peopleIds
}

async function keepPeople(tx: Executor, rows: CollegeRows['people'], now: CollegeAsRows, went: Went): Promise<Map<string, number>> {
  const ids = new Map(now.ids.people)
  if (rows.length === 0) return ids
  let next = await nextId(tx, s.people)
  for (const row of rows) if (!ids.has(row.username)) ids.set(row.username, next++)
  // Advisors before the students who have them.
  await put(tx, s.people, rows.map(({ username, name, email, role }) => ({ id: ids.get(username)!, username, name, email, role,
    story: '' })),
  ['name', 'email'], went)
  const students = rows.filter(row => row.role === 'student')
  await put(tx, s.students, students.map(row => ({ person: ids.get(row.username)!, advisor: row.advisor ? ids.get(row.advisor)! : null,
    programConfirmed: row.confirmed, placements: Object.fromEntries(row.placements.map(one => [one.test, one.score])),
    cohorts: row.cohorts, residence: row.residence })), ['advisor', 'programConfirmed', 'placements', 'cohorts', 'residence'])
  for (let at = 0; at < students.length; at += TOGETHER) {
    const some = students.slice(at, at + TOGETHER)
    await change(tx, 'DELETE FROM student_programs WHERE student IN (?)', [some.map(row => ids.get(row.username)!)])
    const chosen = some.flatMap(row => row.programs.map((program, position) => ({ student: ids.get(row.username)!, program, position })))
    if (chosen.length > 0) await tx.insert(s.studentPrograms).values(chosen)
  }
  // Whoever begins has a plan to begin with.
  const { entries: _, ...details } = EMPTY_PLAN
  const begun = students.filter(row => !now.ids.people.has(row.username))
  for (let at = 0; at < begun.length; at += TOGETHER)
    await tx.insert(s.plans).values(begun.slice(at, at + TOGETHER).map(row => ({ student: ids.get(row.username)!, name: 'Main',
      current: true,
      version: 0, details })))
  await bump(tx, students.map(row => ids.get(row.username)!))
  return ids
}

/** Files of students that changed from outside are read anew by whoever shows them. */
async function bump(tx: Executor, students: readonly number[]) {
  for (let at = 0; at < students.length; at += TOGETHER)
    await change(tx, 'UPDATE students SET version = version + 1 WHERE person IN (?)', [students.slice(at, at + TOGETHER)])
}

async function keepSections(tx: Executor, difference: CollegeDifference['sections'], now: CollegeAsRows, at: string, went: Went) {
  if (!difference) return
  const ids = new Map(now.ids.sections)
  let next = await nextId(tx, s.sections)
  for (const row of difference.added) ids.set(sectionKey(row), next++)
  const all = [...difference.added, ...difference.changed.map(one => one.after)]
  const byTerm = groupBy(all, row => row.term)
  let nextPool = await nextId(tx, s.seatPools)
  for (const [term, rows] of byTerm) {
    const mine = rows.map(row => ids.get(sectionKey(row))!)
    const edit = async () => {
      await put(tx, s.sections, rows.map(row => ({ ...plainSection(row), id: ids.get(sectionKey(row))!,
        seatsWith: row.sharesWith === null ? null : ids.get(sectionKey({ term, ...splitRef(row.sharesWith) })) ?? null })),
      ['session', 'number', 'part', 'link', 'exam', 'instructors', 'waitlistCapacity', 'delivery', 'topic', 'notes', 'fee', 'gradingModes',
        'group', 'seatsWith', 'onlyPrograms', 'onlyStandings', 'onlyCohorts', 'cancelled'])
      for (let at = 0; at < mine.length; at += TOGETHER)
        await tx.delete(s.meetings).where(sql`${s.meetings.section} IN ${mine.slice(at, at + TOGETHER)}`)
      const meets = rows.flatMap(row => row.meets.map(meeting => ({ ...meeting, section: ids.get(sectionKey(row))! })))
      for (let at = 0; at < meets.length; at += TOGETHER) await tx.insert(s.meetings).values(meets.slice(at, at + TOGETHER))
      for (const row of rows)
        nextPool = await keepSeats(tx, { section: ids.get(sectionKey(row))!, wanted: seatsWanted(row), at }, nextPool)
      await went(rows.length)
    }
    await changeSections(tx, term, mine, edit)
  }
}

const splitRef = (ref: string) => {
  const [course, label] = ref.split('-') as [string, string]
  return { course, label }
}
/** Seats of a section by whom they are for; one that shares another's has none of its own. */
function seatsWanted({ sharesWith, seats, reserved }: Pick<SectionRow, 'sharesWith' | 'seats' | 'reserved'>): SeatsWanted {
  if (sharesWith !== null) return new Map()
  return new Map([...seats > 0 || reserved.length === 0 ? [[null, seats] as const] : [], ...reserved.map(one => [one.for,
    one.seats] as const)])
}
const plainSection = ({ seats: _, reserved: __, sharesWith: ___, waitlist, meets: ____, ...row }: SectionRow) =>
  ({ ...row, waitlistCapacity: waitlist })

async function keepRecords(tx: Executor, difference: CollegeDifference['records'], ids: ReadonlyMap<string, number>, went: Went) {
  if (!difference) return
  const valuesOf = ({ username, attempt: _, ...row }: CollegeRows['records'][number]) => ({ ...row, student: ids.get(username)! })
  const added = [...difference.added].sort((a, b) => a.attempt - b.attempt).map(valuesOf)
  for (let at = 0; at < added.length; at += TOGETHER) {
    await tx.insert(s.records).values(added.slice(at, at + TOGETHER))
    await went(Math.min(TOGETHER, added.length - at))
  }
  for (const { after } of difference.changed) {
    const { student, course, term, ...values } = valuesOf(after)
    const known = await tx.select({ id: s.records.id }).from(s.records)
      .where(sql`${s.records.student} = ${student} AND ${s.records.course} = ${course} AND ${s.records.term} <=> ${term}`)
      .orderBy(s.records.id)
    await tx.update(s.records).set(values).where(eq(s.records.id, known[after.attempt - 1]!.id))
  }
  await bump(tx, [...new Set([...added.map(row => row.student), ...difference.changed.map(one => ids.get(one.after.username)!)])])
}

/** How many rows each file of the folder would have. */
export async function countCollegeRows(db: Executor): Promise<Record<string, number>> {
  const tables = { sites: s.sites, travel: s.siteTravel, terms: s.terms, sessions: s.termSessions, openings: s.openings, courses: s.courses,
    sections: s.sections, people: s.people, records: s.records }
  const parts = [...Object.entries(tables).map(([name, table]) => [TABLES[name as keyof typeof tables].file, getTableName(table)]),
    ['programs', getTableName(s.programs)]]
  const rows = await plain<{ file: string, n: number }>(db,
    parts.map(([, table]) => `SELECT ? file, COUNT(*) n FROM ${table}`).join(' UNION ALL '), parts.map(([file]) => file))
  return Object.fromEntries(rows.map(row => [row.file, Number(row.n)]))
}
