import { join } from 'node:path'
import { expect, test } from '@playwright/test'
import mysql from 'mysql2/promise'
import { eq } from 'drizzle-orm'
import { connect } from '../../server/db/connect'
import { applyMigrations } from '../../server/db/migrations'
import * as s from '../../server/db/schema'
import { freePort, ROOT, type RunningServer, startServer, STATE } from '../../tools/command/machine.mjs'

/** An installation of its own, on a database that holds nothing yet. */
const url = process.env.DATABASE_URL!.replace(/\/[^/]+$/, '/empty_college')
let server: RunningServer
test.beforeAll(async () => {
  const admin = await mysql.createConnection(process.env.DATABASE_URL!)
  await admin.query('DROP DATABASE IF EXISTS empty_college')
  await admin.query('CREATE DATABASE empty_college')
  await admin.end()
  const { db, close } = connect(url, 2)
  await applyMigrations(db, join(ROOT, 'server/db/migrations'))
  await close()
  server = await startServer({ databaseUrl: url, port: await freePort(), demo: false, log: join(STATE, 'empty.log'),
    env: { RIDGEWAY_SET_UP_CODE: 'heather-rust-paper', NUXT_SESSION_PASSWORD: 'a-secret-of-this-test-alone-and-long-enough',
      NUXT_SESSION_COOKIE_SECURE: 'false' } })
})
test.afterAll(() => server.stop())

const file = (name: string, text: string) => ({ name, mimeType: name.endsWith('.json') ? 'application/json' : 'text/csv',
  buffer: Buffer.from(text) })
const SITES = 'site,name,online\r\nhill,Hill House,no\r\n'
const TERMS = `${'term,name,first day,last day,load cap,full time,add by,drop by,withdraw by,fees due,scheduled'}
2030FA,Fall 2030,2030-08-26,2030-12-13,18,12,2030-09-02,2030-09-09,2030-10-28,2030-08-19,no
2031SP,Spring 2031,2031-01-13,2031-05-02,18,12,2031-01-20,2031-01-27,2031-03-17,2031-01-06,no
`
const SESSIONS = 'term,session,name,first day,last day\r\n2030FA,full,Full term,2030-08-26,2030-12-13\r\n'
  + '2031SP,full,Full term,2031-01-13,2031-05-02\r\n'
const COURSES = (prerequisite: string) => 'course,title,credits,prerequisite,offered\r\nHYD 110,Water and Land,3,,fall; spring\r\n'
  + `HYD 210,Rivers,4,${prerequisite},fall; spring\r\n`
const PROGRAM = JSON.stringify({ format: 'ridgeway-program/2', code: 'HYD-MIN', kind: 'minor', title: 'Minor Water', catalogYear: 2030,
  totalCredits: 7, areas: [{ id: 'core', title: 'Core', hue: 'lake', children: [{ kind: 'courses', id: 'both', title: 'Both courses',
    filter: { list: ['HYD 110', 'HYD 210'] }, courses: 2 }] }] })
const PEOPLE = 'sign-in name,name,email,role,advisor,programs,program confirmed\r\nanwen,Anwen Teal,anwen@hill.example,advisor,,,\r\n'
  + 'brock,Brock Sedge,brock@hill.example,student,anwen,HYD-MIN-2030,yes\r\n'

test('from an empty installation to the first planned course: set up, errors shown and mended, invited, planned', async ({ page }) => {
  const thrown: string[] = []
  page.on('pageerror', error => thrown.push(error.message))
  await page.goto(server.address)
  await expect(page).toHaveURL(/set-up/)
  const fill = async (label: string | RegExp, text: string) => page.getByLabel(label).fill(text)
  await fill(/^Code/, 'not the code')
  await fill('Name of the college', 'Hill College')
  await fill('Your name', 'Odo Marsh')
  await fill('Name to sign in with', 'odo')
  await fill('Mail address', 'odo@hill.example')
  await fill(/^Password/, 'peat-and-heather')
  await page.getByRole('button', { name: 'Set up the college' }).click()
  await expect(page.getByRole('alert')).toContainText('This is not the code.')
  await fill(/^Code/, 'heather-rust-paper')
  await page.getByRole('button', { name: 'Set up the college' }).click()
  await expect(page).toHaveURL(/office\/college/)
  await expect(page.getByText('Next: sites.csv.')).toBeVisible()

  const give = (...files: ReturnType<typeof file>[]) => page.getByLabel(/^Tables \(.csv\)/).setInputFiles(files)
  const bring = page.getByRole('region', { name: 'Bring tables in' })
  await give(file('sites.csv', SITES), file('terms.csv', TERMS), file('sessions.csv', SESSIONS), file('courses.csv', COURSES('HYD 11')))
  await expect(bring.getByText('Nothing was taken: 1 problem.')).toBeVisible()
  await expect(bring.getByRole('row', { name: /courses.csv 3 prerequisite/ })).toContainText('This rule cannot be read')
  await expect(page.getByRole('row', { name: /^terms.csv/ })).toContainText('0')

  await give(file('sites.csv', SITES), file('terms.csv', TERMS), file('sessions.csv', SESSIONS), file('courses.csv', COURSES('HYD 110')),
    file('hyd-min.json', PROGRAM), file('people.csv', PEOPLE))
  await expect(bring.getByText('The files are right. This is what they would change:')).toBeVisible()
  await bring.getByRole('button', { name: 'Put 10 rows in force' }).click()
  await expect(bring.getByText('All of it is in force.')).toBeVisible()
  await expect(page.getByText('Students can plan.')).toBeVisible()
  await give(file('courses.csv', COURSES('HYD 110').replace('Rivers,4', 'Rivers and Lakes,4')))
  await bring.getByText('1 row, one by one').click()
  await expect(bring).toContainText('title: “Rivers” becomes “Rivers and Lakes”')

  const invited = page.getByRole('region', { name: 'Invite somebody' })
  await invited.getByLabel('Their sign-in name').fill('brock')
  await invited.getByRole('button', { name: 'Make a link' }).click()
  const link = await invited.locator('code').textContent()
  await page.getByRole('button', { name: /Your account/ }).click()
  await page.getByText('Sign out', { exact: true }).click()
  await expect(page).toHaveURL(/sign-in/)
  await page.goto(link!)
  await page.getByLabel(/^Password/).fill('moor-and-mist')
  await page.getByLabel('The same once more').fill('moor-and-mist')
  await page.getByRole('button', { name: 'Keep it and sign in' }).click()
  await expect(page).toHaveURL(/student\/\d+\/now/)
  await page.getByRole('navigation', { name: 'Waypoints' }).getByRole('link', { name: /^Plan/ }).click()
  await page.getByRole('button', { name: 'Draft the rest' }).click()
  const drawer = page.getByRole('region', { name: 'Draft the rest' })
  await drawer.getByRole('button', { name: 'Draft', exact: true }).click()
  await drawer.getByRole('button', { name: 'Take this draft' }).click()
  await expect(page.getByRole('button', { name: /^HYD 210/ })).toBeVisible()

  const { db, close } = connect(url, 2)
  await expect.poll(async () => (await db.select({ course: s.planEntries.course, term: s.planEntries.term }).from(s.planEntries))
    .sort((a, b) => a.course.localeCompare(b.course))).toEqual([{ course: 'HYD 110', term: '2030FA' }, { course: 'HYD 210',
    term: '2031SP' }])
  expect((await db.select().from(s.ledger).where(eq(s.ledger.action, 'import')))).toHaveLength(1)
  await close()
  await page.goto(link!)
  await page.getByLabel(/^Password/).fill('another-password')
  await page.getByLabel('The same once more').fill('another-password')
  await page.getByRole('button', { name: 'Keep it and sign in' }).click()
  await expect(page.getByRole('alert')).toContainText('This invitation is used already')
  expect(thrown).toEqual([])
})
