import {
  type ArrangeInput, backupsFor, type Conflict, compileWeeks, countWeeks, choicesOf, hiddenBy, searchWeeks, smallestConflict,
} from '@ridgeway/core/weeks'

/** One arrangement: by place its bundle, the bundles to take there when it is full, and what it costs against the wishes. */
export interface Arrangement {
  choices: Record<string, string>
  backups: Record<string, string[]>
  cost: number
}
export type ArrangeMessage
  = | { kind: 'first', week: Arrangement }
    | { kind: 'best', weeks: Arrangement[] }
    | { kind: 'count', count: number, atLeast: boolean }
    | { kind: 'hidden', hidden: Record<string, number>, atLeast: boolean }
    | { kind: 'conflict', conflict: Conflict }
    | { kind: 'done', ms: number }

/** How many of the best are shown. */
const MOST = 50
/** Milliseconds after which counting gives "at least". */
const COUNT_MS = 3000

/** Arranges away from the page, the first picture at once; the page ends this worker to cancel. */
self.onmessage = ({ data: input }: MessageEvent<ArrangeInput>) => {
  const say = (message: ArrangeMessage) => self.postMessage(message)
  const begun = performance.now()
  const problem = compileWeeks(input)
  const as = (week: Parameters<typeof choicesOf>[1]): Arrangement => ({ choices: choicesOf(problem, week),
    backups: backupsFor(problem, week), cost: week.cost })
  let isFirst = true
  const { weeks } = searchWeeks(problem, { best: MOST, found: (week) => {
    if (isFirst) say({ kind: 'first', week: as(week) })
    isFirst = false
  } })
  say({ kind: 'best', weeks: weeks.map(as) })
  if (weeks.length === 0) {
    const conflict = smallestConflict(input)
    if (conflict) say({ kind: 'conflict', conflict })
  }
  else {
    const until = performance.now() + COUNT_MS
    say({ kind: 'count', ...countWeeks(problem, () => performance.now() > until) })
    const hiddenUntil = performance.now() + COUNT_MS
    say({ kind: 'hidden', ...hiddenBy(problem, () => performance.now() > hiddenUntil) })
  }
  say({ kind: 'done', ms: Math.round(performance.now() - begun) })
}
