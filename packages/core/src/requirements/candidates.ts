import { isOffered, termOrder } from '../catalog/terms'
import type { Course, Term } from '../catalog/types'
import { type Lack, lacksOf, readCourseRules } from '../prerequisites/evaluate'
import type { RecordRules } from '../record/attempts'
import type { StudentFacts } from '../record/facts'
import { excludedBy, takenAlready } from '../record/repeats'
import { poolOf } from './reach'
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
  rules: RecordRules
}

/** Courses that could fill a line, split by what stands between the student and each. */
export function findCandidates(input: CandidateInput): Candidates {
  const { line, rules, workingTerm } = input
  const pool = poolOf(line, rules.courses).flat()
  const asked = line.minGrade === undefined ? 0 : rules.scale[line.minGrade]?.standsFor ?? 0
  const result: Candidates = { now: [], later: [], blocked: [] }
  const terms = input.terms.filter(term => termOrder(term.code) >= termOrder(workingTerm.code))
  for (const course of pool.sort((a, b) => a.code.localeCompare(b.code))) {
    if (takenAlready(course, input.facts.items, rules, asked) || excludedBy(course, input.facts.items, rules)) continue
    const places = terms.filter(term => isOffered(course, term))
    const working = places.filter(term => firmnessAt(course, term, input) !== 'unmet')
    const works = working[0]
    if (works?.code === workingTerm.code)
      result.now.push({ course, term: works, terms: working, note: { code: conditionAt(course, works, input) } })
    else if (works && firmnessAt(course, workingTerm, input) !== 'unmet')
      result.later.push({ course, term: works, terms: working, note: { code: 'offered later', term: works } })
    else if (works)
      result.later.push({ course, term: works, terms: working,
        note: { code: 'ready later', term: works, then: conditionAt(course, works, input) } })
    else result.blocked.push({ course, term: places[0] ?? null, terms: [], note: blockedBy(course, places[0] ?? workingTerm, input) })
  }
  return result
}

const firmnessAt = (course: Course, term: Term, { facts, rules }: CandidateInput) =>
  readCourseRules(course, term.code, facts, rules).before?.firmness ?? 'passed'

function conditionAt(course: Course, term: Term, input: CandidateInput): 'can take' | 'if passed' | 'if planned' {
  const firmness = firmnessAt(course, term, input)
  return firmness === 'if planned' || firmness === 'if passed' ? firmness : 'can take'
}

function blockedBy(course: Course, term: Term, { facts, rules }: CandidateInput): CandidateNote {
  const { before } = readCourseRules(course, term.code, facts, rules)
  return before?.firmness === 'unmet' ? { code: 'needs', needs: lacksOf(before.missing, facts.items) } : { code: 'in no term of the plan' }
}
