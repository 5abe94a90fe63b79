import { termOrder, termPhase } from '../catalog/terms'
import type { CourseItem, Credits, LocalDate, Term, TermCode } from '../catalog/types'

/** How fast a student has gone, and how fast the rest would have to go. */
export interface Pace {
  /** Average credits a term of fall and spring so far; null before the first such term has ended. */
  soFar: Credits | null
  /** Terms of fall and spring from now to the finish that is wished for or planned; null when there is none. */
  termsLeft: number | null
  /** Credits that each of them must bring; null with `termsLeft`. */
  asked: Credits | null
  /** Credits still to be taken, those under way left out. */
  creditsLeft: Credits
}

export interface PaceInput {
  /** What gives credit, each credit once (`readCredit`). */
  earning: readonly CourseItem[]
  terms: readonly Term[]
  today: LocalDate
  /** Credits of the whole program. */
  total: Credits
  /** Credits earned or under way. */
  behind: Credits
  /** The term by which everything is to be done. */
  finish: TermCode | null
}

/** Reads the pace from what was taken here in past terms of fall and spring; summers carry credits and do not count as terms. */
export function readPace({ earning, terms, today, total, behind, finish }: PaceInput): Pace {
  const long = terms.filter(term => term.season !== 'summer')
  // What was withdrawn from or failed is no progress.
  const here = (term: Term) =>
    earning.filter(item => item.term === term.code && item.source === 'here').reduce((sum, item) => sum + item.credits, 0)
  const past = long.filter(term => termPhase(term, today) === 'past').map(here).filter(credits => credits > 0)
  const creditsLeft = Math.max(0, total - behind)
  const left = finish === null
    ? null
    : long.filter(term => termPhase(term, today) === 'future' && termOrder(term.code) <= termOrder(finish)).length
  return {
    soFar: past.length === 0 ? null : Math.round(past.reduce((sum, credits) => sum + credits, 0) / past.length),
    termsLeft: left,
    asked: left === null || left === 0 ? null : Math.ceil(creditsLeft / left / 100) * 100,
    creditsLeft,
  }
}
