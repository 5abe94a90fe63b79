import type { Page } from '@playwright/test'
import { and, eq, isNull } from 'drizzle-orm'
import * as s from '../../server/db/schema'
import { db, expect, signIn, test, waypoint } from './college'

/** On a slow connection answers come when the page is about something else: another file, another term, another plan. */
const idOf = async (username: string) => (await db.select().from(s.people).where(eq(s.people.username, username)))[0]!.id

/** Holds back what is asked of an address, and gives what lets it come; it has come when that is done. */
async function holdBack(page: Page, url: string | RegExp, answered?: { status: number, json: unknown }): Promise<() => Promise<void>> {
  let letCome!: () => void
  const held = new Promise<void>(done => letCome = done)
  await page.route(url, async (route) => {
    await held
    await (answered ? route.fulfill(answered) : route.continue())
  })
  return async () => {
    const coming = page.waitForResponse(url)
    letCome()
    await (await coming).finished()
    await page.unroute(url)
    // Drawn with whatever came of it.
    await page.evaluate(() => new Promise(done => requestAnimationFrame(() => requestAnimationFrame(done))))
  }
}
async function chooseTerm(page: Page, name: string) {
  await page.getByRole('button', { name: 'Working term' }).click()
  await page.getByRole('list', { name: 'Choose the working term' }).getByText(name).click()
  await expect(page.getByRole('button', { name: `Working term: ${name}` })).toBeVisible()
}
const bundles = (page: Page, course: string) => page.getByRole('region', { name: `Bundles of ${course}` })

test('the week of one student, read late, does not come onto the page of another', async ({ page }) => {
  const [bram, dov] = [await idOf('bram'), await idOf('dov')]
  await signIn(page, 'yara')
  await page.goto(`/student/${bram}/week`)
  await expect(bundles(page, 'SOL 201')).toBeVisible()
  const letCome = await holdBack(page, `**/api/students/${dov}/week?*`)
  await page.getByRole('link', { name: 'Ridgeway' }).click()
  await page.getByRole('link', { name: 'Dov Hallam' }).first().click()
  await expect(page.getByRole('banner')).toContainText('Dov Hallam')
  await waypoint(page, 'Week')
  await expect(page.getByLabel('Loading the week')).toBeVisible()
  while (!page.url().includes(`/student/${bram}/`)) await page.goBack()
  await expect(bundles(page, 'SOL 201')).toBeVisible()
  await letCome()
  await expect(bundles(page, 'CHY 110')).toHaveCount(0)
  await expect(bundles(page, 'SOL 201')).toBeVisible()
})

test('hours kept free on a slow connection stay in the term they were kept in, and so does taking them back', async ({ page }) => {
  const dov = await idOf('dov')
  const kept = async () => {
    const rows = await db.select().from(s.weekWishes).where(eq(s.weekWishes.student, dov))
    return Object.fromEntries(rows.map(({ term, wishes }) => [term,
      wishes.map(wish => wish.kind === 'keep free' ? wish.name : wish.kind).sort()]))
  }
  await signIn(page, 'dov')
  await waypoint(page, 'Week')
  const keep = async (name: string) => {
    await page.getByRole('button', { name: 'Keep hours free …' }).click()
    const dialog = page.getByRole('dialog', { name: 'Hours kept free' })
    await dialog.getByLabel('What for').fill(name)
    await dialog.getByRole('button', { name: 'Keep them free' }).click()
    await expect(dialog).toHaveCount(0)
  }
  const free = (name: string) => page.getByRole('list', { name: 'Monday' }).getByText(new RegExp(name))
  const undo = page.getByRole('button', { name: 'Undo', exact: true })
  await chooseTerm(page, 'Summer 2027')
  await keep('Orchard')
  await expect.poll(kept).toEqual({ '2027SU': ['Orchard'] })
  await chooseTerm(page, 'Spring 2027')
  await expect(undo).toHaveCount(0)
  await expect(bundles(page, 'CHY 110')).toBeVisible()

  const letCome = await holdBack(page, '**/week-wishes*')
  await keep('Choir')
  await keep('Band')
  await chooseTerm(page, 'Summer 2027')
  await expect(free('Orchard')).toBeVisible()
  await expect(undo).toHaveCount(0)
  await letCome()
  await expect.poll(kept).toEqual({ '2027SP': ['Band', 'Choir'], '2027SU': ['Orchard'] })
  await expect(free('Choir')).toHaveCount(0)
  await keep('Harvest')
  await expect.poll(kept).toEqual({ '2027SP': ['Band', 'Choir'], '2027SU': ['Harvest', 'Orchard'] })
  await undo.click()
  await expect.poll(kept).toEqual({ '2027SP': ['Band', 'Choir'], '2027SU': ['Orchard'] })
  await expect(free('Harvest')).toHaveCount(0)
  await db.delete(s.weekWishes).where(eq(s.weekWishes.student, dov))
})

test('the file of one term, read late, does not come onto the page of another', async ({ page }) => {
  await signIn(page, 'dov')
  await waypoint(page, 'Register')
  const gates = page.getByRole('region', { name: 'Gates' })
  await expect(gates).toContainText('10 Nov')
  const letCome = await holdBack(page, /\/api\/students\/\d+\?term=2027SU/)
  await chooseTerm(page, 'Summer 2027')
  // What stands there is of spring until summer is read: it is not to be taken for summer's, nor pressed.
  await expect(page.getByText('Reading Summer 2027 …')).toBeVisible()
  await expect(page.locator('[inert]').getByRole('heading', { name: 'Line-up for Summer 2027', includeHidden: true })).toHaveCount(1)
  await chooseTerm(page, 'Spring 2027')
  await expect(page.getByRole('heading', { name: 'Line-up for Spring 2027' })).toBeVisible()
  await expect(page.locator('[inert]')).toHaveCount(0)
  await letCome()
  await expect(gates).toContainText('10 Nov')
  await expect(gates).not.toContainText('15 Feb')
})

test('what a press did is not told on the page of another term; it is done all the same', async ({ page }) => {
  await signIn(page, 'lise')
  await waypoint(page, 'Register')
  const letCome = await holdBack(page, '**/registrations*')
  await page.getByRole('button', { name: 'Register', exact: true }).click()
  await chooseTerm(page, 'Summer 2027')
  await expect(page.getByRole('heading', { name: 'Line-up for Summer 2027' })).toBeVisible()
  await letCome()
  await expect(page.getByLabel('Result of the run')).toHaveCount(0)
  await expect(page.getByText(/^Spring 2027: \d of 3 courses registered\./)).toBeVisible()
  await chooseTerm(page, 'Spring 2027')
  await expect(page.getByRole('list', { name: 'Registered and waited for' })).toContainText('SOL 340')
  const rows = await db.select().from(s.registrations).where(eq(s.registrations.student, await idOf('lise')))
  expect(new Set(rows.filter(row => row.term === '2027SP').map(row => row.course))).toContain('SOL 340')
})

test('what is refused of one plan takes nothing from another that was opened meanwhile', async ({ page }) => {
  const senna = await idOf('senna')
  const coursesOf = async (current: boolean) => {
    const [plan] = await db.select().from(s.plans).where(and(eq(s.plans.student, senna), eq(s.plans.current, current),
      isNull(s.plans.deletedAt)))
    return (await db.select().from(s.planEntries).where(eq(s.planEntries.plan, plan!.id))).map(entry => entry.course)
  }
  await signIn(page, 'senna')
  await waypoint(page, 'Plan')
  await page.getByRole('button', { name: 'Plans' }).click()
  await page.getByRole('dialog', { name: 'Plans' }).getByRole('button', { name: 'Copy' }).click()
  await expect(page.getByRole('heading', { name: 'Copy of Main plan' })).toBeVisible()
  await expect(page.getByText('saved', { exact: true })).toBeVisible()
  const tiles = page.locator('.tile.movable')
  const course = (await tiles.first().locator('.code').textContent())!
  const other = (await tiles.nth(1).locator('.code').textContent())!
  const takeOut = async (code: string) => {
    await tiles.filter({ hasText: code }).focus()
    await page.keyboard.press('Delete')
    await expect(tiles.filter({ hasText: code })).toHaveCount(0)
  }

  const letCome = await holdBack(page, /\/api\/students\/\d+\/plan(\?|$)/, { status: 422,
    json: { type: 'about:blank#tried', code: 'tried', title: 'This is refused.', detail: 'Nothing was changed.', status: 422 } })
  await takeOut(course)
  await page.getByRole('button', { name: 'Back to the current plan' }).click()
  await expect(page.getByRole('heading', { name: 'Main plan', exact: true })).toBeVisible()
  await takeOut(other)
  await letCome()
  await expect.poll(() => coursesOf(true)).not.toContain(other)
  expect(await coursesOf(true)).toContain(course)
  await expect(tiles.filter({ hasText: other })).toHaveCount(0)

  // What was done to the copy is still kept here, and sent when it is opened again.
  await page.getByRole('button', { name: 'Plans' }).click()
  await page.getByRole('dialog', { name: 'Plans' }).getByRole('button', { name: 'Copy of Main' }).click()
  await expect.poll(() => coursesOf(false)).not.toContain(course)
  expect(await coursesOf(false)).toContain(other)
})

test('the account of one term, read late, does not come under the name of another', async ({ page }) => {
  const maren = await idOf('maren')
  await signIn(page, 'maren')
  await page.goto(`/student/${maren}/account`)
  const lines = page.getByRole('region', { name: 'Lines of the account' })
  await expect(lines).toContainText('HYD 490')
  await chooseTerm(page, 'Summer 2027')
  await expect(lines).toContainText('Nothing is charged yet')
  const letCome = await holdBack(page, /account\?term=2027SP/)
  await chooseTerm(page, 'Spring 2027')
  await expect(lines.getByLabel('Loading the account')).toBeVisible()
  await chooseTerm(page, 'Summer 2027')
  await expect(lines).toContainText('Nothing is charged yet')
  await letCome()
  await expect(lines).not.toContainText('HYD 490')
})

test('of a name that is typed on only the last answer is shown', async ({ page }) => {
  await signIn(page, 'edda')
  await page.goto('/office/people')
  const name = page.getByLabel('Find a student')
  const letCome = await holdBack(page, /api\/people\?text=Tamsin/)
  const asked = page.waitForRequest(/text=Tamsin/)
  await name.fill('Tamsin')
  await asked
  await name.fill('Dov')
  await expect(page.getByRole('button', { name: 'Another advisor for Dov Hallam' })).toBeVisible()
  await letCome()
  await expect(page.getByRole('button', { name: 'Another advisor for Dov Hallam' })).toBeVisible()
  await expect(page.getByRole('button', { name: 'Another advisor for Tamsin Orrell' })).toHaveCount(0)
})
