import {
  choicesOf, compileWeeks, countWeeks, searchWeeks, smallestChange, smallestConflict, type Wish,
} from '@ridgeway/core/weeks'
import { Random } from '../../demo/random'
import { generateWeeks, generateWishes } from '../../tests/references/generate-weeks'
import { loadHighs } from '../../tests/references/ilp'
import { programOf } from '../../tests/references/weeks-ilp'
import { type Figure, median, quantile, round, time } from './figure'

const CASES = 100
const REFERENCE_CASES = 5
const REFERENCE_SECONDS = 30
const CONFLICTS = 20

/** Processor time of a piece of work, in milliseconds. */
function spent<T>(work: () => T): { ms: number, result: T } {
  const before = process.cpuUsage()
  const result = work()
  const { user, system } = process.cpuUsage(before)
  return { ms: (user + system) / 1000, result }
}

/** Arrangements of six courses with 25 to 40 bundles each: the best fifty, the first, how many, why none, and the smallest change. */
export async function benchArrangements(): Promise<Figure[]> {
  const size = { courses: 6, fewest: 25, most: 40 }
  const terms = Array.from({ length: CASES }, (_, i) => {
    const random = new Random(4000 + i)
    return generateWeeks(random, size, generateWishes(random, 0))
  })
  // The compiler of the machine gets to know the code before anything is measured.
  for (const input of terms.slice(0, 5)) searchWeeks(compileWeeks(input), { best: 50 })
  const compiled = terms.map(input => spent(() => compileWeeks(input)))
  const best = compiled.map(({ result }) => spent(() => searchWeeks(result, { best: 50 })))
  const firsts = terms.map((input) => {
    const begun = performance.now()
    let first = 0
    searchWeeks(compileWeeks(input), { best: 50, found: () => first ||= performance.now() - begun, stop: () => first > 0 })
    return first
  })
  const counts = compiled.map(({ result }) => spent(() => countWeeks(result)).ms)
  const changes = terms.slice(0, 30).map((input, i) => {
    const week = best[i]!.result.weeks[0]
    const picked = week ? choicesOf(compiled[i]!.result, week) : {}
    const [course] = input.courses
    // The bundle of one course is taken away.
    return spent(() => smallestChange({ ...input, courses: input.courses.map(one => one === course
      ? { ...one, choices: one.choices.filter(choice => choice.id !== picked[course!.course]) }
      : one) }, picked)).ms
  })
  const conflicts: number[] = []
  for (let seed = 1; conflicts.length < CONFLICTS && seed < 400; seed++) {
    const random = new Random(90_000 + seed)
    const input = generateWeeks(random, { courses: 6, fewest: 2, most: 5 }, generateWishes(random, 0.9))
    const { ms, result } = spent(() => smallestConflict(input))
    if (result) conflicts.push(ms)
  }
  const highs = await loadHighs()
  // Terms in which waits or ways count, which are what makes weeks hard: what is linear an integer programme does well.
  const hard = (wishes: readonly Wish[]) => wishes.some(wish => wish.kind === 'fewer gaps' || wish.kind === 'less travel')
  const references = Array.from({ length: 50 }, (_, i) => new Random(7 + i)).map(random => ({ random, wishes: generateWishes(random, 0) }))
    .filter(one => hard(one.wishes)).slice(0, REFERENCE_CASES)
  const ratios = references.map(({ random, wishes }) => {
    const problem = compileWeeks(generateWeeks(random, size, wishes))
    // A programme that is not done when its time is over took at least so long.
    const solve = () => highs.solve(programOf(problem), { time_limit: REFERENCE_SECONDS })
    return time(solve).ms / Math.max(0.05, time(() => searchWeeks(problem, { best: 1 })).ms)
  })
  const times = best.map((run, i) => run.ms + compiled[i]!.ms)
  const reference = `${CASES} generated terms of 6 courses, 25 to 40 bundles each`
  const row = (name: string, value: number, limit: number): Figure =>
    ({ name, value: round(value), unit: 'ms', reference, ratio: round(value / limit), target: `≤ ${limit}`, ok: value <= limit })
  return [
    row('arrangements best 50, median', median(times), 40),
    row('arrangements best 50, worst', quantile(times, 1), 450),
    row('arrangements first result, p95', quantile(firsts, 0.95), 50),
    row('arrangements count, median', median(counts), 60),
    row('arrangements conflict, median', median(conflicts), 100),
    row('arrangements smallest change, median', median(changes), 30),
    { name: 'arrangements against HiGHS', value: round(median(ratios)), unit: '×', ratio: round(median(ratios)), target: '≥ 100',
      ok: median(ratios) >= 100, reference: `${REFERENCE_CASES} of such terms in which waits or ways count, the best week alone; a `
        + `programme is given ${REFERENCE_SECONDS} s` },
  ]
}
