import { and, eq } from 'drizzle-orm'
import * as s from '../../server/db/schema'
import { db, expect, signIn, signOut, test, waypoint } from './college'

test('a wrong password says what to do, and not which half was wrong', async ({ page }) => {
  await page.goto('/sign-in')
  await page.getByLabel('Name').fill('tamsin')
  await page.getByLabel('Password').fill('not this')
  await page.getByRole('button', { name: 'Sign in', exact: true }).click()
  const alert = page.getByRole('alert').filter({ hasText: 'This name and password do not go together.' })
  await expect(alert).toContainText('Check both')
})

test('the sign-in page lists the demo accounts with their stories, one press signs in', async ({ page }) => {
  await page.goto('/sign-in')
  await page.getByRole('button', { name: /Perrin Locke/ }).click()
  await expect(page.getByText('Library: two overdue field recorders').first()).toBeVisible()
  await signOut(page)
})

test('an ended session says so and leads back to the page after signing in', async ({ page, context }) => {
  await signIn(page, 'tamsin')
  await page.getByRole('navigation', { name: 'Waypoints' }).getByRole('link', { name: /^Plan/ }).click()
  await expect(page).toHaveURL(/\/plan$/)
  const plan = page.url()
  await context.clearCookies()
  await page.reload()
  await expect(page.getByText('your session has ended')).toBeVisible()
  await page.getByLabel('Name').fill('tamsin')
  await page.getByLabel('Password').fill('larkmoor')
  await page.getByRole('button', { name: 'Sign in', exact: true }).click()
  await expect(page).toHaveURL(plan)
})

test('another student\'s page, the office and a wrong address each say what to do', async ({ page }) => {
  await signIn(page, 'tamsin')
  await page.goto('/student/1/plan')
  await expect(page.getByText('This page is not open to you.')).toBeVisible()
  await page.goto('/office')
  await expect(page.getByText('This page is not open to you.')).toBeVisible()
  await page.getByRole('link', { name: 'To my start page' }).click()
  await expect(page.getByText('Next on your path')).toBeVisible()
  await page.goto('/nowhere/at/all')
  await expect(page.getByText(/not open to you|no page at this address/)).toBeVisible()
})

test('a first-year confirms the program, and the gate opens', async ({ page }) => {
  await signIn(page, 'ines')
  const gates = page.getByRole('region', { name: 'Gates' })
  await expect(gates).toContainText('BS Watershed Science, not confirmed')
  await page.getByRole('button', { name: 'Confirm', exact: true }).click()
  await expect(gates).toContainText('BS Watershed Science, confirmed')
})

test('the office sees seats and openings; the working term is carried everywhere', async ({ page }) => {
  await signIn(page, 'edda')
  await expect(page.getByRole('heading', { name: 'Office' })).toBeVisible()
  await page.getByRole('navigation', { name: 'Waypoints' }).getByRole('link', { name: /^Sections/ }).click()
  const sections = await db.select().from(s.sections).where(and(eq(s.sections.term, '2027SP'), eq(s.sections.course, 'HYD 230')))
  expect(sections.length).toBeGreaterThan(5)
  await page.getByLabel('Find a section').fill('HYD 230')
  await expect(page.getByRole('row').filter({ hasText: 'HYD 230' })).toHaveCount(sections.length)
  await page.getByRole('button', { name: 'Working term' }).click()
  await page.getByRole('list', { name: 'Choose the working term' }).getByText('Summer 2027').click()
  await expect(page.getByText(/Summer 2027 · \d+ of \d+ seats taken/)).toBeVisible()
})

test('every page says what it is, what its marks mean, and what the words mean', async ({ page }) => {
  await signIn(page, 'tamsin')
  await waypoint(page, 'Plan')
  await page.getByRole('button', { name: /Your account/ }).click()
  await page.getByText('this page, keys, words').click()
  const help = page.getByRole('dialog', { name: 'Help: Plan' })
  await expect(help).toContainText('how many terms a course can slide before the finish moves')
  await help.getByRole('tab', { name: 'Words' }).click()
  await expect(help).toContainText('a lecture with the lab or tutorial that goes with it')
  await page.keyboard.press('Escape')
  await expect(help).toHaveCount(0)
  await waypoint(page, 'Register')
  await expect(page).toHaveURL(/\/register/)
  await page.keyboard.press('?')
  await expect(page.getByRole('dialog', { name: 'Help: Register' })).toBeVisible()
})
