import type { CourseCode, Section, TermCode } from '@ridgeway/core/catalog'
import type { Executor } from '../db/database'
import { readSeats, readSeatsWithin, readTermSections, type Seats, type TermSections } from '../db/store/sections'

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
    const all = this.readAfter(db, term, before?.all)
    const made = { at: Date.now(), all }
    this.lately.set(term, made)
    all.catch(() => {
      if (this.lately.get(term) === made) this.lately.delete(term)
    })
    return all
  }

  /** Where nothing has changed since, the same list: what is made of it stands too. */
  private async readAfter(db: Executor, term: TermCode, last: Promise<{ sections: Section[], stamp: number }> | undefined) {
    const before = await last?.catch(() => undefined)
    const now = await this.read(db, term, null, before?.sections)
    const isSame = before?.sections.length === now.sections.length && now.sections.every((one, i) => one === before.sections[i])
    return isSame ? { ...now, sections: before.sections } : now
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
    // Not what is kept by now: somebody beside may have found that old and let it go.
    return [...(await this.readSome(db, term, [])).sections.byId.values()]
  }

  /** The stamp of what changes seldom about a term's sections. */
  stampOf = async (db: Executor, term: TermCode): Promise<number> => (await this.read(db, term, [])).stamp

  private async read(db: Executor, term: TermCode, courses: readonly CourseCode[] | null, before: readonly Section[] = []):
  Promise<{ sections: Section[], stamp: number }> {
    for (let attempt = 1; ; attempt++) {
      const { stamp, sections, seats, waiting, isWhole } = courses ? await this.readSome(db, term, courses) : await this.readAll(db, term)
      if ((isWhole && areOf(sections, seats)) || attempt === MOST_TRIES) {
        const asked = courses === null ? [...sections.byId.values()] : courses.flatMap(code => sections.byCourse.get(code) ?? [])
        return { sections: withSeats(asked, seats, id => waiting.get(id) ?? 0, before), stamp }
      }
      this.forget(term)
    }
  }

  private async readSome(db: Executor, term: TermCode, courses: readonly CourseCode[]) {
    const { stamp, seats } = await readSeats(db, term, courses)
    return { stamp, seats, sections: await this.at(db, term, stamp), waiting: new Map(seats.map(one => [one.section, one.waiting])),
      isWhole: true }
  }

  private async readAll(db: Executor, term: TermCode) {
    const known = await (this.kept.get(term)?.sections ?? this.at(db, term, (await readSeats(db, term, [])).stamp))
    const { stamp, seats, waiting } = await readSeatsWithin(db, term, known.span)
    const sections = await this.at(db, term, stamp)
    // What came with a later stamp may lie beyond the numbers that were asked for.
    return { stamp, sections, waiting, isWhole: sections === known, seats: seats.filter(one => sections.versions.has(one.pool)) }
  }
}

/** Whether kept sections are those whose seats these are. */
export const areOf = ({ versions }: TermSections, seats: readonly Seats[]) => seats.every(one => versions.get(one.pool) === one.version)

/** Kept sections with seats that were read; a category without seats here has none. One that is as it was before is the same object. */
export function withSeats(sections: readonly Section[], seats: readonly Seats[], waiting: (id: number) => number,
  before: readonly Section[] = []): Section[] {
  const now = new Map(seats.map(one => [one.pool, one]))
  const old = new Map(before.map(section => [section.id, section]))
  return sections.map((section) => {
    const known = old.get(section.id)
    // The meetings tell whether it is the same in what changes seldom.
    if (known?.meetings === section.meetings && known.waiting === waiting(section.id)
      && known.pools.every(pool => hasSeats(pool, now.get(pool.id) ?? NO_SEATS))) return known
    return { ...section, waiting: waiting(section.id), pools: section.pools.map((pool) => {
      const { capacity, taken, held } = now.get(pool.id) ?? NO_SEATS
      return { ...pool, capacity, taken, held }
    }) }
  })
}

const NO_SEATS = { capacity: 0, taken: 0, held: 0 }
const hasSeats = (pool: typeof NO_SEATS, { capacity, taken, held }: typeof NO_SEATS) =>
  pool.capacity === capacity && pool.taken === taken && pool.held === held
