import { and, eq, inArray, isNull, like, notInArray } from 'drizzle-orm'
import * as s from '../../server/db/schema'
import { db, expect, setClock, signIn, test, waypoint } from './college'

/**
 * What registering costs, from the press to the receipt, and what becomes of it when nobody pays; and the end of adding. Time goes on here
 * for the whole college, with all that happens by itself: these journeys come last.
 */
test.describe.configure({ mode: 'serial' })
let clock: typeof s.clockSetting.$inferSelect
let student: { id: number, username: string }
test.beforeAll(async () => {
  clock = (await db.select().from(s.clockSetting))[0]!
  student = await registeredStudent()
})
test.afterAll(() => db.update(s.clockSetting).set(clock))

/** Somebody without a story who is registered for several courses, and may sign in now. */
async function registeredStudent() {
  const held = await db.select().from(s.registrations).where(eq(s.registrations.term, '2027SP'))
  const counts = new Map<number, number>()
  for (const row of held) if (row.credits > 0) counts.set(row.student, (counts.get(row.student) ?? 0) + 1)
  const several = [...counts].filter(([, n]) => n >= 2).map(([id]) => id)
  const waiting = (await db.select().from(s.waitlistEntries)).map(row => row.student)
  const [person] = await db.select({ id: s.people.id, username: s.people.username }).from(s.people).where(and(like(s.people.username,
    's0%'),
  isNull(s.people.passwordHash), inArray(s.people.id, several), notInArray(s.people.id, waiting))).orderBy(s.people.id).limit(1)
  const [template] = await db.select().from(s.people).where(eq(s.people.username, 'tamsin'))
  await db.update(s.people).set({ passwordHash: template!.passwordHash }).where(eq(s.people.id, person!.id))
  return person!
}
const entries = () => db.select().from(s.moneyEntries).where(eq(s.moneyEntries.student, student.id)).orderBy(s.moneyEntries.id)
const owed = async () => (await entries()).reduce((sum, { kind, cents }) => sum + (kind === 'charge' || kind === 'payback'
  ? cents
  : -cents), 0)
const said = (cents: number) => (cents / 100).toLocaleString('en-US', { minimumFractionDigits: 2, maximumFractionDigits: 2 })

test('a card that is refused takes nothing; one that is answered twice pays once, with a receipt', async ({ page }) => {
  await signIn(page, student.username)
  await waypoint(page, 'Register')
  await page.getByRole('link', { name: 'Account and payment' }).click()
  const all = await owed()
  await expect(page.getByRole('heading', { name: `${said(all)} is next to pay` })).toBeVisible()
  const give = async (digits: string) => {
    await expect(page.getByText('To pay:')).toBeVisible()
    await page.getByLabel('Card number').fill(`4000 0000 0000 ${digits}`)
    await page.getByRole('button', { name: 'Give the card' }).click()
  }
  await page.getByLabel('Another amount').fill('100')
  await page.getByRole('button', { name: 'Pay this' }).click()
  await give('0002')
  const payments = page.getByRole('region', { name: 'Payments' })
  await expect(payments.getByRole('listitem')).toContainText('100.00')
  await expect(payments.getByRole('listitem')).toContainText('refused by the card; nothing was taken')
  expect(await owed()).toBe(all)
  await page.getByRole('button', { name: `Pay ${said(all)}`, exact: true }).click()
  await give('0004')
  await expect(payments.getByRole('listitem').nth(1)).toContainText(/paid · receipt [0-9A-F]{8}/)
  await expect(page.getByText('nothing to pay')).toBeVisible()
  await expect.poll(async () => (await db.select().from(s.deskOrders)).every(order => order.answers === 0)).toBe(true)
  expect((await entries()).filter(entry => entry.kind === 'payment').map(entry => entry.cents)).toEqual([all])
})

test('what is given up comes off the account; leaving the term as a whole is one deliberate act', async ({ page }) => {
  await signIn(page, student.username)
  await waypoint(page, 'Register')
  const soFar = page.getByRole('list', { name: 'Registered and waited for' })
  await expect(soFar.getByRole('listitem').first()).toBeVisible()
  const before = await soFar.getByRole('listitem').count()
  await page.getByRole('button', { name: 'Leave Spring 2027 as a whole …' }).click()
  const dialog = page.getByRole('dialog', { name: 'Leave Spring 2027?' })
  await expect(dialog).toContainText('Nothing of Spring 2027 stays registered: you leave the term.')
  await expect(dialog).toContainText(/comes off your account: all that it cost\./)
  const act = dialog.getByRole('button', { name: 'Leave Spring 2027' })
  await act.click({ force: true })
  await expect(soFar.getByRole('listitem')).toHaveCount(before)
  await dialog.getByLabel('I mean to leave Spring 2027 as a whole').check()
  await act.click()
  await expect(page.getByText('Nothing is registered yet.')).toBeVisible()
  expect(await db.select().from(s.registrations).where(eq(s.registrations.student, student.id))).toEqual([])
  expect(await owed()).toBeLessThan(0)
  await page.getByRole('link', { name: 'Account and payment' }).click()
  await page.getByRole('button', { name: 'Send it back' }).click()
  await expect(page.getByText('nothing to pay')).toBeVisible()
  expect(await owed()).toBe(0)
})

test('who does not pay is warned, and then the registration is voided and the seats are free', async ({ page }) => {
  student = await registeredStudent()
  const held = await db.select().from(s.registrations).where(eq(s.registrations.student, student.id))
  await signIn(page, student.username)
  await setClock(page, '2027-01-06T09:00')
  await page.goto(`/student/${student.id}/now`)
  await expect(page.getByText(/It was due by 4 Jan 2027: pay by 7 Jan 2027, or the registration is voided/)).toBeVisible()
  await setClock(page, '2027-01-08T09:00')
  await page.goto(`/student/${student.id}/register`)
  await expect(page.getByText('Nothing is registered yet.')).toBeVisible({ timeout: 15_000 })
  expect(await db.select().from(s.registrations).where(eq(s.registrations.student, student.id))).toEqual([])
  expect(await owed()).toBe(0)
  const told = await db.select().from(s.ledger).where(and(eq(s.ledger.student, student.id), eq(s.ledger.action, 'void')))
  expect(told.map(one => one.section).sort()).toEqual(held.map(one => one.section).sort())
  await page.getByRole('link', { name: 'Account and payment' }).click()
  await expect(page.getByRole('region', { name: 'Lines of the account' })).toContainText('Taken back, registration voided')
})

test('after the last day to add the term is closed, with what to do', async ({ page }) => {
  const { id } = (await db.select().from(s.people).where(eq(s.people.username, 'una')))[0]!
  await db.insert(s.lineUpRows).values({ student: id, term: '2027SP', course: 'VAL 110', position: 1,
    sectionIds: [(await db.select().from(s.sections).where(and(eq(s.sections.course, 'VAL 110'), eq(s.sections.term, '2027SP'))))[0]!.id] })
  await signIn(page, 'una')
  // Half terms can be added later than the term itself: it closes after the last of them.
  const sessions = await db.select().from(s.termSessions).where(eq(s.termSessions.term, '2027SP'))
  const addBy = sessions.flatMap(one => one.deadlines?.addBy ?? []).sort().at(-1)!
  await setClock(page, `${new Date(Date.parse(addBy) + 86_400_000).toISOString().slice(0, 10)}T09:00`)
  await page.getByRole('link', { name: 'Back to my start page' }).click()
  await waypoint(page, 'Register')
  await page.getByRole('button', { name: 'Working term' }).click()
  await page.getByRole('list', { name: 'Choose the working term' }).getByText('Spring 2027').click()
  await expect(page.getByRole('heading', { name: 'Line-up for Spring 2027' })).toBeVisible()
  await expect(page.getByRole('button', { name: 'Register', exact: true })).toBeDisabled()
  await expect(page.getByRole('list', { name: 'Run sheet' })).toContainText('too late')
  await expect(page.getByText(/closed after/).first()).toBeVisible()
  await db.delete(s.lineUpRows).where(eq(s.lineUpRows.student, id))
})
