import { draftRest, type DraftResult, shortestFinish } from '@ridgeway/core/planning'
import { DRAFT_TODAY, type DraftCase, generateDraft } from '../../tests/references/generate-draft'
import { earliestByProgramme } from '../../tests/references/draft-ilp'
import { loadHighs } from '../../tests/references/ilp'
import { median, quantile, round, time, type Figure } from './figure'

const CASES = 40
const WARM = 3

/** Draft the rest: degrees of 40 courses over ten terms, choices and pins included, against the integer programme on the same cases. */
export async function benchDraft(): Promise<Figure[]> {
  const problems = makeProblems()
  const highs = await loadHighs()
  // Both have seen a degree before they are timed: a page and a server have, too.
  for (let i = 0; i < WARM; i++) {
    const one = generateDraft(1 + i, { courses: 40, lines: 7, pins: 0 })
    shortestFinish(requestOf(one))
    earliestByProgramme(highs, one)
  }
  // In turn, so that a machine that is slow for a while is slow for both.
  const pairs = problems.map(problem => ({
    own: time(() => shortestFinish(requestOf(problem))).ms,
    reference: time(() => earliestByProgramme(highs, problem)).ms,
  }))
  const reference = pairs.map(pair => pair.reference)
  // Made anew: nothing is remembered from the finish alone.
  const runs = makeProblems().map(problem => time(() => draftRest(requestOf(problem))))
  const drafted = runs.flatMap(({ result }) => result.kind === 'drafts' ? [result] : [])
  const shortest = drafted.filter(result => result.drafts[0]!.shortest).length
  const provedImpossible = runs.filter(({ result }) => isProvedImpossible(result)).length
  const times = runs.map(run => run.ms)
  const share = shortest / Math.max(1, drafted.length)
  const finish = median(pairs.map(pair => pair.own))
  const ratio = median(reference) / finish
  return [
    { name: 'draft finish median', value: round(finish), unit: 'ms',
      reference: `HiGHS, the finish alone, ${round(median(reference))} ms, of the same ${CASES} cases`,
      ratio: round(ratio), target: 'ratio ≥ 2', ok: ratio >= 2 },
    { name: 'draft finish worst', value: round(quantile(pairs.map(pair => pair.own), 1)), unit: 'ms',
      reference: `HiGHS ${round(quantile(reference, 1))} ms`, ratio: null, target: '', ok: null },
    { name: 'draft median', value: round(median(times)), unit: 'ms',
      reference: 'HiGHS, the finish alone; all three drafts here',
      ratio: round(median(reference) / median(times)), target: '≤ 1000', ok: median(times) <= 1000 },
    { name: 'draft worst', value: round(quantile(times, 1)), unit: 'ms', reference: `${CASES} generated degrees of 40 courses, 10 terms`,
      ratio: null, target: '', ok: null },
    { name: 'draft finish proved shortest', value: round(share), unit: 'share',
      reference: `${shortest} of ${drafted.length} drafted; ${CASES - drafted.length} impossible, ${provedImpossible} of them proved`,
      ratio: round(share), target: '≥ 0.95', ok: share >= 0.95 },
  ]
}

const makeProblems = () => Array.from({ length: CASES },
  (_, i) => generateDraft(7000 + i, { courses: 40, lines: 7, pins: i % 2, loads: [null, 1500, 1800], chained: 0.45 }))
const requestOf = ({ file, catalog, wishes }: DraftCase) => ({ file, catalog, wishes, today: DRAFT_TODAY })
const isProvedImpossible = (result: DraftResult) => result.kind === 'impossible' && result.reason.proved
