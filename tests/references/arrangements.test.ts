import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Weekday } from '@ridgeway/core/catalog'
import {
  type ArrangeInput, backupsFor, breaksWish, type Choice, choicesOf, clashBetween, clashWithin, compileWeeks, countWeeks, expandSection,
  hiddenBy, searchWeeks, smallestChange, smallestConflict,
} from '@ridgeway/core/weeks'
import { Random } from '../../demo/random'
import { generateWeeks, generateWishes, withPlaceholders } from './generate-weeks'
import { loadHighs } from './ilp'
import { programOf } from './weeks-ilp'

/**
 * Weeks against brute force on small terms: every combination is made and priced on its real dates, day by day, without any of the
 * tables, bounds and bit rows of the search; and against an integer programme where brute force would take too long.
 */
const ORDER: Weekday[] = ['M', 'T', 'W', 'R', 'F', 'S', 'U']
const weekday = (date: string): Weekday => ORDER[(new Date(`${date}T00:00:00Z`).getUTCDay() + 6) % 7]!

interface Plain { choices: Choice[], ranks: number[], cost: number }

function priceOf(chosen: readonly Choice[], input: ArrangeInput): number {
  const sections = chosen.flatMap(choice => choice.sections)
  const moved = new Map(input.term.movedDays.map(day => [day.date, day.follows]))
  const dates = new Map<string, { start: number, end: number, site: string, onSite: boolean }[]>()
  for (const one of sections)
    for (const { date, start, end, site } of expandSection(one, input.term as never))
      dates.set(date, [...dates.get(date) ?? [], { start, end, site, onSite: one.delivery === 'on site' }])
  let cost = 0
  for (const wish of input.wishes) {
    const { weight } = wish
    if (weight === 'hard') continue
    const add = (price: number) => cost += weight * price
    if (wish.kind === 'avoid delivery') add(60 * sections.filter(one => one.delivery === wish.delivery).length)
    if (wish.kind === 'instructor') for (const choice of chosen) add(breaksWish(wish, choice) ? 60 : 0)
    if (wish.kind === 'group') for (const choice of chosen) add(breaksWish(wish, choice, besides(choice, input)) ? 60 : 0)
    if (wish.kind === 'seats left') for (const choice of chosen) add(10 * Math.max(0, wish.least - choice.seats))
    for (const [date, list] of dates) {
      const day = moved.get(date) ?? weekday(date)
      const classes = list.sort((a, b) => a.start - b.start)
      const onSite = classes.filter(one => one.onSite)
      if (wish.kind === 'earliest') add(Math.max(0, wish.at - classes[0]!.start))
      if (wish.kind === 'latest') add(Math.max(0, Math.max(...classes.map(one => one.end)) - wish.at))
      if (wish.kind === 'day off' && wish.day === day) add(120)
      if (wish.kind === 'fewer days' && onSite.length > 0) add(120)
      if (wish.kind === 'keep free' && wish.days.includes(day))
        for (const one of classes) add(Math.max(0, Math.min(one.end, wish.end) - Math.max(one.start, wish.start)))
      if (wish.kind === 'avoid site') add(30 * classes.filter(one => one.site === wish.site).length)
      if (wish.kind === 'fewer gaps') classes.slice(1).forEach((one, i) => add(Math.max(0, one.start - classes[i]!.end - wish.pass)))
      if (wish.kind === 'less travel')
        onSite.slice(1).forEach((one, i) => add(input.travel.find(way =>
          [`${way.from} ${way.to}`, `${way.to} ${way.from}`].includes(`${onSite[i]!.site} ${one.site}`))?.minutes ?? 0))
    }
  }
  return cost
}

/** All bundles of the place in which a bundle stands. */
const besides = (choice: Choice, input: ArrangeInput) => input.courses.find(one => one.choices.includes(choice))!.choices
const courseOf = (choice: Choice) => choice.sections[0]!.course
/** Whether two bundles may be taken beside each other as far as their courses go. */
const mayBoth = (a: Choice, b: Choice, { apart = [] }: ArrangeInput) => courseOf(a) !== courseOf(b)
  && !apart.some(pair => pair.includes(courseOf(a)) && pair.includes(courseOf(b)))

/** All weeks that stand, the best first; equal ones by the sum of their ranks, then by the ranks in the order of the codes. */
function bruteForce(input: ArrangeInput): Plain[] {
  const courses = [...input.courses].sort((a, b) => a.course < b.course ? -1 : 1)
  const hard = input.wishes.filter(wish => wish.weight === 'hard')
  let partial: Omit<Plain, 'cost'>[] = [{ choices: [], ranks: [] }]
  for (const [place, { course, choices }] of courses.entries())
    partial = partial.flatMap(week => choices.flatMap((choice, rank) =>
      (input.pins[course] ?? choice.id) === choice.id && !hard.some(wish => breaksWish(wish, choice, choices))
      && week.choices.every(other => mayBoth(other, choice, input))
      // Two places for one of the same courses: one of the two orders stands for both.
      && week.choices.every((other, i) => courses[i]!.choices !== courses[place]!.choices || courseOf(other) < courseOf(choice))
      && !clashWithin(choice.sections, input.term as never, input.travel)
      && week.choices.every(other => !clashBetween(other.sections, choice.sections, input.term as never, input.travel))
        ? [{ choices: [...week.choices, choice], ranks: [...week.ranks, rank] }]
        : []))
  const sum = (list: readonly number[]) => list.reduce((total, one) => total + one, 0)
  return partial.map(week => ({ ...week, cost: priceOf(week.choices, input) })).sort((a, b) =>
    a.cost - b.cost || sum(a.ranks) - sum(b.ranks) || a.ranks.map((rank, i) => rank - b.ranks[i]!).find(Boolean) || 0)
}
const best = (input: ArrangeInput, k = 50) => {
  const problem = compileWeeks(input)
  const { weeks, proved } = searchWeeks(problem, { best: k })
  expect(proved).toBe(true)
  return weeks.map(week => ({ cost: week.cost, ids: Object.values(choicesOf(problem, week)) }))
}
const small = fc.integer({ min: 1, max: 1e9 }).map((seed) => {
  const random = new Random(seed)
  return generateWeeks(random, { courses: random.between(2, 4), fewest: 2, most: 6 })
})

describe('the best weeks', () => {
  it('are those of brute force, with their costs and in its order, and as many as it counts', () => {
    fc.assert(fc.property(small, (input) => {
      const all = bruteForce(input)
      expect(best(input)).toEqual(all.slice(0, 50).map(week => ({ cost: week.cost, ids: week.choices.map(choice => choice.id) })))
      expect(countWeeks(compileWeeks(input))).toEqual({ count: all.length, atLeast: false })
    }), { numRuns: 60 })
  })

  it('do not depend on the order in which courses and wishes are given', () => {
    fc.assert(fc.property(small, fc.integer(), (input, seed) => {
      const random = new Random(seed)
      const turned = { ...input, courses: random.shuffle(input.courses), wishes: random.shuffle(input.wishes) }
      expect(best(turned)).toEqual(best(input))
    }), { numRuns: 30 })
  })

  it('keep what is pinned, and say how many weeks each hard wish hides', () => {
    fc.assert(fc.property(small, (input) => {
      const { course, choices } = input.courses[0]!
      const pinned = { ...input, pins: { [course]: choices[0]!.id } }
      expect(best(pinned, 5).map(week => week.ids)).toEqual(bruteForce(pinned).slice(0, 5).map(week => week.choices.map(one => one.id)))
      const now = bruteForce(input).length
      for (const [id, hidden] of Object.entries(hiddenBy(compileWeeks(input)).hidden))
        expect(hidden).toBe(bruteForce({ ...input, wishes: input.wishes.filter(wish => wish.id !== id) }).length - now)
    }), { numRuns: 25 })
  })

  it('fill the places of placeholders with different courses, each week once', () => {
    let met = 0
    fc.assert(fc.property(fc.integer({ min: 1, max: 1e9 }), (seed) => {
      const random = new Random(seed)
      const input = withPlaceholders(generateWeeks(random, { courses: random.between(3, 4), fewest: 2, most: 4 }), random)
      const all = bruteForce(input)
      if (all.length > 0 && input.courses.length > 2) met++
      expect(best(input)).toEqual(all.slice(0, 50).map(week => ({ cost: week.cost, ids: week.choices.map(choice => choice.id) })))
      expect(countWeeks(compileWeeks(input)).count).toBe(all.length)
    }), { numRuns: 60 })
    expect(met).toBeGreaterThan(10)
  })

  it('carry backups of the same course, each of which fits beside the other choices, and none is left out', () => {
    let found = 0
    fc.assert(fc.property(small, (input) => {
      const problem = compileWeeks(input)
      const [week] = searchWeeks(problem, { best: 1 }).weeks
      if (!week) return
      const chosen = choicesOf(problem, week)
      const backups = backupsFor(problem, week, 99)
      // Every week that differs in one place only is one in which a backup was taken.
      for (const { course, choices } of input.courses) {
        const alone = choices.filter(choice => choice.id !== chosen[course] && bruteForce({ ...input,
          courses: input.courses.map(one => ({ ...one,
            choices: one.choices.filter(other => other.id === (one.course === course ? choice.id : chosen[one.course])) })),
          // A group that is wished for may be that of the bundles left out here: it is judged beside all of them below.
          wishes: input.wishes.filter(wish => wish.kind !== 'group') }).length > 0
          && !input.wishes.some(wish => wish.weight === 'hard' && breaksWish(wish, choice, choices)))
        found += alone.length
        expect([...backups[course] ?? []].sort()).toEqual(alone.map(choice => choice.id).sort())
      }
    }), { numRuns: 60 })
    expect(found).toBeGreaterThan(50)
  })

  it('have the value of an integer programme where every combination cannot be tried, gaps and travel among the wishes', async () => {
    const highs = await loadHighs()
    for (const seed of [3, 5, 8, 13, 21, 34]) {
      const random = new Random(seed)
      const input = generateWeeks(random, { courses: 5, fewest: 7, most: 10 }, generateWishes(random, 0))
      const problem = compileWeeks(input)
      const { weeks } = searchWeeks(problem, { best: 1 })
      const solved = highs.solve(programOf(problem))
      expect(solved.Status).toBe('Optimal')
      expect(weeks[0]!.cost).toBeCloseTo(solved.ObjectiveValue, 3)
    }
  })
})

describe('when no week stands', () => {
  /** Terms so tight that often nothing stands. */
  const tight = fc.integer({ min: 1, max: 1e9 }).map((seed) => {
    const random = new Random(seed)
    const input = generateWeeks(random, { courses: random.between(2, 4), fewest: 1, most: 3 }, generateWishes(random, 0.8))
    return random.chance(0.4) ? { ...input, pins: { [input.courses[0]!.course]: input.courses[0]!.choices[0]!.id } } : input
  })
  type Parts = { courses: string[], wishes: string[], pins: string[] }
  const partsOf = (input: ArrangeInput): Parts => ({ courses: input.courses.map(one => one.course),
    wishes: input.wishes.flatMap(wish => wish.weight === 'hard' ? [wish.id] : []), pins: Object.keys(input.pins) })
  const stands = (input: ArrangeInput, parts: Parts) => bruteForce({ ...input,
    courses: input.courses.filter(one => parts.courses.includes(one.course)),
    wishes: input.wishes.filter(wish => wish.weight !== 'hard' || parts.wishes.includes(wish.id)),
    pins: Object.fromEntries(Object.entries(input.pins).filter(([course]) => parts.pins.includes(course))) }).length > 0

  it('the conflict named is one, loses it with any member, and is of the fewest', () => {
    let met = 0
    fc.assert(fc.property(tight, (input) => {
      const conflict = smallestConflict(input)
      if (bruteForce(input).length > 0) {
        expect(conflict).toBeNull()
        return
      }
      met++
      const all = partsOf(input)
      const flat = [...all.courses.map(name => ['courses', name]), ...all.wishes.map(name => ['wishes', name]),
        ...all.pins.map(name => ['pins', name])] as [keyof Parts, string][]
      const partsFrom = (list: readonly (readonly [keyof Parts, string])[]): Parts => ({
        courses: list.flatMap(([kind, name]) => kind === 'courses' ? [name] : []),
        wishes: list.flatMap(([kind, name]) => kind === 'wishes' ? [name] : []),
        pins: list.flatMap(([kind, name]) => kind === 'pins' ? [name] : []) })
      const named = conflict!.elements.map(element => element.kind === 'wish'
        ? ['wishes', element.wish.id] as const
        : [element.kind === 'pin' ? 'pins' : 'courses', element.course] as const)
      expect(stands(input, partsFrom(named))).toBe(false)
      for (const member of named) expect(stands(input, partsFrom(named.filter(other => other !== member)))).toBe(true)
      // No smaller set of elements cannot hold together.
      for (let bits = 0; bits < 2 ** flat.length; bits++) {
        const some = flat.filter((_, i) => bits & (1 << i))
        if (some.length < named.length) expect(stands(input, partsFrom(some))).toBe(true)
      }
      for (const { element, weeks } of conflict!.frees) {
        const without = flat.filter(([kind, name]) => element.kind === 'wish'
          ? !(kind === 'wishes' && name === element.wish.id)
          : !(kind === (element.kind === 'pin' ? 'pins' : 'courses') && name === element.course))
        expect(stands(input, partsFrom(without)) && weeks > 0).toBe(true)
      }
    }), { numRuns: 60 })
    expect(met).toBeGreaterThan(10)
  })
})

describe('the smallest change', () => {
  it('exchanges as few bundles as brute force finds possible, and of those weeks makes the best', () => {
    fc.assert(fc.property(small, fc.integer(), (input, seed) => {
      const random = new Random(seed)
      const picked = Object.fromEntries(input.courses.map(({ course, choices }) => [course, random.pick(choices).id]))
      const all = bruteForce(input)
      const change = smallestChange(input, picked)
      if (all.length === 0) {
        expect(change).toBeNull()
        return
      }
      const courses = input.courses.map(one => one.course).sort()
      const exchanges = (week: Plain) => week.choices.filter((choice, i) => picked[courses[i]!] !== choice.id).length
      const fewest = Math.min(...all.map(exchanges))
      expect(change!.exchanged.length).toBe(fewest)
      const [first] = all.filter(week => exchanges(week) === fewest)
      expect(Object.values(change!.choices)).toEqual(first!.choices.map(choice => choice.id))
    }), { numRuns: 50 })
  })
})
