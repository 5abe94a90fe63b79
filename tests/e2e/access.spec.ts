import type { Page } from '@playwright/test'
import { eq } from 'drizzle-orm'
import * as s from '../../server/db/schema'
import { faults } from './axe'
import { db, expect, signIn, signOut, test, waypoint } from './college'

/**
 * Every page with everything that opens on it, by the rules of axe (WCAG 2.2 A and AA and its best practices), in both themes, on a wide
 * screen and on a phone; and the first journey by keyboard alone, and with letters twice as large.
 */
/** Where what opens stands. */
const DRAWER = '.drawer'
const OVER = '.v-overlay-container'
const WIDE = { width: 1280, height: 800 }
const PHONE = { width: 390, height: 844 }
const idOf = async (username: string) => (await db.select().from(s.people).where(eq(s.people.username, username)))[0]!.id

const faultsAt = async (page: Page, where: string, part?: string) => (await faults(page, part)).map(fault => `${where}: ${fault}`)
/** What stands on the screen: light on a wide screen, dark on a phone. Of what opens over a page only itself: the page was looked at. */
async function inBothModes(page: Page, where: string, part?: string): Promise<string[]> {
  const found = await faultsAt(page, where, part)
  await page.emulateMedia({ colorScheme: 'dark', reducedMotion: 'reduce' })
  await page.setViewportSize(PHONE)
  found.push(...await faultsAt(page, `${where}, dark, phone`, part))
  await page.emulateMedia({ colorScheme: 'light', reducedMotion: 'reduce' })
  await backToWide(page)
  return found
}
/** Once, in many thousand, a headless browser drew nothing any more after its page was made wide again; it is asked again then. */
const backToWide = (page: Page) => expect(async () => {
  await page.setViewportSize(PHONE)
  await page.setViewportSize(WIDE)
  await page.waitForFunction(() => true, undefined, { polling: 'raf', timeout: 5000 })
}).toPass()
test.beforeEach(({ page }) => page.emulateMedia({ reducedMotion: 'reduce' }))

/** Opens one state after the other and looks at each; all that was found is told at once. */
async function look(page: Page, states: [name: string, open: () => Promise<unknown>, part?: string][]) {
  const found: string[] = []
  for (const [name, open, part] of states) {
    await open()
    found.push(...await inBothModes(page, name, part))
  }
  expect(found).toEqual([])
}
/** Opens a page and waits until it is finished; how long it works something out is the bench's business. */
const goTo = (page: Page, path: string, sign: string) => async () => {
  await page.goto(path)
  await expect(page.getByRole('heading', { name: sign }).first()).toBeVisible()
  await expect(page.locator('[aria-busy=true]')).toHaveCount(0, { timeout: 60_000 })
}

test('the student\'s first page and what the head opens', async ({ page }) => {
  test.setTimeout(120_000)
  await signIn(page, 'tamsin')
  const at = `/student/${await idOf('tamsin')}`
  await look(page, [
    ['Now', goTo(page, `${at}/now`, 'Next on your path')],
    ['the working term', async () => page.getByRole('button', { name: /^Working term/ }).click(), OVER],
    ['the account', async () => {
      await page.keyboard.press('Escape')
      await page.getByRole('button', { name: /Your account/ }).click()
    }, OVER],
    ['keys', async () => {
      await page.keyboard.press('Escape')
      await page.keyboard.press('?')
      await expect(page.getByRole('dialog', { name: 'Help' })).toBeVisible()
    }, OVER],
  ])
})

test('the plan and all that opens on it', async ({ page }) => {
  test.setTimeout(120_000)
  await signIn(page, 'tamsin')
  const at = `/student/${await idOf('tamsin')}`
  const press = (name: string | RegExp, sign: string) => async () => {
    await page.getByRole('button', { name }).first().click()
    await expect(page.getByRole('region', { name: sign }).or(page.getByRole('dialog', { name: sign })).first()).toBeVisible()
  }
  await look(page, [
    ['Plan', goTo(page, `${at}/plan`, 'Main plan')],
    ['a course', async () => {
      await page.locator('[data-item^="HYD310"]').click()
      await expect(page.getByRole('region', { name: 'HYD 310' })).toBeVisible()
    }, DRAWER],
    ['the problems', press(/\d+ problems?/, 'Problems'), DRAWER],
    ['a term', async () => {
      await page.locator('[data-term-head="2027SP"]').click()
      await expect(page.getByRole('region', { name: 'Spring 2027' })).toBeVisible()
    }, DRAWER],
    ['wishes', press('Wishes and pace', 'Wishes and pace'), DRAWER],
    ['drafting', press('Draft the rest', 'Draft the rest'), DRAWER],
    ['the plans', press('Plans', 'Plans'), OVER],
    ['the files', async () => {
      await page.keyboard.press('Escape')
      await press('Files', 'Plan files')()
    }, OVER],
  ])
})

test('a place of the plan that is still to choose', async ({ page }) => {
  await signIn(page, 'jory')
  await look(page, [
    ['a place to choose', async () => {
      await waypoint(page, 'Plan')
      await page.getByRole('button', { name: /^Hold a place/ }).first().click()
      await expect(page.getByRole('region', { name: 'To choose' })).toBeVisible()
    }, DRAWER],
  ])
  await page.getByRole('button', { name: 'Take this place out' }).click()
  await expect(page.locator('.hold')).toHaveCount(0)
  await expect(page.getByText('saved', { exact: true })).toBeVisible()
})

test('requirements and the sheets behind them', async ({ page }) => {
  test.setTimeout(120_000)
  await signIn(page, 'tamsin')
  const at = `/student/${await idOf('tamsin')}`
  await look(page, [
    ['Requirements', goTo(page, `${at}/requirements`, 'Watershed Science')],
    ['a line', async () => page.getByRole('button', { name: /Mathematics, soils and ecology/ }).click(), DRAWER],
    ['by suggested term', async () => page.getByRole('button', { name: 'by suggested term' }).click()],
    ['as pictures', async () => page.getByRole('button', { name: 'as pictures' }).click()],
    ['the map', goTo(page, `${at}/map`, 'Prerequisite map')],
    ['compare', goTo(page, `${at}/compare`, 'Compare')],
    ['the plan sheet', goTo(page, `${at}/plan-sheet`, 'Tamsin Orrell: Main plan')],
    ['standing', goTo(page, `${at}/standing`, 'Tamsin Orrell')],
    ['other programs', goTo(page, `${at}/programs`, 'another program')],
  ])
})

test('the week with Find and all that opens on it, and register', async ({ page }) => {
  test.setTimeout(150_000)
  await signIn(page, 'tamsin')
  const at = `/student/${await idOf('tamsin')}`
  await look(page, [
    ['Week', goTo(page, `${at}/week`, 'Typical week')],
    ['arrangements', async () => {
      await page.getByRole('button', { name: 'Arrangements' }).click()
      await expect(page.getByRole('region', { name: 'Arrangements' }).getByRole('button', { name: /^Week 1:/ })).toBeVisible()
    }, DRAWER],
    ['Find', async () => {
      await page.keyboard.press('Escape')
      await expect(page.getByRole('region', { name: 'Arrangements' })).toHaveCount(0)
      await page.keyboard.press('/')
      await page.getByRole('textbox', { name: /^Find/ }).fill('ecology')
      await expect(page.getByRole('dialog', { name: 'Find' }).getByText(/\d+ bundles? in 1 course/)).toBeVisible()
    }, OVER],
    ['a section', async () => {
      await page.getByRole('dialog', { name: 'Find' }).locator('.row').first().click()
      await expect(page.getByRole('dialog', { name: 'Section' }).getByText('Requirements', { exact: true })).toBeVisible()
    }, OVER],
    ['hours kept free', async () => {
      await page.goto(`${at}/week`)
      await page.getByRole('button', { name: 'Keep hours free …' }).click()
      await expect(page.getByRole('dialog', { name: 'Hours kept free' })).toBeVisible()
    }, OVER],
    ['the week as a list', async () => {
      await page.keyboard.press('Escape')
      await page.getByRole('button', { name: 'as a list' }).click()
    }],
    ['exams', async () => page.getByRole('button', { name: 'exams' }).click()],
    ['Register', goTo(page, `${at}/register`, 'Line-up for Spring 2027')],
  ])
})

test('what can be done with what is registered', async ({ page }) => {
  test.setTimeout(180_000)
  await signIn(page, 'maren')
  const ask = (name: string, title: string) => async () => {
    await page.keyboard.press('Escape')
    await page.getByRole('button', { name }).click()
    await expect(page.getByRole('dialog', { name: title })).toBeVisible()
  }
  await look(page, [
    ['Register with what is registered', goTo(page, `/student/${await idOf('maren')}/register`, 'This term so far')],
    ['giving up', ask('Give up HYD 490', 'Give up HYD 490?'), OVER],
    ['exchanging', ask('Exchange HYD 490', 'Exchange HYD 490'), OVER],
    ['changing', ask('Credits and grading of HYD 490', 'Credits and grading of HYD 490'), OVER],
    ['leaving the term', ask('Leave Spring 2027 as a whole', 'Leave Spring 2027?'), OVER],
    ['the account', goTo(page, `/student/${await idOf('maren')}/account`, 'Account for Spring 2027')],
  ])
})

test('what advisors see', async ({ page }) => {
  test.setTimeout(120_000)
  await signIn(page, 'hollis')
  const tamsin = await idOf('tamsin')
  await look(page, [
    ['Advisees', goTo(page, '/advisees', 'Advisees')],
    ['an advisee\'s plan', goTo(page, `/student/${tamsin}/plan`, 'Main plan')],
    ['an advisee\'s line', async () => {
      await goTo(page, `/student/${tamsin}/requirements`, 'Watershed Science')()
      await page.getByRole('button', { name: /Mathematics, soils and ecology/ }).click()
    }, DRAWER],
    ['waiving it', async () => page.getByRole('form', { name: 'Grant an exception' }).getByLabel('waive it').check(), DRAWER],
    ['not yours', goTo(page, '/not-yours', 'not')],
  ])
})

test('the doors, what the office sees, and the parts', async ({ page }) => {
  test.setTimeout(120_000)
  await look(page, [['signing in', async () => {
    await page.goto('/sign-in')
    await expect(page.getByRole('heading', { name: /Larkmoor College/ })).toBeVisible()
  }]])
  await signIn(page, 'anselm')
  await look(page, [['what cannot be reached', goTo(page, `/student/${await idOf('isolde')}/requirements`, 'Upland Heritage')]])
  await signOut(page)
  await signIn(page, 'edda')
  await look(page, [
    ['Office', goTo(page, '/office', 'Office')],
    ['the clock', goTo(page, '/clock', 'clock')],
    ['the parts', () => page.goto('/kit')],
  ])
})

test('what the office does', async ({ page }) => {
  test.setTimeout(240_000)
  await signIn(page, 'edda')
  await look(page, [
    ['terms', goTo(page, '/office/terms', 'Terms')],
    ['days and sessions of a term', () => page.getByRole('button', { name: 'Days and sessions …' }).click(), OVER],
    ['another term', async () => {
      await goTo(page, '/office/terms', 'Terms')()
      await page.getByRole('button', { name: 'Another term …' }).click()
    }, OVER],
    ['demand', goTo(page, '/office/demand', 'Demand')],
    ['a program', goTo(page, '/office/program?program=GFT-AAS-2025', 'Geospatial Field Technician')],
    ['settings', goTo(page, '/office/settings', 'Settings')],
    ['sections', goTo(page, '/office/sections', 'Sections')],
    ['a section', async () => {
      await page.getByRole('button', { name: /^Open / }).first().click()
      await expect(page.locator(DRAWER).getByRole('heading', { name: 'Seats' })).toBeVisible()
    }, DRAWER],
    ['cancelling it', async () => {
      await page.getByRole('button', { name: 'Cancel this section …' }).click()
      await expect(page.getByRole('dialog').getByLabel('Why')).toBeVisible()
      await expect(page.getByRole('dialog').locator('[aria-busy=true]')).toHaveCount(0)
    }, OVER],
    ['people', goTo(page, '/office/people', 'People')],
    ['placing holds', () => page.getByRole('button', { name: 'Place holds …' }).click(), OVER],
    ['what happened', goTo(page, '/office/ledger', 'What happened')],
    ['this server', goTo(page, '/office/server', 'This server')],
    ['API access', goTo(page, '/tokens', 'API access')],
    ['the tables', goTo(page, '/office/college', 'The college\'s tables')],
  ])
})

test('advising, from both sides', async ({ page }) => {
  test.setTimeout(180_000)
  await signIn(page, 'yara')
  const kit = await idOf('kit')
  const perrin = await idOf('perrin')
  await look(page, [
    ['the brief', goTo(page, `/student/${perrin}/brief`, 'Brief for Perrin Locke')],
    ['giving it back', () => page.getByRole('button', { name: 'Return …' }).click(), OVER],
    ['a suggestion being tried', async () => {
      await goTo(page, `/student/${kit}/plan`, 'Main plan')()
      await page.getByRole('button', { name: 'Suggest changes' }).click()
    }],
    ['office hours', goTo(page, '/advisees/hours', 'Meetings')],
    ['signing off several', async () => {
      await goTo(page, '/advisees', 'Advisees')()
      await page.getByRole('button', { name: 'Sign off several' }).click()
    }, OVER],
    ['being away', async () => {
      await goTo(page, '/advisees', 'Advisees')()
      await page.getByRole('button', { name: 'Away …' }).click()
      await expect(page.getByRole('dialog', { name: 'While you are away' })).toBeVisible()
    }, OVER],
  ])
  await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog')).toHaveCount(0)
  await signOut(page)
  await signIn(page, 'kit')
  await look(page, [
    ['what is suggested', goTo(page, `/student/${kit}/plan`, 'Main plan')],
    ['meetings', goTo(page, `/student/${kit}/meetings`, 'Meetings')],
    ['messages', goTo(page, '/messages', 'Messages')],
  ])
})

/** Presses Tab until what is looked for has the focus; gives how often. */
async function tabTo(page: Page, sign: (element: { name: string, role: string }) => boolean, most = 60): Promise<number> {
  for (let n = 1; n <= most; n++) {
    await page.keyboard.press('Tab')
    const [name, role] = await page.evaluate(() => {
      const at = document.activeElement!
      const labelled = (at as HTMLInputElement).labels?.[0]?.textContent
      return [at.getAttribute('aria-label') ?? labelled ?? at.textContent!.replace(/\s+/g, ' ').trim(),
        at.getAttribute('role') ?? at.tagName]
    })
    if (sign({ name: name!, role: role! })) return n
  }
  throw new Error('it was not reached')
}

/** Signs in, places a course, moves it, picks its section, and looks at what would be registered. */
test('the first journey by keyboard alone', async ({ page }) => {
  await page.goto('/sign-in')
  await expect(page.getByLabel('Name')).toBeFocused()
  await page.keyboard.type('una')
  await page.keyboard.press('Tab')
  await page.keyboard.type('larkmoor')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { name: 'Next on your path' })).toBeVisible()

  await page.keyboard.press('3')
  await expect(page.getByRole('heading', { name: 'Main plan' })).toBeVisible()
  await tabTo(page, ({ name }) => name.startsWith('Place a course in'))
  await page.keyboard.type('LNG 101')
  await expect(page.getByRole('option', { name: /LNG 101/ })).toBeVisible()
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Enter')
  const drawer = page.getByRole('region', { name: 'LNG 101' })
  await expect(drawer).toBeFocused()
  await page.keyboard.press('Escape')
  await expect(drawer).toHaveCount(0)

  // On the board: arrows walk, Alt and an arrow moves, and the move is told.
  const tile = page.locator('[data-item^="LNG101"]')
  await tabTo(page, ({ role }) => role === 'button', 80)
  await tile.focus()
  await page.keyboard.press('Alt+ArrowRight')
  await expect(page.getByRole('status').filter({ hasText: /LNG 101 moved to/ })).toBeVisible()
  await expect(tile).toBeFocused()
  await page.keyboard.press('Alt+ArrowLeft')
  await expect(page.getByRole('status').filter({ hasText: 'LNG 101 moved to Spring 2027' })).toBeVisible()
  await expect(page.getByText('saved', { exact: true })).toBeVisible()

  await page.keyboard.press('4')
  await expect(page.getByRole('heading', { name: 'Typical week' })).toBeVisible()
  const bundle = page.getByRole('region', { name: 'Bundles of LNG 101' }).getByRole('button').first()
  await expect(bundle).toBeVisible()
  const name = (await bundle.getAttribute('aria-label'))!
  // The columns are one stop: arrows lead across them.
  await tabTo(page, one => /^[A-Z]{3} \d{3}-\d+/.test(one.name) && !one.name.includes('all about it'))
  for (let i = 0; i < 12 && await bundle.evaluate(one => one !== document.activeElement); i++) await page.keyboard.press('ArrowRight')
  expect(name).toContain('LNG 101')
  await page.keyboard.press('Enter')
  await expect(bundle).toHaveAttribute('aria-pressed', 'true')
  await expect(bundle).toBeFocused()

  await page.keyboard.press('5')
  await expect(page.getByRole('list', { name: 'Run sheet' })).toContainText('LNG 101')
  const [row] = await db.select().from(s.lineUpRows).where(eq(s.lineUpRows.student, await idOf('una'))).then(rows =>
    rows.filter(one => one.course === 'LNG 101'))
  expect(row).toBeDefined()
  await tabTo(page, one => one.name === 'Take LNG 101 out of the line-up')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('button', { name: 'Take LNG 101 out of the line-up' })).toHaveCount(0)
  expect(await page.evaluate(() => document.activeElement === document.body)).toBe(false)
  await waypoint(page, 'Plan')
  await tile.focus()
  await page.keyboard.press('Delete')
  await expect(tile).toHaveCount(0)
  await expect(page.getByText('saved', { exact: true })).toBeVisible()
})

test('with letters twice as large nothing is cut and no page scrolls sideways', async ({ page }) => {
  await page.setViewportSize({ width: 1280, height: 900 })
  await signIn(page, 'tamsin')
  const at = `/student/${await idOf('tamsin')}`
  const wrong: string[] = []
  for (const where of ['now', 'requirements', 'plan', 'week', 'register']) {
    await page.goto(`${at}/${where}`)
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
    await expect(page.locator('[aria-busy=true]')).toHaveCount(0)
    // As a browser's zoom does it: half as many pixels for the page.
    await page.setViewportSize({ width: 640, height: 450 })
    const wide = await page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth)
    if (wide > 0) wrong.push(`${where}: ${wide} px too wide`)
    const texts = page.locator('h1, h2, .act, .words-link, .waypoint .state, .waypoint .name')
    const cut = await texts.evaluateAll(all => (all as HTMLElement[])
      .filter(one => one.checkVisibility() && one.scrollWidth > one.clientWidth + 1 && getComputedStyle(one).overflow === 'hidden')
      .map(one => one.textContent!.trim()))
    wrong.push(...cut.map(text => `${where}: "${text}" is cut`))
    await page.setViewportSize({ width: 1280, height: 900 })
  }
  expect(wrong).toEqual([])
})
