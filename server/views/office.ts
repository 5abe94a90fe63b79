import type { z } from 'zod'
import { mayGrant } from '@ridgeway/core/advising'
import type { Section, Term } from '@ridgeway/core/catalog'
import { seatsOf } from '@ridgeway/core/demand'
import { readLeaving } from '@ridgeway/core/next'
import { toInstant } from '@ridgeway/core/weeks'
import { checkCollege, type CollegeFinding, officeNeeds } from '@ridgeway/core/office'
import { writeProgramText } from '@ridgeway/formats'
import { describeTimes, sayException } from '@ridgeway/words'
import type * as contract from '#shared/contract/views/office'
import type { Touched } from '#shared/contract/views/office'
import type { Looking } from '../college/asked'
import { type College, findTerm } from '../college/college'
import { comersLately } from '../college/comers'
import { otherBundleFor } from '../college/instead'
import { KeptAWhile } from '../college/kept-a-while'
import { plannedOf } from '../college/planned'
import { Refusal } from '../college/refusal'
import { fileOf, planIn } from '../college/student'
import type { Executor } from '../db/database'
import { readDossiers } from '../db/store/dossiers'
import {
  exceptionsStanding, holdsStanding, ledgerLines, openRequests, owingFor, peopleIn, readStanding, registeredByMinute, registeredOf,
  studentsWithoutAdvisor, unconfirmedStudents, unpaidOf,
} from '../db/store/office'
import { historyOf, programAt, studentsIn } from '../db/store/programs'

type Input<View extends { input: z.ZodType }> = z.output<View['input']>
type Output<View extends { output: z.ZodType }> = z.output<View['output']>

const seats = new KeptAWhile<Awaited<ReturnType<typeof readSeatFigures>>>()

/** Who waits in a term, and the seats that its courses have. */
async function readSeatFigures(db: Executor, college: College, term: string) {
  const sections = await college.sections.now(db, term)
  return { offered: seatsOf(sections), waiting: sections.filter(one => !one.cancelled && one.waiting > 0)
    .map(({ id, course, label, waiting }) => ({ section: id, course, label, waiting })) }
}

/** What needs the office now. */
export async function readOfficeTodayView({ db, college, at, date, input }: Looking<Input<typeof contract.readOfficeToday>>):
Promise<Output<typeof contract.readOfficeToday>> {
  const term = findTerm(college, input.term)
  const { waiting, offered } = await seats.get(`${college.stamp} ${term.code}`, () => readSeatFigures(db, college, term.code))
  const standing = await readStanding(db)
  const questions = (await openRequests(db)).filter(one => mayGrant(one.asked.kind, 'office', college.advising))
  const needs = officeNeeds({
    now: at, today: date, term: { ...term, closedBecause: term.closedBecause ?? null },
    openings: college.openings.filter(rule => rule.term === term.code), comers: await comersLately(db, college, term.code),
    questions: questions.map(one => ({ student: one.student.id, name: one.student.name })),
    waiting,
    demand: [...await plannedOf(db, college, term.code)].filter(([course]) => offered.has(course))
      .map(([course, planned]) => ({ course, planned, seats: offered.get(course)!.seats })),
    unpaid: await unpaidOf(db, term.code),
    catalogProblems: college.problems.length + (await checkOf(db, college, date)).length, ...standing,
  })
  return { needs }
}

/** A section with those in it; on request what cancelling it would come to for each of them, in the order in which they are served. */
export async function readSectionView({ db, college, at, date, input }: Looking<Input<typeof contract.readSection>>):
Promise<Output<typeof contract.readSection>> {
  const term = findTerm(college, input.term)
  const known = await college.sections.known(db, term.code)
  const course = known.find(one => one.id === input.section)?.course
  // What cancelling would come to looks for other seats everywhere; what it is, at its own course alone.
  const sections = await college.sections.now(db, term.code, input.consequences === '1' || !course ? null : [course])
  const section = sections.find(one => one.id === input.section)
  if (!section) throw new Refusal(404, 'section-unknown', 'There is no such section in this term.', 'Choose it again from the list.')
  const people = await peopleIn(db, section.id)
  const owner = known.find(one => one.id === section.seatsWith)
  return {
    course: section.course, title: college.catalog.courses.get(section.course)?.title ?? '', label: section.label, part: section.part,
    cancelled: section.cancelled, seatsWith: owner ? `${owner.course}-${owner.label}` : null,
    seats: section.pools.map(({ forGroup, capacity, taken, held }) => ({ for: forGroup, capacity, taken, held })),
    times: describeTimes([section]), ...people,
    touched: input.consequences === '1'
      ? await touchedBy(db, { college, term, section, sections, at, date,
          registered: people.registered })
      : null,
  }
}

async function touchedBy(db: Executor, { college, term, section, sections, at, date, registered }: {
  college: College
  term: Term
  section: Section
  sections: readonly Section[]
  at: string
  date: string
  registered: readonly { id: number, name: string, at: string }[]
}): Promise<Touched[]> {
  const ids = registered.map(one => one.id)
  const dossiers = await readDossiers(db, ids)
  const seats = await registeredOf(db, term.code, section.course, ids)
  // Seats go one after the other, as they will.
  const now = sections.map(one => ({ ...one, cancelled: one.cancelled || one.id === section.id,
    pools: one.pools.map(pool => ({ ...pool })) }))
  const poolBy = new Map(now.flatMap(one => one.seatsWith === null ? one.pools.map(pool => [pool.id, pool] as const) : []))
  for (const one of now) one.pools = one.pools.map(pool => poolBy.get(pool.id) ?? pool)
  return registered.map(({ id, name, at: registeredAt }) => {
    const dossier = dossiers.get(id)!
    const gone = seats.filter(one => one.student === id)
    const file = fileOf(dossier, college, term.code, planIn(dossier).plan, date)
    const other = otherBundleFor({ college, dossier, file, term, at, date, gone }, section.course, now)
    for (const { pool } of gone) poolBy.get(pool)!.taken--
    for (const { poolId } of other?.claims ?? []) poolBy.get(poolId)!.held++
    const { credits, fullTime, alone } = readLeaving([section.course], { term, date, file, rules: college.catalog })
    const bundle = now.filter(one => other?.sectionIds.includes(one.id))
    return { id, name, registeredAt, credits: credits.after, fullTimeLost: fullTime.before && !fullTime.after, alone,
      other: other && { label: bundle.map(one => one.label).join(' + '), times: describeTimes(bundle) } }
  })
}

/** Holds, programs that are not confirmed, exceptions in force, and requests that wait. */
export async function readOfficePeopleView({ db, college, date, input }: Looking<Input<typeof contract.readOfficePeople>>):
Promise<Output<typeof contract.readOfficePeople>> {
  return { advisorless: await studentsWithoutAdvisor(db), unpaid: input.term ? await owingFor(db, input.term) : [],
    holds: await holdsStanding(db), unconfirmed: await unconfirmedStudents(db), exceptions: await exceptionsStanding(db, date),
    asked: (await openRequests(db)).map(({ asked, ...one }) => ({ ...one, words: sayException(asked),
      mine: mayGrant(asked.kind, 'office', college.advising) })) }
}

/** Lines of the ledger that one page shows. */
const LINES = 60

export async function readLedgerView({ db, college,
  input: { day, ...input } }: Looking<Input<typeof contract.readLedger>>): Promise<Output<typeof contract.readLedger>> {
  // A day ends where the college is: what happened up to its end, the newest first.
  const until = day && toInstant(day, 24 * 60, college.zone)
  const rows = await ledgerLines(db, { ...input, ...until ? { until } : {} }, LINES + 1)
  return { rows: rows.slice(0, LINES), more: rows.length > LINES }
}

/** Minutes after an opening that are shown, and openings beside each other. */
const MINUTES = 60
const OPENINGS = 6
const paces = new KeptAWhile<Awaited<ReturnType<typeof registeredByMinute>>>()

/** How fast courses were registered after each opening, the newest first. */
export async function readPaceView({ db, college, at, input }: Looking<Input<typeof contract.readPace>>):
Promise<Output<typeof contract.readPace>> {
  findTerm(college, input.term)
  const begun = college.openings.filter(one => one.from <= at).sort((a, b) => a.from < b.from ? 1 : -1)
  const first = begun.filter((one, i) => begun.findIndex(other => other.from === one.from && other.term === one.term) === i)
  const mine = [...first.filter(one => one.term === input.term), ...first.filter(one => one.term !== input.term)].slice(0, OPENINGS)
  const openings = []
  for (const { from, term, words } of mine) {
    const found = await paces.get(`${term} ${from}`, () => registeredByMinute(db, term, from, MINUTES))
    const passed = Math.min(MINUTES, Math.floor((Date.parse(at) - Date.parse(from)) / 60_000) + 1)
    let sum = 0
    openings.push({ from, term, words, minutes: Array.from({ length: passed }, (_, minute) =>
      sum += found.find(one => one.minute === minute)?.courses ?? 0) })
  }
  return { openings }
}

/** Students who are named to look at a program's rules with. */
const SAMPLES = 60

/** A program as a file, or as it was in an earlier version. */
export async function readProgramFileView({ db, input }: Looking<Input<typeof contract.readProgramFile>>):
Promise<Output<typeof contract.readProgramFile>> {
  const found = await programAt(db, input.program, input.version)
  if (!found)
    throw new Refusal(404, 'program-unknown', `There is no program ${input.program}${input.version ? ` of version ${input.version}` : ''}.`,
      'Choose one from the list.')
  const { some, total } = await studentsIn(db, input.program, 0, SAMPLES)
  return { text: writeProgramText(found.program), cases: found.cases && JSON.stringify(found.cases, null, 2), version: found.version,
    students: total, some, history: await historyOf(db, input.program) }
}

const checks = new WeakMap<College, { date: string, stamp: string, findings: CollegeFinding[] }>()

/** What is wrong in the catalog; worked out once for a catalog, a date, and the sections as they stand. */
async function checkOf(db: Executor, college: College, date: string): Promise<CollegeFinding[]> {
  // Where a rule cannot be read, what rests on it cannot be told; that is mended first.
  if (college.problems.some(one => one.code === 'unreadable rule')) return []
  const terms = college.catalog.terms.filter(term => term.scheduled && term.end >= date)
  const stamps = []
  for (const { code } of terms) stamps.push(await college.sections.stampOf(db, code))
  const stamp = stamps.join()
  const before = checks.get(college)
  if (before?.date === date && before.stamp === stamp) return before.findings
  const sections = []
  for (const { code } of terms) sections.push(...await college.sections.known(db, code))
  const findings = checkCollege({ catalog: college.catalog, today: date, sections })
  checks.set(college, { date, stamp, findings })
  return findings
}

export const readCollegeCheckView = async ({ db, college, date }: Looking<Input<typeof contract.readCollegeCheck>>):
Promise<Output<typeof contract.readCollegeCheck>> => ({ findings: await checkOf(db, college, date) })
