import type { Part, Section } from '@ridgeway/core/catalog'
import { checkSeats, type Finding, type RowDecision, seatsFor, withSeatsNow } from '@ridgeway/core/registration'
import type { FoundBundle } from '#shared/contract/views/find'
import type { BundleView, SeatNews } from '#shared/contract/views/student'

/** Every section of some bundles, each once. */
export const sectionsOf = (bundles: readonly Pick<BundleView, 'sections'>[]): Section[] =>
  [...new Map(bundles.flatMap(one => one.sections).map(section => [section.id, section])).values()]

/**
 * Seats of the working term as they change, told once for everybody. What the page read before is kept right by them without asking: how
 * many seats are left, who waits, and what is refused for seats alone.
 */
export const useSeatsStore = defineStore('seats', () => {
  const told = shallowRef<SeatNews>({ term: '', pools: {}, waiting: {} })

  function take(news: SeatNews) {
    told.value = news.term === told.value.term
      ? { term: news.term, pools: { ...told.value.pools, ...news.pools }, waiting: { ...told.value.waiting, ...news.waiting } }
      : news
  }

  /** A section with its seats as they are now; the very same where nothing changed. */
  function now(section: Section): Section {
    const { term, pools, waiting } = told.value
    if (term !== section.term) return section
    const isSame = section.waiting === (waiting[section.id] ?? 0) && section.pools.every((pool) => {
      const seats = pools[pool.id]
      return !seats || (seats[0] === pool.capacity && seats[1] === pool.taken && seats[2] === pool.held)
    })
    if (isSame) return section
    return { ...section, waiting: waiting[section.id] ?? 0, pools: section.pools.map((pool) => {
      const seats = pools[pool.id]
      return seats ? { ...pool, capacity: seats[0], taken: seats[1], held: seats[2] } : pool
    }) }
  }
  /** Sections of which at least one changed; null where all are as they were. */
  function changed(sections: readonly Section[]): Section[] | null {
    const fresh = sections.map(now)
    return fresh.some((section, i) => section !== sections[i]) ? fresh : null
  }
  /** A decision with the seats as they are now; `all` are the sections of its course. The very same where no seat of them changed. */
  function decide(decision: RowDecision, all: readonly Section[], groups: readonly string[], parts: readonly Part[]): RowDecision {
    const fresh = changed(all)
    if (!fresh) return decision
    const mine = decision.sectionIds.flatMap(id => fresh.find(section => section.id === id) ?? [])
    return withSeatsNow(decision, mine, groups, { code: decision.course, parts: [...parts] }, fresh)
  }

  /** The bundles of a course with their seats and decisions as they are now. */
  function bundles(list: readonly BundleView[], groups: readonly string[], parts: readonly Part[]): BundleView[] {
    const all = sectionsOf(list)
    return changed(all)
      ? list.map(one => ({ ...one, sections: one.sections.map(now), decision: decide(one.decision, all, groups, parts) }))
      : [...list]
  }
  /** A bundle that was found, likewise. */
  function found(one: FoundBundle, groups: readonly string[]): FoundBundle {
    const sections = changed(one.sections)
    if (!sections) return one
    const others = (one.refusals as Finding[]).filter(finding => finding.code !== 'seats-full')
    const { findings } = checkSeats({ code: one.course }, sections, groups, () => [])
    return { ...one, sections, seats: Math.min(...sections.map(section => seatsFor(section, groups))),
      waiting: Math.max(...sections.map(section => section.waiting)), refusals: [...others, ...findings.filter(finding => !finding.ok)] }
  }
  /** What the categories of a section come to now; null where nothing was told of them. */
  function sumOf(term: string, section: number, ids: readonly number[]) {
    const { pools, waiting } = told.value
    if (told.value.term !== term || ids.some(id => !pools[id])) return null
    const sum = (i: 0 | 1 | 2) => ids.reduce((total, id) => total + pools[id]![i], 0)
    return { capacity: sum(0), taken: sum(1), held: sum(2), waiting: waiting[section] ?? 0 }
  }
  return { told, sumOf, take, now, changed, decide, bundles, found }
})
