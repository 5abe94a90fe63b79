import type { Section, Term } from '@ridgeway/core/catalog'
import type { StudentFile } from '@ridgeway/core/planning'
import { decideRun, findingName, freeSeats, type RowDecision } from '@ridgeway/core/registration'
import type { RunResult } from '#shared/contract/acts/student'
import { type College, dateIn, findTerm } from '../college/college'
import { pricesOf } from '../college/prices'
import { Refusal } from '../college/refusal'
import { areOf, withSeats } from '../college/sections'
import { decisionContext, fileOf, gatesOf, openRows, planIn } from '../college/student'
import { type Executor, Repeat } from '../db/database'
import type { Dossier } from '../db/store/dossiers'
import { groupBy } from '../db/store/group'
import { keepRuns, readForRuns, type Run } from '../db/store/runs'
import { lockSeats, readSeats, readWaiting, type Seats, type TermSections } from '../db/store/sections'

/** One press of the button. */
export interface Press {
  student: number
  actor: number
  term: string
  key: string
  rowIds: readonly number[]
  /** When it arrived: the gates are those of this instant, however long it stood in line. */
  at: string
}

/** What a press asks for, as one text: a key stands for one press only. */
const askedBy = ({ term, rowIds }: Press) => `${term} ${[...rowIds].sort((a, b) => a - b).join()}`

/** A press that is about to be decided. */
interface Reading {
  press: Press
  dossier: Dossier
  file: StudentFile
  term: Term
  rows: ReturnType<typeof openRows>
  kept: TermSections
  /** The sections of its rows and of their backups, without their seats. */
  chosen: Section[]
}

export type Answer = RunResult | Refusal

/**
 * Registers the rows of the line-ups of different students in one transaction: every rule, all-or-nothing per bundle, in order of the
 * presses. Rows of students are locked first (two runs of one student follow each other), then the seats in order of their ids, so that
 * no two runs can wait for each other in a circle. A key acts once and gives the same answer again.
 * With `skip`, presses of students whose rows somebody holds have no answer here; otherwise they are waited for.
 * Throws `Repeat` when the sections changed between reading and locking.
 */
export async function registerTogether(tx: Executor, presses: readonly Press[],
  collegeAt: (db: Executor, stamp: number) => Promise<College>, skip: boolean): Promise<Map<Press, Answer>> {
  const answers = new Map<Press, Answer>()
  const before = await readForRuns(tx, presses, skip)
  const mine = presses.filter(press => before.locked.has(press.student))
  for (const press of mine) {
    const known = before.runs.get(press.student)
    if (known) answers.set(press, repeatOf(known, press))
  }
  const fresh = mine.filter(press => !answers.has(press))
  if (fresh.length === 0) return answers
  const college = await collegeAt(tx, before.catalog)
  const readings: Reading[] = []
  for (const press of fresh) {
    const kept = await college.sections.at(tx, press.term, before.stamps.get(press.term) ?? 0)
    try {
      readings.push(readPress(press, before.dossiers.get(press.student)!, college, kept))
    }
    catch (problem) {
      if (!(problem instanceof Refusal)) throw problem
      answers.set(press, problem)
    }
  }
  const seats = await SeatsAtHand.lock(tx, readings, college)
  const runs = readings.map((reading) => {
    const run = runOf(reading, decide(reading, college, seats), college)
    seats.take(run)
    answers.set(reading.press, run.result)
    return run
  })
  if (runs.length > 0) await keepRuns(tx, runs)
  return answers
}

/** The answer given before, where the key stands for the same press; a refusal where it stands for another. */
function repeatOf(before: { asked: string, result: RunResult }, press: Press): Answer {
  return before.asked === askedBy(press)
    ? { ...before.result, repeated: true }
    : new Refusal(409, 'key-used', 'This press was sent before with other rows or another term.', 'Press the button again.')
}

function readPress(press: Press, dossier: Dossier, college: College, kept: TermSections): Reading {
  const term = findTerm(college, press.term)
  const file = fileOf(dossier, college, press.term, planIn(dossier).plan, dateIn(press.at, college.zone))
  const rows = openRows(dossier, file, press.term).filter(row => press.rowIds.includes(row.id))
  if (rows.length === 0)
    throw new Refusal(422, 'nothing-chosen', 'None of the chosen rows is in your line-up any more.',
      'Look at the line-up again: it was changed, or everything in it is registered.')
  return { press, dossier, file, term, rows, kept, chosen: rows.flatMap(row => [...row.sectionIds, ...row.backups.flat()].flatMap(id =>
    kept.byId.get(id) ?? [])) }
}

function decide({ press, dossier, file, term, rows, kept, chosen }: Reading, college: College, seats: SeatsAtHand): RowDecision[] {
  const gates = gatesOf(dossier, college, term, file, press.at, null)
  const held = dossier.registered.filter(row => row.term === press.term).flatMap(row => kept.byId.get(row.section) ?? [])
  return decideRun(rows, decisionContext(college, dossier, { file, gates, term,
    date: dateIn(press.at, college.zone) }, [...seats.of(kept, chosen), ...held], held))
}

/** The seats that a batch holds locked, counted down in memory, and those beside them that say where there is room. */
class SeatsAtHand {
  private constructor(private readonly seats: Map<number, Seats>, private readonly waiting: Map<number, number>,
    /** Courses in which somebody may find no seat: their other sections are at hand too. */
    private readonly short: ReadonlySet<string>) {}

  static async lock(tx: Executor, readings: readonly Reading[], college: College): Promise<SeatsAtHand> {
    const pools = new Set(readings.flatMap(({ chosen }) => chosen.flatMap(section => section.pools.map(pool => pool.id))))
    const locked = await lockSeats(tx, [...pools].sort((a, b) => a - b))
    const seats = new Map(locked.map(one => [one.pool, one]))
    const wanted = new Map<number, number>()
    for (const { chosen } of readings)
      for (const { id } of chosen.flatMap(section => section.pools)) wanted.set(id, (wanted.get(id) ?? 0) + 1)
    const short = new Set<string>()
    const waiting = new Map<number, number>()
    for (const [term, group] of groupBy(readings, reading => reading.press.term)) {
      const { kept } = group[0]!
      if (!areOf(kept, locked.filter(one => kept.byId.has(one.section)))) {
        college.sections.forget(term)
        throw new Repeat('sections changed')
      }
      const scarce = [...new Set(group.flatMap(({ chosen }) => chosen).filter(section => mayRunOut(section, seats, wanted))
        .map(section => section.course))]
      if (scarce.length === 0) continue
      for (const course of scarce) short.add(course)
      for (const one of (await readSeats(tx, term, scarce)).seats) {
        if (!seats.has(one.pool)) seats.set(one.pool, one)
        waiting.set(one.section, one.waiting)
      }
      // How many wait is asked where nobody can join meanwhile: the seats of these sections are locked.
      if (group.some(({ rows }) => rows.some(row => row.waitIfFull)))
        for (const one of await readWaiting(tx, group.flatMap(({ chosen }) => chosen.map(section => section.id))))
          waiting.set(one.section, one.waiting)
    }
    return new SeatsAtHand(seats, waiting, short)
  }

  /** Sections with the seats that are left, and the others of the same courses where seats are short. */
  of(kept: TermSections, chosen: readonly Section[]): Section[] {
    const beside = [...new Set(chosen.map(section => section.course))].filter(course => this.short.has(course))
      .flatMap(course => kept.byCourse.get(course)!)
    const all = [...new Set([...chosen, ...beside])]
    return withSeats(all, all.flatMap(section => section.pools.flatMap(pool => this.seats.get(pool.id) ?? [])),
      id => this.waiting.get(id) ?? 0)
  }

  take({ claims, waits }: Pick<Run, 'claims' | 'waits'>) {
    for (const { poolId } of claims) {
      const before = this.seats.get(poolId)!
      this.seats.set(poolId, { ...before, taken: before.taken + 1 })
    }
    for (const { sectionId } of waits) this.waiting.set(sectionId, (this.waiting.get(sectionId) ?? 0) + 1)
  }
}

/** Whether so many who want a section could find no seat; seats that are kept for some may do for nobody. */
const mayRunOut = ({ pools }: Section, seats: ReadonlyMap<number, Seats>, wanted: ReadonlyMap<number, number>) => pools.length === 0
  || pools.some((pool) => {
    const now = seats.get(pool.id)
    return pool.forGroup !== null || !now || freeSeats({ ...pool, ...now }) < (wanted.get(pool.id) ?? 0)
  })

/** What is to be kept of a decided press: seats, rows that leave the line-up, the ledger, and the answer under its key. */
function runOf({ press, rows, dossier, kept }: Reading, decisions: RowDecision[], college: College): Run {
  const { student, actor, term, key, at } = press
  const waiting = decisions.filter(decision => decision.outcome === 'waitlist')
  const accepted = decisions.filter(decision => decision.outcome === 'register')
  return {
    student, actor, term, key, at, asked: askedBy(press),
    date: dateIn(at, college.zone),
    waitsDone: dossier.waitlisted.filter(wait => wait.term === term && accepted.some(decision => decision.course === wait.course)),
    claims: accepted.flatMap((decision) => {
      const prices = pricesOf(college, dossier.residence, decision, kept.byId)
      return decision.claims.map((claim, index) => ({ ...claim, course: decision.course, credits: index === 0 ? decision.credits : 0,
        grading: rows.find(row => row.id === decision.rowId)!.grading, ...prices[index]! }))
    }),
    waits: waiting.flatMap(({ course, waits, sectionIds, credits, rowId }) => waits.map(wait => ({ ...wait, course, bundle: sectionIds,
      credits, grading: rows.find(row => row.id === rowId)!.grading }))),
    rowsDone: [...accepted, ...waiting].map(decision => decision.rowId),
    refusals: decisions.filter(decision => decision.outcome === 'refused').map(decision => ({ course: decision.course,
      codes: decision.findings.filter(finding => !finding.ok).map(findingName) })),
    result: { reference: key.slice(0, 8).toUpperCase(), at, repeated: false, rows: decisions },
  }
}
