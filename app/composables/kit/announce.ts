import { announce as say } from '@atlaskit/pragmatic-drag-and-drop-live-region'

/** Milliseconds until the region speaks; what comes within them would take the place of what was said before. */
const PAUSE_MS = 1000
/** Sentences that are said in one go at most, the newest of them. */
const MOST = 3
let waiting: string[] = []
let last = -Infinity

/**
 * Tells who hears the page what happened on it, in one region that is always there. What comes close after another is said with it, so that
 * nothing is lost. Empty words say nothing.
 */
export const announce = (words: string) => {
  if (!words) return
  const now = performance.now()
  if (now - last > PAUSE_MS) waiting = []
  last = now
  waiting = [...waiting.filter(one => one !== words), words].slice(-MOST)
  say(waiting.join(' '))
}
