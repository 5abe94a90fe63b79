import { test as base, expect, type Locator, type Page } from '@playwright/test'
import { connect } from '../../server/db/connect'
import { whereItStands } from './where'

export const { db, close } = connect(process.env.DATABASE_URL!, 4)

/**
 * Tests fail on anything that the browser complains about: an error in the console is an error. One that waited in vain until its time was
 * up says how its page stands then.
 */
export const test = base.extend<{ complaints: string[] }>({
  complaints: [async ({ page }, use, info) => {
    const complaints: string[] = []
    page.on('pageerror', error => complaints.push(error.message))
    page.on('console', message => message.type() === 'error' && !/status of 4\d\d/.test(message.text()) && complaints.push(message.text()))
    await use(complaints)
    if (info.status === 'timedOut') console.log(`The page of "${info.title}" ${await whereItStands(page)}`)
    expect(complaints).toEqual([])
  }, { auto: true }],
})
export { expect }

export async function signIn(page: Page, username: string) {
  await page.goto('/sign-in')
  // The page puts the cursor into the first field when it is ready; typing before that would be typing into the void.
  await expect(page.getByLabel('Name')).toBeFocused()
  await page.getByLabel('Name').fill(username)
  await page.getByLabel('Password').fill('larkmoor')
  await page.getByRole('button', { name: 'Sign in', exact: true }).click()
  await expect(page).not.toHaveURL(/sign-in/)
}

export async function signOut(page: Page) {
  await page.getByRole('button', { name: /Your account/ }).click()
  await page.getByText('Sign out', { exact: true }).click()
  await expect(page).toHaveURL(/sign-in/)
}

/** Moves the demo's clock on its own page, as a person does. */
export async function setClock(page: Page, moment: string) {
  await page.goto('/clock')
  await page.getByLabel('Set to').fill(moment)
  await page.getByRole('button', { name: 'Set the clock' }).click()
  await expect(page.getByText(/The college's clock shows/)).toBeVisible()
}

export async function waypoint(page: Page, name: string) {
  await page.getByRole('navigation', { name: 'Waypoints' }).getByRole('link', { name: new RegExp(`^${name}`) }).click()
}

/** Milliseconds for a list to come or go: pressed again too soon, one that was about to open closes. */
const LIST_MS = 5000
/**
 * Opens a list and takes one of what it offers. Opens it once more where it closed before the press (the list of the field before closed
 * over it), presses once more where the list was drawn anew under the press and the press went nowhere.
 */
async function take(option: Locator, open: () => Promise<unknown>) {
  let pressed = false
  await expect(async () => {
    const offered = await option.count() === 1 && await option.isVisible()
    // A press that was taken closes the list, at once or after a while: pressing for it again would wait for what is gone.
    if (pressed && !offered) return
    if (!offered) await open()
    await option.click({ timeout: LIST_MS })
    pressed = true
    await expect(option).toBeHidden({ timeout: LIST_MS })
  }).toPass()
}

/** Types into a field with a list and takes the one line that is left. */
export async function typeAndTake(field: Locator, typed: string) {
  const options = field.page().getByRole('option')
  await take(options, async () => {
    await field.fill(typed)
    await expect(options).toHaveCount(1)
  })
}

/** Opens a field with a list and takes one of it. `force` is for a field that lies under its own frame. */
export async function openAndTake(field: Locator, name: string | RegExp, force = false) {
  const option = field.page().getByRole('option', { name })
  await take(option, async () => {
    await field.click({ timeout: LIST_MS, force })
    await expect(option).toBeVisible({ timeout: LIST_MS })
  })
}
