import fc from 'fast-check'
import type { Section } from '@ridgeway/core/catalog'
import {
  checkPlan, draftRest, type DraftWishes, gradesAskedOf, itemsOf, reachOf, readPrograms, readStanding,
} from '@ridgeway/core/planning'
import { decideRun, type DecisionContext } from '@ridgeway/core/registration'
import { earliestFinish, smallestSet } from '@ridgeway/core/requirements'
import { bundlesOf, compileWeeks } from '@ridgeway/core/weeks'
import { factsOf } from '@ridgeway/core/record'
import { catalog, course, courseMap, decision, meeting, row, section } from '../../builders'
import { AHEAD, anyCourses, anyProgram, anyRecord, CODES, plannedIn, studentOf, TERMS, TODAY, withCredits } from './worlds'

/** One law: what it says, how many random cases the tests try, and a check of one case that throws where the law does not hold. */
export interface Law {
  name: string
  runs: number
  check: (runs: number) => void
}

const NEXT = AHEAD[0]!
const prove = <T>(arbitrary: fc.Arbitrary<T>, holds: (value: T) => void) => (runs: number) =>
  fc.assert(fc.property(arbitrary, holds), { numRuns: runs, seed: 31 })
function same<T>(actual: T, expected: T, about: string) {
  const [a, b] = [JSON.stringify(actual), JSON.stringify(expected)]
  if (a !== b) throw new Error(`${about}: ${a}, and not ${b}`)
}

/** Registration in the next term, every course with one section without set times and with seats. */
function openRegistration(courses: Parameters<typeof decision>[0], values: Partial<DecisionContext>) {
  const sections = CODES.map((code, n) => section(n + 1, code, { meetings: [], link: String(n) }))
  return decision(courses, sections, { term: NEXT, terms: TERMS, ...values })
}
const rowFor = (code: string) => row(CODES.indexOf(code) + 1, code, [CODES.indexOf(code) + 1])

/** Blockers of the plan check that registration knows as well; when a course is offered is told there by its sections. */
const SHARED_KINDS = ['prerequisite', 'corequisite', 'already passed', 'repeat limit', 'excluded', 'over the cap']

const checkIsRegistration: Law = {
  name: 'the plan check accepts a term exactly where registration accepts it',
  runs: 1500,
  check: prove(fc.tuple(anyCourses({ rules: true, closes: true, repeats: true }), anyRecord(),
    fc.uniqueArray(fc.constantFrom(...CODES), { minLength: 1, maxLength: 4 })), ([courses, loose, codes]) => {
    const record = withCredits(loose, courses)
    const all = catalog(courses, { terms: TERMS })
    const file = studentOf(record, { programs: [], entries: plannedIn(codes, NEXT.code, courses) })
    const items = itemsOf(file)
    const blockers = checkPlan({ file, items, catalog: all, today: TODAY }, [])
      .filter(check => check.severity === 'blocker' && SHARED_KINDS.includes(check.kind))
    const run = decideRun(codes.map(rowFor), openRegistration(courses, { items: record,
      asked: gradesAskedOf({ file, items, catalog: all }) }))
    same(run.every(one => one.outcome === 'register'), blockers.length === 0,
      `${codes.join(', ')}: registered; the plan check has ${blockers.map(one => one.id).join()}`)
  }),
}

const oneRunIsTwo: Law = {
  name: 'rows that register in one run register one run after the other as well, in the order of the student',
  runs: 1500,
  check: prove(fc.tuple(anyCourses({ rules: true, closes: true, repeats: true }), anyRecord(),
    fc.uniqueArray(fc.constantFrom(...CODES), { minLength: 2, maxLength: 4 })), ([courses, loose, codes]) => {
    // Partners that go alongside each other need one run; everything else is the same in two.
    const single = new Map([...courses].map(([code, one]) => [code, { ...one, corequisite: '',
      prerequisite: one.prerequisite.includes('alongside') ? '' : one.prerequisite }]))
    const record = withCredits(loose, courses)
    const together = decideRun(codes.map(rowFor), openRegistration(single, { items: record }))
    let items = record
    const registered: Section[] = []
    codes.forEach((code, n) => {
      const [alone] = decideRun([rowFor(code)], openRegistration(single, { items, registered }))
      same(together[n]!.outcome, alone!.outcome, `${code} in one run with ${codes.join(', ')}`)
      if (alone!.outcome !== 'register') return
      items = [...items, { id: `g${n}`, course: code, term: NEXT.code, credits: single.get(code)!.credits, grade: null, state: 'registered',
        source: 'here' }]
      registered.push(section(CODES.indexOf(code) + 1, code, { meetings: [] }))
    })
  }),
}

const anySection = fc.record({ start: fc.integer({ min: 6, max: 23 }),
  days: fc.constantFrom(['M'] as const, ['M', 'W'] as const, ['F'] as const),
  first: fc.constantFrom('2027-01-11', '2027-03-08'), last: fc.constantFrom('2027-03-05', '2027-05-07'),
  site: fc.constantFrom('main', 'works'),
  exam: fc.option(fc.record({ date: fc.constantFrom('2027-02-01', '2027-05-03', '2027-05-10'), start: fc.integer({ min: 8, max: 14 }) })) })

const weeksAreRegistration: Law = {
  name: 'two sections can stand in one week exactly where registration takes both, exams and travel included',
  runs: 1500,
  check: prove(fc.tuple(anySection, anySection), (both) => {
    const travel = [{ from: 'main', to: 'works', minutes: 25 }]
    const courses = courseMap(course('AAA 100'), course('BBB 100'))
    const sections = both.map(({ start, days, first, last, site, exam }, n) => section(n + 1, n ? 'BBB 100' : 'AAA 100', {
      meetings: first < last ? [meeting(start * 60, { days: [...days], first, last, site })] : [],
      exam: exam && { date: exam.date, start: exam.start * 60, end: exam.start * 60 + 120 } }))
    const places = sections.map(one => ({ course: one.course, choices: bundlesOf({ code: one.course, parts: ['lecture'] }, [one])
      .map(bundle => ({ ...bundle, seats: 5 })) }))
    const { options, compatible } = compileWeeks({ courses: places, pins: {}, wishes: [], term: NEXT, travel })
    // A section whose exam meets its own class is in no week.
    if (options.length < 2) return
    const run = decideRun([row(1, 'AAA 100', [1]), row(2, 'BBB 100', [2])], decision(courses, sections, { travel }))
    same((compatible[0]![0]! & 2) !== 0, run[1]!.findings.every(finding => finding.code !== 'clash' || finding.ok), 'beside each other')
  }),
}

const WISHES: DraftWishes = { load: null, termsOff: [], latestFinish: null, summers: 'when needed', around: 'pinned' }

const finishIsBound: Law = {
  name: 'no draft finishes before the earliest finish',
  runs: 250,
  check: prove(fc.tuple(anyCourses({ rules: true }), anyRecord(), anyProgram), ([courses, loose, program]) => {
    const all = catalog(courses, { terms: TERMS, programs: [program] })
    const file = studentOf(withCredits(loose, courses))
    const drafted = draftRest({ file, catalog: all, today: TODAY, wishes: WISHES })
    if (drafted.kind !== 'drafts') return
    const { reach, input } = reachOf(file, all, TODAY)
    const [report] = readPrograms([program], file.record, file, all).reports
    const { at } = earliestFinish(report!, reach, input)
    for (const draft of drafted.drafts) {
      const finish = reach.terms.findIndex(one => one.code === draft.finish)
      if (at === null || finish < at) throw new Error(`a draft finishes in ${draft.finish}, the earliest finish is ${at}`)
    }
  }),
}

/** Every way to place some of the courses in the terms ahead, fewest courses first. */
function* placements(codes: readonly string[], most: number): Generator<{ code: string, at: string }[]> {
  function* choose(from: number, left: number): Generator<string[]> {
    if (left === 0) return yield []
    for (let i = from; i <= codes.length - left; i++) for (const rest of choose(i + 1, left - 1)) yield [codes[i]!, ...rest]
  }
  function* place(list: readonly string[]): Generator<{ code: string, at: string }[]> {
    const [code, ...others] = list
    if (code === undefined) return yield []
    for (const { code: at } of AHEAD) for (const rest of place(others)) yield [{ code, at }, ...rest]
  }
  for (let size = 0; size <= most; size++) for (const list of choose(0, size)) yield* place(list)
}

const draftsAreSound: Law = {
  name: 'a draft is called impossible, or the shortest, only where trying every plan of three courses finds nothing against it',
  runs: 60,
  check: prove(fc.tuple(anyCourses({ rules: true }), anyRecord(), anyProgram), ([courses, loose, program]) => {
    const all = catalog(courses, { terms: TERMS, programs: [program] })
    const file = studentOf(withCredits(loose, courses))
    const drafted = draftRest({ file, catalog: all, today: TODAY, wishes: WISHES })
    if (drafted.kind === 'nothing open') return
    const isProved = drafted.kind === 'impossible' && drafted.reason.proved
    const shortest = drafted.kind === 'drafts' && drafted.drafts[0]!.shortest ? drafted.drafts[0]!.finish : null
    if (!isProved && shortest === null) return
    const slotOf = (code: string) => AHEAD.findIndex(one => one.code === code)
    for (const plan of placements(CODES, 3)) {
      if (shortest !== null && plan.some(one => slotOf(one.at) >= slotOf(shortest))) continue
      const entries = plan.flatMap(({ code, at }) => plannedIn([code], at, courses))
      const standing = readStanding({ ...file, entries }, all, TODAY)
      if (standing.open > 0 || standing.checks.some(check => check.severity === 'blocker')) continue
      const words = plan.map(one => `${one.code} ${one.at}`).join(', ')
      throw new Error(`${shortest ? `finished before ${shortest}` : 'a plan there is'}: ${words}`)
    }
  }),
}

const setsAreSmallest: Law = {
  name: 'a smallest set meets its requirement, and no single course does where a set of two is called the smallest',
  runs: 400,
  check: prove(fc.tuple(anyCourses({ rules: false }), anyRecord(), anyProgram), ([courses, loose, program]) => {
    const all = catalog(courses, { terms: TERMS, programs: [program] })
    const file = studentOf(withCredits(loose, courses))
    const standing = readStanding(file, all, TODAY)
    const { reach } = reachOf(file, all, TODAY)
    const openWith = (codes: readonly string[], id: string) => {
      const with_ = readStanding({ ...file, entries: plannedIn(codes, '2028SP', courses) }, all, TODAY)
      const lines = with_.reports[0]!.areas.flatMap(area => area.lines)
      const others = lines.reduce((sum, one) => one.id === id || one.setAside ? sum : sum + one.open, 0)
      return { open: lines.find(one => one.id === id)!.open, others }
    }
    for (const { id, open, setAside } of standing.reports[0]!.areas.flatMap(area => area.lines)) {
      if (open === 0 || setAside) continue
      const found = smallestSet(standing.asked, standing.reports, 0, id, { reach, facts: factsOf(file, standing.items) })
      const before = openWith([], id).others
      const meets = (codes: readonly string[]) => {
        const after = openWith(codes, id)
        return after.open === 0 && after.others <= before
      }
      const single = CODES.filter(code => meets([code]))
      if (found && !meets(found.courses)) throw new Error(`${found.courses.join(', ')} do not meet ${id}`)
      if (found?.proved && found.courses.length > 1 && single.length > 0) throw new Error(`${single[0]} alone meets ${id}`)
      if (!found && single.length > 0) throw new Error(`nothing was found for ${id}, and ${single[0]} meets it`)
    }
  }),
}

export const LAWS: readonly Law[] = [checkIsRegistration, oneRunIsTwo, weeksAreRegistration, finishIsBound, draftsAreSound, setsAreSmallest]
