import { expect, test, type Page } from '@playwright/test'
import { faults } from './axe'
import { signIn } from './college'

const STATES = ['considering', 'open', 'planned', 'picked', 'waitlist', 'registered', 'under way', 'completed']

async function openKit(page: Page) {
  await signIn(page, 'tamsin')
  await page.goto('/kit')
  await expect(page.getByRole('heading', { name: 'Parts' })).toBeVisible()
}
for (const scheme of ['light', 'dark'] as const) {
  test(`every part meets WCAG 2.2 AA in the ${scheme} theme, on a wide screen and on a phone`, async ({ page }) => {
    await page.emulateMedia({ colorScheme: scheme })
    await openKit(page)
    expect(await faults(page)).toEqual([])
    await page.setViewportSize({ width: 390, height: 844 })
    expect(await faults(page)).toEqual([])
    await page.getByRole('button', { name: 'Ask first' }).click()
    await expect(page.getByRole('dialog', { name: 'Drop HYD 230?' })).toBeVisible()
    expect(await faults(page, '[role=dialog]')).toEqual([])
  })
}

test('every state of commitment has a line of its own, and says itself, in every hue', async ({ page }) => {
  await openKit(page)
  for (const row of await page.locator('[data-hue]').all()) {
    const lines = await row.locator('.commit').evaluateAll(blocks => blocks.map((block) => {
      const { borderStyle, borderWidth, backgroundImage, backgroundColor } = getComputedStyle(block)
      return [borderStyle, borderWidth, backgroundImage, backgroundColor].join()
    }))
    expect(new Set(lines).size).toBe(STATES.length)
    for (const [i, state] of STATES.entries()) await expect(row.locator('.commit').nth(i)).toContainText(state)
  }
})

test('what is off keeps its place for the keyboard, does nothing, and says why', async ({ page }) => {
  await openKit(page)
  const off = page.getByRole('button', { name: 'Register', exact: true })
  await off.focus()
  await expect(page.getByRole('tooltip', { name: 'Sign-off is missing' })).toBeVisible()
  await page.keyboard.press('Enter')
  await expect(page.getByText('0 presses')).toBeVisible()
  await expect(off).toBeFocused()
  await page.getByRole('button', { name: 'Register 5 sections' }).press('Enter')
  await expect(page.getByText('1 press')).toBeVisible()
})

test('a drawer takes the focus, keeps to two fifths of the height, and gives the focus back', async ({ page }) => {
  await openKit(page)
  const opener = page.getByRole('button', { name: 'Open the drawer' })
  await opener.press('Enter')
  const drawer = page.getByRole('region', { name: 'About one' })
  await expect(drawer).toBeFocused()
  expect((await drawer.boundingBox())!.height).toBeLessThanOrEqual(800 * 0.4 + 1)
  await page.keyboard.press('Tab')
  await expect(drawer.getByRole('button', { name: 'Close' })).toBeFocused()
  await page.keyboard.press('Escape')
  await expect(drawer).toHaveCount(0)
  await expect(opener).toBeFocused()
})

test('one Esc closes one layer; letters do nothing under a dialog, and can be turned off', async ({ page }) => {
  await openKit(page)
  await page.getByRole('button', { name: 'Open the drawer' }).press('Enter')
  await page.keyboard.press('?')
  const keys = page.getByRole('dialog', { name: 'Help' })
  await expect(keys).toContainText('in a student\'s file')
  await expect.poll(() => page.evaluate(() => document.activeElement?.closest('[role=dialog]') !== null)).toBe(true)
  await page.keyboard.press('Escape')
  await expect(keys).toHaveCount(0)
  await expect(page.getByRole('region', { name: 'About one' })).toBeFocused()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('region', { name: 'About one' })).toHaveCount(0)

  await page.keyboard.press('?')
  await keys.getByLabel('Letters and numbers alone are keys').press('Space')
  await keys.getByRole('button', { name: 'Close' }).click()
  await expect(keys).toHaveCount(0)
  await page.keyboard.press('?')
  await expect(keys).toHaveCount(0)
})

test('a file that is too large is refused in words, a right one is taken, and again after that', async ({ page }) => {
  await openKit(page)
  const field = page.getByLabel('Open a file', { exact: true })
  await field.setInputFiles({ name: 'large.json', mimeType: 'application/json', buffer: Buffer.alloc(200_001) })
  await expect(page.getByText('The file is larger than 200 kB.')).toBeVisible()
  await field.setInputFiles({ name: 'right.json', mimeType: 'application/json', buffer: Buffer.from('{}') })
  await expect(page.getByText('right.json')).toBeVisible()
})
