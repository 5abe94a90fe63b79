import { and, eq, inArray } from 'drizzle-orm'
import type { Browser, Page } from '@playwright/test'
import * as s from '../../server/db/schema'
import { db, expect, setClock, signIn, test, waypoint } from './college'

/** Student and advisor at the same time, each in a browser of their own: ask, comment, suggest, accept, sign off, differ. */
test.describe.configure({ mode: 'serial' })
const TERM = '2027SP'
const personOf = async (username: string) => (await db.select().from(s.people).where(eq(s.people.username, username)))[0]!

async function beside(browser: Browser, username: string): Promise<Page> {
  const page = await (await browser.newContext()).newPage()
  await signIn(page, username)
  return page
}
const entriesOf = async (student: number) => {
  const [plan] = await db.select().from(s.plans).where(and(eq(s.plans.student, student), eq(s.plans.current, true)))
  return (await db.select().from(s.planEntries).where(eq(s.planEntries.plan, plan!.id))).filter(entry => entry.term === TERM)
}

test('asked, commented, suggested, taken, signed off; a change after it is seen on both sides', async ({ page, browser }) => {
  const petra = await personOf('petra')
  await signIn(page, 'petra')
  await setClock(page, '2026-11-09T07:50')
  await page.goto(`/student/${petra.id}/now`)
  await page.getByRole('button', { name: 'Ask for sign-off' }).click()
  const asking = page.getByRole('dialog', { name: 'Ask Dagny Orme to sign off Spring 2027' })
  await expect(asking).toContainText(/credits, (full|part)-time: as you mean it\?/)
  await asking.getByLabel('A word to your advisor').fill('I would like to keep Thursdays free.')
  await asking.getByRole('button', { name: 'Ask for it' }).click()
  await expect(page.getByText('asked, not yet given by Dagny Orme')).toBeVisible()

  const advisor = await beside(browser, 'dagny')
  const row = advisor.getByRole('row').filter({ hasText: 'Petra Lisle' })
  await expect(row).toContainText('asks for sign-off')
  await row.getByRole('link', { name: 'Petra Lisle' }).click()
  await expect(advisor.getByRole('heading', { name: 'Brief for Petra Lisle' })).toBeVisible()
  await expect(advisor.getByRole('region', { name: 'To settle today' })).toContainText('I would like to keep Thursdays free.')
  await expect(page.getByText('Dagny Orme here too')).toBeVisible()

  // A comment beside the term, read by the student without a reload.
  await waypoint(advisor, 'Plan')
  await advisor.getByRole('button', { name: /^Spring 2027/ }).first().click()
  const term = advisor.getByRole('region', { name: 'Spring 2027' })
  await term.getByLabel('Write a comment').fill('Is the workshop not too early?')
  await term.getByRole('button', { name: 'Send' }).click()
  await expect(term).toContainText('Is the workshop not too early?')
  await expect(page.getByText('1 comment to read')).toBeVisible()
  await advisor.keyboard.press('Escape')

  // Tried on the board without changing the plan, then sent.
  const before = await entriesOf(petra.id)
  const moved = before[0]!
  await advisor.getByRole('button', { name: 'Suggest changes' }).click()
  await advisor.locator(`[data-item="${moved.id}"]`).focus()
  await advisor.keyboard.press('Delete')
  const suggestion = advisor.getByRole('region', { name: 'Suggestion', exact: true })
  await expect(suggestion).toContainText(moved.course)
  expect(await entriesOf(petra.id)).toEqual(before)
  await suggestion.getByLabel('Why, in a line').fill('A lighter term.')
  await suggestion.getByRole('button', { name: 'Send 1 suggestion' }).click()
  await expect(suggestion).toContainText('1 suggestion of Dagny Orme not answered yet')

  await expect(page.getByText('Dagny Orme suggests 1 change')).toBeVisible()
  await waypoint(page, 'Plan')
  const offered = page.getByRole('region', { name: 'Suggestions' })
  await expect(offered).toContainText('A lighter term.')
  // It stands beside the original: struck where it would leave.
  await expect(page.getByRole('grid').locator('.gone').filter({ hasText: moved.course })).toContainText('taken out')
  await offered.getByRole('button', { name: 'Take all' }).click()
  await expect(offered).toContainText('1 suggestion taken into the plan.')
  await expect.poll(async () => (await entriesOf(petra.id)).map(entry => entry.course)).not.toContain(moved.course)

  // The advisor signs what stands there now.
  const review = advisor.getByRole('region', { name: 'Review' })
  await expect(review).not.toContainText(moved.course)
  await review.getByRole('button', { name: 'Sign off Spring 2027' }).click()
  await expect(review).toContainText('Nothing has changed since.')
  const [signed] = await db.select().from(s.signOffs).where(eq(s.signOffs.student, petra.id))
  expect(signed!.copy.map(entry => entry.course).sort()).toEqual((await entriesOf(petra.id)).map(entry => entry.course).sort())

  // A change after sign-off is seen on both sides.
  const gone = (await entriesOf(petra.id))[0]!
  await page.locator(`[data-item="${gone.id}"]`).focus()
  await page.keyboard.press('Delete')
  await expect(review).toContainText(`Since then: ${gone.course} was taken out`)
  await page.keyboard.press('Control+z')
  await expect(review).toContainText('Nothing has changed since.')
  await page.locator(`[data-item="${gone.id}"]`).focus()
  await page.keyboard.press('Delete')
  await page.getByRole('button', { name: /\d+ problems? n$/ }).click()
  await expect(page.getByRole('region', { name: 'Problems' })).toBeVisible()
  await expect.poll(() => page.evaluate(async () => {
    for (let i = 0; i < 12; i++) {
      if (document.querySelector('[aria-label="Problems"]')?.textContent?.includes('sign')) return true
      document.dispatchEvent(new KeyboardEvent('keydown', { key: 'n', bubbles: true }))
      await new Promise(done => requestAnimationFrame(done))
    }
    return false
  })).toBe(true)
  await advisor.context().close()
})

test('an exception that is asked for where a row is refused lets it register; taken back, it is refused again', async ({ page,
  browser }) => {
  const nico = await personOf('nico')
  const sections = await db.select().from(s.sections).where(and(eq(s.sections.term, TERM), eq(s.sections.course, 'HYD 330'),
    eq(s.sections.cancelled, false)))
  const { link } = sections.find(one => one.label === '01')!
  await db.insert(s.lineUpRows).values({ student: nico.id, term: TERM, course: 'HYD 330', position: 0,
    sectionIds: sections.filter(one => one.link === link).map(one => one.id) })
  await signIn(page, 'nico')
  await waypoint(page, 'Register')
  const sheet = page.getByRole('list', { name: 'Run sheet' })
  await expect(sheet).toContainText('refused')
  await sheet.getByRole('button', { name: 'Ask for an exception: HYD 330 without its prerequisite' }).click()
  const ask = page.getByRole('dialog', { name: 'Ask for an exception' })
  await ask.getByLabel('Why it should be granted').fill('I worked two years at a gauging station.')
  await ask.getByRole('button', { name: 'Ask for it' }).click()
  await expect(sheet).toContainText('asked for: HYD 330 without its prerequisite')

  const advisor = await beside(browser, 'piers')
  await expect(advisor.getByRole('row').filter({ hasText: 'Nico Sallow' })).toContainText('asks for an exception')
  await advisor.getByRole('link', { name: 'Nico Sallow' }).click()
  const asked = advisor.getByRole('region', { name: 'Exceptions asked for' })
  await expect(asked).toContainText('I worked two years at a gauging station.')
  await asked.getByRole('button', { name: 'Grant it' }).click()
  await expect(asked).toHaveCount(0)
  await expect(sheet).not.toContainText('without its prerequisite')
  await expect(sheet).not.toContainText(/HYD 330 needs|Plan .* first/)
  const kept = () => db.select().from(s.exceptions).where(and(eq(s.exceptions.student, nico.id), eq(s.exceptions.kind, 'prerequisite')))
  expect(await kept()).toMatchObject([{ course: 'HYD 330', term: TERM, reason: 'I worked two years at a gauging station.' }])

  await advisor.getByRole('button', { name: 'Lift a rule …' }).click()
  await advisor.getByRole('button', { name: /Take back: HYD 330/ }).click()
  const effect = advisor.getByRole('dialog', { name: 'Take the exception back' })
  await expect(effect).toContainText('HYD 330 in the line-up may be refused again.')
  await effect.getByRole('button', { name: 'Take it back' }).click()
  await expect(sheet.getByRole('button', { name: /Ask for an exception: HYD 330/ })).toBeVisible()
  expect(await kept()).toEqual([])
  await db.delete(s.lineUpRows).where(eq(s.lineUpRows.student, nico.id))
  await advisor.context().close()
})

test('a time that two press at once is one student\'s; the other is told, and both can book another', async ({ page, browser }) => {
  const [nico, teal] = [await personOf('nico'), await personOf('teal')]
  await signIn(page, 'nico')
  const other = await beside(browser, 'teal')
  await page.goto(`/student/${nico.id}/meetings`)
  await other.goto(`/student/${teal.id}/meetings`)
  const slot = /^Book Tue 10 Nov, 10:30/
  await Promise.all([page, other].map(one => expect(one.getByRole('button', { name: slot })).toBeVisible()))
  await Promise.all([page, other].map(one => one.getByRole('button', { name: slot }).click()))
  const booked = () => db.select().from(s.meetingsWith).where(and(inArray(s.meetingsWith.student, [nico.id, teal.id]),
    eq(s.meetingsWith.state, 'booked')))
  await expect.poll(async () => (await booked()).length).toBe(1)
  const loser = (await booked())[0]!.student === nico.id ? other : page
  await expect(loser.getByText('This time is not free any more.')).toBeVisible()
  await expect(loser.getByRole('button', { name: slot })).toHaveCount(0)
  await loser.getByRole('button', { name: /^Book Tue 10 Nov, 10:45/ }).click()
  await expect(loser.getByRole('list', { name: 'Booked' })).toContainText('Tue 10 Nov, 10:45')
  await loser.getByRole('button', { name: 'cancel', exact: true }).click()
  await expect.poll(async () => (await booked()).length).toBe(1)
  await other.context().close()
})

test('twelve advisees are worked through by keyboard: open, decide, next', async ({ page }) => {
  const dagny = await personOf('dagny')
  await signIn(page, 'dagny')
  const start = page.getByRole('button', { name: /^Work through [1-9]/ })
  // Put in order by what they need, who needs most comes first; pressed again, who needs least.
  const first = page.getByRole('row').nth(1)
  const needs = page.getByRole('columnheader', { name: /Needs you for/ })
  await needs.click()
  await expect(needs).toHaveAttribute('aria-sort', 'ascending')
  await expect(first.getByRole('cell').first()).not.toHaveText('nothing')
  await needs.click()
  await expect(needs).toHaveAttribute('aria-sort', 'descending')
  await expect(first.getByRole('cell').first()).toHaveText('nothing')
  await start.focus()
  await page.keyboard.press('Enter')
  const review = page.getByRole('region', { name: 'Review' })
  const decided: string[] = []
  for (let n = 1; n <= 12; n++) {
    await expect(page.getByRole('status').filter({ hasText: `${n} of ` })).toBeVisible()
    const name = (await page.getByRole('heading', { level: 1 }).innerText()).replace('Brief for ', '')
    await expect(review).not.toContainText('nothing planned')
    await page.keyboard.press('s')
    await expect(review).toContainText('Nothing has changed since.')
    decided.push(name)
    await page.keyboard.press('j')
  }
  expect(new Set(decided).size).toBe(12)
  const signed = await db.select({ name: s.people.name }).from(s.signOffs).innerJoin(s.people, eq(s.people.id, s.signOffs.student))
    .where(and(eq(s.signOffs.advisor, dagny.id), inArray(s.people.name, decided)))
  expect(signed.map(row => row.name).sort()).toEqual([...decided].sort())
  // What was looked at is noted, so that only what comes after is new.
  await expect.poll(async () => (await db.select().from(s.fileLooks).where(eq(s.fileLooks.person, dagny.id))).length)
    .toBeGreaterThanOrEqual(12)
})

test('messages tell what others did, and the mail says nothing of what stands in the file', async ({ page }) => {
  await signIn(page, 'petra')
  await page.getByRole('link', { name: /^Messages/ }).click()
  const list = page.getByRole('list', { name: 'Messages' })
  await expect(list).toContainText('Spring 2027 is signed off')
  await expect(list).toContainText('Dagny Orme suggests 1 change')
  const box = page.getByRole('region', { name: 'The demo\'s mailbox' })
  await box.getByRole('button', { name: /Spring 2027 is signed off|things are new for you/ }).first().click()
  await expect(box).toContainText('Hello Petra Lisle')
  await expect(box).not.toContainText(/TIM \d{3}|GPA|A lighter term/)
  await page.getByLabel('By mail').press('Enter')
  await page.getByRole('option', { name: 'one mail a day, at 17:00' }).click()
  await expect.poll(async () => (await db.select().from(s.noticeWishes)).map(row => row.wish)).toContain('digest')
})

test('of many notes the latest are shown, with how many more there are and a way to them', async ({ page, browser }) => {
  const emrys = await personOf('emrys')
  const { id: author } = await personOf('dagny')
  await db.insert(s.notes).values(Array.from({ length: 10 }, (_, i) => ({ student: emrys.id, author, shared: true, meeting: null,
    at: `2026-11-0${Math.floor(i / 5) + 1}T1${i % 5}:00:00.000Z`, text: `Noted as number ${i + 1}.` })))
  await signIn(page, 'emrys')
  const told = page.getByRole('region', { name: 'Notes from your advisor' })
  await expect(told.getByText('Noted as number 10.')).toBeVisible()
  await expect(told.getByText('Noted as number 5.')).toHaveCount(0)
  await told.getByRole('button', { name: '5 earlier' }).click()
  await expect(told.getByText('Noted as number 1.')).toBeVisible()
  await told.getByRole('button', { name: 'The latest only' }).click()
  await expect(told.getByText('Noted as number 5.')).toHaveCount(0)

  const advisor = await beside(browser, 'dagny')
  await advisor.goto(`/student/${emrys.id}/brief`)
  const kept = advisor.getByRole('region', { name: 'Notes', exact: true })
  await expect(kept.getByText('Noted as number 3.')).toBeVisible()
  await expect(kept.getByText('Noted as number 2.')).toHaveCount(0)
  await kept.getByRole('button', { name: '2 earlier' }).click()
  await expect(kept.getByText('Noted as number 1.')).toBeVisible()
  await advisor.context().close()
  await db.delete(s.notes).where(eq(s.notes.student, emrys.id))
})

test('what blocks a student is cut by kind in the brief, and says how much more there is', async ({ page }) => {
  const emrys = await personOf('emrys')
  const [plan] = await db.select().from(s.plans).where(and(eq(s.plans.student, emrys.id), eq(s.plans.current, true)))
  const early = ['HYD 310', 'HYD 410', 'HYD 490', 'GSP 330', 'SOL 310', 'CHY 220']
  await db.insert(s.planEntries).values(early.map(course => ({ plan: plan!.id, id: `early ${course}`, course, term: '2028FA', credits: 300,
    pinned: false, pinnedUse: null, note: '' })))
  await db.update(s.plans).set({ version: plan!.version + 1 }).where(eq(s.plans.id, plan!.id))
  await signIn(page, 'dagny')
  await page.goto(`/student/${emrys.id}/brief`)
  const settle = page.getByRole('region', { name: 'To settle today' })
  await expect(settle.getByText('later', { exact: true })).toHaveCount(3)
  await expect(settle).toContainText(/\d+ more to mend later/)
  await settle.getByRole('listitem').filter({ hasText: 'more to mend later' }).getByRole('link', { name: 'look' }).click()
  await expect(page.getByRole('region', { name: 'Problems' })).toBeVisible()
  await db.delete(s.planEntries).where(and(eq(s.planEntries.plan, plan!.id), eq(s.planEntries.term, '2028FA'),
    inArray(s.planEntries.course, early)))
})
