import { type TermCode, termOrder } from '../catalog'
import type { Outlook } from '../planning'

/** What is known of one student once the whole file was worked out. */
export interface StudentProgress extends Outlook {
  id: number
  name: string
  /** The first of the student's programs with its catalog year; empty where there is none. */
  program: string
}

/** Students of one program together. */
export interface ProgramProgress {
  program: string
  students: number
  /** How many finish in each term as planned, in the order of terms. */
  finishes: { term: TermCode, students: number }[]
  /** How many have no finish as planned. */
  open: number
  blocked: number
  low: number
  /** Mean credits earned, in hundredths, rounded. */
  earned: number
}

/** Students by program, the largest program first, then by name. */
export function progressByProgram(students: readonly StudentProgress[]): ProgramProgress[] {
  const by = new Map<string, StudentProgress[]>()
  for (const one of students) {
    const mine = by.get(one.program)
    if (mine) mine.push(one)
    else by.set(one.program, [one])
  }
  return [...by].map(([program, all]) => {
    const finishes = new Map<TermCode, number>()
    for (const { finish } of all) if (finish !== null) finishes.set(finish, (finishes.get(finish) ?? 0) + 1)
    return { program, students: all.length,
      finishes: [...finishes].map(([term, count]) => ({ term, students: count })).sort((a, b) => termOrder(a.term) - termOrder(b.term)),
      open: all.filter(one => one.finish === null).length, blocked: all.filter(one => one.blockers > 0).length,
      low: all.filter(one => one.isLow).length, earned: Math.round(all.reduce((sum, one) => sum + one.earned, 0) / all.length) }
  }).sort((a, b) => b.students - a.students || (a.program < b.program ? -1 : 1))
}
