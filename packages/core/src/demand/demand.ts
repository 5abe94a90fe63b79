import type { CourseCode, Section } from '../catalog/types'
import type { Wait } from './waits'

/** A student who plans a course for a term, and how far they came with it. */
export interface Wisher {
  student: number
  /** Code of the first program. */
  program: string
  course: CourseCode
  state: 'planned' | 'waiting' | 'registered'
  /** What it comes to when it is not to be had this term. */
  wait: Pick<Wait, 'names' | 'delay'> | null
}

/** What students ask of a course in a term, beside what is offered. */
export interface CourseDemand {
  course: CourseCode
  /** Students who plan it, registered or not. */
  students: number
  registered: number
  waiting: number
  /** Seats as students can take them; what is left of them is neither taken nor held. */
  seats: number
  left: number
  /** Students without a seat for whom there is none. */
  short: number
  /** Courses that wait for it at most, over the students without a seat. */
  behind: number
  /** Students without a seat whose finish would move, and by how many terms together. */
  delayed: { students: number, terms: number }
  byProgram: { program: string, students: number }[]
}

/** Seats of a course as students can take them: of its lectures or of its labs, whichever are fewer. */
export function seatsOf(sections: readonly Pick<Section, 'course' | 'part' | 'cancelled' | 'pools' | 'seatsWith'>[]):
Map<CourseCode, { seats: number, left: number }> {
  const parts = new Map<CourseCode, Map<string, { seats: number, left: number }>>()
  for (const { course, part, cancelled, pools } of sections) {
    if (cancelled) continue
    const of = parts.get(course) ?? new Map<string, { seats: number, left: number }>()
    parts.set(course, of)
    const sum = of.get(part) ?? { seats: 0, left: 0 }
    of.set(part, {
      seats: sum.seats + pools.reduce((total, pool) => total + pool.capacity, 0),
      left: sum.left + pools.reduce((total, pool) => total + Math.max(0, pool.capacity - pool.taken - pool.held), 0),
    })
  }
  return new Map([...parts].map(([course, of]) => [course, { seats: Math.min(...[...of.values()].map(one => one.seats)),
    left: Math.min(...[...of.values()].map(one => one.left)) }]))
}

/** Courses of a term by what is short of them: those first that hold up most finishes, then those with most students without a seat. */
export function demandOfTerm(wishers: readonly Wisher[], seats: ReadonlyMap<CourseCode, { seats: number, left: number }>): CourseDemand[] {
  const by = new Map<CourseCode, Wisher[]>()
  for (const one of wishers) by.set(one.course, [...by.get(one.course) ?? [], one])
  for (const course of seats.keys()) if (!by.has(course)) by.set(course, [])
  return [...by].map(([course, all]): CourseDemand => {
    const without = all.filter(one => one.state !== 'registered')
    const { seats: offered, left } = seats.get(course) ?? { seats: 0, left: 0 }
    const short = Math.max(0, without.length - left)
    const programs = new Map<string, number>()
    for (const { program } of all) programs.set(program, (programs.get(program) ?? 0) + 1)
    // Nobody knows who of them will be late: those whom it costs most are told first, as many as are short.
    const late = without.flatMap(one => one.wait ?? []).filter(one => one.delay > 0).sort((a, b) => b.delay - a.delay).slice(0, short)
    return {
      course, students: all.length, registered: all.length - without.length, waiting: all.filter(one => one.state === 'waiting').length,
      seats: offered, left, short, behind: without.reduce((most, one) => Math.max(most, one.wait?.names.length ?? 0), 0),
      delayed: { students: late.length, terms: late.reduce((sum, one) => sum + one.delay, 0) },
      byProgram: [...programs].map(([program, students]) => ({ program, students }))
        .sort((a, b) => b.students - a.students || a.program.localeCompare(b.program)),
    }
  }).sort((a, b) => b.delayed.terms - a.delayed.terms || b.short - a.short || b.students - a.students || a.course.localeCompare(b.course))
}
