import type { Database } from '../db/database'
import type { CollegeStamp } from '../db/store/college'
import { readComers, type Visitor } from '../db/store/people'
import { noteSpan, type Trace, traced, traceNow } from '../db/trace'
import type { College, KeptCollege } from './college'

/** Readings at a time, and people who are let in by one of them: measured on two cores. */
const SIZE = { doors: 2, most: 200 }

/** Connections that a door uses at most. */
export const doorConnections = SIZE.doors

/** Who comes: by which session, null for nobody's, and to which student's file, 0 for none. */
export interface Comer { session: string | null, student: number }

/** What is known of who came, all of one moment. */
export interface LetIn {
  stamp: CollegeStamp
  college: College
  /** Who holds the session; null where it has ended, or none was brought. */
  visitor: Visitor | null
  /** The student's advisor; undefined where there is no such student. */
  advisor: number | null | undefined
}

interface Waiting {
  comer: Comer
  trace: Trace | undefined
  done: (letIn: LetIn) => void
  fail: (problem: unknown) => void
}

/**
 * Where every request learns who asks and how the college stands. Who comes alone waits for nobody; who comes with many others, as in the
 * minute of an opening, is let in with them by one reading, so that a crowd costs the database little more than one of it, and nobody is
 * turned away here because many came.
 */
export class Door {
  private readonly waiting: Waiting[] = []
  private idle: number

  constructor(private readonly database: Pick<Database, 'read'>, private readonly kept: KeptCollege, private readonly size = SIZE) {
    this.idle = size.doors
  }

  /** What is known of somebody, read after they came. Throws as `Database.read`, and what the college refuses. */
  async come(comer: Comer): Promise<LetIn> {
    const asked = performance.now()
    const letIn = new Promise<LetIn>((done, fail) => this.waiting.push({ comer, trace: traceNow(), done, fail }))
    this.open()
    try {
      return await letIn
    }
    finally {
      noteSpan('let in', asked)
    }
  }

  private open() {
    while (this.idle > 0 && this.waiting.length > 0) {
      const together = this.waiting.splice(0, this.size.most)
      this.idle--
      void traced(together[0]!.trace, () => this.letIn(together)).finally(() => {
        this.idle++
        this.open()
      })
    }
  }

  private async letIn(together: readonly Waiting[]): Promise<void> {
    try {
      const comers = together.map(one => one.comer)
      const known = await this.database.read(async (db) => {
        const found = await readComers(db, comers, new Date().toISOString())
        return { ...found, college: await this.kept.at(db, found.stamp.catalog) }
      })
      const { stamp, college } = known
      for (const { comer: { session, student }, done } of together) {
        done({ stamp, college, visitor: session === null ? null : known.visitors.get(session) ?? null,
          advisor: known.advisors.get(student) })
      }
    }
    catch (problem) {
      for (const { fail } of together) fail(problem)
    }
  }
}
