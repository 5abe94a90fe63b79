import { sameCourse } from '../catalog/linked'
import { isAnnounced, isOffered, nameOf, termOrder, termPhase } from '../catalog/terms'
import type { Course, CourseCode, CourseItem, Term } from '../catalog/types'
import { lacksOf, readCourseRules } from '../prerequisites/evaluate'
import { factsOf, type StudentFacts } from '../record/facts'
import { comparedGrade } from '../record/attempts'
import { excludedBy, type GradesAsked, takenAlready } from '../record/repeats'
import { gradesAsked } from '../requirements/grades-asked'
import type { CheckFinding, CheckInput, CheckPlace, PlanCheck } from './checks'
import { creditsIn } from './loads'
import { programsOf, type SignedTerm } from './student-file'

/** What the catalog's rules and the student's wishes say about each planned or picked item and each term ahead. */
export function findProblems(input: CheckInput): PlanCheck[] {
  const { file, items, catalog, today } = input
  const asked = gradesAskedOf(input)
  const facts = factsOf(file, items)
  const terms = new Map(catalog.terms.map(term => [term.code, term]))
  const found: PlanCheck[] = []
  for (const item of items) {
    const course = isIntended(item) ? catalog.courses.get(item.course) : undefined
    const term = item.term ? terms.get(item.term) : undefined
    if (course && term) found.push(...problemsOf(item, course, term, input, { asked, facts }))
  }
  for (const term of catalog.terms) if (termPhase(term, today) === 'future') found.push(...termProblems(term, input))
  return [...found, ...unchosen(file.placeholders, input)]
}

/** What the programs, and the prerequisites of all that goes on or is intended, ask of each course. */
export const gradesAskedOf = ({ file, items, catalog }: Pick<CheckInput, 'file' | 'items' | 'catalog'>): GradesAsked =>
  gradesAsked({
    programs: programsOf(file, catalog),
    exceptions: file.exceptions,
    courses: catalog.courses,
    scale: catalog.scale,
    intended: items.filter(item => item.state !== 'completed').map(item => item.course),
  })

export const isIntended = (item: Pick<CourseItem, 'state'>) => item.state === 'planned' || item.state === 'picked'

function problemsOf(item: CourseItem, course: Course, term: Term, { items, catalog, today }: CheckInput,
  { asked, facts }: { asked: GradesAsked, facts: StudentFacts }): PlanCheck[] {
  const found: PlanCheck[] = []
  const add = (finding: CheckFinding, severity: PlanCheck['severity'] = 'blocker') =>
    found.push({ ...finding, id: `${finding.kind}:${item.id}`, severity, itemId: item.id, course: course.code, term: term.code })
  const here = nameOf(term)
  if (termPhase(term, today) !== 'future') add({ kind: 'term over', in: here })
  if (!isOffered(course, term)) add({ kind: 'not offered', in: here, offered: course.offered })
  else if (!isAnnounced(course)) add({ kind: 'offering not announced', in: here }, 'caution')
  const { before, beside } = readCourseRules(course, term.code, facts, catalog)
  if (before?.firmness === 'unmet') add({ kind: 'prerequisite', in: here, needs: lacksOf(before.missing, items) })
  if (beside?.firmness === 'unmet') add({ kind: 'corequisite', needs: lacksOf(beside.missing, items) })
  const same = sameCourse(course.code, catalog.courses)
  const excluded = excludedBy(course, items, catalog)
  const others = items.filter(other => other.id !== item.id && same.includes(other.course))
  const taken = others.length > 0 ? takenAlready(course, others, catalog, asked(course.code), item.credits) : null
  if (excluded) add({ kind: 'excluded', by: excluded.course, state: excluded.state })
  else if (taken)
    add({ kind: taken.times > 1 || taken.most ? 'repeat limit' : 'already passed', by: taken.by.course, state: taken.by.state,
      grade: comparedGrade(taken.by), times: taken.times,
      ...taken.most === undefined ? {} : { most: taken.most } })
  return found
}

/** What the load of a term, the student's wishes, a sign-off and the registrations say about one term ahead. */
function termProblems(term: Term, input: CheckInput): PlanCheck[] {
  const { file, items } = input
  const found: PlanCheck[] = []
  const credits = creditsIn(items, term.code, file.placeholders)
  const cap = file.capRaised[term.code] ?? term.loadCap
  const { target, termsOff, latestFinish } = file.wishes
  const here = nameOf(term)
  const add = (severity: PlanCheck['severity'], finding: CheckFinding, item?: Pick<CourseItem, 'id' | 'course'>) =>
    found.push({ ...finding, id: `${finding.kind}:${item?.id ?? term.code}`, severity, itemId: item?.id ?? null,
      course: item?.course ?? null, term: term.code })
  if (credits > cap) add('blocker', { kind: 'over the cap', in: here, credits, cap })
  if (target !== null && term.season !== 'summer' && credits > 0 && credits < target && isBeforeLast(term, input)) {
    add('caution', { kind: 'under the wish', in: here, credits, wish: target })
  }
  const intended = items.filter(item => item.term === term.code && isIntended(item))
  if (termsOff.includes(term.code)) { for (const item of intended) add('caution', { kind: 'term off', in: here }, item) }
  if (latestFinish && termOrder(term.code) > termOrder(latestFinish)) {
    for (const item of intended) add('caution', { kind: 'past the wished finish', in: here, finish: latestFinish }, item)
  }
  const signed = file.signedOff.find(one => one.term === term.code)
  const difference = signed && differenceFrom(signed, items)
  if (difference && (difference.gone.length > 0 || difference.added.length > 0))
    add('caution', { kind: 'differs from sign-off', in: here, ...difference })
  if (items.some(item => item.term === term.code && item.state === 'registered')) {
    for (const item of intended.filter(one => one.state === 'planned'))
      add('caution', { kind: 'differs from registration', in: here }, item)
  }
  return found
}

/** The last term of a plan takes what is left, however little. */
const isBeforeLast = (term: Term, { items, file }: CheckInput) =>
  [...items, ...file.placeholders].some(one => one.term && termOrder(one.term) > termOrder(term.code))

function differenceFrom({ term, copy }: SignedTerm, items: readonly CourseItem[]): { gone: CourseCode[], added: CourseCode[] } {
  const now = items.filter(item => item.term === term && item.state !== 'completed').map(item => item.course)
  const agreed = copy.map(entry => entry.course)
  return { gone: agreed.filter(course => !now.includes(course)), added: now.filter(course => !agreed.includes(course)) }
}

/** Placeholders in terms whose sections are known: it is time to choose. */
function unchosen(placeholders: CheckInput['file']['placeholders'], { catalog, today }: CheckInput): PlanCheck[] {
  return placeholders.flatMap((placeholder): PlanCheck[] => {
    const term = catalog.terms.find(candidate => candidate.code === placeholder.term)
    const over = term !== undefined && termPhase(term, today) !== 'future'
    if (!term || (!term.scheduled && !over)) return []
    const place: CheckPlace = { id: `to choose:${placeholder.id}`, severity: over ? 'blocker' : 'caution', itemId: placeholder.id,
      course: null, term: term.code }
    return [{ ...place, kind: 'to choose', in: nameOf(term), over }]
  })
}
