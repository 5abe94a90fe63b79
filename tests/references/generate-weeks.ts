import type { Section, Weekday } from '@ridgeway/core/catalog'
import type { ArrangeInput, Choice, Weight, Wish } from '@ridgeway/core/weeks'
import { TERMS, TRAVEL } from '../../demo/calendar'
import type { Random } from '../../demo/random'
import { section } from '../builders'

/** A spring with halves, days without classes and a moved day. */
const SPRING = TERMS.find(term => term.code === '2027SP')!
const PATTERNS: Weekday[][] = [['M', 'W'], ['T', 'R'], ['M', 'W', 'F'], ['T'], ['F'], ['R'], ['M']]
const STARTS = [480, 540, 570, 600, 660, 720, 780, 840, 870, 960, 1020]
const SITES = ['larkmoor', 'larkmoor', 'larkmoor', 'stonegate', 'online']
const INSTRUCTORS = ['Roxby', 'Oake', 'Greave']

/** Courses with bundles of lectures, some with labs, some in halves of the term, at several sites and online. */
export function generateWeeks(random: Random, size: { courses: number, fewest: number, most: number }, wishes = generateWishes(random)):
ArrangeInput {
  let id = 0
  const sessions = new Map(SPRING.sessions.map(session => [session.code, session]))
  function part(course: string, kind: Section['part'], session: string): Section {
    const { start: first, end: last } = sessions.get(session)!
    const site = random.pick(SITES)
    const start = random.pick(STARTS)
    const days = kind === 'lab' ? [random.pick(['M', 'T', 'W', 'R', 'F'] as Weekday[])] : random.pick(PATTERNS)
    const any = site === 'online' && random.chance(0.4)
    return section(++id, course, { part: kind, session, instructors: [random.pick(INSTRUCTORS)],
      delivery: site !== 'online' ? 'on site' : any ? 'online any time' : 'online live',
      meetings: any ? [] : [{ days, start, end: start + (kind === 'lab' ? 110 : random.pick([50, 75])), first, last, site, room: '1' }] })
  }
  const courses = Array.from({ length: size.courses }, (_, c) => {
    const course = `CRS ${100 + c}`
    const hasLab = random.chance(0.3)
    const choices = Array.from({ length: random.between(size.fewest, size.most) }, (_, i): Choice => {
      const session = random.pick(['full', 'full', 'full', 'first', 'second'])
      // Every other course has bundles in two groups.
      const group = c % 2 === 0 && i < 2 ? `G${i + 1}` : ''
      const sections = [part(course, 'lecture', session), ...hasLab ? [part(course, 'lab', session)] : []].map(one => ({ ...one, group }))
      return { id: sections.map(one => one.id).join('+'), sections, seats: random.between(0, 20) }
    })
    return { course, choices }
  })
  return { courses, pins: {}, wishes, term: SPRING, travel: TRAVEL }
}

/** Some of every kind of wish; a third of the terms with a pass for gaps. */
export function generateWishes(random: Random, hard = 0.2): Wish[] {
  const weight = (): Weight => random.chance(hard) ? 'hard' : random.between(1, 5) as Weight
  const soft = () => random.between(1, 5) as Exclude<Weight, 'hard'>
  const all: Wish[] = [
    { id: 'earliest', kind: 'earliest', at: 600, weight: weight() },
    { id: 'latest', kind: 'latest', at: 930, weight: weight() },
    { id: 'off', kind: 'day off', day: random.pick(['F', 'M', 'W'] as Weekday[]), weight: weight() },
    { id: 'free', kind: 'keep free', days: ['T', 'R'], start: 780, end: 900, weight: weight() },
    { id: 'site', kind: 'avoid site', site: 'stonegate', weight: weight() },
    { id: 'delivery', kind: 'avoid delivery', delivery: 'online live', weight: weight() },
    { id: 'who', kind: 'instructor', name: 'Oake', weight: soft() },
    { id: 'group', kind: 'group', group: 'G1', weight: weight() },
    { id: 'seats', kind: 'seats left', least: 5, weight: weight() },
    { id: 'days', kind: 'fewer days', weight: soft() },
    { id: 'gaps', kind: 'fewer gaps', pass: random.chance(0.35) ? 30 : 0, weight: soft() },
    { id: 'travel', kind: 'less travel', weight: soft() },
  ]
  return all.filter(() => random.chance(0.5))
}

/** The same term where one or two places are for any of the last two courses, as a plan holds them; at times these exclude each other. */
export function withPlaceholders(input: ArrangeInput, random: Random): ArrangeInput {
  const [courses, either] = [input.courses.slice(0, -2), input.courses.slice(-2)]
  const choices = either.flatMap(one => one.choices)
  const names = random.chance(0.5) ? ['one of A'] : ['one of A', 'one of B']
  return { ...input, courses: [...courses, ...names.map(course => ({ course, choices }))],
    apart: random.chance(0.3) ? [[either[0]!.course, either[1]!.course]] : [] }
}
