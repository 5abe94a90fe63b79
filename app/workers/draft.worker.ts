import { type DraftRequest, draftRest, type DraftResult, type DraftStage } from '@ridgeway/core/planning'

export type DraftMessage = { kind: 'progress', share: number, stage: DraftStage } | { kind: 'result', result: DraftResult, ms: number }

/** Drafts away from the page; the page ends this worker to cancel. */
self.onmessage = ({ data }: MessageEvent<DraftRequest>) => {
  const say = (message: DraftMessage) => self.postMessage(message)
  const begun = performance.now()
  const result = draftRest({ ...data, progress: (share, stage) => say({ kind: 'progress', share, stage }) })
  say({ kind: 'result', result, ms: Math.round(performance.now() - begun) })
}
