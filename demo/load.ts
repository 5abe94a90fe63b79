import { hash } from '@node-rs/argon2'
import type { Course, Section } from '@ridgeway/core/catalog'
import { programId } from '@ridgeway/core/requirements'
import type { Database } from '../server/db/connect'
import * as schema from '../server/db/schema'
import { DEMO_START, INSTITUTION, OPENINGS, SITES, SPRING, SUMMER, TERMS, TRAVEL } from './calendar'
import { COURSES } from './courses'
import { generateStudents, type GeneratedStudent } from './generate'
import { lateSections, moreSections, summerSections } from './more-sections'
import { ADVISORS, DEMO_PASSWORD, OFFICE, STUDENTS } from './people'
import { PeopleRows, readTerms, type Rows } from './people-rows'
import { PROGRAMS } from './programs'
import { Random } from './random'
import { withDetails } from './section-details'
import { makeSections } from './sections'

export interface LoadOptions {
  seed?: number
  generated?: number
  /** Sections whose seats are made to end with those taken, `HYD 230-01`. */
  full?: string[]
}

export interface Loaded {
  courses: number
  sections: number
  students: number
  registrations: number
}

/** Ids from here on are of sections that were added last. */
const LATE_FROM = 701
/** Students whom the authored advisors advise beside the authored ones; the others have advisors of their own. */
const NEAR = 300
const ADVISEES_EACH = 60

/** The sections of both terms that are scheduled. */
export function demoSections(random: Random) {
  const courses = new Map(COURSES.map(course => [course.code, course]))
  const [plain, summer] = [makeSections(SPRING, COURSES, random, 1), makeSections(SUMMER, COURSES, random, 1001)]
  const spring = [...plain, ...moreSections(SPRING, courses, plain, 401)]
  return { spring: withDetails([...spring, ...lateSections(SPRING, courses, spring, LATE_FROM)], SPRING, courses),
    summer: withDetails([...summer, ...summerSections(SUMMER, courses, summer, 1201)], SUMMER, courses) }
}

/** Fills an empty, migrated database with the demo college. The same seed gives the same rows. */
export async function loadDemo(db: Database, options: LoadOptions = {}): Promise<Loaded> {
  const random = new Random(options.seed ?? 20270111)
  const courses = new Map(COURSES.map(course => [course.code, course]))
  const { spring, summer } = demoSections(random)
  const sections = [...spring, ...summer]
  const count = options.generated ?? 2400
  const near = generateStudents(Math.min(count, NEAR), TERMS, courses, spring.filter(section => section.id < LATE_FROM), random)
  const generated = [...near, ...moreStudents(count - near.length, near, courses, spring)]
  closeFullSections(sections, options.full ?? ['HRT 150-01', 'HYD 330-02'])
  const passwordHash = await hash(DEMO_PASSWORD)
  const people = new PeopleRows(passwordHash, sections, courses)
  ADVISORS.forEach(advisor => people.addStaff(advisor, 'advisor'))
  OFFICE.forEach(person => people.addStaff(person, 'office'))
  STUDENTS.forEach(student => people.addAuthored(student))
  const far = Array.from({ length: Math.ceil((count - near.length) / ADVISEES_EACH) }, (_, i) => people.addFarAdvisor(i))
  generated.forEach((student, index) => people.addGenerated(student, index, index < NEAR
    ? 1 + index % ADVISORS.length
    : far[Math.floor((index - NEAR) / ADVISEES_EACH)]!))

  await db.transaction(async (tx) => {
    const insert = async (table: Parameters<typeof tx.insert>[0], rows: Rows) => {
      for (let at = 0; at < rows.length; at += 500) await tx.insert(table).values(rows.slice(at, at + 500) as never)
    }
    await insert(schema.institution, [INSTITUTION])
    await insert(schema.clockSetting, [{ id: 1, demoNow: DEMO_START, setAt: new Date().toISOString() }])
    await insert(schema.sites, SITES as unknown as Rows)
    await insert(schema.siteTravel, TRAVEL as unknown as Rows)
    await insert(schema.terms, TERMS.map(({ sessions: _, ...term }) => term))
    await insert(schema.termSessions, TERMS.flatMap(term => term.sessions.map(session => ({ ...session, term: term.code }))))
    await insert(schema.openings, OPENINGS as unknown as Rows)
    await insert(schema.courses, COURSES as unknown as Rows)
    await insert(schema.programs,
      PROGRAMS.map(program => ({ id: programId(program), code: program.code, catalogYear: program.catalogYear, body: program })))
    await insert(schema.sections, sections.map(({ meetings: _, pools: __, waiting: ___, ...section }) => section))
    await insert(schema.meetings, sections.flatMap(section => section.meetings.map(meeting => ({ ...meeting, section: section.id }))))
    await insert(schema.seatPools, sections.flatMap(section => section.pools.map(pool => ({ ...pool, section: section.id }))))
    await insert(schema.waitlistPast, pastWaits(courses) as unknown as Rows)
    for (const [table, rows] of people.tables()) await insert(table as never, rows)
  })
  return { courses: COURSES.length, sections: sections.length, students: STUDENTS.length + generated.length,
    registrations: people.registrations.length }
}

/** How waiting went in the two terms before, for every third course: the first few of a list were offered a seat. */
function pastWaits(courses: ReadonlyMap<string, Course>) {
  return [...courses.keys()].filter((_, i) => i % 3 !== 1).flatMap((course, i) => ['2026SP', '2026FA'].flatMap((term, t) => {
    const offered = 1 + (i * 5 + t * 3) % 6
    return Array.from({ length: 3 + (i * 7 + t) % 6 }, (_, place) => ({ term, course, place: place + 1, offered: place < offered }))
  }))
}

/** Seats that are left in every section of which a story or a tour could need one. */
const SEATS_LEFT = 8
/**
 * Those who fill the college: they come after the others, and leave seats in what the authored students plan, so that each of their stories
 * can still be lived through.
 */
function moreStudents(count: number, before: readonly GeneratedStudent[], courses: ReadonlyMap<string, Course>, sections: Section[]) {
  const told = new Set(STUDENTS.flatMap(student => readTerms(student.plan).filter(one => one.term === SPRING.code).map(one => one.code)))
  const pools = sections.filter(section => told.has(section.course)).flatMap(section => section.pools)
  const left = pools.map(pool => Math.min(SEATS_LEFT, Math.max(0, pool.capacity - pool.taken - pool.held)))
  pools.forEach((pool, i) => pool.held += left[i]!)
  const students = generateStudents(count, TERMS, courses, sections, new Random(20270112),
    { names: before.map(student => student.name), from: before.length, mayWait: course => !told.has(course) })
  pools.forEach((pool, i) => pool.held -= left[i]!)
  return students
}

function closeFullSections(sections: Section[], labels: string[]) {
  for (const label of labels) {
    const [course, link] = label.split('-') as [string, string]
    const chosen = sections.filter(section => section.course === course && section.link === link && section.term === '2027SP')
    for (const section of chosen) {
      section.cancelled = false
      for (const pool of section.pools) pool.capacity = pool.taken
      if (section.pools.length > 1) section.pools = section.pools.filter(pool => pool.capacity > 0).slice(0, 2)
    }
  }
}
