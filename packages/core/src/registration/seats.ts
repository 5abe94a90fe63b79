import type { Course, SeatPool, Section } from '../catalog/types'
import type { Bundle } from '../weeks/bundles'
import type { Finding, OtherBundle, SeatCount } from './findings'

export interface SeatClaim {
  sectionId: number
  poolId: number
}

export function freeSeats(pool: SeatPool): number {
  return Math.max(0, pool.capacity - pool.taken - pool.held)
}

const isFor = (pool: SeatPool, groups: readonly string[]) => pool.forGroup === null || groups.includes(pool.forGroup)

/** Seats of a section that a student of these groups could take; see `groupsOf`. */
export function seatsFor(section: Pick<Section, 'pools'>, groups: readonly string[]): number {
  return section.pools.reduce((sum, pool) => sum + (isFor(pool, groups) ? freeSeats(pool) : 0), 0)
}

/** Reserved seats are taken before open ones, so that open seats stay for those who have nothing else. */
function claimFor(section: Section, groups: readonly string[]): SeatClaim | null {
  const mine = section.pools.filter(pool => freeSeats(pool) > 0 && isFor(pool, groups))
  const pool = mine.find(candidate => candidate.forGroup !== null) ?? mine[0]
  return pool ? { sectionId: section.id, poolId: pool.id } : null
}

/**
 * A seat in each section, or why there is none; `siblings` gives the bundles of the course, among which another is looked for. Of the
 * sections in `anySeat` one that is kept for others will do.
 */
export function checkSeats(course: Pick<Course, 'code'>, sections: readonly Section[], theirs: readonly string[],
  siblings: () => readonly Bundle[], anySeat: ReadonlySet<number> = new Set()): { claims: SeatClaim[], findings: Finding[] } {
  const claims: SeatClaim[] = []
  const findings: Finding[] = []
  const groupsAt = (section: Section) =>
    anySeat.has(section.id) ? [...theirs, ...section.pools.flatMap(pool => pool.forGroup ?? [])] : theirs
  for (const section of sections) {
    const groups = groupsAt(section)
    const claim = claimFor(section, groups)
    if (claim) claims.push(claim)
    else findings.push({ code: 'seats-full', ok: false, course: course.code, label: section.label, seats: seatCount(section, groups),
      other: otherBundle(sections, groups, siblings()) })
  }
  if (findings.length === 0)
    findings.push({ code: 'seats-full', ok: true, left: Math.min(...sections.map(section => seatsFor(section, groupsAt(section)))) })
  return { claims, findings }
}

function seatCount(section: Section, groups: readonly string[]): SeatCount {
  const kept = section.pools.filter(pool => !isFor(pool, groups) && freeSeats(pool) > 0)
  const sum = (of: (pool: SeatPool) => number) => section.pools.reduce((total, pool) => total + of(pool), 0)
  return {
    capacity: sum(pool => pool.capacity),
    taken: sum(pool => pool.taken),
    held: sum(pool => pool.held),
    waiting: section.waiting,
    kept: { seats: kept.reduce((total, pool) => total + freeSeats(pool), 0), for: kept.map(pool => pool.forGroup!) },
  }
}

function otherBundle(sections: readonly Section[], groups: readonly string[], siblings: readonly Bundle[]): OtherBundle
  | null {
  const free = siblings.find(bundle => bundle.sections.every(section => seatsFor(section, groups) > 0)
    && bundle.sections.some(section => !sections.includes(section)))
  const first = free?.sections[0]
  const meeting = first?.meetings[0]
  return first
    ? { label: first.label, meets: meeting ? { days: meeting.days, start: meeting.start } : null, left: seatsFor(first, groups) }
    : null
}
