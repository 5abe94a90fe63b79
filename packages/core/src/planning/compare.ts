import { termOrder } from '../catalog/terms'
import type { CourseCode, Credits, TermCode } from '../catalog/types'
import type { LineState } from '../requirements/types'
import type { Plan } from './plan'
import type { Standing } from './standing'

/** What tells two plans apart. */
export interface PlanComparison {
  terms: {
    term: TermCode
    credits: [Credits, Credits]
    /** Courses that only one of them has in this term, with the term in which the other has them, or null. */
    only: [{ course: CourseCode, other: TermCode | null }[], { course: CourseCode, other: TermCode | null }[]]
    both: CourseCode[]
  }[]
  finish: [TermCode | null, TermCode | null]
  open: [Credits, Credits]
  problems: [number, number]
  areas: { program: string, title: string, state: [LineState, LineState], open: [Credits, Credits] }[]
}

/** Two plans of one student side by side: by term, credits, finish and the state of each requirement area. */
export function comparePlans(plans: readonly [Plan, Plan], standings: readonly [Standing, Standing]): PlanComparison {
  const two = <T>(of: (which: 0 | 1) => T): [T, T] => [of(0), of(1)]
  const codes = [...new Set(plans.flatMap(plan => [...plan.entries, ...plan.placeholders].map(one => one.term)))].sort((a, b) =>
    termOrder(a) - termOrder(b),
  )
  const coursesIn = (which: 0 | 1, term: TermCode) =>
    plans[which].entries.filter(entry => entry.term === term).map(entry => entry.course).sort()
  return {
    terms: codes.map((term) => {
      const here = two(which => coursesIn(which, term))
      return {
        term,
        credits: two(which => standings[which].loads.find(load => load.term === term)?.credits ?? 0),
        both: here[0].filter(course => here[1].includes(course)),
        only: two(which =>
          here[which].filter(course => !here[1 - which]!.includes(course)).map(course => ({ course,
            other: plans[1 - which]!.entries.find(entry => entry.course === course)?.term ?? null }),
          ),
        ),
      }
    }),
    finish: two(which => standings[which].finish),
    open: two(which => standings[which].unplaced),
    problems: two(which => standings[which].checks.filter(check => check.severity === 'blocker').length),
    areas: standings[0].reports.flatMap((report, r) =>
      report.areas.map((area, a) => {
        const other = standings[1].reports[r]!.areas[a]!
        return { program: report.title, title: area.title, state: [area.state, other.state] as [LineState, LineState],
          open: [area.open, other.open] as [Credits, Credits] }
      }),
    ),
  }
}
