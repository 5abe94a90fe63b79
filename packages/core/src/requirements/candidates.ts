import { matchesFilter } from '../catalog/filter'
import { isOffered, termOrder } from '../catalog/terms'
import type { Course, Term } from '../catalog/types'
import type { GradeScale } from '../grades/scale'
import { evaluate, type Lack, lacksOf } from '../prerequisites/evaluate'
import { ruleOf } from '../prerequisites/rule-of'
import type { StudentFacts } from '../record/facts'
import { isExcluded, isTaken } from '../record/repeats'
import type { LineReport } from './report'

export interface Candidate {
  course: Course
  /** Why it is in its group. */
  note: CandidateNote
  /** The term in which it would be placed. */
  term: Term | null
  /** All terms in which it could be placed, that one first. */
  terms: Term[]
}

export type CandidateNote
  = | { code: 'can take' }
    /** What comes before it is under way, or only planned. */
    | { code: 'if passed' | 'if planned' }
    | { code: 'offered later', term: Term }
    | { code: 'ready later', term: Term, then: 'can take' | 'if passed' | 'if planned' }
    | { code: 'needs', needs: Lack[][] }
    | { code: 'in no term of the plan' }

export interface Candidates {
  /** Offered in the working term, and this student can take it then. */
  now: Candidate[]
  /** Can be taken, but only in a later term. */
  later: Candidate[]
  /** Something must come first. */
  blocked: Candidate[]
}

export interface CandidateInput {
  line: Pick<LineReport, 'filter' | 'unfilled' | 'minGrade'>
  workingTerm: Term
  /** Terms that may be planned, in order. */
  terms: readonly Term[]
  facts: StudentFacts
  courses: ReadonlyMap<string, Course>
  scale: GradeScale
}

/** Courses that could fill a line, split by what stands between the student and each. */
export function findCandidates(input: CandidateInput): Candidates {
  const { line, courses, workingTerm } = input
  const pool = line.unfilled.length > 0 ? line.unfilled.flatMap(code => courses.get(code) ?? []) : [...courses.values()].filter(course => matchesFilter(course, line.filter))
  const result: Candidates = { now: [], later: [], blocked: [] }
  const terms = input.terms.filter(term => termOrder(term.code) >= termOrder(workingTerm.code))
  for (const course of pool.sort((a, b) => a.code.localeCompare(b.code))) {
    if (isTaken(course, input.facts.items, input.scale, line.minGrade) || isExcluded(course, input.facts.items, input.scale)) continue
    const places = terms.filter(term => isOffered(course, term))
    const working = places.filter(term => firmnessAt(course, term, input) !== 'unmet')
    const works = working[0]
    if (works?.code === workingTerm.code) result.now.push({ course, term: works, terms: working, note: { code: conditionAt(course, works, input) } })
    else if (works && firmnessAt(course, workingTerm, input) !== 'unmet') result.later.push({ course, term: works, terms: working, note: { code: 'offered later', term: works } })
    else if (works) result.later.push({ course, term: works, terms: working, note: { code: 'ready later', term: works, then: conditionAt(course, works, input) } })
    else result.blocked.push({ course, term: places[0] ?? null, terms: [], note: blockedBy(course, places[0] ?? workingTerm, input) })
  }
  return result
}

function firmnessAt(course: Course, term: Term, { facts, courses, scale }: CandidateInput) {
  const context = { courses, scale, course: course.code }
  if (facts.permissions.includes(course.code)) return 'passed'
  return evaluate(ruleOf(course.prerequisite), term.code, facts, context)?.firmness ?? 'passed'
}

function conditionAt(course: Course, term: Term, input: CandidateInput): 'can take' | 'if passed' | 'if planned' {
  const firmness = firmnessAt(course, term, input)
  return firmness === 'if planned' || firmness === 'if passed' ? firmness : 'can take'
}

function blockedBy(course: Course, term: Term, { facts, courses, scale }: CandidateInput): CandidateNote {
  const found = evaluate(ruleOf(course.prerequisite), term.code, facts, { courses, scale, course: course.code })
  return found?.firmness === 'unmet' ? { code: 'needs', needs: lacksOf(found.missing, facts.items) } : { code: 'in no term of the plan' }
}
