import { readFileSync } from 'node:fs'
import { and, desc, eq } from 'drizzle-orm'
import * as s from '../../server/db/schema'
import { db, expect, openAndTake, signIn, signOut, test, typeAndTake, waypoint } from './college'
import type { Page } from '@playwright/test'

const idOf = async (username: string) => (await db.select().from(s.people).where(eq(s.people.username, username)))[0]!.id
const line = (page: Page, id: string) => page.locator(`[data-line="${id}"]`)
const ledgerOf = async (username: string) =>
  (await db.select().from(s.ledger).where(eq(s.ledger.student, await idOf(username))).orderBy(desc(s.ledger.id))).map(row => row.action)

test('a use is pinned to another line: both lines change, the database keeps it, unpinning brings it back', async ({ page }) => {
  await signIn(page, 'tamsin')
  await waypoint(page, 'Requirements')
  const free = line(page, 'free')
  const voices = line(page, 'voices')
  await expect(free.getByRole('button', { name: /^HRT 130/ })).toBeVisible()
  await free.getByRole('button', { name: /^HRT 130/ }).click()
  const drawer = page.getByRole('region', { name: 'Free electives' })
  await expect(drawer).toContainText('Why HRT 130 counts here')
  await expect(drawer).toContainText(/In Voices instead: .*The same progress/)
  await drawer.getByRole('button', { name: 'Pin to Voices' }).click()
  await expect(voices.getByRole('button', { name: /^HRT 130.*pinned here/ })).toBeVisible()
  await expect(free.getByRole('button', { name: /^HRT 130/ })).toHaveCount(0)
  const pins = await db.select().from(s.usePins).where(eq(s.usePins.student, await idOf('tamsin')))
  expect(pins).toMatchObject([{ program: 'WSC-BS', line: 'voices' }])
  await page.reload()
  await expect(voices.getByRole('button', { name: /^HRT 130.*pinned here/ })).toBeVisible()
  await voices.getByRole('button', { name: 'Voices' }).click()
  await page.getByRole('region', { name: 'Voices' }).getByRole('button', { name: 'Unpin' }).click()
  await expect(free.getByRole('button', { name: /^HRT 130/ })).toBeVisible()
  expect(await db.select().from(s.usePins).where(eq(s.usePins.student, await idOf('tamsin')))).toEqual([])
})

test('pointing at a course lights the line where it counts, and fainter those where it could', async ({ page }) => {
  await signIn(page, 'una')
  await waypoint(page, 'Requirements')
  await line(page, 'free').getByRole('button', { name: /^HRT 130/ }).hover()
  await expect(line(page, 'free')).toHaveClass(/counts-here/)
  await expect(line(page, 'voices')).toHaveClass(/could-count/)
  await expect(line(page, 'numbers')).not.toHaveClass(/could-count|counts-here/)
  // The same by keyboard.
  await line(page, 'writing').getByRole('button', { name: /^WRT 110/ }).focus()
  await expect(line(page, 'writing')).toHaveClass(/counts-here/)
  await expect(line(page, 'free')).toHaveClass(/could-count/)
})

test('an unreachable requirement is named; the substitution that the advisor grants turns its line to met', async ({ page }) => {
  await signIn(page, 'elan')
  await waypoint(page, 'Requirements')
  const note = page.getByRole('alert')
  await expect(note).toContainText(
    'Basics, field mapping and drafting cannot be reached any more. GSP 150 was last offered in Spring 2026. '
    + 'Ask your advisor for a substitution or a waiver.',
  )
  await note.getByRole('button', { name: 'Show it' }).click()
  await expect(line(page, 'geospatial-all')).toContainText('cannot be reached')
  await expect(page.getByRole('form', { name: 'Grant an exception' })).toHaveCount(0)
  await signOut(page)

  await signIn(page, 'sunniva')
  await page.goto(`/student/${await idOf('elan')}/requirements`)
  await line(page, 'geospatial-all').getByRole('button').first().click()
  const form = page.getByRole('form', { name: 'Grant an exception' })
  await typeAndTake(form.getByLabel('Course that counts'), 'GSP 225')
  await openAndTake(form.locator('.v-select'), 'GSP 150')
  await expect(form.getByRole('button', { name: 'Substitute' })).toBeDisabled()
  await form.getByLabel('Reason, kept with it').fill('Cartographic Design covers the drafting unit')
  await form.getByRole('button', { name: 'Substitute' }).click()
  await expect(line(page, 'geospatial-all')).toContainText('met')
  await expect(line(page, 'geospatial-all').getByRole('button', { name: /^GSP 225/ })).toBeVisible()
  expect(await ledgerOf('elan')).toContain('grant substitution')
  await signOut(page)

  await signIn(page, 'elan')
  await waypoint(page, 'Requirements')
  await expect(page.getByRole('alert')).toHaveCount(0)
  await line(page, 'geospatial-all').getByRole('button').first().click()
  await expect(page.getByRole('region', { name: 'Basics, field mapping and drafting' })).toContainText(
    'GSP 225 counts here for GSP 150, granted by Sunniva Rake: Cartographic Design covers the drafting unit',
  )
})

test('another program is tried without changing anything, asked for, and granted by the advisor', async ({ page }) => {
  await signIn(page, 'finch')
  const id = await idOf('finch')
  const held = () =>
    db.select({ program: s.studentPrograms.program }).from(s.studentPrograms).where(eq(s.studentPrograms.student, id)).orderBy(
      s.studentPrograms.position,
    )
  const before = await held()
  await waypoint(page, 'Requirements')
  await page.getByRole('link', { name: 'Try another program' }).click()
  await page.getByRole('button', { name: 'Add a program' }).click()
  await expect(page.getByRole('button', { name: 'Add a program' })).toHaveCount(0)
  const columns = page.getByLabel('Program and catalog year')
  await expect(columns).toHaveCount(3)
  await openAndTake(page.locator('.v-select').last(), 'BS Timber Engineering · 2025')
  const timber = page.getByRole('region', { name: 'BS Timber Engineering · 2025' })
  await expect(timber.locator('[data-carries]')).toHaveText('14 cr')
  await expect(timber.locator('[data-open]')).toHaveText('110 cr')
  await expect(timber.locator('[data-finish]')).toHaveText(/(Spring|Fall) 20\d\d/)
  expect(await held()).toEqual(before)
  await timber.getByRole('button', { name: 'Ask for this change' }).click()
  await expect(timber).toContainText(
    'You would then be in: BS Timber Engineering · 2025, Certificate Trail and Site Safety · 2025. Your plan stays as it is.',
  )
  await timber.getByLabel('A word to your advisor').fill('I like wood better')
  await timber.getByRole('button', { name: 'Send to Piers Lowther' }).click()
  await expect(page.getByRole('status').filter({ hasText: 'Piers Lowther has it' })).toBeVisible()
  expect(await held()).toEqual(before)
  await signOut(page)

  await signIn(page, 'piers')
  await expect(page.getByRole('row').filter({ hasText: 'Finch Averill' })).toContainText('asks to change program')
  await page.goto(`/student/${id}/requirements`)
  const review = page.getByRole('region', { name: 'Review' })
  await expect(review).toContainText('I like wood better')
  await review.getByRole('button', { name: 'Decline' }).click()
  await expect(review.getByRole('alert')).toContainText('Say why')
  await review.getByRole('button', { name: 'Grant', exact: true }).click()
  await expect(page.getByRole('heading', { level: 1 })).toContainText('BS Timber Engineering')
  expect((await held()).map(row => row.program)).toEqual(['TIM-BS-2025', 'TSS-CERT-2025'])
  expect(await ledgerOf('finch')).toEqual(expect.arrayContaining(['ask program change', 'grant program change']))
})

test('a choice shows what each branch needs; a sharing rule is told where it keeps a course out', async ({ page }) => {
  await signIn(page, 'corin')
  await waypoint(page, 'Requirements')
  await expect(page.getByText(/The upland language needs \d+ cr or/)).toBeVisible()
  await expect(line(page, 'language-upland')).toContainText('not needed')
  await signOut(page)
  await signIn(page, 'juno')
  await waypoint(page, 'Requirements')
  await expect(page.getByRole('region', { name: 'Minor Environmental Statistics' })).toContainText(
    'At most 2 courses may count in both BS Watershed Science and Minor Environmental Statistics.',
  )
})

test('a course that counts for nothing says what it would push out; a course is placed in a later term of choice', async ({ page }) => {
  await signIn(page, 'odile')
  await waypoint(page, 'Requirements')
  // Which of several planned electives is the one too many is nobody's to say: they are worth the same.
  const unused = page.locator('.one').filter({ hasText: 'planned' }).first()
  await expect(unused).toContainText('the lines that accept it are full')
  await unused.getByRole('button', { name: 'What if it counted?' }).click()
  await expect(unused.getByRole('listitem').first()).toContainText(/would have no use|would count in/)
  await signOut(page)
  await signIn(page, 'vesper')
  await waypoint(page, 'Requirements')
  await line(page, 'voices').getByRole('button').first().click()
  const drawer = page.getByRole('region', { name: 'Voices' })
  await drawer.getByRole('button', { name: 'Place VAL 110 in another term' }).click()
  await page.getByRole('list', { name: 'Terms for VAL 110' }).getByText('Spring 2028').click()
  await expect(drawer).toContainText('VAL 110 placed in Spring 2028')
  const planned = async () =>
    (await db.select().from(s.planEntries).innerJoin(s.plans, eq(s.plans.id, s.planEntries.plan)).where(
      and(eq(s.plans.student, await idOf('vesper')), eq(s.planEntries.course, 'VAL 110')),
    )).map(row => row.plan_entries.term)
  await expect.poll(planned).toEqual(['2028SP'])
})

test('pictures have their tables, the standing prints with its date and catalog year', async ({ page }) => {
  await signIn(page, 'hale')
  await waypoint(page, 'Requirements')
  await page.getByRole('button', { name: 'as pictures' }).click()
  await expect(page.locator('figure svg')).toHaveCount(2)
  await page.getByText('The same as a table').last().click()
  await expect(page.getByRole('table').last()).toContainText('Timber core')
  await page.getByRole('link', { name: 'Print' }).click()
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Hale Brenner')
  await expect(page.getByText(/read on 9 November 2026/)).toBeVisible()
  await expect(page.getByRole('heading', { name: 'BS Timber Engineering · catalog 2024' })).toBeVisible()
  const pdf = await page.pdf({ preferCSSPageSize: true })
  expect(pdf.subarray(0, 5).toString()).toBe('%PDF-')
})

test('the office checks a program file line by line, and puts a right one in force', async ({ page }) => {
  await signIn(page, 'corwin')
  await waypoint(page, 'College')
  const text = readFileSync('demo/programs/est-min-2025.json', 'utf8')
  const wrong = text.replace('"STT 201", "STT 301"', '"STT 201", "STT 999"')
  const at = wrong.slice(0, wrong.indexOf('STT 999')).split('\n').length
  const file = (name: string, content: string) => ({ name, mimeType: 'application/json', buffer: Buffer.from(content) })
  const programs = page.getByRole('region', { name: 'Programs' })
  await programs.getByText('open one to change its rules').click()
  await page.getByLabel('Check a program file').setInputFiles(file('wrong.json', wrong))
  await expect(programs).toContainText('wrong.json was not taken: 1 problem.')
  await expect(programs).toContainText(`Line ${at}`)
  await expect(programs).toContainText('There is no course STT 999 in the catalog.')
  await page.getByLabel('Check a program file').setInputFiles(file('new.json', text.replace('"catalogYear": 2025', '"catalogYear": 2026')))
  await expect(programs).toContainText('the file is right. It would be a new program.')
  await programs.getByRole('button', { name: 'Add it' }).click()
  await expect(programs).toContainText('it is in force now')
  await expect(programs.getByRole('listitem').filter({ hasText: 'Minor Environmental Statistics · catalog 2026' })).toBeVisible()
  const [kept] = await db.select().from(s.programs).where(and(eq(s.programs.code, 'EST-MIN'), eq(s.programs.catalogYear, 2026)))
  expect(kept!.body.areas[0]!.children).toHaveLength(3)
})

test('what is the least that would meet a line is worked out and placed in one press; a grade earned elsewhere is told',
  async ({ page }) => {
    await signIn(page, 'bram')
    await waypoint(page, 'Requirements')
    await line(page, 'geospatial-all').getByRole('button').first().click()
    const drawer = page.getByRole('region', { name: 'Geospatial basics and field mapping' })
    await drawer.getByRole('button', { name: 'What is the least that would meet it?' }).click()
    await expect(drawer.getByRole('status').filter({ hasText: 'GSP 140 would meet it.' })).toBeVisible()
    await drawer.getByRole('button', { name: /^Place it in/ }).click()
    await expect(line(page, 'geospatial-all')).toContainText('covered')
    // The page shows it before it is sent.
    const bram = await idOf('bram')
    await expect.poll(() => db.select().from(s.planEntries).innerJoin(s.plans, eq(s.plans.id, s.planEntries.plan))
      .where(and(eq(s.plans.student, bram), eq(s.planEntries.course, 'GSP 140')))).toHaveLength(1)
    await line(page, 'writing').getByRole('button', { name: /^WRT 110/ }).click()
    await expect(page.getByRole('region', { name: 'Writing' })).toContainText('TR (A- elsewhere)')
  })

test('an advisor waives a part of a line: more than it asks is refused, and the rest stays open', async ({ page }) => {
  await signIn(page, 'yara')
  await page.goto(`/student/${await idOf('bram')}/requirements`)
  await expect(line(page, 'upper')).toContainText('9 cr open')
  await line(page, 'upper').getByRole('button').first().click()
  const form = page.getByRole('form', { name: 'Grant an exception' })
  await form.getByLabel('waive it').check()
  await form.getByLabel('Only so many credits (or the whole line)').fill('9')
  await form.getByLabel('Reason, kept with it').fill('Field work of three credits elsewhere')
  await form.getByRole('button', { name: 'Waive' }).click()
  await expect(form.getByRole('alert')).toContainText('asks for no more than that')
  await form.getByLabel('Only so many credits (or the whole line)').fill('3')
  await form.getByRole('button', { name: 'Waive' }).click()
  await expect(line(page, 'upper')).toContainText('6 cr open')
  await expect(page.getByRole('region', { name: 'Upper-level science' })).toContainText('Waived: 3 of it')
  const kept = await db.select().from(s.exceptions).where(and(eq(s.exceptions.student, await idOf('bram')), eq(s.exceptions.kind,
    'waiver')))
  expect(kept).toMatchObject([{ line: 'upper', value: 300, course: null }])
  expect(await ledgerOf('bram')).toContain('grant waiver')
})

test('a course of another college, in no catalog here, counts where the advisor substitutes it', async ({ page }) => {
  await signIn(page, 'yara')
  const lark = await idOf('lark')
  await page.goto(`/student/${lark}/requirements`)
  await expect(page.getByText('it is in no catalog here, and counts where a substitution names it')).toBeVisible()
  await line(page, 'places').getByRole('button').first().click()
  const form = page.getByRole('form', { name: 'Grant an exception' })
  await typeAndTake(form.getByLabel('Course that counts'), 'OCE 150')
  await form.getByLabel('Reason, kept with it').fill('Coasts and tides, a course on places')
  await form.getByRole('button', { name: 'Substitute' }).click()
  await expect(line(page, 'places')).toContainText('met')
  await expect(line(page, 'places').getByRole('button', { name: /^OCE 150/ })).toBeVisible()
  expect(await db.select().from(s.exceptions).where(eq(s.exceptions.student, lark))).toMatchObject([{ course: 'OCE 150', line: 'places' }])
})

test('the office says how several programs are read', async ({ page }) => {
  const policy = async () => (await db.select().from(s.institution))[0]!.advising.programs ?? 'in order'
  await signIn(page, 'edda')
  await page.goto('/office/college')
  const card = page.getByRole('region', { name: 'How advising works' })
  const choose = async (name: RegExp) => {
    await card.getByRole('button', { name: /^change/ }).click()
    const dialog = page.getByRole('dialog', { name: 'How advising works here' })
    await openAndTake(dialog.locator('.v-select').first(), name)
    await dialog.getByRole('button', { name: 'Keep it' }).click()
    await expect(dialog).toHaveCount(0)
  }
  await choose(/^as one/)
  await expect(card).toContainText('as one: what fills most in all of them together')
  expect(await policy()).toBe('in sum')
  await choose(/^in their order/)
  expect(await policy()).toBe('in order')
})
