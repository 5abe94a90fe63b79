import { hash } from '@node-rs/argon2'
import { sql } from 'drizzle-orm'
import type { Course, CourseItem, Section } from '@ridgeway/core/catalog'
import { LETTER_SCALE } from '@ridgeway/core/grades'
import { EMPTY_PLAN } from '@ridgeway/core/planning'
import { newEntryId } from '@ridgeway/core/record'
import { programId } from '@ridgeway/core/requirements'
import { priceOf } from '@ridgeway/core/money'
import { bundlesOf, clashBetween } from '@ridgeway/core/weeks'
import type { Database } from '../server/db/connect'
import * as schema from '../server/db/schema'
import { DEMO_START, INSTITUTION, OPENINGS, SITES, TERMS, TRAVEL } from './calendar'
import { COURSES } from './courses'
import { generateStudents, type GeneratedStudent } from './generate'
import { exceptionKey } from '@ridgeway/core/advising'
import type { PlanOperation } from '@ridgeway/core/planning'
import { ADVISORS, DEMO_PASSWORD, FAMILY_NAMES, GIVEN_NAMES, OFFICE, OFFICE_HOURS, STUDENTS, type AuthoredStudent } from './people'
import { PROGRAMS, findProgram } from './programs'
import { Random } from './random'
import { lateSections, moreSections, summerSections } from './more-sections'
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

const SPRING = TERMS.find(term => term.code === '2027SP')!
const SUMMER = TERMS.find(term => term.code === '2027SU')!

type Rows = Record<string, unknown>[]

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
    await tx.execute(sql`SELECT 1`)
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

/** Collects the rows of everybody, in one pass; ids are given here, so that the rows agree with each other. */
class PeopleRows {
  readonly people: Rows = []
  readonly students: Rows = []
  readonly programs: Rows = []
  readonly records: Rows = []
  readonly holds: Rows = []
  readonly exceptions: Rows = []
  readonly milestones: Rows = []
  readonly comments: Rows = []
  readonly wishes: Rows = []
  readonly plans: Rows = []
  readonly entries: Rows = []
  readonly requests: Rows = []
  readonly signOffs: Rows = []
  readonly lineUps: Rows = []
  readonly registrations: Rows = []
  readonly waitlist: Rows = []
  readonly acceptances: Rows = []
  readonly ledger: Rows = []
  readonly money: Rows = []
  readonly hours: Rows = []
  readonly suggestions: Rows = []
  readonly asks: Rows = []
  readonly notes: Rows = []
  readonly meetings: Rows = []
  readonly looks: Rows = []
  private readonly ids = new Map<string, number>()
  /** Of the student who was added last. */
  private residence = 'resident'

  constructor(private readonly passwordHash: string, private readonly sections: Section[],
    private readonly courses: ReadonlyMap<string, Course>) {}

  tables(): [unknown, Rows][] {
    return [
      [schema.people, this.people],
      [schema.students, this.students],
      [schema.studentPrograms, this.programs],
      [schema.records, this.records],
      [schema.holds, this.holds],
      [schema.exceptions, this.exceptions],
      [schema.milestones, this.milestones],
      [schema.programRequests, this.wishes],
      [schema.plans, this.plans],
      [schema.planEntries, this.entries],
      [schema.comments, this.comments],
      [schema.signOffRequests, this.requests],
      [schema.signOffs, this.signOffs],
      [schema.lineUpRows, this.lineUps],
      [schema.registrations, this.registrations],
      [schema.waitlistEntries, this.waitlist],
      [schema.termsAcceptances, this.acceptances],
      [schema.ledger, this.ledger],
      [schema.moneyEntries, this.money],
      [schema.officeHours, this.hours],
      [schema.suggestions, this.suggestions],
      [schema.exceptionRequests, this.asks],
      [schema.notes, this.notes],
      [schema.meetingsWith, this.meetings],
      [schema.fileLooks, this.looks],
    ]
  }

  addStaff(person: { username: string, name: string, story: string }, role: schema.Role) {
    const id = this.addPerson(person.username, person.name, role, person.story, true)
    if (role !== 'advisor') return
    const { days, places, ...when } = OFFICE_HOURS
    for (const day of days) this.hours.push({ advisor: id, day, ...when, place: places[(id - 1) % places.length] })
  }

  /** An advisor of students who have no story; nobody signs in as one of them. */
  addFarAdvisor(index: number): number {
    const name = `${GIVEN_NAMES[(index * 7 + 3) % GIVEN_NAMES.length]} ${FAMILY_NAMES[(index * 11 + 5) % FAMILY_NAMES.length]}`
    return this.addPerson(`advisor${String(index + 1).padStart(2, '0')}`, name, 'advisor', '', false)
  }

  private addPerson(username: string, name: string, role: schema.Role, story: string, signsIn: boolean): number {
    const id = this.people.length + 1
    this.ids.set(username, id)
    this.people.push({ id, username, name, role, story, email: `${username}@larkmoor.example`,
      passwordHash: signsIn ? this.passwordHash : null })
    return id
  }

  private addStudent(id: number, advisor: number,
    values: Pick<AuthoredStudent, 'confirmed' | 'placements' | 'targetLoad' | 'programs' | 'cohorts'> & { residence?: string }) {
    this.residence = values.residence ?? 'resident'
    this.students.push({ person: id, advisor, residence: this.residence, programConfirmed: values.confirmed ?? true,
      placements: values.placements ?? {},
      targetLoad: values.targetLoad ?? null, cohorts: values.cohorts ?? [] })
    const programs = values.programs ?? ['WSC-BS-2025', 'TSS-CERT-2025']
    programs.forEach((program, position) => this.programs.push({ student: id, program: programId(findProgram(program)), position }))
  }

  addAuthored(student: AuthoredStudent) {
    const id = this.addPerson(student.username, student.name, 'student', student.story, true)
    const advisor = this.ids.get(student.advisor)!
    this.addStudent(id, advisor, student)
    this.records.push(...readTransfer(student.transfer ?? '', 'transfer'), ...readTransfer(student.exam ?? '', 'exam'),
      ...readRecord(student.record, this.courses))
    this.records.forEach(row => row.student ??= id)
    this.addPlan(id, readTerms(student.plan).map(({ term, code }) => ({ term, code })), { target: student.targetLoad ?? null })
    for (const exception of student.exceptions ?? []) {
      this.exceptions.push({ student: id, term: null, value: null, instead: null, ...exception, grantedBy: advisor,
        grantedAt: '2026-10-12T15:30:00.000Z' })
      this.addLedger(id, advisor, `grant ${exception.kind}`, { program: exception.program, line: exception.line, course: exception.course,
        reason: exception.reason }, '2026-10-12T15:30:00.000Z')
    }
    for (const name of student.milestones ?? []) {
      const [program, milestone] = name.split('/')
      this.milestones.push({ student: id, program, milestone, recordedBy: advisor, recordedAt: '2026-04-20T18:00:00.000Z' })
    }
    if (student.wishes)
      this.wishes.push({ student: id, ...student.wishes, askedAt: '2026-11-05T19:10:00.000Z', state: 'asked', decidedBy: null,
        decidedAt: null, words: '' })
    if (student.hold) this.holds.push({ student: id, ...student.hold, placed: '2026-10-20T16:00:00.000Z', cleared: null })
    if (student.asked) this.requests.push({ student: id, term: '2027SP', askedAt: '2026-11-06T17:20:00.000Z',
      note: student.askedNote ?? '' })
    this.addAdvising(id, advisor, student)
    if (student.signedOff) {
      this.addSignOff(id, advisor, `${student.signedOff}T17:00:00.000Z`)
    }
    for (const other of student.otherPlans ?? []) this.addPlan(id, readTerms(other.plan).map(({ term, code }) => ({ term, code })), other)
    for (const { by, at, course, term, text } of student.comments ?? []) {
      this.comments.push({ student: id, author: this.ids.get(by)!, at, term: course ? null : term,
        entry: course ? newEntryId(course, term) : null, text })
    }
    if (student.accepted) this.acceptances.push({ student: id, term: '2027SP', at: '2026-11-01T18:00:00.000Z' })
    const choices = (student.lineUp ?? '').split(', ').filter(Boolean).map(label => this.bundle(label))
    choices.forEach((bundle, position) =>
      this.lineUps.push({
        student: id, term: '2027SP', course: bundle[0]!.course, position, sectionIds: bundle.map(section => section.id), backups: [],
      }),
    )
    const held = (student.registered ?? '').split(', ').filter(Boolean).map(label => this.bundle(label))
    held.forEach((bundle, index) => {
      const clash = held.slice(0, index).find(other => clashBetween(other, bundle, SPRING, TRAVEL))
      if (clash) throw new Error(`${student.name} cannot be registered for ${bundle[0]!.course} and ${clash[0]!.course}: they clash`)
      this.addRegistration(id, bundle)
    })
    this.charge(id, true)
    for (const wait of student.waitlist ?? []) {
      const section = this.bundle(wait.section)[0]!
      if (wait.offerHours) section.pools[0]!.held++
      section.pools[0]!.capacity = section.pools[0]!.taken + section.pools[0]!.held
      this.waitlist.push({ student: id, section: section.id, joined: '2026-11-08T15:04:00.000Z',
        offerUntil: wait.offerHours ? '2026-11-10T21:50:00.000Z' : null, offerPool: wait.offerHours ? section.pools[0]!.id : null,
        bundle: this.bundle(wait.section).map(one => one.id) })
    }
  }

  /** What passed between a student and the advisor besides sign-off. */
  private addAdvising(student: number, advisor: number, { suggested, asks, notes, meets, lastLook }: AuthoredStudent) {
    const plan = this.plans.length
    if (suggested) {
      for (const line of suggested.lines) {
        const operations = [this.readLine(line, plan)]
        this.suggestions.push({ student, plan, set: '5a9c0f52-6f0e-4a53-8d2f-3f8b1c7e6d10', author: advisor, at: '2026-11-06T21:10:00.000Z',
          why: suggested.why, operations, state: 'open' })
      }
    }
    for (const { asked, reason } of asks ?? [])
      this.asks.push({ student, term: 'term' in asked ? asked.term : null, asked, about: exceptionKey(asked), reason,
        at: '2026-11-07T18:05:00.000Z', state: 'asked' })
    for (const note of notes ?? []) this.notes.push({ student, author: advisor, ...note })
    if (meets) {
      const place = OFFICE_HOURS.places[(advisor - 1) % OFFICE_HOURS.places.length]
      this.meetings.push({ advisor, student, start: meets.at, minutes: OFFICE_HOURS.length, place, about: meets.about, state: 'booked' })
    }
    if (lastLook) this.looks.push({ person: advisor, student, at: lastLook.at, plan, version: 0, finish: lastLook.finish, comment: 0 })
  }

  private readLine(line: string, plan: number): PlanOperation {
    const entryOf = (code: string) => this.entries.find(entry => entry.plan === plan && entry.course === code)!.id as string
    if (line.startsWith('-')) return { kind: 'remove', entry: entryOf(line.slice(1)) }
    if (line.startsWith('+')) {
      const course = line.slice(1, 8)
      const term = line.slice(9)
      return { kind: 'place', entry: newEntryId(course, term), course, term, credits: this.courses.get(course)!.credits }
    }
    const [course, term] = line.split('→') as [string, string]
    return { kind: 'move', entry: entryOf(course), term }
  }

  addGenerated(student: GeneratedStudent, index: number, advisor: number) {
    const id = this.addPerson(student.username, student.name, 'student', '', false)
    // Of a hundred, ten are from the region and five from elsewhere.
    const from = index * 37 % 100
    this.addStudent(id, advisor, { placements: { MTH: 70 }, programs: student.programs,
      residence: from < 10 ? 'regional' : from < 15 ? 'visiting' : 'resident' })
    this.records.push(...student.record.map(item => ({ ...item, student: id })))
    this.addPlan(id, student.planned.map(code => ({ term: '2027SP', code })))
    // Most are signed off, whoever is registered certainly; a few have asked, a few are silent.
    const mood = Math.floor(index / ADVISORS.length) % 20
    if (student.bundles.length > 0 || mood < 16) this.addSignOff(id, advisor, '2026-11-02T16:00:00.000Z')
    else if (mood === 16) this.requests.push({ student: id, term: '2027SP', askedAt: '2026-11-05T18:30:00.000Z', note: '' })
    if (student.bundles.length > 0 || mood < 12) this.acceptances.push({ student: id, term: '2027SP', at: '2026-11-03T18:00:00.000Z' })
    for (const bundle of student.bundles) this.addRegistration(id, bundle.sections, false)
    this.charge(id, false)
    student.waitlisted.forEach((section, i) =>
      this.waitlist.push({ student: id, section, joined: `2026-11-08T15:${String(10 + i + index % 40).padStart(2, '0')}:00.000Z`,
        offerUntil: null, offerPool: null, bundle: [section] }),
    )
  }

  /** Signs off the plan that was added last. */
  private addSignOff(student: number, advisor: number, at: string) {
    const copy = this.entries.filter(entry => entry.plan === this.plans.length && entry.term === '2027SP').map(({ plan: _, ...entry }) =>
      entry,
    )
    this.signOffs.push({ student, term: '2027SP', advisor, at, note: '', copy })
    this.addLedger(student, advisor, 'sign off', { term: '2027SP' }, at)
  }

  private addPlan(student: number, placed: { term: string, code: string }[],
    { name = 'Main', note = '', target = null }: { name?: string, note?: string, target?: number | null } = {}) {
    const { entries: _, ...empty } = EMPTY_PLAN
    const details = { ...empty, note, wishes: { ...empty.wishes, target } }
    this.plans.push({ id: this.plans.length + 1, student, name, current: name === 'Main', version: 0, details, deletedAt: null })
    const plan = this.plans.length
    for (const { term, code } of placed) {
      this.entries.push({ plan, id: newEntryId(code, term), course: code, term, credits: this.courses.get(code)!.credits, pinned: false,
        pinnedUse: null, note: '' })
    }
  }

  private bundle(label: string): Section[] {
    const [course, link] = label.split('-') as [string, string]
    const found = bundlesOf(this.courses.get(course)!, this.sections.filter(section => section.term === '2027SP')).find(bundle =>
      bundle.sections[0]!.link === link,
    )
    if (!found) throw new Error(`the demo names ${label}, which is not among the sections`)
    return found.sections
  }

  /** `claim` takes the seats here; generated students took theirs when they were made. */
  private addRegistration(student: number, sections: Section[], claim = true) {
    const run = `demo-${student}`
    const at = '2026-11-08T15:02:00.000Z'
    sections.forEach((section, index) => {
      const pool = section.pools.find(candidate => candidate.forGroup === null)!
      if (claim) {
        pool.taken++
        pool.capacity = Math.max(pool.capacity, pool.taken)
      }
      const credits = index === 0 ? this.courses.get(section.course)!.credits : 0
      const used = claim ? pool.id : this.takePool(section)
      const price = index === 0
        ? priceOf(this.courses.get(section.course)!, sections, credits, this.residence, INSTITUTION.money)
        : { tuition: 0, fees: 0 }
      this.registrations.push({ student, section: section.id, pool: used, term: section.term, course: section.course, credits, run, at,
        ...price })
      this.addLedger(student, student, 'register', { course: section.course }, at, section.id, used, run)
    })
  }

  /** What was registered stands on the account; those with a story have paid it. */
  private charge(student: number, paid: boolean) {
    const courses = this.registrations.slice(-20).filter(row => row.student === student && row.credits !== 0)
      .map(row => ({ course: row.course, cents: (row.tuition as number) + (row.fees as number) }))
    const cents = courses.reduce((sum, one) => sum + one.cents, 0)
    if (cents === 0) return
    const entry = { student, term: SPRING.code, date: '2026-11-08', actor: student, cents }
    this.money.push({ ...entry, at: '2026-11-08T15:02:00.000Z', kind: 'charge', courses, reference: `demo-${student}` })
    if (paid) this.money.push({ ...entry, at: '2026-11-08T15:20:00.000Z', kind: 'payment', courses: [], reference: `demo-paid-${student}` })
  }

  private readonly given = new Map<number, number>()

  /** Hands out the seats that generated students took, pool by pool. */
  private takePool(section: Section): number {
    const pool = [...section.pools].reverse().find(candidate => (this.given.get(candidate.id) ?? 0) < candidate.taken)!
    this.given.set(pool.id, (this.given.get(pool.id) ?? 0) + 1)
    return pool.id
  }

  private addLedger(student: number, actor: number, action: string, detail: Record<string, unknown>, at: string, section?: number,
    pool?: number, run?: string) {
    this.ledger.push({ at, actor, student, action, section: section ?? null, pool: pool ?? null, run: run ?? null, detail })
  }
}

function readTerms(text: string): { term: string, code: string, rest: string }[] {
  return text.split(';').map(part => part.trim()).filter(Boolean).flatMap((part) => {
    const [term, list] = part.split(':') as [string, string]
    return list.split(',').map((entry) => {
      const [subject, number, rest] = entry.trim().split(' ') as [string, string, string | undefined]
      return { term: term.trim(), code: `${subject} ${number}`, rest: rest ?? '' }
    })
  })
}

function readRecord(text: string, courses: ReadonlyMap<string, Course>): Rows {
  return readTerms(text).map(({ term, code, rest }) => {
    const underWay = rest === '*'
    if (!underWay && !LETTER_SCALE[rest]) throw new Error(`${code} in ${term} has the unknown grade "${rest}"`)
    return { course: code, term, credits: courses.get(code)!.credits, grade: underWay ? null : rest,
      state: underWay ? 'under way' : 'completed', source: 'here' } satisfies Omit<CourseItem, 'id'>
  })
}

function readTransfer(text: string, source: 'transfer' | 'exam'): Rows {
  return text.split(', ').filter(Boolean).map((entry) => {
    const [subject, number, credits, earnedGrade = null] = entry.split(' ') as [string, string, string, string | undefined]
    return { course: `${subject} ${number}`, term: null, credits: Math.round(Number(credits) * 100), grade: 'TR', state: 'completed',
      source, earnedGrade }
  })
}
