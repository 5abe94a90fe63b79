import { setTimeout as wait } from 'node:timers/promises'
import type { RunResult } from '#shared/contract/acts/student'
import type { Place } from '#shared/contract/views/student'
import type { College } from '../college/college'
import { Refusal } from '../college/refusal'
import type { Database, Executor } from '../db/database'
import { Busy, OutcomeUnknown, Unavailable } from '../db/failures'
import { type Answer, type Press, registerTogether } from './register'

/** Transactions at a time, and students in one of them: measured on two cores, more of either gains nothing while few stand in line. */
const LANES = { lanes: 2, most: 8 }
/**
 * In a crowd a transaction mostly waits for its turn among all else that the server does, and takes more students for that: a share of the
 * line, so many of them at most.
 */
const LARGE = { share: 1 / 16, most: 32 }
/** Presses that go alone at a time: those of students whose row somebody holds, and those of a batch that failed. */
const ALONE = 2
/**
 * Presses that may stand in line, and milliseconds after which one whose turn has not come is told to come again: well below the minute
 * after which proxies give a request up (common practice, no source). Those nearest to their turn stay for twice as long: it would be
 * there before they come again.
 */
const LINE = { most: 20_000, patience: 25_000, near: 300 }
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
/** Pauses before the same keys are sent again, in milliseconds, when the answer to keeping them was lost. */
const AGAIN = [20, 250, 1000]

interface Waiting {
  press: Press
  /** When it came first: its place in line. */
  came: number
  /** Since when this request stands there. */
  since: number
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
  private idle: number
  private idleAlone = ALONE
  /** Milliseconds that a lane takes for a press, as it went lately; 0 before the first. */
  private each = 0
  /** When the last of those who were answered in a crowd is to ask for the rest. */
  private restAt = 0
  /** When it was looked at last who has stood there for too long. */
  private lookedAt = 0

  constructor(private readonly database: Database, private readonly collegeAt: (db: Executor, stamp: number) => Promise<College>,
    private readonly size: { lanes: number, most: number, patience?: number } = LANES) {
    this.idle = size.lanes
  }

  /**
   * The answer to a press that came at a moment of this machine's clock, in milliseconds: letting it in takes one longer than another, and
   * nobody loses their place by that. Throws its refusal, which may be to come again, or `Busy`, `Unavailable` or `OutcomeUnknown` where it
   * could not be decided.
   */
  register(press: Press, came = Date.now()): Promise<RunResult> {
    const first = Math.min(came, this.places.get(placeName(press)) ?? came)
    if (this.line.length >= LINE.most) {
      this.keepPlace(press, first)
      return Promise.reject(comeAgain())
    }
    return new Promise((done, fail) => {
      this.line.splice(this.line.findLastIndex(one => one.came <= first) + 1, 0, { press, came: first, since: Date.now(), done, fail })
      this.start()
    })
  }

  /**
   * Where a press stands: how many are before it and in how many seconds its turn comes, or that it is being served; nothing of that where
   * it is not in line here. With it goes after how many milliseconds to look again: the more stand in line, the less often.
   */
  placeOf(student: number, key: string): Place {
    const again = Math.round(Math.max(LOOKS.least, this.line.length * 1000 / LOOKS.most))
    const before = this.line.findIndex(one => one.press.student === student && one.press.key === key)
    if (before >= 0)
      return { before, seconds: Math.ceil((before + 1) * this.each / this.size.lanes / 1000), served: false, again }
    return { before: this.busy.has(student) ? 0 : null, seconds: null, served: this.busy.has(student), again }
  }

  /** Milliseconds after which whoever is answered now is to ask for the rest; 0 where nobody waits for long. */
  calmIn(): number {
    const left = this.line.length * this.each / this.size.lanes
    if (left < CROWD.from) return 0
    const now = Date.now()
    this.restAt = Math.max(this.restAt + CROWD.each, now + left)
    return Math.round(Math.min(CROWD.longest * (0.5 + Math.random() / 2), this.restAt - now))
  }

  private start() {
    while (this.idle > 0) {
      const batch = this.takeBatch()
      if (batch.length === 0) break
      this.idle--
      void this.serve(batch, true).finally(() => {
        this.idle++
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
    const isLate = ({ since }: Waiting, before: number) => now - since > patience * (before < LINE.near ? 2 : 1)
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
      const began = performance.now()
      const answers = await this.run(batch.map(one => one.press), skip)
      const each = (performance.now() - began) / batch.length
      if (skip) this.each += (each - this.each) * (this.each === 0 ? 1 : LEARNED)
      for (const one of batch) {
        const answer = answers.get(one.press)
        if (answer) this.settle(one, answer)
        // Somebody holds the student's row: the others do not wait for that.
        else if (skip) this.alone.push(one)
        else this.settle(one, new Refusal(404, 'student-unknown', 'There is no such student.', 'Sign in again.'))
      }
    }
    catch (problem) {
      const isOfTheDatabase = problem instanceof Busy || problem instanceof Unavailable || problem instanceof OutcomeUnknown
      if (batch.length > 1 && !isOfTheDatabase) this.alone.push(...batch)
      else for (const one of batch) this.settle(one, problem)
    }
  }

  private settle({ press, done, fail }: Waiting, answer: unknown) {
    this.busy.delete(press.student)
    this.places.delete(placeName(press))
    if (answer instanceof Error) fail(answer)
    else done(answer as RunResult)
  }

  /** One transaction; when it is not known whether it was kept, the same keys tell. */
  private async run(presses: readonly Press[], skip: boolean): Promise<Map<Press, Answer>> {
    const once = () => this.database.write(tx => registerTogether(tx, presses, this.collegeAt, skip), { begins: true })
    try {
      return await once()
    }
    catch (problem) {
      if (!(problem instanceof OutcomeUnknown)) throw problem
      for (const pause of AGAIN) {
        await wait(pause)
        const answers = await once().catch(() => null)
        // It is the first answer to these presses, whichever of the two kept them.
        if (answers) return new Map([...answers].map(([press, answer]) =>
          [press, answer instanceof Refusal ? answer : { ...answer, repeated: false }]))
      }
      throw problem
    }
  }
}

const comeAgain = () => new Refusal(503, 'busy', 'So many people register at this moment that it is not your turn yet.',
  'You keep your place in line. The page asks again by itself.')
const placeName = ({ student, key }: Press) => `${student} ${key}`
