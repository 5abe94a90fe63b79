import type { Course, CourseItem, Section } from '@ridgeway/core/catalog'
import { exceptionKey } from '@ridgeway/core/advising'
import { LETTER_SCALE } from '@ridgeway/core/grades'
import { priceOf } from '@ridgeway/core/money'
import { EMPTY_PLAN, type PlanOperation } from '@ridgeway/core/planning'
import { newEntryId } from '@ridgeway/core/record'
import { programId } from '@ridgeway/core/requirements'
import { bundlesOf, clashBetween } from '@ridgeway/core/weeks'
import * as schema from '../server/db/schema'
import { INSTITUTION, SPRING, TRAVEL } from './calendar'
import type { GeneratedStudent } from './generate'
import { ADVISORS, type AuthoredStudent, FAMILY_NAMES, GIVEN_NAMES, OFFICE_HOURS } from './people'
import { findProgram } from './programs'

export type Rows = Record<string, unknown>[]

/** More entries than any plan has. */
const MOST_PLANNED = 80

/** Collects the rows of everybody, in one pass; ids are given here, so that the rows agree with each other. */
export class PeopleRows {
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
    private readonly courses: ReadonlyMap<string, Course>,
    /** How many people and plans are in the database already. */
    private readonly gone = { people: 0, plans: 0 }) {}

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

  /** Takes out what was collected; what comes after goes on counting. */
  drain(): [unknown, Rows][] {
    this.gone.people += this.people.length
    this.gone.plans += this.plans.length
    return this.tables().map(([table, rows]) => [table, rows.splice(0)])
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
    const id = this.gone.people + this.people.length + 1
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
    const plan = this.lastPlan()
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
    const copy = this.entries.slice(-MOST_PLANNED).filter(entry => entry.plan === this.lastPlan() && entry.term === '2027SP')
      .map(({ plan: _, ...entry }) => entry)
    this.signOffs.push({ student, term: '2027SP', advisor, at, note: '', copy })
    this.addLedger(student, advisor, 'sign off', { term: '2027SP' }, at)
  }

  private lastPlan = () => this.gone.plans + this.plans.length

  private addPlan(student: number, placed: { term: string, code: string }[],
    { name = 'Main', note = '', target = null }: { name?: string, note?: string, target?: number | null } = {}) {
    const { entries: _, ...empty } = EMPTY_PLAN
    const details = { ...empty, note, wishes: { ...empty.wishes, target } }
    this.plans.push({ id: this.lastPlan() + 1, student, name, current: name === 'Main', version: 0, details, deletedAt: null })
    const plan = this.lastPlan()
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

export function readTerms(text: string): { term: string, code: string, rest: string }[] {
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
