import { forecastWithBacktest } from '@ridgeway/core/demand'
import { Random } from '../../demo/random'
import { liveThrough } from '../../tests/references/generate-enrolments'
import { type Figure, median, round, time } from './figure'

const COLLEGES = 12
const TARGET = '2026FA'
const KNOWN = '2026SP'

/** Forecasts of the last term of colleges that were lived through, against what came, and against taking last year's numbers. */
export function benchForecast(): Figure[] {
  const mean = (list: readonly number[]) => list.reduce((sum, one) => sum + one, 0) / list.length
  const runs = Array.from({ length: COLLEGES }, (_, i) => {
    const { students: all, ...college } = liveThrough(new Random(500 + i))
    const truth = new Map<string, number>()
    for (const { enrolments } of all) for (const { term, course } of enrolments) if (term === TARGET)
      truth.set(course, (truth.get(course) ?? 0) + 1)
    const students = all.map(one => ({ ...one, enrolments: one.enrolments.filter(of => of.term !== TARGET) }))
      .filter(one => one.enrolments.length > 0)
    const { ms, result } = time(() => forecastWithBacktest(TARGET, { students, ...college, known: KNOWN }))
    const off = (pick: (one: typeof result.courses[number]) => number) =>
      mean(result.courses.map(one => Math.abs(pick(one) - (truth.get(one.course) ?? 0))))
    const held = result.courses.filter(one => one.low! <= (truth.get(one.course) ?? 0) && (truth.get(one.course) ?? 0) <= one.high!)
    return { ms, off: off(one => one.expected), naive: off(one => one.lastYear ?? 0), within: held.length / result.courses.length,
      students: students.length }
  })
  const [off, naive] = [mean(runs.map(one => one.off)), mean(runs.map(one => one.naive))]
  const within = mean(runs.map(one => one.within))
  return [
    { name: 'forecast error', value: round(off), unit: 'students a course',
      reference: `as last year ${round(naive)}, over ${COLLEGES} colleges; nearer in ${runs.filter(one => one.off < one.naive).length}`,
      ratio: round(naive / off), target: '> 1', ok: off < naive },
    { name: 'forecast range', value: round(within), unit: 'of the truths lie within it', reference: 'said to hold eight times in ten',
      ratio: round(within / 0.8), target: '', ok: null },
    { name: 'forecast time', value: round(median(runs.map(one => one.ms))), unit: 'ms',
      reference: `with two past terms to check it; ${Math.round(median(runs.map(one => one.students)))} students in the median`,
      ratio: null, target: '', ok: null },
  ]
}
