import { join } from 'node:path'
import { eq } from 'drizzle-orm'
import { chromium, type Page } from '@playwright/test'
import type { Database } from '../../server/db/connect'
import * as s from '../../server/db/schema'
import { ensureBuild, freePort, startServer, STATE } from '../command/machine.mjs'
import { type Figure, median, quantile, round } from './figure'

const SECTIONS = 5000
const TERM = '2027SP'
/** What is typed, a letter every so many milliseconds, as a quick typist does. */
const TYPED = ['water law', 'groundwatr', 'oral history', 'statistics', 'hyd 230', 'field seminar']
const LETTER_MS = 90
/** A letter is on the screen within a tenth of a second ("instantaneous": R. B. Miller 1968; the limit is his 0.1 s). */
const MOST = { letter: 100, answer: 500 }

/** Sections of the term many times over, so that there are as many as a large college has; seats and times are those of the first. */
async function multiply(db: Database) {
  const sections = await db.select().from(s.sections).where(eq(s.sections.term, TERM))
  const ids = new Set(sections.map(section => section.id))
  const meetings = (await db.select().from(s.meetings)).filter(meeting => ids.has(meeting.section))
  const pools = (await db.select().from(s.seatPools)).filter(pool => ids.has(pool.section))
  const insert = async <Row>(rows: readonly Row[], write: (part: Row[]) => Promise<unknown>) => {
    for (let at = 0; at < rows.length; at += 500) await write(rows.slice(at, at + 500))
  }
  for (let copy = 1; copy * sections.length < SECTIONS; copy++) {
    const id = (before: number) => before + copy * 10_000
    const more = sections.slice(0, SECTIONS - copy * sections.length).map(section => ({ ...section, id: id(section.id),
      number: String(Number(section.number) + copy * 1000), link: `${section.link}${'abcdefghijk'[copy - 1]}`,
      label: `${section.label}${'abcdefghijk'[copy - 1]}`, seatsWith: null }))
    const made = new Set(more.map(section => section.id))
    await insert(more, part => db.insert(s.sections).values(part))
    await insert(meetings.filter(meeting => made.has(id(meeting.section))).map(({ id: _, ...meeting }) =>
      ({ ...meeting, section: id(meeting.section) })), part => db.insert(s.meetings).values(part))
    await insert(pools.filter(pool => made.has(id(pool.section))).map(pool => ({ ...pool, id: pool.id + copy * 100_000,
      section: id(pool.section) })), part => db.insert(s.seatPools).values(part))
  }
}

/**
 * How it is to type in Find in a browser, with 5,000 sections in the term: from each press to the next frame that shows it, and from the
 * last letter to what was found.
 */
export async function benchTyping(db: Database, databaseUrl: string): Promise<Figure[]> {
  await multiply(db)
  await ensureBuild()
  const server = await startServer({ databaseUrl, port: await freePort(), demo: true, log: join(STATE, 'typing.log') })
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu'] })
  try {
    const page = await browser.newPage({ baseURL: server.address, viewport: { width: 1280, height: 800 } })
    await page.goto('/sign-in')
    await page.getByLabel('Name').fill('tamsin')
    await page.getByLabel('Password').fill('larkmoor')
    await page.keyboard.press('Enter')
    await page.locator('[aria-label="To do"] li').first().waitFor()
    await page.keyboard.press('/')
    const box = page.getByRole('textbox', { name: /^Find/ })
    await box.waitFor()
    await page.getByText(/\d+ bundles in \d+ courses/).waitFor({ timeout: 30_000 })
    await watchLetters(page)
    const answers: number[] = []
    for (const words of TYPED) answers.push(await type(page, words))
    const letters = await page.evaluate(() => (window as unknown as { letters: number[] }).letters)
    return figuresOf(letters, answers)
  }
  finally {
    await browser.close()
    await server.stop()
  }
}

/** Notes for every letter how long it takes until the frame after it is drawn. */
const watchLetters = (page: Page) => page.evaluate(() => {
  const letters: number[] = []
  Object.assign(window, { letters })
  document.addEventListener('keydown', ({ timeStamp }) => requestAnimationFrame(() => setTimeout(() =>
    letters.push(performance.now() - timeStamp))), { capture: true })
})

/** Types over what is there; gives the milliseconds from the last letter to the answer to all of it. */
async function type(page: Page, words: string): Promise<number> {
  const answered = page.waitForResponse(response => response.url().includes('/find?')
    && new URL(response.url()).searchParams.get('search')?.includes(`"text":${JSON.stringify(words)}`) === true, { timeout: 30_000 })
  await page.keyboard.press('Control+a')
  await page.keyboard.type(words, { delay: LETTER_MS })
  const began = performance.now()
  await answered
  return performance.now() - began
}

function figuresOf(letters: readonly number[], answers: readonly number[]): Figure[] {
  const row = (name: string, value: number, most: number, reference: string): Figure => ({ name, value: round(value, 0), unit: 'ms',
    reference, ratio: round(value / most), target: `≤ ${most}`, ok: value <= most })
  return [
    row('typing: a letter on the screen, p95', quantile([...letters], 0.95), MOST.letter, `${letters.length} letters, one every ${
      LETTER_MS} ms, ${SECTIONS} sections`),
    row('typing: a letter, worst', quantile([...letters], 1), MOST.letter, 'the slowest of them'),
    row('typing: last letter to answer', median([...answers]), MOST.answer, `${answers.length} searches, the pause before asking included`),
  ]
}
