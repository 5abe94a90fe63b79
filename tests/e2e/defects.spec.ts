import { eq } from 'drizzle-orm'
import * as s from '../../server/db/schema'
import { db, expect, signIn, signOut, test, typeAndTake, waypoint } from './college'
import type { Page } from '@playwright/test'

/** What went wrong for people who used keys, slow networks or two accounts. */
const personOf = async (username: string) => (await db.select().from(s.people).where(eq(s.people.username, username)))[0]!
const forgetCuts = (complaints: string[]) => complaints.splice(0, complaints.length,
  ...complaints.filter(text => !/ERR_FAILED|ERR_INTERNET_DISCONNECTED|status of 5/.test(text)))

test('when the catalog does not come the page says so, and another try brings it', async ({ page, complaints }) => {
  await signIn(page, 'joss')
  await page.route('**/api/catalog', route => route.fulfill({ status: 500, body: '' }))
  await page.reload()
  await expect(page.getByRole('alert')).toContainText('Ridgeway has a problem of its own just now.')
  await page.waitForLoadState('networkidle')
  await page.unroute('**/api/catalog')
  await page.getByRole('button', { name: 'Try again' }).click()
  await expect(page.getByRole('heading', { name: 'Next on your path' })).toBeVisible()
  forgetCuts(complaints)
})

test('a picture whose code does not come while the connection is away comes when it is back', async ({ page, context, complaints }) => {
  // It is asked for when nothing else is to be done; here that is when the test says so.
  await page.addInitScript(() => {
    window.requestIdleCallback = (done) => {
      const timer = setInterval(() => {
        if (document.title !== 'Nothing to do') return
        clearInterval(timer)
        done({ didTimeout: false, timeRemaining: () => 50 })
      }, 20)
      return 1
    }
  })
  await signIn(page, 'joss')
  const chart = page.getByRole('region', { name: 'Credits by term' }).locator('canvas, svg')
  await expect(page.getByRole('heading', { name: 'Next on your path' })).toBeVisible()
  await page.waitForLoadState('networkidle')
  await context.setOffline(true)
  const refused = page.waitForEvent('requestfailed', request => /\.js$/.test(request.url()))
  await page.evaluate(() => {
    document.title = 'Nothing to do'
  })
  await refused
  await expect(chart).toHaveCount(0)
  await context.setOffline(false)
  await expect(chart.first()).toBeVisible()
  forgetCuts(complaints)
})

test('a drawer whose code does not come while the connection is away says so in its place, and opens in its form when it is back', async (
  { page, context, complaints },
) => {
  await signIn(page, 'joss')
  await waypoint(page, 'Plan')
  await expect(page.getByRole('grid', { name: 'Lanes by term' })).toBeVisible()
  await page.waitForLoadState('networkidle')
  // Also what the browser may have fetched already.
  await page.route(/\.(js|css)$/, route => route.abort())
  await context.setOffline(true)
  await page.getByRole('button', { name: 'Wishes and pace' }).click()
  const late = page.getByText('This part of the page is on its way.')
  await expect(late).toBeInViewport()
  await page.keyboard.press('Escape')
  await expect(late).toHaveCount(0)
  await page.getByRole('button', { name: 'Wishes and pace' }).click()
  await expect(late).toBeInViewport()
  // Help is over the plan; it closes first.
  await page.keyboard.press('?')
  await expect(late).toHaveCount(2)
  await page.keyboard.press('Escape')
  await expect(late).toHaveCount(1)
  await page.unrouteAll()
  await context.setOffline(false)
  const drawer = page.getByRole('region', { name: 'Wishes and pace' })
  await expect(drawer).toBeFocused()
  await expect(drawer).toHaveCSS('position', 'sticky')
  await expect(late).toHaveCount(0)
  forgetCuts(complaints)
})

test('signing out without a connection says that one is still signed in', async ({ page, context, complaints }) => {
  await signIn(page, 'joss')
  await expect(page.getByRole('heading', { name: 'Next on your path' })).toBeVisible()
  await context.setOffline(true)
  await page.getByRole('button', { name: /Your account/ }).click()
  await page.getByText('Sign out', { exact: true }).click()
  await expect(page.getByRole('alert')).toContainText('You are still signed in here.')
  await context.setOffline(false)
  await signOut(page)
  forgetCuts(complaints)
})

test('who signs in after another in the same tab finds nothing of the one before', async ({ page }) => {
  await signIn(page, 'joss')
  await waypoint(page, 'Plan')
  await page.locator('[data-item]').last().focus()
  await page.keyboard.press('p')
  await expect(page.getByText(/pinned/).first()).toBeVisible()
  await page.keyboard.press('Control+z')
  await signOut(page)
  await signIn(page, 'ines')
  await waypoint(page, 'Plan')
  await expect(page.getByRole('button', { name: /^Undo/ })).toBeDisabled()
  await expect(page.getByText('Joss')).toHaveCount(0)
  await expect(page.getByText('Undone')).toHaveCount(0)
})

test('what is being written about one course stays with it, and is sent about it', async ({ page }) => {
  await signIn(page, 'tamsin')
  await waypoint(page, 'Plan')
  const { id } = await personOf('tamsin')
  await page.locator('[data-item^="HYD330"]').click()
  await page.getByLabel('Write a comment').fill('Only about water quality')
  await page.locator('[data-item^="HYD410"]').click()
  await expect(page.getByRole('region', { name: 'HYD 410' })).toBeVisible()
  await expect(page.getByLabel('Write a comment')).toHaveValue('')
  await page.keyboard.press('Escape')
  await page.locator('[data-item^="HYD330"]').click()
  await expect(page.getByLabel('Write a comment')).toHaveValue('Only about water quality')
  await page.getByRole('region', { name: 'HYD 330' }).getByRole('button', { name: 'Send' }).click()
  await expect(page.getByRole('region', { name: 'Comments' })).toContainText('Only about water quality')
  const rows = (await db.select().from(s.comments).where(eq(s.comments.student, id))).filter(row => row.text === 'Only about water quality')
  expect(rows.map(row => row.entry)).toEqual([expect.stringMatching(/^HYD330/)])
  await db.delete(s.comments).where(eq(s.comments.id, rows[0]!.id))
})

test('a moved tile keeps the focus before the server has answered, and can be moved on at once', async ({ page }) => {
  await signIn(page, 'ines')
  await waypoint(page, 'Plan')
  const free: (() => void)[] = []
  await page.route('**/plans/*/edits*', async (route) => {
    await new Promise<void>(go => free.push(go))
    await route.continue()
  })
  const tile = page.locator('.tile.movable').first()
  const name = (await tile.getAttribute('data-item'))!
  const where = async () => (await page.locator(`[data-item="${name}"]`).getAttribute('aria-label'))!
  const before = await where()
  await tile.focus()
  await page.keyboard.press('Alt+ArrowRight')
  await expect(page.locator(`[data-item="${name}"]`)).toBeFocused()
  const once = await where()
  expect(once).not.toBe(before)
  await page.keyboard.press('Alt+ArrowRight')
  await expect(page.locator(`[data-item="${name}"]`)).toBeFocused()
  expect(await where()).not.toBe(once)
  await page.unroute('**/plans/*/edits*', { behavior: 'ignoreErrors' } as never)
  for (const go of free) go()
  await expect(page.getByText('saved', { exact: true })).toBeVisible()
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Control+z')
  await expect.poll(where).toBe(before)
  await expect(page.getByText('saved', { exact: true })).toBeVisible()
})

test('the board, the requirements and the map are one stop each for Tab; arrows walk in them', async ({ page }) => {
  await signIn(page, 'tamsin')
  const { id } = await personOf('tamsin')
  const FIELDS = [['plan', '[data-item]'], ['requirements', '.requirement .head, .requirement .block'], ['map', '.node']] as const
  for (const [at, things] of FIELDS) {
    await page.goto(`/student/${id}/${at}`)
    await expect(page.locator(things).first()).toBeVisible()
    await expect.poll(() => page.locator(things).evaluateAll(all => all.filter(one => (one as HTMLElement).tabIndex === 0).length)).toBe(1)
    await page.locator(things).first().focus()
    await page.keyboard.press('ArrowDown')
    const [first, now] = await page.evaluate(selector => [document.querySelector(selector)!.textContent,
      document.activeElement!.matches(selector) ? document.activeElement!.textContent : 'nothing'], things)
    expect(now).not.toBe('nothing')
    expect(now).not.toBe(first)
    await expect.poll(() => page.locator(things).evaluateAll(all => all.filter(one => (one as HTMLElement).tabIndex === 0).length)).toBe(1)
  }
})

test('a tile says where it stands, whether it is pinned and what is wrong; taken out, its neighbour has the focus', async ({ page }) => {
  await signIn(page, 'tamsin')
  await waypoint(page, 'Plan')
  const tile = page.locator('[data-item^="HYD310"]')
  await expect(tile).toHaveAttribute('aria-label', /Fall 2027, Watershed core.*1 blocking problem/)
  const other = page.locator('[data-item^="HRT150"]')
  await other.focus()
  await page.keyboard.press('p')
  await expect(other).toHaveAttribute('aria-label', /pinned/)
  await page.keyboard.press('Delete')
  await expect(other).toHaveCount(0)
  expect(await page.evaluate(() => document.activeElement?.hasAttribute('data-item'))).toBe(true)
  await page.keyboard.press('Control+z')
  await expect(other).toBeVisible()
  await page.keyboard.press('Control+z')
  await expect(page.getByText('saved', { exact: true })).toBeVisible()
})

test('a file opens at its address with or without a slash, and each page names itself', async ({ page }) => {
  await signIn(page, 'tamsin')
  const { id } = await personOf('tamsin')
  await page.goto(`/student/${id}/plan/`)
  await expect(page.locator('[data-item]').first()).toBeVisible()
  await expect(page).toHaveTitle('Plan · Tamsin Orrell · Ridgeway')
  await page.goto(`/student/${id}`)
  await expect(page).toHaveURL(new RegExp(`/student/${id}/now$`))
  await expect(page).toHaveTitle('Now · Tamsin Orrell · Ridgeway')
})

test('a plan that is asked for with two quick presses is made once', async ({ page }) => {
  await signIn(page, 'wren')
  await waypoint(page, 'Plan')
  const { id } = await personOf('wren')
  const plans = async () => (await db.select().from(s.plans).where(eq(s.plans.student, id))).length
  const before = await plans()
  await page.getByRole('button', { name: 'Plans' }).click()
  await page.getByRole('button', { name: 'New empty plan' }).dblclick()
  await expect(page.getByRole('heading', { name: 'New plan plan' })).toBeVisible()
  await expect.poll(plans).toBe(before + 1)
})

test('a sign-off reaches the student whose Register is open', async ({ page, browser }) => {
  const { id } = await personOf('tamsin')
  await signIn(page, 'tamsin')
  await waypoint(page, 'Register')
  const gates = page.getByRole('region', { name: 'Gates' })
  await expect(gates).toContainText('Sign-off')
  const before = await db.select().from(s.signOffs).where(eq(s.signOffs.student, id))
  const context = await browser.newContext()
  const other = await context.newPage()
  await signIn(other, 'hollis')
  await other.goto(`/student/${id}/plan`)
  await other.getByRole('region', { name: 'Review' }).getByRole('button', { name: /Sign off/ }).click()
  await expect(other.getByRole('region', { name: 'Review' })).toContainText('Nothing has changed since.')
  await context.close()
  await expect(gates).toContainText('by Hollis Brandt')
  await db.delete(s.signOffs).where(eq(s.signOffs.student, id))
  if (before.length > 0) await db.insert(s.signOffs).values(before)
})

test('what two tabs of one plan could not send yet stays in both, and all of it is sent', async ({ page, context, complaints }) => {
  await signIn(page, 'hale')
  await waypoint(page, 'Plan')
  await expect(page).toHaveURL(/\/plan$/)
  const other = await context.newPage()
  await other.goto(page.url())
  const ids = await page.locator('.tile.movable').evaluateAll(all => all.slice(0, 2).map(tile => (tile as HTMLElement).dataset.item!))
  const tile = (where: Page, id: string) => where.locator(`[data-item="${id}"]`)
  await expect(tile(other, ids[1]!)).toBeVisible()
  await context.route('**/plan', route => route.request().method() === 'POST' ? route.abort() : route.continue())
  for (const [where, id] of [[page, ids[0]!], [other, ids[1]!]] as const) {
    await tile(where, id).focus()
    await where.keyboard.press('p')
    await expect(where.getByText('kept on this device, will be sent')).toBeVisible()
  }
  // Both pages go away before anything was sent; one page comes back and sends what both had.
  await other.close()
  await page.reload()
  for (const id of ids) await expect(tile(page, id)).toHaveAttribute('aria-label', /pinned/)
  await context.unroute('**/plan')
  const pinned = async () => (await db.select({ entry: s.planEntries }).from(s.planEntries).innerJoin(s.plans, eq(s.plans.id,
    s.planEntries.plan)).innerJoin(s.people, eq(s.people.id, s.plans.student)).where(eq(s.people.username, 'hale')))
    .filter(({ entry }) => entry.pinned).map(({ entry }) => entry.id).sort()
  await expect.poll(pinned, { timeout: 20_000 }).toEqual([...ids].sort())
  await expect(page.getByText('saved', { exact: true })).toBeVisible()
  forgetCuts(complaints)
})

test('an opened drawer belongs to the address: a reload keeps it, back closes it, Esc leaves no step behind', async ({ page }) => {
  await signIn(page, 'tamsin')
  await waypoint(page, 'Plan')
  const tile = page.locator('[data-item^="HYD330"]')
  const drawer = page.getByRole('region', { name: 'HYD 330' })
  await tile.click()
  await expect(drawer).toBeVisible()
  await expect(page).toHaveURL(/open=tile:HYD330/)
  await page.reload()
  await expect(drawer).toBeVisible()
  await page.goBack()
  await expect(drawer).toHaveCount(0)
  await expect(page).toHaveURL(/\/plan$/)
  await page.locator('[data-item^="HYD410"]').click()
  await page.locator('[data-item^="HYD330"]').click()
  await expect(drawer).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(page).toHaveURL(/\/plan$/)
  await waypoint(page, 'Requirements')
  await page.getByRole('button', { name: /Mathematics, soils and ecology/ }).click()
  await expect(page).toHaveURL(/open=/)
  await page.reload()
  await expect(page.getByRole('region', { name: 'Mathematics, soils and ecology' })).toBeVisible()
  await page.keyboard.press('Escape')
  await page.goBack()
  await expect(page).toHaveURL(/\/plan$/)
})

test('the focus goes along with what is done, and never falls to the page', async ({ page }) => {
  await signIn(page, 'wren')
  const focused = () => page.evaluate(() =>
    document.activeElement === document.body ? 'the page' : document.activeElement!.outerHTML.slice(0, 160))
  await waypoint(page, 'Plan')
  // Holding a place: its drawer has the focus, and when it closes, the place.
  const hold = page.getByRole('button', { name: /^Hold a place/ }).first()
  await hold.focus()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('region', { name: 'To choose' })).toBeFocused()
  await page.keyboard.press('Escape')
  await expect.poll(focused).toContain('data-item="hold')
  await page.keyboard.press('Delete')
  await expect(page.locator('.hold')).toHaveCount(0)
  await expect.poll(focused).not.toBe('the page')
  // Placing a course from the field.
  const adder = page.getByLabel('Place a course in Spring 2027')
  await typeAndTake(adder, 'LNG 101')
  await expect(page.getByRole('region', { name: 'LNG 101' })).toBeFocused()
  await page.keyboard.press('Escape')
  await expect.poll(focused).not.toBe('the page')
  await page.getByRole('button', { name: /^Undo/ }).click()
  // A key to another waypoint, from something that is only on this one.
  await page.locator('[data-item]').first().focus()
  await page.keyboard.press('1')
  await expect(page.getByRole('heading', { name: 'Next on your path' })).toBeVisible()
  await expect(page.locator('#main')).toBeFocused()
})

test('a course placed while the connection is away is said to be not sent yet, and every page says that it is away', async ({
  page, context, complaints,
}) => {
  await signIn(page, 'tamsin')
  await waypoint(page, 'Requirements')
  await page.getByRole('button', { name: /Mathematics, soils and ecology/ }).click()
  const place = page.getByRole('button', { name: /^Place in / }).first()
  await expect(place).toBeVisible()
  await context.setOffline(true)
  await place.click()
  await expect(page.locator('.said')).toContainText('kept on this device, not sent yet')
  await expect(page.getByText('Ridgeway cannot be reached.')).toBeVisible()
  await waypoint(page, 'Plan')
  await expect(page.getByText('What you changed in the plan is kept on this device')).toBeVisible()
  await context.setOffline(false)
  await expect(page.getByText('Ridgeway cannot be reached.')).toHaveCount(0, { timeout: 15_000 })
  await expect(page.getByText('saved', { exact: true })).toBeVisible({ timeout: 15_000 })
  await page.getByRole('button', { name: /^Undo/ }).click()
  await expect(page.getByText('saved', { exact: true })).toBeVisible()
  forgetCuts(complaints)
})

test('what has the focus is never hidden under the review bar or a drawer', async ({ page }) => {
  await signIn(page, 'hollis')
  const { id } = await personOf('tamsin')
  await page.goto(`/student/${id}/plan?open=term:2027SP`)
  await expect(page.getByRole('region', { name: 'Spring 2027' })).toBeVisible()
  await page.locator('#main').focus()
  const hidden: string[] = []
  for (let n = 0; n < 40; n++) {
    await page.keyboard.press('Tab')
    const under = await page.evaluate(() => {
      const at = document.activeElement as HTMLElement
      const box = at.getBoundingClientRect()
      const top = document.elementFromPoint(Math.max(0, box.left + box.width / 2), box.top + Math.min(box.height, 16) / 2)
      const cover = top?.closest('.foot-bar, .drawer')
      return cover && !cover.contains(at) ? `${at.tagName} ${at.textContent!.trim().slice(0, 30)}` : ''
    })
    if (under) hidden.push(under)
  }
  expect(hidden).toEqual([])
})

test('a bundle says its times, place, seats and whether it fits; one that is registered can be reached and says so', async ({ page }) => {
  await signIn(page, 'tamsin')
  await waypoint(page, 'Week')
  const rows = page.locator('section.column .row')
  await expect(rows.first()).toBeVisible()
  const names = await rows.evaluateAll(all => all.map(row => row.getAttribute('aria-label') ?? ''))
  for (const name of names) {
    expect(name).toMatch(/^[A-Z]{3} \d{3}-/)
    expect(name).toMatch(/\d+ left|full|registered/)
    expect(name).toMatch(/fits|registered|clashes|full|needs|only for|cancelled|over the cap|goes with|too short|passed|already|keep-free/)
  }
})

test('in forced colours the selected tile and the days of a bundle are still told apart', async ({ page }) => {
  await page.emulateMedia({ forcedColors: 'active' })
  await signIn(page, 'tamsin')
  await waypoint(page, 'Plan')
  const tile = page.locator('.tile').filter({ hasText: 'HYD 330' })
  const outline = () => tile.evaluate(one => getComputedStyle(one).outlineStyle)
  expect(await outline()).toBe('none')
  await tile.click()
  await expect.poll(outline).toBe('solid')
  await waypoint(page, 'Week')
  const days = page.locator('.glyph').first().locator('i')
  await expect(days.first()).toBeVisible()
  const fills = await days.evaluateAll(all =>
    all.map(one => [one.classList.contains('on'), getComputedStyle(one).backgroundColor] as const))
  const [on, off] = [fills.filter(([is]) => is), fills.filter(([is]) => !is)].map(some => new Set(some.map(([, fill]) => fill)))
  expect(on!.size).toBe(1)
  expect([...off!]).not.toContain([...on!][0])
})

test('the ridge is whole, and no page is wider than the window, at every width', async ({ page }) => {
  await signIn(page, 'tamsin')
  const { id } = await personOf('tamsin')
  const wrong: string[] = []
  for (const at of ['now', 'requirements', 'plan', 'week', 'register', 'map']) {
    await page.goto(`/student/${id}/${at}`)
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
    for (const width of [1920, 1280, 1024, 768, 600, 390]) {
      await page.setViewportSize({ width, height: 800 })
      await expect.poll(() => page.evaluate(() => innerWidth)).toBe(width)
      // A picture follows its box a frame later.
      await page.evaluate(() => new Promise(done => requestAnimationFrame(() => requestAnimationFrame(() => setTimeout(done)))))
      const [wide, cut, edges] = await page.evaluate(() => {
        const all = (selector: string) => Array.from(document.querySelectorAll(selector))
        return [document.documentElement.scrollWidth - innerWidth,
          all('.waypoint .state').filter(one => one.scrollWidth > one.clientWidth + 1).map(one => one.textContent),
          all('.shell .who, .page .page-head').map(one => Math.round(one.getBoundingClientRect().left))] as const
      })
      if (wide > 0) wrong.push(`${at} at ${width}: ${wide} px too wide`)
      if (cut.length > 0) wrong.push(`${at} at ${width}: cut: ${cut.join('; ')}`)
      if (edges[0] !== edges[1]) wrong.push(`${at} at ${width}: the header begins at ${edges[0]}, the page at ${edges[1]}`)
    }
  }
  expect(wrong).toEqual([])
})

test('the look of this device is chosen, and stays', async ({ page }) => {
  await page.emulateMedia({ colorScheme: 'light' })
  await signIn(page, 'tamsin')
  const paper = () => page.evaluate(() => getComputedStyle(document.body).backgroundColor)
  const light = await paper()
  await page.getByRole('button', { name: /Your account/ }).click()
  const look = page.getByText('Look', { exact: true })
  await look.click()
  await expect(look).toBeHidden()
  await page.getByRole('button', { name: /Your account/ }).click()
  await look.click()
  await expect.poll(paper).not.toBe(light)
  await page.reload()
  await expect(page.getByRole('heading', { name: 'Next on your path' })).toBeVisible()
  expect(await paper()).not.toBe(light)
})
