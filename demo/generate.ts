import { type Course, type CourseItem, isOffered, type Section, type Term, termOrder } from '@ridgeway/core/catalog'
import { LETTER_SCALE } from '@ridgeway/core/grades'
import { readCourseRules } from '@ridgeway/core/prerequisites'
import { NO_GRADES_ASKED } from '@ridgeway/core/record'
import { decideRun, freeSeats } from '@ridgeway/core/registration'
import { type Bundle, bundlesOf, clashBetween } from '@ridgeway/core/weeks'
import { FAMILY_NAMES, GIVEN_NAMES } from './people'
import { findProgram } from './programs'
import type { Random } from './random'
import { TRAVEL } from './calendar'

export interface GeneratedStudent {
  name: string
  username: string
  /** Programs with their catalog year. */
  programs: string[]
  record: Omit<CourseItem, 'id'>[]
  /** Courses planned for the coming term. */
  planned: string[]
  bundles: Bundle[]
  waitlisted: number[]
}

const GRADES = ['A', 'A-', 'B+', 'B', 'B', 'B-', 'C+', 'C', 'C', 'C-', 'D', 'F', 'W']
/** Of ten students, six are in Watershed Science; the others spread over the other degrees. */
const DEGREES = ['WSC-BS', 'WSC-BS', 'UPH-BA', 'WSC-BS', 'TIM-BS', 'WSC-BS', 'WSC-BS', 'GFT-AAS', 'WSC-BS', 'UPH-BA']
const FALL_AND_SPRING = (terms: readonly Term[]) => terms.filter(term => term.season !== 'summer')

export interface Generating {
  /** Names that are given away. */
  names?: readonly string[]
  /** How many students there are already. */
  from?: number
  /** Courses for which somebody may wait whose section is full. */
  mayWait?: (course: string) => boolean
}

/** Students who follow the suggested sequence with detours; seniors are registered for the coming term and fill its seats. */
export function generateStudents(count: number, terms: readonly Term[], courses: ReadonlyMap<string, Course>, sections: readonly Section[],
  random: Random, { names: given = [], from = 0, mayWait = () => true }: Generating = {}): GeneratedStudent[] {
  const past = FALL_AND_SPRING(terms).filter(term => termOrder(term.code) <= 20263)
  const coming = terms.find(term => term.code === '2027SP')!
  const names = new Set<string>(given)
  return Array.from({ length: count }, (_, i) => {
    const index = from + i
    const name = freshName(names, random)
    names.add(name)
    const semesters = 1 + index % past.length
    const degree = `${DEGREES[index % DEGREES.length]}-2025`
    const record = generateRecord(past.slice(-semesters), courses, random, degree)
    const planned = nextCourses(record, coming, courses, random, degree)
    const earned = record.reduce((sum, item) => sum + (item.state === 'completed' && LETTER_SCALE[item.grade!]?.earns ? item.credits : 0),
      0)
    const student: GeneratedStudent = { name, programs: [degree, 'TSS-CERT-2025'], username: `s${String(index + 1).padStart(4, '0')}`,
      record, planned, bundles: [], waitlisted: [] }
    if (earned >= 6000) register(student, coming, courses, sections, random, mayWait)
    return student
  })
}

function freshName(taken: ReadonlySet<string>, random: Random): string {
  for (let tries = 0; ; tries++) {
    // In a crowd two of the same name are told apart by a letter between.
    const letter = tries < 5 ? '' : `${random.pick([...'ABCDEFGHJKLMNPRSTW'])}. `
    const name = `${random.pick(GIVEN_NAMES)} ${letter}${random.pick(FAMILY_NAMES)}`
    if (!taken.has(name)) return name
  }
}

function generateRecord(terms: readonly Term[], courses: ReadonlyMap<string, Course>, random: Random,
  degree: string): GeneratedStudent['record'] {
  const record: GeneratedStudent['record'] = []
  terms.forEach((term, index) => {
    const underWay = index === terms.length - 1
    for (const code of nextCourses(record, term, courses, random, degree)) {
      record.push({ course: code, term: term.code, credits: courses.get(code)!.credits, grade: underWay ? null : random.pick(GRADES),
        state: underWay ? 'under way' : 'completed', source: 'here' })
    }
  })
  return record
}

/** The next courses of the sequence (with a detour now and then) that the record allows and the term offers. */
function nextCourses(record: GeneratedStudent['record'], term: Term, courses: ReadonlyMap<string, Course>, random: Random,
  degree: string): string[] {
  const items = record.map((item, i) => ({ ...item, id: String(i) }))
  const had = new Set(items.filter(item => item.state !== 'completed' || LETTER_SCALE[item.grade!]?.earns).map(item => item.course))
  const sequence = findProgram(degree).suggested.flatMap(step => step.courses)
  const detours = random.shuffle([...courses.keys()].filter(code => courses.get(code)!.number < 260 && !courses.get(code)!.offered.until))
    .slice(0, 6)
  const chosen: string[] = []
  let credits = 0
  for (const code of [...sequence, ...detours]) {
    const course = courses.get(code)!
    if (had.has(code) || chosen.includes(code) || !isOffered(course, term) || credits + course.credits > 1600 || random.chance(0.15))
      continue
    if (course.exclusions.some(other => had.has(other) || chosen.includes(other))) continue
    if (!allowed(course, term, items, courses)) continue
    chosen.push(code)
    credits += course.credits
    if (credits >= 1300) break
  }
  return chosen
}

function allowed(course: Course, term: Term, items: readonly CourseItem[], courses: ReadonlyMap<string, Course>): boolean {
  const facts = { items, programs: ['WSC-BS'], placements: { MTH: 70 }, permissions: [] }
  const { before, beside } = readCourseRules(course, term.code, facts, { courses, scale: LETTER_SCALE, repeatPolicy: 'best' })
  return before?.firmness !== 'unmet' && beside?.firmness !== 'unmet'
}

/** Seats are taken only where the registration's own decision says so. */
function register(student: GeneratedStudent, term: Term, courses: ReadonlyMap<string, Course>, sections: readonly Section[],
  random: Random, mayWait: (course: string) => boolean) {
  const items: CourseItem[] = student.record.map((item, i) => ({ ...item, id: String(i) }))
  const byId = new Map(sections.map(section => [section.id, section]))
  for (const code of student.planned) {
    for (const bundle of random.shuffle(bundlesOf(courses.get(code)!, sections)).slice(0, 3)) {
      const [decision] = decideRun([{ id: 1, course: code, sectionIds: bundle.sections.map(section => section.id), credits: null }], {
        term,
        gates: [],
        courses,
        sections: byId,
        scale: LETTER_SCALE,
        repeatPolicy: 'best',
        travel: TRAVEL,
        terms: [term],
        asked: NO_GRADES_ASKED,
        items,
        programs: ['WSC-BS', 'TSS-CERT'],
        placements: { MTH: 70 },
        permissions: [],
        loadCap: term.loadCap,
        registered: student.bundles.flatMap(held => held.sections),
      })
      const full = bundle.sections.find(section => section.pools.every(pool => freeSeats(pool) === 0))
      if (decision!.outcome === 'refused') {
        const clashes = student.bundles.some(held => clashBetween(held.sections, bundle.sections, term, TRAVEL))
        const waits = full && !clashes && full.waiting < full.waitlistCapacity && student.waitlisted.length === 0 && mayWait(code)
        if (waits && random.chance(0.5)) {
          full.waiting++
          student.waitlisted.push(full.id)
        }
        continue
      }
      for (const claim of decision!.claims) byId.get(claim.sectionId)!.pools.find(pool => pool.id === claim.poolId)!.taken++
      student.bundles.push(bundle)
      break
    }
  }
}
