import { and, eq } from 'drizzle-orm'
import * as s from '../../server/db/schema'
import { db, expect, openAndTake, signIn, test, waypoint } from './college'
import type { Page } from '@playwright/test'

/** From planned courses to a week that works: arrangements, wishes that cannot hold together, and the smallest change. */
const lineUpOf = async (username: string) => {
  const rows = await db.select({ row: s.lineUpRows }).from(s.lineUpRows).innerJoin(s.people, eq(s.people.id, s.lineUpRows.student))
    .where(and(eq(s.people.username, username), eq(s.lineUpRows.term, '2027SP')))
  const sections = await db.select().from(s.sections).where(eq(s.sections.term, '2027SP'))
  const label = new Map(sections.map(one => [one.id, `${one.course}-${one.label}`]))
  return rows.map(({ row }) => label.get(row.sectionIds[0]!)!).sort()
}
const wishesOf = async (username: string) => (await db.select({ wishes: s.weekWishes.wishes }).from(s.weekWishes)
  .innerJoin(s.people, eq(s.people.id, s.weekWishes.student)).where(eq(s.people.username, username)))
  .flatMap(row => row.wishes.map(wish => wish.kind))
async function open(page: Page, username: string) {
  await signIn(page, username)
  await waypoint(page, 'Week')
  await page.getByRole('button', { name: 'Arrangements' }).click()
  const drawer = page.getByRole('region', { name: 'Arrangements' })
  await expect(drawer.getByRole('button', { name: /^Week 1:/ })).toBeVisible()
  return drawer
}
async function wish(page: Page, kind: string) {
  await openAndTake(page.getByRole('combobox', { name: 'Add a wish' }), new RegExp(`^${kind}$`), true)
}
async function choose(page: Page, label: string, value: string) {
  const field = page.getByRole('combobox', { name: label })
  await field.focus()
  // What is typed finds the choice that begins with it.
  await field.pressSequentially(value)
  await expect(page.getByRole('listitem', { name: `nothing before ${value}` })).toBeVisible()
}

test('the best weeks are stepped through by keys; the one taken is in the line-up, whole', async ({ page }) => {
  const drawer = await open(page, 'una')
  await expect(drawer).toContainText(/\d+ weeks? stand/, { timeout: 15_000 })
  await drawer.focus()
  await page.keyboard.press(']')
  await expect(drawer.getByRole('button', { name: /^Week 2:/ })).toHaveAttribute('aria-pressed', 'true')
  await page.keyboard.press('[')
  await wish(page, 'A day off')
  const row = drawer.getByRole('listitem', { name: 'Friday off' })
  await expect(row).toContainText(/hides \d+ weeks?/)
  await expect(drawer.getByRole('button', { name: /^Week 1:/ })).toHaveAttribute('aria-pressed', 'true')
  const ribbon = page.getByRole('region', { name: /Week, days as rows/ })
  await expect(ribbon.getByRole('list', { name: 'Fri' }).getByRole('listitem')).toHaveCount(0)
  const words = (await drawer.getByText(/^Would choose /).textContent())!
  await drawer.getByRole('button', { name: 'Take this week' }).click()
  await expect(drawer).toHaveCount(0)
  const taken = words.replace('Would choose ', '').replace(/\.$/, '').split(', ').sort()
  await expect.poll(() => lineUpOf('una')).toEqual(taken)
  const { id } = (await db.select().from(s.people).where(eq(s.people.username, 'una')))[0]!
  await db.delete(s.lineUpRows).where(eq(s.lineUpRows.student, id))
})

test('a place held in the plan is filled by the week that is taken, with backups; one undo takes all of it back', async ({ page }) => {
  await signIn(page, 'kit')
  await waypoint(page, 'Plan')
  await page.getByRole('button', { name: /^Hold a place for Voices/ }).first().click()
  await expect(page.locator('.hold')).toHaveCount(1)
  await waypoint(page, 'Week')
  await page.getByRole('button', { name: 'Arrangements' }).click()
  const drawer = page.getByRole('region', { name: 'Arrangements' })
  await expect(drawer.getByRole('combobox', { name: 'Places to fill' })).toBeVisible()
  const words = drawer.getByText(/^Would choose .* for Voices/)
  await expect(words).toBeVisible()
  const [, code] = /([A-Z]{3} \d{3})-\S+ for Voices/.exec((await words.textContent())!)!
  await expect(drawer.getByLabel(/^With \d+ backups? that fits? beside the rest/)).toBeChecked()
  await expect(drawer).toContainText(/\d+ weeks stand/, { timeout: 15_000 })
  await drawer.getByRole('button', { name: 'Compare with another' }).click()
  await expect(drawer.getByText(/Week 1 beside week 2:/)).toContainText(/ instead of |the same/)
  await drawer.getByRole('button', { name: 'Take this week' }).click()
  await expect(drawer).toHaveCount(0)
  const stored = async () => {
    const { id } = (await db.select().from(s.people).where(eq(s.people.username, 'kit')))[0]!
    const [plan] = await db.select().from(s.plans).where(and(eq(s.plans.student, id), eq(s.plans.current, true)))
    const entries = await db.select().from(s.planEntries).where(eq(s.planEntries.plan, plan!.id))
    const rows = await db.select().from(s.lineUpRows).where(eq(s.lineUpRows.student, id))
    return { held: plan!.details.placeholders.length, planned: entries.some(one => one.course === code && one.term === '2027SP'),
      picked: rows.some(row => row.course === code), rows: rows.length, backups: rows.some(row => row.backups.length > 0) }
  }
  await expect.poll(stored).toMatchObject({ held: 0, planned: true, picked: true, backups: true })
  await expect(page.getByRole('region', { name: `Bundles of ${code}` })).toBeVisible()
  await page.getByRole('status').filter({ hasText: 'The week is taken' }).getByRole('button', { name: 'Undo' }).click()
  await expect.poll(stored).toEqual({ held: 1, planned: false, picked: false, rows: 0, backups: false })
})

test('wishes that cannot hold together are named, with what frees most; without it weeks stand again', async ({ page }) => {
  const drawer = await open(page, 'tamsin')
  await wish(page, 'Begin late')
  await choose(page, 'Nothing before', '13:00')
  // The drawer is as high as what it says: it says it first.
  await expect(drawer).toContainText('No week stands.')
  await wish(page, 'Fewer waits')
  await expect(drawer).toContainText('No week stands.')
  await expect(drawer.getByText(/These cannot hold together/)).toContainText('HYD 230, “nothing before 13:00”')
  const way = drawer.getByRole('paragraph').filter({ hasText: 'Without “nothing before 13:00”' })
  await expect(way).toContainText(/there are \d+ weeks/)
  await way.getByRole('button', { name: 'Leave it out' }).click()
  await expect(drawer.getByRole('button', { name: /^Week 1:/ })).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(drawer).toHaveCount(0)
  // The wishes are on file, and an opened drawer belongs to the address.
  await page.getByRole('button', { name: 'Arrangements' }).click()
  await expect(drawer.getByRole('listitem')).toHaveCount(1)
  await expect.poll(() => wishesOf('tamsin')).toEqual(['fewer gaps'])
  await page.reload()
  await expect(drawer.getByRole('listitem')).toHaveCount(1)
  await drawer.getByRole('button', { name: /^Take out/ }).click()
})

test('a full bundle is exchanged by the smallest change, on Register as in Week', async ({ page }) => {
  await signIn(page, 'joss')
  await waypoint(page, 'Register')
  const change = page.getByText('HRT 150 cannot be registered as picked.')
  await expect(change).toBeVisible()
  await expect(page.getByText(/HRT 150-01 for HRT 150-0\d/)).toBeVisible()
  const before = await lineUpOf('joss')
  await page.getByRole('button', { name: /^Exchange \d bundle/ }).click()
  await expect(change).toHaveCount(0)
  const after = await lineUpOf('joss')
  expect(after.filter(label => !before.includes(label))).toEqual([expect.stringMatching(/^HRT 150-0[^1]$/)])
  await expect(page.getByRole('list', { name: 'Run sheet' })).toContainText(after.find(label => label.startsWith('HRT 150'))!)
  // Back to the full one, which other journeys are about.
  const rows = await db.select().from(s.sections).where(and(eq(s.sections.term, '2027SP'), eq(s.sections.course, 'HRT 150')))
  const { id } = (await db.select().from(s.people).where(eq(s.people.username, 'joss')))[0]!
  await db.update(s.lineUpRows).set({ sectionIds: [rows.find(row => row.label === '01')!.id] })
    .where(and(eq(s.lineUpRows.student, id), eq(s.lineUpRows.course, 'HRT 150')))
})
