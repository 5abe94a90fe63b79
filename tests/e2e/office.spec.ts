import { readFileSync } from 'node:fs'
import { and, eq, inArray, isNull, like } from 'drizzle-orm'
import type { Page } from '@playwright/test'
import * as s from '../../server/db/schema'
import { db, expect, signIn, signOut, test, waypoint } from './college'

/** What the registrar's office does, by mouse and keyboard, and what the students see of it. */
const COURSE = 'HYD 230'
const goTo = async (page: Page, name: string) => {
  await waypoint(page, name)
  await expect(page.getByRole('heading', { name, exact: true }).first()).toBeVisible()
}
/** A generated student registered in a section of the course, who can sign in as the demo's accounts can. */
async function registeredStudent() {
  const [found] = await db.select({ section: s.sections.id, label: s.sections.label, student: s.people.id, username: s.people.username,
    name: s.people.name }).from(s.registrations).innerJoin(s.sections, eq(s.sections.id, s.registrations.section))
    .innerJoin(s.people, eq(s.people.id, s.registrations.student))
    .where(and(eq(s.sections.course, COURSE), eq(s.sections.term, '2027SP'), eq(s.sections.part, 'lecture'), eq(s.sections.cancelled,
      false),
    like(s.people.username, 's0%'))).orderBy(s.registrations.id).limit(1)
  const [template] = await db.select().from(s.people).where(eq(s.people.username, 'tamsin'))
  await db.update(s.people).set({ passwordHash: template!.passwordHash }).where(eq(s.people.id, found!.student))
  return found!
}

test('a section is cancelled: whom it touches is seen before, each is offered a seat, and the student takes it from Now',
  async ({ page }) => {
    const { section, label, student, username, name } = await registeredStudent()
    await signIn(page, 'edda')
    await goTo(page, 'Sections')
    await page.getByLabel('Find a section').fill(COURSE)
    await page.getByRole('button', { name: `Open ${COURSE}-${label}`, exact: true }).click()
    const drawer = page.getByRole('region', { name: `${COURSE}-${label}` })
    await expect(drawer.getByRole('link', { name })).toBeVisible()
    await drawer.getByRole('button', { name: 'Cancel this section …' }).click()
    const dialog = page.getByRole('dialog', { name: `Cancel ${COURSE}-${label}` })
    await expect(dialog.getByRole('row').filter({ hasText: name })).toContainText(/\d\d \+ \d\dL/)
    await expect(dialog.getByRole('button', { name: /^Cancel it for/ })).toBeDisabled()
    await dialog.getByLabel('Why').fill('No teacher was found')
    await dialog.getByRole('button', { name: /^Cancel it for/ }).click()
    await expect(dialog).toHaveCount(0)
    await expect(drawer.getByText('Nobody is in it any more.')).toBeVisible({ timeout: 20_000 })
    await drawer.getByRole('link', { name: 'What happened to it' }).click()
    await expect(page.getByRole('row').filter({ hasText: 'cancel section' })).toContainText('No teacher was found')
    await expect(page.getByRole('row').filter({ hasText: 'section cancelled' }).filter({ hasText: name })).toHaveCount(1)
    await signOut(page)
    await signIn(page, username)
    const steps = page.getByRole('region', { name: 'To do' })
    await expect(steps).toContainText(`${COURSE}-${label} was cancelled`)
    await expect(steps).toContainText('What was charged for it was given back.')
    await expect(steps).toContainText(/A seat in HYD 230-\d\d \+ \d\dL is held for you/)
    const offers = await db.select().from(s.waitlistEntries).where(eq(s.waitlistEntries.student, student))
    expect(offers.filter(one => one.offerUntil !== null)).toHaveLength(2)
    await waypoint(page, 'Register')
    await page.getByRole('button', { name: 'Take the seat in HYD 230' }).first().click()
    await expect.poll(async () => (await db.select().from(s.registrations).where(and(eq(s.registrations.student, student),
      eq(s.registrations.course, COURSE)))).map(row => row.section === section)).toEqual([false, false])
  })

test('seats are set; fewer than are taken are refused in words and nothing is changed', async ({ page }) => {
  const { section, label } = await registeredStudent()
  const seatsOf = async () => (await db.select().from(s.seatPools).where(eq(s.seatPools.section, section)).orderBy(s.seatPools.id))
    .map(one => [one.forGroup, one.capacity])
  const before = await seatsOf()
  await signIn(page, 'edda')
  await page.goto(`/office/sections?section=${section}`)
  const drawer = page.getByRole('region', { name: `${COURSE}-${label}` })
  await drawer.getByRole('button', { name: 'Set the seats …' }).click()
  await drawer.getByLabel('For everybody').fill('0')
  await drawer.getByRole('button', { name: 'Keep these seats' }).click()
  await expect(drawer.getByRole('alert')).toContainText('of its seats are taken or held')
  expect(await seatsOf()).toEqual(before)
  await drawer.getByLabel('For everybody').fill('31')
  await drawer.getByRole('button', { name: '+ keep seats for a group' }).click()
  await drawer.getByLabel('Kept for').fill('senior')
  await drawer.getByLabel('Seats', { exact: true }).fill('2')
  await drawer.getByRole('button', { name: 'Keep these seats' }).click()
  await expect(drawer.getByText('kept for senior')).toBeVisible()
  expect(await seatsOf()).toEqual([[null, 31], ['senior', 2]])
})

test('holds are placed on a list and cleared, programs confirmed, and a student reads it', async ({ page }) => {
  const some = await db.select().from(s.people).where(like(s.people.username, 's00%')).orderBy(s.people.id).limit(2)
  const ids = some.map(one => one.id)
  await db.update(s.students).set({ programConfirmed: false }).where(inArray(s.students.person, ids))
  await signIn(page, 'edda')
  await goTo(page, 'People')
  const holds = page.getByRole('region', { name: 'Holds' })
  await holds.getByRole('button', { name: 'Place holds …' }).click()
  const dialog = page.getByRole('dialog', { name: 'Place holds' })
  await dialog.getByLabel(/^Sign-in names/).fill(`${some[0]!.username}, nobody-here\n${some[1]!.username}`)
  await dialog.getByLabel('Why, as the student reads it').fill('An overdue field recorder')
  await dialog.getByLabel('Whom to see').fill('The library')
  await dialog.getByRole('button', { name: 'Place 3 holds' }).click()
  await expect(dialog.getByRole('alert')).toContainText('Nothing is placed: nobody-here is no student.')
  expect(await db.$count(s.holds, inArray(s.holds.student, ids))).toBe(0)
  await dialog.getByLabel(/^Sign-in names/).fill(some.map(one => one.username).join(' '))
  await dialog.getByRole('button', { name: 'Place 2 holds' }).click()
  await expect(dialog).toHaveCount(0)
  for (const one of some) await holds.getByRole('checkbox', { name: `Choose the hold on ${one.name}` }).check()
  await holds.getByRole('button', { name: 'Clear 2 holds' }).click()
  await expect(holds.getByText('An overdue field recorder')).toHaveCount(0)
  expect(await db.$count(s.holds, and(inArray(s.holds.student, ids), isNull(s.holds.cleared)))).toBe(0)
  const confirms = page.getByRole('region', { name: 'Programs to confirm' })
  for (const one of some) await confirms.getByRole('checkbox', { name: `Choose ${one.name}` }).check()
  await confirms.getByRole('button', { name: 'Confirm for 2 students' }).click()
  await expect(confirms.getByText(some[0]!.name)).toHaveCount(0)
  expect(await db.$count(s.students, and(inArray(s.students.person, ids), eq(s.students.programConfirmed, true)))).toBe(2)
})

test('openings say whom they let in and whose moment moves before they are kept; dates out of order are refused', async ({ page }) => {
  await signIn(page, 'edda')
  await goTo(page, 'Terms')
  const before = await db.select().from(s.openings).where(eq(s.openings.term, '2027SP'))
  const openings = page.getByRole('region', { name: 'Openings' })
  await expect(openings.getByText('Every student is let in.')).toBeVisible()
  const last = openings.getByRole('group').last()
  await last.getByRole('button', { name: /^Take opening/ }).click()
  await expect(openings.getByText(/\d+ students would not be let in at all\. Against what stands: \d+ shut out\./)).toBeVisible()
  await openings.getByRole('button', { name: 'Leave them as they are' }).click()
  await expect(openings.getByText('Every student is let in.')).toBeVisible()
  expect(await db.select().from(s.openings).where(eq(s.openings.term, '2027SP'))).toEqual(before)
  await page.getByRole('button', { name: 'Change dates and loads …' }).click()
  const dialog = page.getByRole('dialog', { name: 'Dates of Spring 2027' })
  await dialog.getByLabel('Last day to drop').fill('2026-02-01')
  await dialog.getByRole('button', { name: 'Keep these' }).click()
  await expect(dialog.getByRole('alert')).toContainText('Nothing is changed')
  await page.keyboard.press('Escape')
  await expect(dialog).toHaveCount(0)
})

test('the office begins with what needs it, each leads to where it is done, and the waypoints have keys', async ({ page }) => {
  await signIn(page, 'edda')
  const needs = page.getByRole('region', { name: 'What needs the office' })
  await expect(needs.getByRole('link').first()).toBeVisible()
  await needs.getByRole('link').filter({ hasText: 'than there are seats' }).click()
  await expect(page).toHaveURL(/\/office\/sections/)
  await page.getByRole('heading', { name: 'Sections' }).click()
  await page.keyboard.press('4')
  await expect(page).toHaveURL(/\/office\/people/)
  await page.keyboard.press('1')
  await expect(page).toHaveURL(/\/office$/)
})

test('a token is made, lets a program ask, and is refused once it is revoked', async ({ page, request }) => {
  await signIn(page, 'edda')
  await page.getByRole('button', { name: /Your account/ }).click()
  await page.getByText('API access', { exact: true }).click()
  await page.getByLabel('What it is for').fill('The library')
  await page.getByRole('button', { name: 'Make it' }).click()
  const token = await page.getByRole('region', { name: 'Make a token' }).locator('.token code').innerText()
  expect(token).toMatch(/^rw_/)
  const ask = () => request.get('/api/seats?term=2027SP', { headers: { authorization: `Bearer ${token}` } })
  expect((await ask()).status()).toBe(200)
  await page.reload()
  await expect(page.getByText(token)).toHaveCount(0)
  await page.getByRole('button', { name: 'Revoke The library' }).click()
  await page.getByRole('dialog').getByRole('button', { name: 'Revoke it' }).click()
  await expect(page.getByRole('row').filter({ hasText: 'The library' })).toHaveCount(0)
  expect((await ask()).status()).toBe(401)
})

test('a student takes everything about them out in one file', async ({ page }) => {
  await signIn(page, 'una')
  await page.getByRole('button', { name: /Your account/ }).click()
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByText('Everything about you, as a file').click()])
  expect(download.suggestedFilename()).toBe('una-everything.json')
  interface Everything { person: { name: string }, tables: Record<string, unknown[]> }
  const everything = JSON.parse(readFileSync((await download.path())!, 'utf8')) as Everything
  expect(everything.person.name).toMatch(/^Una /)
  expect(everything.tables.plans!.length).toBeGreaterThan(0)
})
