import type { Section } from '@ridgeway/core/catalog'
import { programId } from '@ridgeway/core/requirements'
import type { Database } from '../server/db/connect'
import * as schema from '../server/db/schema'
import { EARLIER_TERMS, SPRING, TERMS } from './calendar'
import { COURSES } from './courses'
import { generateStudents } from './generate'
import { demoSections, loadDemo } from './load'
import { PeopleRows, type Rows } from './people-rows'
import { PROGRAMS } from './programs'
import { Random } from './random'

export interface LargeOptions {
  /** Students in all, those of the demonstration among them. */
  students?: number
  /** Hears how far it is: students who are in the database. */
  tell?: (done: number, of: number) => void
}

/** Students of the demonstration itself, and of each faculty beside it. */
const FIRST = 2000
const EACH = 2000
/** Ids of sections of one faculty keep so far from those of the next. */
const IDS = 2000
const ADVISEES_EACH = 60
const LETTERS = 'BCDEFGHIJKLMNOPQRST'
/** Rows in one statement. */
const AT_ONCE = 1000

const SUBJECTS = [...new Set([...COURSES.map(course => course.subject), ...PROGRAMS.map(program => program.code.split('-')[0]!)])]
const CODES = new RegExp(`\\b(${SUBJECTS.join('|')})\\b`, 'g')

/**
 * A college of real size, made and not kept: the demonstration, and beside it faculties that each have its catalog, programs and sections
 * over again under subjects of their own, with students whose records go back six years. The same number gives the same rows. With 20,000
 * students there are ten faculties: 60 programs, about 1,500 courses and 5,000 sections.
 */
export async function loadLarge(db: Database, { students = 20_000, tell = () => {} }: LargeOptions = {}): Promise<void> {
  const first = Math.min(students, FIRST)
  await loadDemo(db, { generated: first })
  tell(first, students)
  const terms = [...EARLIER_TERMS, ...TERMS]
  await insert(db, schema.terms, EARLIER_TERMS.map(({ sessions: _, ...term }) => term))
  await insert(db, schema.termSessions, EARLIER_TERMS.flatMap(term => term.sessions.map(session => ({ ...session, term: term.code }))))
  const courses = new Map(COURSES.map(course => [course.code, course]))
  const before = await db.$count(schema.people)
  const people = new PeopleRows('', [], courses, { people: before, plans: await db.$count(schema.plans) })
  for (let done = first, faculty = 0; done < students; faculty++) {
    const count = Math.min(EACH, students - done)
    const letter = LETTERS[faculty]!
    const random = new Random(20270111 + faculty + 1)
    const sections = sectionsOf(random, letter, (faculty + 1) * IDS)
    const made = generateStudents(count, terms, courses, sections.filter(section => section.term === SPRING.code), random, { from: done })
    const advisors = Array.from({ length: Math.ceil(count / ADVISEES_EACH) }, (_, i) =>
      people.addFarAdvisor((faculty + 1) * 100 + i))
    made.forEach((student, i) => people.addGenerated(student, done + i, advisors[Math.floor(i / ADVISEES_EACH)]!))
    const rename = (rows: Rows) => JSON.parse(JSON.stringify(rows).replace(CODES, `$1${letter}`)) as Rows
    await db.transaction(async (tx) => {
      const add = (table: unknown, rows: Rows) => insert(tx as never, table, rename(rows))
      await add(schema.courses, COURSES.map(course => ({ ...course, title: `${course.title} (${letter})` })))
      const newest = PROGRAMS.filter(program => program.catalogYear === 2025)
      await add(schema.programs, newest.map(program => ({ id: programId(program), code: program.code, catalogYear: program.catalogYear,
        body: { ...program, title: `${program.title} (${letter})` } })))
      await add(schema.sections, sections.map(({ meetings: _, pools: __, waiting: ___, ...section }) => section))
      await add(schema.meetings, sections.flatMap(section => section.meetings.map(meeting => ({ ...meeting, section: section.id }))))
      await add(schema.seatPools, sections.flatMap(section => section.pools.map(pool => ({ ...pool, section: section.id }))))
      for (const [table, rows] of people.drain()) await add(table, rows)
    })
    done += count
    tell(done, students)
  }
}

/** The sections of both terms with ids, numbers and rooms of one faculty. */
function sectionsOf(random: Random, letter: string, from: number): Section[] {
  const { spring, summer } = demoSections(random)
  return [...spring, ...summer].map(section => ({ ...section, id: section.id + from, number: String(20_000 + section.id + from),
    seatsWith: section.seatsWith === null ? null : section.seatsWith + from,
    meetings: section.meetings.map(meeting => ({ ...meeting,
      room: meeting.site === 'online' ? meeting.room : `${meeting.room} ${letter}` })),
    pools: section.pools.map(pool => ({ ...pool, id: pool.id + from * 10 })) }))
}

async function insert(db: Database, table: unknown, rows: Rows) {
  for (let at = 0; at < rows.length; at += AT_ONCE)
    await db.insert(table as typeof schema.people).values(rows.slice(at, at + AT_ONCE) as never)
}
