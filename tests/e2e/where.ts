import type { Page } from '@playwright/test'

/** Milliseconds in which a page that lives answers, and draws. */
const ALIVE_MS = 5000
const within = (what: Promise<string>) => Promise.race([
  what.catch((problem: Error) => problem.message.split('\n')[0]!),
  new Promise<null>(done => setTimeout(() => done(null), ALIVE_MS)),
])

/**
 * Where a page stands on which a test waited in vain: its address, whether its script answers, and whether it draws. What waits for a page
 * that stands still tells only that it waited.
 */
export async function whereItStands(page: Page): Promise<string> {
  const [answers, draws] = await Promise.all([
    within(page.evaluate(() => document.visibilityState as string)),
    within(page.evaluate(() => new Promise<string>(done => requestAnimationFrame(() => done('draws'))))),
  ])
  return [`at ${page.url()}`, answers ? `answers (${answers})` : 'does not answer: its script is busy', draws ?? 'does not draw'].join('; ')
}
