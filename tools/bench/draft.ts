import { draftRest, type DraftResult } from '@ridgeway/core/planning'
import { DRAFT_TODAY, generateDraft } from '../../tests/references/generate-draft'
import { earliestByProgramme } from '../../tests/references/draft-ilp'
import { loadHighs } from '../../tests/references/ilp'
import { median, quantile, round, time, type Figure } from './figure'

const CASES = 40
const REFERENCE_CASES = 8

/** Draft the rest: degrees of 40 courses over ten terms, choices and pins included, against the integer programme on the same cases. */
export async function benchDraft(): Promise<Figure[]> {
  const problems = Array.from({ length: CASES },
    (_, i) => generateDraft(7000 + i, { courses: 40, lines: 7, pins: i % 2, loads: [null, 1500, 1800], chained: 0.45 }))
  const runs = problems.map(problem =>
    time(() => draftRest({ file: problem.file, catalog: problem.catalog, wishes: problem.wishes, today: DRAFT_TODAY })),
  )
  const drafted = runs.flatMap(({ result }) => result.kind === 'drafts' ? [result] : [])
  const shortest = drafted.filter(result => result.drafts[0]!.shortest).length
  const provedImpossible = runs.filter(({ result }) => isProvedImpossible(result)).length
  const highs = await loadHighs()
  earliestByProgramme(highs, generateDraft(1, { courses: 8, lines: 2, pins: 0 }))
  const reference = problems.slice(0, REFERENCE_CASES).map(problem => time(() => earliestByProgramme(highs, problem)).ms)
  const times = runs.map(run => run.ms)
  const share = shortest / Math.max(1, drafted.length)
  return [
    { name: 'draft median', value: round(median(times)), unit: 'ms',
      reference: `HiGHS, the finish alone, ${round(median(reference))} ms; all three drafts here`,
      ratio: round(median(reference) / median(times.slice(0, REFERENCE_CASES))), target: '≤ 1000', ok: median(times) <= 1000 },
    { name: 'draft worst', value: round(quantile(times, 1)), unit: 'ms', reference: `${CASES} generated degrees of 40 courses, 10 terms`,
      ratio: null, target: '', ok: null },
    { name: 'draft finish proved shortest', value: round(share), unit: 'share',
      reference: `${shortest} of ${drafted.length} drafted; ${CASES - drafted.length} impossible, ${provedImpossible} of them proved`,
      ratio: round(share), target: '≥ 0.95', ok: share >= 0.95 },
  ]
}

const isProvedImpossible = (result: DraftResult) => result.kind === 'impossible' && result.reason.proved
