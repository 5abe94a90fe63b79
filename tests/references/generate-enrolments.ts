import { type Course, isOffered, type Season, type Term, termOrder } from '@ridgeway/core/catalog'
import type { Enrolment, ForecastStudent } from '@ridgeway/core/demand'
import { coursesIn, ruleOf } from '@ridgeway/core/prerequisites'
import type { Random } from '../../demo/random'
import { course, term } from '../builders'

/** A college that is lived through term by term: who enters, goes on, passes, and leaves is known, and so is what a term will have. */
export interface LivedCollege {
  courses: ReadonlyMap<string, Course>
  sequences: ReadonlyMap<string, readonly string[]>
  terms: readonly Term[]
  students: readonly ForecastStudent[]
}

const DEGREES = ['AAA-BS', 'BBB-BS', 'CCC-BA']
const SUBJECTS = ['AAA', 'BBB', 'CCC', 'GEN']
const YEARS = 7

/**
 * Courses in four subjects, each resting on one or two before it; three degrees with a sequence of thirty-two each. Each fall and spring
 * students come in, whose number drifts by up to a fifth a year for each degree by itself; each takes four or five courses near the front
 * of the sequence, passes most of them, and leaves when it is through, or before with a chance of one in thirty.
 */
export function liveThrough(random: Random): LivedCollege {
  const courses = makeCourses(random)
  const sequences = new Map(DEGREES.map((degree, i) => [degree, makeSequence(SUBJECTS[i]!, courses, random)]))
  const terms = Array.from({ length: YEARS }, (_, i) => [term(`${2020 + i}SP`), term(`${2020 + i}FA`)]).flat()
    .sort((a, b) => termOrder(a.code) - termOrder(b.code))
  const students: { degree: string, enrolments: Enrolment[], isHere: boolean }[] = []
  const intake = new Map(DEGREES.map(degree => [degree, random.between(25, 60)]))
  for (const now of terms) {
    for (const [degree, usual] of intake) {
      const coming = Math.round(usual * (now.season === 'fall' ? 1 : 0.25) * random.between(92, 108) / 100)
      for (let i = 0; i < coming; i++) students.push({ degree, enrolments: [], isHere: true })
      if (now.season === 'fall') intake.set(degree, Math.max(8, usual * random.between(82, 120) / 100))
    }
    for (const student of students) {
      if (!student.isHere) continue
      const taking = nextOf(student.enrolments, sequences.get(student.degree)!, courses, now, random)
      for (const code of taking) student.enrolments.push({ course: code, term: now.code, earns: random.chance(0.9) })
      student.isHere = taking.length > 0 && !random.chance(1 / 30)
    }
  }
  return { courses, sequences, terms, students }
}

function makeCourses(random: Random): Map<string, Course> {
  const courses = new Map<string, Course>()
  for (const subject of SUBJECTS) for (let n = 0; n < 24; n++) {
    const before = n < 4 ? [] : Array.from({ length: random.between(0, 2) }, () => `${subject} ${100 + random.between(0, n - 2) * 10}`)
    const seasons: Season[] = random.chance(0.5) ? ['fall', 'spring'] : [random.pick<Season>(['fall', 'spring'])]
    const code = `${subject} ${100 + n * 10}`
    courses.set(code, course(code, { prerequisite: [...new Set(before)].join(' and '), offered: { seasons } }))
  }
  return courses
}

function makeSequence(subject: string, courses: ReadonlyMap<string, Course>, random: Random): string[] {
  const own = [...courses.keys()].filter(code => code.startsWith(subject))
  const general = random.shuffle([...courses.keys()].filter(code => code.startsWith('GEN'))).slice(0, 8).sort()
  return own.flatMap((code, i) => i % 3 === 2 && general[(i - 2) / 3] ? [code, general[(i - 2) / 3]!] : [code])
}

function nextOf(enrolments: readonly Enrolment[], sequence: readonly string[], courses: ReadonlyMap<string, Course>, now: Term,
  random: Random): string[] {
  const had = new Set(enrolments.filter(one => one.earns).map(one => one.course))
  const load = random.between(4, 5)
  const taking: string[] = []
  for (const code of sequence) {
    const one = courses.get(code)!
    const open = [...coursesIn(ruleOf(one.prerequisite))].every(before => had.has(before) || !sequence.includes(before))
    if (had.has(code) || !isOffered(one, now) || !open || random.chance(0.2)) continue
    taking.push(code)
    if (taking.length === load) break
  }
  return taking
}
