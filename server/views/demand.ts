import type { z } from 'zod'
import { type Course, type Section, type Term, termOrder, termPhase, termsAhead } from '@ridgeway/core/catalog'
import { bestTimes, type CourseDemand, demandByDayPart, demandOfTerm, type ForecastStudent, forecastInSteps, type Hours, seatsOf,
  usualTimes, type Wait, waitsFor, type Wisher } from '@ridgeway/core/demand'
import { bundlesOf } from '@ridgeway/core/weeks'
import type * as contract from '#shared/contract/views/demand'
import type { Looking } from '../college/asked'
import { type College, findTerm } from '../college/college'
import { KeptAWhile } from '../college/kept-a-while'
import { Refusal } from '../college/refusal'
import type { Executor } from '../db/database'
import { type EnrolmentRow, readBusy, readEnrolments, readLearners, readPicked, readWaitingOf } from '../db/store/demand'
import { groupBy } from '../db/store/group'
import { rangesOf } from '../db/store/people'

type Input<View extends { input: z.ZodType }> = z.output<View['input']>
type Output<View extends { output: z.ZodType }> = z.output<View['output']>

/** Milliseconds for which what all students have ahead is kept: it is read from every file, and moves little within minutes. */
const KEPT_MS = 120_000
/** Students looked at before others are served, and read in one go. */
const SLICE = 40
const READ_AT_ONCE = 500
const answers = new KeptAWhile<Output<typeof contract.readDemand>>()
const ofCourses = new KeptAWhile<Output<typeof contract.readCourseDemand>>()
const sizes = new KeptAWhile<Awaited<ReturnType<typeof usualSizes>>>()
interface Ahead {
  /** Worked out when somebody asks for it, once. */
  forecast?: Promise<Output<typeof contract.readDemand>['forecast']>
  wishers: Wisher[]
  byCourse: Map<string, Wisher[]>
  /** By student and course what waits for it. */
  waits: Map<string, Wait>
  names: Map<number, string>
  learners: Awaited<ReturnType<typeof readLearners>>
}
const kept = new WeakMap<College, Map<string, { at: number, ahead: Promise<Ahead> }>>()

/** Who plans what for a term, and what it comes to for each when it is not to be had: kept for a while, read once however many ask. */
function readAhead(db: Executor, college: College, term: Term, date: string): Promise<Ahead> {
  const of = kept.get(college) ?? new Map<string, { at: number, ahead: Promise<Ahead> }>()
  kept.set(college, of)
  const before = of.get(term.code)
  if (before && Date.now() - before.at < KEPT_MS) return before.ahead
  const ahead = workOutAhead(db, college, term, date)
  of.set(term.code, { at: Date.now(), ahead })
  ahead.catch(() => of.delete(term.code))
  return ahead
}

async function workOutAhead(db: Executor, college: College, term: Term, date: string): Promise<Ahead> {
  const { courses, scale } = college.catalog
  const learners = await readLearners(db)
  let enrolments = new Map<number, EnrolmentRow[]>()
  let read = 0
  const waiting = new Set((await readWaitingOf(db, term.code)).map(one => `${one.student} ${one.course}`))
  const terms = termsAhead(college.catalog.terms, date).filter(one => termOrder(one.code) >= termOrder(term.code))
  const wishers: Wisher[] = []
  const waits = new Map<string, Wait>()
  for (const [i, learner] of learners.entries()) {
    if (i % SLICE === SLICE - 1) await new Promise(resolve => setImmediate(resolve))
    // What all of them ever took does not fit the memory of a server at once.
    if (learner.id > read) {
      const last = learners[Math.min(i + READ_AT_ONCE, learners.length) - 1]!.id
      enrolments = groupBy(await readEnrolments(db, learner.id, last), row => row.student)
      read = last
    }
    const rows = enrolments.get(learner.id) ?? []
    const registered = new Set(rows.filter(row => row.kind === 'registered' && row.term === term.code).map(row => row.course))
    const asked = new Set([...rows.filter(row => row.kind === 'planned' && row.term === term.code).map(row => row.course), ...registered])
    if (asked.size === 0) continue
    // What is registered or planned for a term before this one is taken to be passed by then, as what is under way is.
    const isBefore = (row: EnrolmentRow) => row.term !== '' && termOrder(row.term) < termOrder(term.code)
    const had = new Set(rows.filter(row => row.kind === 'completed'
      ? row.earnsElsewhere || scale[row.grade ?? '']?.earns
      : row.kind === 'under way' || isBefore(row)).map(row => row.course))
    const sequence = learner.programs.flatMap(id => college.programs.get(id)?.suggested.flatMap(step => step.courses) ?? [])
    const ahead = [...new Set([...sequence, ...rows.filter(row => row.kind === 'planned').map(row => row.course), ...asked])]
      .filter(course => !had.has(course))
    const mine = new Map(waitsFor([...asked].filter(course => !registered.has(course)), { courses: ahead, had,
      load: learner.load ?? term.loadCap }, courses, terms).map(wait => [wait.course, wait]))
    for (const course of asked) {
      const wait = mine.get(course) ?? null
      if (wait) waits.set(`${learner.id} ${course}`, wait)
      wishers.push({ student: learner.id, program: college.programs.get(learner.programs[0] ?? '')?.code ?? '', course, wait,
        state: registered.has(course) ? 'registered' : waiting.has(`${learner.id} ${course}`) ? 'waiting' : 'planned' })
    }
  }
  const names = new Map(learners.map(one => [one.id, one.name]))
  return { wishers, byCourse: groupBy(wishers, one => one.course), waits, names, learners }
}

/** What students ask of the courses of a term. */
export function readDemandView(looking: Looking<Input<typeof contract.readDemand>>): Promise<Output<typeof contract.readDemand>> {
  const { college, date, input } = looking
  findTerm(college, input.term)
  return answers.get(`${college.stamp} ${input.term} ${date}`, () => workOutDemand(looking))
}
async function workOutDemand({ db, college, date, input }: Looking<Input<typeof contract.readDemand>>):
Promise<Output<typeof contract.readDemand>> {
  const term = findTerm(college, input.term)
  const sections = await college.sections.now(db, term.code)
  const ahead = await readAhead(db, college, term, date)
  const courses = demandOfTerm(ahead.wishers, seatsOf(sections))
  return { students: new Set(ahead.wishers.map(one => one.student)).size, courses,
    byDayPart: demandByDayPart(sections, await readPicked(db, term.code)),
    forecast: sections.length > 0 || termPhase(term, date) === 'past'
      ? null
      : await (ahead.forecast ??= forecastOf(db, college, term, ahead, courses, date)) }
}

/** How many will take each course of a term that has no sections yet. */
async function forecastOf(db: Executor, college: College, term: Term, { learners }: Ahead, demand: readonly CourseDemand[],
  date: string): Promise<Output<typeof contract.readDemand>['forecast']> {
  const { scale, courses, terms } = college.catalog
  const degreeOf = new Map(learners.map(one => [one.id, college.programs.get(one.programs[0] ?? '')?.code ?? '']))
  const students: ForecastStudent[] = []
  for await (const [from, to] of rangesOf(learners.map(one => one.id))) {
    const enrolments = groupBy(await readEnrolments(db, from, to), row => row.student)
    for (const { id } of learners.filter(one => one.id >= from && one.id <= to)) {
      students.push({ degree: degreeOf.get(id)!, enrolments: onceATerm(enrolments.get(id) ?? []).map(row => ({ course: row.course,
        term: row.term, earns: row.kind === 'completed' ? scale[row.grade ?? '']?.earns ?? false : null })) })
    }
  }
  const sequences = new Map([...college.programs.values()].map(program =>
    [program.code, program.suggested.flatMap(step => step.courses)] as const))
  const known = lastKnown(students, terms, term, date)
  if (known === null) return { known: term.code, courses: [], backtest: null }
  const steps = forecastInSteps(term.code, { students, courses, sequences, terms, known,
    begun: lastBegun(terms, date) ?? known })
  let step = steps.next()
  for (; !step.done; step = steps.next()) await new Promise(resolve => setImmediate(resolve))
  const { courses: expected, backtest } = step.value
  const planned = new Map(demand.map(one => [one.course, one.students]))
  const usual = await usualSizes(db, college)
  const named = new Set(expected.map(one => one.course))
  const onlyPlanned = demand.filter(one => one.students > 0 && !named.has(one.course)).map(one => ({ course: one.course,
    expected: 0, low: null, high: null, lastYear: null }))
  return { known, backtest, courses: [...expected, ...onlyPlanned].map((one) => {
    const plan = planned.get(one.course) ?? 0
    // Who plans it already is not forecast away.
    return { ...one, expected: Math.max(one.expected, plan), high: one.high === null ? null : Math.max(one.high, plan), planned: plan,
      usual: usual.of(one.course) }
  }) }
}

/** The last term that has begun. */
const lastBegun = (terms: readonly Term[], date: string) => terms.filter(one => termPhase(one, date) !== 'future')
  .sort((a, b) => termOrder(b.code) - termOrder(a.code))[0]?.code

/** What is planned, registered and on record of one course in one term is one enrolment; the record tells first. */
function onceATerm(rows: readonly EnrolmentRow[]): EnrolmentRow[] {
  const kinds: EnrolmentRow['kind'][] = ['completed', 'under way', 'registered', 'planned']
  const once = new Map<string, EnrolmentRow>()
  for (const row of [...rows].sort((a, b) => kinds.indexOf(a.kind) - kinds.indexOf(b.kind))) {
    if (row.term === '' || row.earnsElsewhere || once.has(`${row.term} ${row.course}`)) continue
    once.set(`${row.term} ${row.course}`, row)
  }
  return [...once.values()]
}

/** The last long term before one of which it stands what most students take: of those who study now, at least half have something there. */
function lastKnown(students: readonly ForecastStudent[], terms: readonly Term[], target: Term, date: string): string | null {
  const count = (code: string) => students.filter(one => one.enrolments.some(row => row.term === code)).length
  const long = terms.filter(one => one.season !== 'summer' && termOrder(one.code) < termOrder(target.code))
    .sort((a, b) => termOrder(b.code) - termOrder(a.code))
  const begun = long.find(one => termPhase(one, date) !== 'future' && count(one.code) > 0)
  if (!begun) return null
  return long.find(one => count(one.code) * 2 >= count(begun.code))?.code ?? begun.code
}

/** The usual size of a section: of the course where it has sections in some term, else of all lectures. */
async function usualSizes(db: Executor, college: College) {
  const sizes = new Map<string, number[]>()
  for (const term of college.catalog.terms.filter(one => one.scheduled)) for (const one of await college.sections.now(db, term.code)) {
    const size = one.pools.reduce((sum, pool) => sum + pool.capacity, 0)
    if (one.cancelled || one.part !== 'lecture' || one.seatsWith !== null || size === 0) continue
    for (const key of ['', one.course]) sizes.set(key, [...sizes.get(key) ?? [], size])
  }
  const median = (list: readonly number[] | undefined) => list && [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)]!
  return { of: (course: string) => median(sizes.get(course)) ?? median(sizes.get('')) ?? 0 }
}

/** Students without a seat that are told by name. */
const NAMED = 12

/** Why one course of a term is short, and what would help. */
export function readCourseDemandView(looking: Looking<Input<typeof contract.readCourseDemand>>):
Promise<Output<typeof contract.readCourseDemand>> {
  const { college, date, input } = looking
  findTerm(college, input.term)
  return ofCourses.get(`${college.stamp} ${input.term} ${input.course} ${date}`, () => workOutCourse(looking))
}
async function workOutCourse({ db, college, date, input }: Looking<Input<typeof contract.readCourseDemand>>):
Promise<Output<typeof contract.readCourseDemand>> {
  const term = findTerm(college, input.term)
  const sections = await college.sections.now(db, term.code)
  const { wishers, byCourse, waits, names } = await readAhead(db, college, term, date)
  const mine = byCourse.get(input.course) ?? []
  const course = demandOfTerm(mine, new Map([...seatsOf(sections)].filter(([code]) => code === input.course)))[0]
  if (!course) throw new Refusal(404, 'course-not-asked', `Nobody plans ${input.course} for ${term.name}, and it has no sections there.`,
    'Choose a course of the list.')
  const without = mine.filter(one => one.state !== 'registered')
  const behind = new Map<string, number>()
  for (const one of without) for (const code of waits.get(`${one.student} ${one.course}`)?.names ?? [])
    behind.set(code, (behind.get(code) ?? 0) + 1)
  const usual = (await sizes.get(String(college.stamp), () => usualSizes(db, college))).of(input.course)
  return {
    course,
    behind: [...behind].map(([code, students]) => ({ course: code, students })).sort((a, b) => b.students - a.students
      || a.course.localeCompare(b.course)),
    delayed: without.flatMap(one => one.wait && one.wait.delay > 0
      ? [{ id: one.student, name: names.get(one.student)!, terms: one.wait.delay }]
      : []).sort((a, b) => b.terms - a.terms || a.name.localeCompare(b.name)).slice(0, NAMED),
    more: course.short > 0 && usual > 0 ? { sections: Math.ceil(course.short / usual), size: usual } : null,
    times: course.short > 0
      ? await timesFor(db, college, term, { course: college.catalog.courses.get(input.course), sections, wishers,
          students: without.map(one => one.student) })
      : [],
  }
}

/**
 * Times at which most of these students are free: outside what they are registered in, the hours that they keep free, and planned courses
 * that meet at one time only.
 */
async function timesFor(db: Executor, { catalog }: College, term: Term, { course, sections, wishers, students }: {
  course: Course | undefined
  sections: readonly Section[]
  wishers: readonly Wisher[]
  students: readonly number[]
}) {
  const { sections: rows, wishes } = await readBusy(db, term.code, students)
  const byId = new Map(sections.map(one => [one.id, one]))
  const atOneTime = new Map<string, Hours[]>()
  for (const [code, list] of groupBy(sections.filter(one => !one.cancelled), one => one.course)) {
    const bundles = code === course?.code ? [] : bundlesOf(catalog.courses.get(code) ?? { code, parts: ['lecture'] }, list)
    if (bundles.length === 1) atOneTime.set(code, bundles[0]!.sections.flatMap(one => one.meetings))
  }
  const theirs = groupBy(wishers, one => one.student)
  const busy = students.map((student): Hours[] => [
    ...rows.filter(row => row.student === student).flatMap(row => byId.get(row.section)?.meetings ?? []),
    ...wishes.filter(row => row.student === student).flatMap(row => row.wishes.flatMap(wish => wish.kind === 'keep free'
      ? [{ days: [...wish.days], start: wish.start, end: wish.end }]
      : [])),
    ...(theirs.get(student) ?? []).filter(one => one.state !== 'registered').flatMap(one => atOneTime.get(one.course) ?? []),
  ])
  const lectures = sections.filter(one => one.part === 'lecture' && catalog.courses.get(one.course)?.credits === course?.credits)
  return bestTimes(usualTimes(lectures), busy)
}
