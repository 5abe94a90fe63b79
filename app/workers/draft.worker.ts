import { type DraftRequest, draftRest, type DraftResult } from '@ridgeway/core/planning'

export type DraftMessage = { kind: 'progress', share: number, words: string } | { kind: 'result', result: DraftResult, ms: number }

/** Drafts away from the page; the page ends this worker to cancel. */
self.onmessage = ({ data }: MessageEvent<DraftRequest>) => {
  const say = (message: DraftMessage) => self.postMessage(message)
  const begun = performance.now()
  const result = draftRest({ ...data, progress: (share, words) => say({ kind: 'progress', share, words }) })
  say({ kind: 'result', result, ms: Math.round(performance.now() - begun) })
}
