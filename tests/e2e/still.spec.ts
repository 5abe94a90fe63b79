import { expect, signIn, test, waypoint } from './college'
import type { Page } from '@playwright/test'

/** Nothing moves under the pointer or after focus: a click acts on the row that was pointed at. */
const placesOf = (page: Page) => page.locator('.columns .row').evaluateAll(rows =>
  rows.map((row) => {
    const { top, height } = row.getBoundingClientRect()
    return `${Math.round(top + scrollY)} ${Math.round(height)}`
  }))

test('pointing at a section of Week, or walking to it by key, moves no row', async ({ page }) => {
  await signIn(page, 'tamsin')
  await waypoint(page, 'Week')
  const rows = page.locator('.columns .row')
  await expect(rows.first()).toBeVisible()
  await page.mouse.move(2, 2)
  const before = await placesOf(page)
  expect(before.length).toBeGreaterThan(8)
  for (let i = 0; i < before.length; i++) {
    await rows.nth(i).hover()
    expect(await placesOf(page), `pointing at row ${i + 1}`).toEqual(before)
  }
  await page.mouse.move(2, 2)
  await rows.first().focus()
  for (let i = 0; i < before.length; i++) {
    expect(await placesOf(page), `focus on row ${i + 1}`).toEqual(before)
    await page.keyboard.press('ArrowDown')
  }
})
