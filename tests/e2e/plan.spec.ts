import { eq } from 'drizzle-orm'
import * as s from '../../server/db/schema'
import { db, expect, signIn, test, typeAndTake, waypoint } from './college'

const entriesOf = async (username: string) => {
  const rows = await db.select({ entry: s.planEntries }).from(s.planEntries).innerJoin(s.plans, eq(s.plans.id, s.planEntries.plan))
    .innerJoin(s.people, eq(s.people.id, s.plans.student)).where(eq(s.people.username, username))
  return Object.fromEntries(rows.map(({ entry }) => [entry.course, entry.term]))
}

test('a tile dragged too early shows its problem; the offered move mends it; undo takes it back', async ({ page }) => {
  await signIn(page, 'lise')
  await waypoint(page, 'Plan')
  const tile = page.locator('[data-item^="HRT230-2027SP"]')
  await expect(tile).toBeVisible()
  await typeAndTake(page.getByLabel('Place a course in Spring 2027'), 'GSP 410')
  const placed = page.locator('[data-item^="GSP410-2027SP"]')
  await expect(placed).toContainText('1')
  const drawer = page.getByRole('region', { name: 'GSP 410' })
  await expect(drawer).toContainText(
    'GSP 410 is too early in Spring 2027: it needs GSP 210 with C or better first, which is not in the plan.',
  )
  await drawer.getByRole('button', { name: 'Take GSP 410 out' }).or(drawer.getByRole('button', { name: 'Take out of the plan' })).first()
    .click()
  await expect(placed).toHaveCount(0)
  await page.getByRole('button', { name: /^Undo/ }).click()
  await expect(placed).toBeVisible()
  await page.getByRole('button', { name: /^Undo/ }).click()
  await expect(placed).toHaveCount(0)
  await expect.poll(async () => (await entriesOf('lise'))['GSP 410']).toBeUndefined()
})

test('a tile is dragged sideways with the mouse into another term, and stays there after a reload', async ({ page }) => {
  await signIn(page, 'joss')
  await waypoint(page, 'Plan')
  const tile = page.locator('[data-item^="CHY120-2027FA"]')
  await page.getByRole('button', { name: 'All terms' }).click()
  const from = (await tile.boundingBox())!
  const target = (await page.getByText('Spring 2028', { exact: true }).first().boundingBox())!
  await page.mouse.move(from.x + 20, from.y + 15)
  await page.mouse.down()
  await page.mouse.move(target.x + 30, from.y + 18, { steps: 8 })
  await page.mouse.up()
  await expect(page.getByRole('status').filter({ hasText: 'CHY 120 moved to Spring 2028' })).toBeVisible()
  await expect.poll(async () => (await entriesOf('joss'))['CHY 120']).toBe('2028SP')
  await page.reload()
  await expect(page.locator('[data-item^="CHY120-2027FA"]')).toBeVisible()
  expect((await entriesOf('joss'))['CHY 120']).toBe('2028SP')
})

test('a selected tile shows its slack in words and as a track; the head names the chain that decides the finish', async ({ page }) => {
  await signIn(page, 'una')
  await waypoint(page, 'Plan')
  await expect(page.getByText(/decided by .*HYD 310 → HYD 410 → HYD 490/)).toBeVisible()
  await page.locator('[data-item^="HYD410"]').click()
  await expect(page.getByRole('region', { name: 'HYD 410' })).toContainText('Slack none: any later, and the finish moves')
  await expect(page.locator('.cell.track')).toHaveCount(1)
  await page.locator('[data-item^="HRT150"]').click()
  await expect(page.getByRole('region', { name: 'HRT 150' })).toContainText(/Slack 1 term: up to Spring 2029/)
  await expect(page.locator('.cell.track')).not.toHaveCount(1)
})

test('the board becomes as narrow as its window, also with curves on it', async ({ page }) => {
  await page.setViewportSize({ width: 1600, height: 800 })
  await signIn(page, 'tamsin')
  await waypoint(page, 'Plan')
  await page.locator('[data-item^="HYD310"]').click()
  await expect(page.locator('.curves path')).not.toHaveCount(0)
  await page.setViewportSize({ width: 1280, height: 800 })
  const board = page.getByRole('grid', { name: 'Lanes by term' })
  await expect.poll(() => board.evaluate(({ scrollWidth, clientWidth }) => scrollWidth - clientWidth)).toBe(0)
})

test('a term is planned by keyboard alone', async ({ page }) => {
  await signIn(page, 'ned')
  await expect(page.getByRole('heading', { name: 'Next on your path' })).toBeVisible()
  await page.keyboard.press('3')
  await expect(page.getByRole('heading', { name: 'Main plan' })).toBeVisible()
  const tile = page.locator('[data-item^="STT301-2027SP"]')
  await tile.focus()
  await page.keyboard.press('Alt+ArrowRight')
  await expect(page.getByRole('status').filter({ hasText: 'STT 301 moved to Fall 2027' })).toBeVisible()
  await expect(tile).toBeFocused()
  await page.keyboard.press('p')
  await expect(tile.getByLabel('pinned')).toBeVisible()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('region', { name: 'STT 301' })).toContainText('not offered in Fall 2027')
  await page.keyboard.press('Escape')
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Control+z')
  await expect(page.getByRole('status').filter({ hasText: 'Undone' })).toBeVisible()
  await expect.poll(async () => (await entriesOf('ned'))['STT 301']).toBe('2027SP')
  await tile.focus()
  await page.keyboard.press('ArrowUp')
  await expect(tile).not.toBeFocused()
})

test('an edit made while the connection is away is kept and sent', async ({ page, context, complaints }) => {
  await signIn(page, 'wren')
  await waypoint(page, 'Plan')
  const tile = page.locator('[data-item^="CHY120-2027SP"]')
  await expect(tile).toBeVisible()
  await context.setOffline(true)
  await tile.focus()
  await page.keyboard.press('Alt+ArrowRight')
  await expect(page.getByText('kept on this device, will be sent')).toBeVisible()
  expect((await entriesOf('wren'))['CHY 120']).toBe('2027SP')
  await context.setOffline(false)
  await expect.poll(async () => (await entriesOf('wren'))['CHY 120'], { timeout: 15_000 }).toBe('2027FA')
  await expect(page.getByText('saved', { exact: true })).toBeVisible()
  complaints.splice(0, complaints.length, ...complaints.filter(text => !text.includes('ERR_INTERNET_DISCONNECTED')))
})
