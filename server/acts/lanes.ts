import type { RunResult } from '#shared/contract/acts/student'
import type { Place } from '#shared/contract/views/student'
import { Refusal } from '../college/refusal'
import { Busy, OutcomeUnknown, Unavailable } from '../db/failures'
import { noteSpan } from '../db/trace'
import type { Batches } from './batches'
import type { Press } from './register'

/** Transactions at a time, and students in one of them: measured on two cores, more of either gains nothing while few stand in line. */
export const LANES = { lanes: 2, most: 8 }
/**
 * In a crowd a transaction mostly waits for its turn among all else that the server does, and takes more students for that: a share of the
 * line, so many of them at most.
 */
const LARGE = { share: 1 / 16, most: 32 }
/** From how many in line on a batch is given ahead for each lane, where lanes take some ahead: before that they would only be smaller. */
const AHEAD_FROM = 64
/** Presses that go alone at a time: those of students whose row somebody holds, and those of a batch that failed. */
const ALONE = 2
/**
 * Presses that may stand in line, and milliseconds after which one whose turn has not come is told to come again: well below the minute
 * after which proxies give a request up (common practice, no source). Whose turn comes within so many milliseconds stays for twice as
 * long: it could be there before they come again.
 */
const LINE = { most: 20_000, patience: 25_000, near: 20_000 }
/** Looks at the line in a second by all who have looked once, at most; and milliseconds between two of one person, at least. */
const LOOKS = { most: 60, least: 600 }
/**
 * From how many milliseconds of waiting on there is a crowd. What else those want to see who are answered then comes when it is over, to
 * one after the other, with so many milliseconds between two of them: all at once they would be a crowd of their own. So late at most.
 */
const CROWD = { from: 1000, each: 50, longest: 300_000 }
/** How much of what a press takes is learned from one batch. */
const LEARNED = 0.1
/** Presses that were told so, at most, whose places are known. */
const MOST_PLACES = 50_000

/** Lanes, students in a batch, batches that are given ahead in a crowd, and how long one may stand in line, in milliseconds. */
interface Size { lanes: number, most: number, ahead?: number, patience?: number }

interface Waiting {
  press: Press
  /** When it came first: its place in line. */
  came: number
  /** Since when this request stands there. */
  since: number
  /** When its turn came, in milliseconds of `performance.now()`; 0 before. */
  taken: number
  done: (result: RunResult) => void
  fail: (problem: unknown) => void
}

/** Connections that lanes use at most. */
export const lanesConnections = ({ lanes }: { lanes: number } = LANES) => lanes + ALONE

/**
 * Where presses stand in line, first come first served: a few lanes, each of which registers a small batch of different students in one
 * transaction. A lane with nothing to do starts at once, so that a lone student waits for nobody. Who is told to come again keeps the
 * place: the same key comes in where it would stand.
 */
export class Lanes {
  private readonly line: Waiting[] = []
  private readonly alone: Waiting[] = []
  /** Students whose press is under way: the next of the same student waits for it. */
  private readonly busy = new Set<number>()
  /** When presses came that were told to come again. */
  private readonly places = new Map<string, number>()
  /** Batches that are under way, those given ahead among them. */
  private under = 0
  private idleAlone = ALONE
  /** Milliseconds that a lane takes for a press, as it went lately; 0 before the first. */
  private each = 0
  /** When the last of those who were answered in a crowd is to ask for the rest. */
  private restAt = 0
  /** When it was looked at last who has stood there for too long. */
  private lookedAt = 0

  constructor(private readonly batches: Batches, private readonly size: Size = LANES) {}

  /**
   * The answer to a press that came at a moment of this machine's clock, in milliseconds: letting it in takes one longer than another, and
   * nobody loses their place by that. Throws its refusal, which may be to come again, or `Busy`, `Unavailable` or `OutcomeUnknown` where it
   * could not be decided.
   */
  async register(press: Press, came = Date.now()): Promise<RunResult> {
    const first = Math.min(came, this.places.get(placeName(press)) ?? came)
    if (this.line.length >= LINE.most) {
      this.keepPlace(press, first)
      throw comeAgain()
    }
    const asked = performance.now()
    let waiting: Waiting | undefined
    try {
      return await new Promise((done, fail) => {
        waiting = { press, came: first, since: Date.now(), taken: 0, done, fail }
        this.line.splice(this.line.findLastIndex(one => one.came <= first) + 1, 0, waiting)
        this.start()
      })
    }
    finally {
      const taken = waiting!.taken || performance.now()
      noteSpan('in line', asked, taken)
      if (waiting!.taken > 0) noteSpan('registered with others', taken)
    }
  }

  /**
   * Where a press stands: how many are before it and in how many seconds its turn comes, or that it is being served; nothing of that where
   * it is not in line here. With it goes after how many milliseconds to look again: the more stand in line, the less often.
   */
  placeOf(student: number, key: string): Place {
    const again = Math.round(Math.max(LOOKS.least, this.line.length * 1000 / LOOKS.most))
    const before = this.line.findIndex(one => one.press.student === student && one.press.key === key)
    if (before >= 0)
      return { before, seconds: Math.ceil(this.turnIn(before + 1) / 1000), served: false, again }
    return { before: this.busy.has(student) ? 0 : null, seconds: null, served: this.busy.has(student), again }
  }

  /** Milliseconds until it is somebody's turn before whom so many stand. */
  private turnIn = (before: number) => before * this.each / this.size.lanes

  /**
   * Milliseconds after which whoever is answered now is to ask for the rest; 0 where nobody waits for long, neither in line nor, as
   * `isCrowded` tells, to read what they look at.
   */
  calmIn(isCrowded = false): number {
    const left = this.turnIn(this.line.length)
    if (left < CROWD.from && !isCrowded) return 0
    const now = Date.now()
    this.restAt = Math.max(this.restAt + CROWD.each, now + Math.max(left, CROWD.from))
    return Math.round(Math.min(CROWD.longest * (0.5 + Math.random() / 2), this.restAt - now))
  }

  private start() {
    while (this.under < this.size.lanes + (this.line.length >= AHEAD_FROM ? this.size.ahead ?? 0 : 0)) {
      const batch = this.takeBatch()
      if (batch.length === 0) break
      this.under++
      void this.serve(batch, true).finally(() => {
        this.under--
        this.start()
      })
    }
    this.sendAway()
    while (this.idleAlone > 0 && this.alone.length > 0) {
      this.idleAlone--
      void this.serve([this.alone.shift()!], false).finally(() => {
        this.idleAlone++
        this.start()
      })
    }
  }

  /** The first in line, of different students none of whom is under way. */
  private takeBatch(): Waiting[] {
    const batch: Waiting[] = []
    const most = Math.max(this.size.most, Math.min(LARGE.most, Math.floor(this.line.length * LARGE.share)))
    for (let i = 0; i < this.line.length && batch.length < most;) {
      const next = this.line[i]!
      if (this.busy.has(next.press.student)) {
        i++
        continue
      }
      this.line.splice(i, 1)
      this.busy.add(next.press.student)
      next.taken = performance.now()
      batch.push(next)
    }
    return batch
  }

  /** Who stands there as long as a request may is told to come again. */
  private sendAway() {
    const patience = this.size.patience ?? LINE.patience
    const now = Date.now()
    if (now < this.lookedAt + patience / 100) return
    this.lookedAt = now
    const isLate = ({ since }: Waiting, before: number) => now - since > patience * (this.turnIn(before) < LINE.near ? 2 : 1)
    if (!this.line.some(isLate)) return
    const late = this.line.filter(isLate)
    const others = this.line.filter((one, before) => !isLate(one, before))
    this.line.splice(0, this.line.length)
    for (const one of others) this.line.push(one)
    for (const { press, came, fail } of late) {
      this.keepPlace(press, came)
      fail(comeAgain())
    }
  }

  private keepPlace(press: Press, came: number) {
    if (this.places.size >= MOST_PLACES) this.places.delete(this.places.keys().next().value!)
    this.places.set(placeName(press), came)
  }

  private async serve(batch: readonly Waiting[], skip: boolean): Promise<void> {
    try {
      const { answers, milliseconds } = await this.batches(batch.map(one => one.press), skip)
      if (skip) this.each += (milliseconds / batch.length - this.each) * (this.each === 0 ? 1 : LEARNED)
      for (const [i, one] of batch.entries()) {
        const answer = answers[i]
        if (answer) this.settle(one, answer)
        // Somebody holds the student's row: the others do not wait for that.
        else if (skip) this.alone.push(one)
        else this.settle(one, new Refusal(404, 'student-unknown', 'There is no such student.', 'Sign in again.'))
      }
    }
    catch (problem) {
      if (batch.length > 1 && !isOfTheDatabase(problem)) this.alone.push(...batch)
      else for (const one of batch) this.settle(one, problem)
    }
  }

  private settle({ press, came, done, fail }: Waiting, answer: unknown) {
    this.busy.delete(press.student)
    // Whom the database had no time for comes again, and where it is not known what became of a press its key is asked once more.
    if (isOfTheDatabase(answer)) this.keepPlace(press, came)
    else this.places.delete(placeName(press))
    if (answer instanceof Error) fail(answer)
    else done(answer as RunResult)
  }
}

const comeAgain = () => new Refusal(503, 'busy', 'So many people register at this moment that it is not your turn yet.',
  'You keep your place in line. The page asks again by itself.')
const isOfTheDatabase = (problem: unknown) =>
  problem instanceof Busy || problem instanceof Unavailable || problem instanceof OutcomeUnknown
const placeName = ({ student, key }: Press) => `${student} ${key}`
