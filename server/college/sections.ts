import type { CourseCode, Section, TermCode } from '@ridgeway/core/catalog'
import type { Executor } from '../db/database'
import { readSeats, readTermSections, type Seats, type TermSections } from '../db/store/sections'

/** Milliseconds for which seats are recent. */
const RECENT_MS = 1000
/** How often sections are read again that changed while they were read. */
const MOST_TRIES = 3

/** The sections of the terms as one server keeps them, read again when a term's stamp in the database has moved on. */
export class KeptSections {
  private readonly kept = new Map<TermCode, { stamp: number, sections: Promise<TermSections> }>()

  /** A term's sections at a stamp, without their seats. */
  at(db: Executor, term: TermCode, stamp: number): Promise<TermSections> {
    const before = this.kept.get(term)
    if (before?.stamp === stamp) return before.sections
    const now = { stamp, sections: readTermSections(db, term) }
    this.kept.set(term, now)
    now.sections.catch(() => {
      if (this.kept.get(term) === now) this.kept.delete(term)
    })
    return now.sections
  }

  /** What is kept of a term turned out to be old. */
  forget = (term: TermCode) => this.kept.delete(term)

  /** Sections of a term, of some courses or of all, with their seats as they are now: one statement. */
  async now(db: Executor, term: TermCode, courses: readonly CourseCode[] | null = null): Promise<Section[]> {
    return courses?.length === 0 ? [] : (await this.read(db, term, courses)).sections
  }

  private readonly lately = new Map<TermCode, { at: number, all: Promise<{ sections: Section[], stamp: number }> }>()
  /**
   * All sections of a term with their seats as they were at most a second ago, and the stamp of what changes seldom about them: however
   * many people search, the term is read once a second. What is decided on reads `now`.
   */
  recently(db: Executor, term: TermCode): Promise<{ sections: Section[], stamp: number }> {
    const before = this.lately.get(term)
    if (before && Date.now() - before.at < RECENT_MS) return before.all
    const all = this.read(db, term, null)
    const made = { at: Date.now(), all }
    this.lately.set(term, made)
    all.catch(() => {
      if (this.lately.get(term) === made) this.lately.delete(term)
    })
    return all
  }

  /** The same, and with everything that the office has changed about the sections until now. */
  async withChanges(db: Executor, term: TermCode): Promise<{ sections: Section[], stamp: number }> {
    const before = this.lately.get(term)
    if (before && Date.now() - before.at < RECENT_MS) {
      const [{ stamp }, now] = [await before.all, await this.stampOf(db, term)]
      if (stamp !== now && this.lately.get(term) === before) this.lately.delete(term)
    }
    return this.recently(db, term)
  }

  /** All sections of a term without their seats, as they are kept here once some of the term were read. */
  async known(db: Executor, term: TermCode): Promise<readonly Section[]> {
    await this.read(db, term, [])
    return [...(await this.kept.get(term)!.sections).byId.values()]
  }

  /** The stamp of what changes seldom about a term's sections. */
  stampOf = async (db: Executor, term: TermCode): Promise<number> => (await this.read(db, term, [])).stamp

  private async read(db: Executor, term: TermCode, courses: readonly CourseCode[] | null): Promise<{ sections: Section[], stamp: number }> {
    for (let attempt = 1; ; attempt++) {
      const { stamp, seats } = await readSeats(db, term, courses)
      const sections = await this.at(db, term, stamp)
      if (areOf(sections, seats) || attempt === MOST_TRIES) {
        const waiting = new Map(seats.map(one => [one.section, one.waiting]))
        const asked = courses === null ? [...sections.byId.values()] : courses.flatMap(code => sections.byCourse.get(code) ?? [])
        return { sections: withSeats(asked, seats, id => waiting.get(id) ?? 0), stamp }
      }
      this.forget(term)
    }
  }
}

/** Whether kept sections are those whose seats these are. */
export const areOf = ({ versions }: TermSections, seats: readonly Seats[]) => seats.every(one => versions.get(one.pool) === one.version)

/** Kept sections with seats that were read; a category without seats here has none. */
export function withSeats(sections: readonly Section[], seats: readonly Seats[], waiting: (id: number) => number): Section[] {
  const now = new Map(seats.map(one => [one.pool, one]))
  return sections.map(section => ({ ...section, waiting: waiting(section.id), pools: section.pools.map((pool) => {
    const found = now.get(pool.id)
    return found ? { ...pool, capacity: found.capacity, taken: found.taken, held: found.held } : pool
  }) }))
}
