import { desc, eq } from 'drizzle-orm'
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import type { z } from 'zod'
import type { readCatalog } from '../../shared/contract/views/college'
import * as s from '../../server/db/schema'
import { Client, close, db, problemOf } from './client'

/** The college itself, set by the office: what rests on it cannot be taken away, and what was is told. */
type CatalogNow = z.output<typeof readCatalog['output']>
let edda: Client
let catalog: CatalogNow
let stored: typeof s.institution.$inferSelect
const settingsOf = ({ name, zone, repeatPolicy, termsText, offerHours, scale, money, stamp }: CatalogNow) => ({
  name, zone, repeatPolicy, termsText, offerHours, seen: stamp,
  grades: Object.entries(scale).map(([grade, meaning]) => ({ grade, ...meaning })),
  money: { ...money, siteFees: Object.entries(money.siteFees).map(([site, cents]) => ({ site, cents })) },
})
type Settings = ReturnType<typeof settingsOf>
const keep = (change: (settings: Settings) => unknown, client = edda) => {
  const settings = structuredClone(settingsOf(catalog))
  change(settings)
  return client.call('PUT', '/api/college/settings', settings)
}
const institution = async () => (await db.select().from(s.institution))[0]!

beforeAll(async () => {
  edda = await Client.signIn('edda')
})
beforeEach(async () => {
  catalog = await edda.json<CatalogNow>('GET', '/api/catalog')
  stored = await institution()
})
afterAll(close)

describe('the college itself', () => {
  it('is set as a whole, told in the ledger with what it was, and set back', async () => {
    expect((await keep((one) => {
      one.name = 'Larkmoor Upland College'
      one.offerHours = 24
      one.money.bands[0]!.perCredit += 100
    })).status).toBe(200)
    expect(await institution()).toMatchObject({ name: 'Larkmoor Upland College', offerHours: 24, zone: stored.zone })
    const [line] = await db.select().from(s.ledger).where(eq(s.ledger.action, 'set college')).orderBy(desc(s.ledger.id)).limit(1)
    expect(line!.detail).toMatchObject({ changed: ['name', 'offerHours', 'money'], before: { name: 'Larkmoor College', offerHours: 48 },
      after: { offerHours: 24 } })
    const before = catalog
    catalog = await edda.json<CatalogNow>('GET', '/api/catalog')
    expect(catalog.offerHours).toBe(24)
    const now = catalog.stamp
    catalog = { ...before, stamp: now }
    expect((await keep(() => null)).status).toBe(200)
    expect(await institution()).toEqual(stored)
  })
  it('is refused where somebody else was before, and of two at once one is kept', async () => {
    const answers = await Promise.all([keep(one => one.offerHours = 50), keep(one => one.offerHours = 51)])
    expect(answers.map(one => one.status).sort()).toEqual([200, 409])
    expect(await problemOf(answers.find(one => one.status === 409)!)).toMatchObject({ code: 'settings-moved-on' })
    catalog = { ...catalog, stamp: (await edda.json<CatalogNow>('GET', '/api/catalog')).stamp }
    expect((await keep(() => null)).status).toBe(200)
    expect(await institution()).toEqual(stored)
  })
  // What no field of the form takes (400) is told before anything is looked up (422).
  const REFUSED: [string, (settings: Settings) => unknown, RegExp, number?][] = [
    ['a grade that stands on records', one => one.grades = one.grades.filter(row => row.grade !== 'B+'), /B\+ stands on records/],
    ['a grade written twice', one => one.grades.push(one.grades[0]!), /stands there twice/],
    ['a grade that programs or rules ask for', one => one.grades.find(row => row.grade === 'C-')!.earns = false, /C-/],
    ['a band that students are in', one => one.money.bands = one.money.bands.filter(band => band.code !== 'resident'), /resident/],
    ['a plan whose parts are not the whole', one => one.money.plans[1]!.parts[0]!.percent = 39, /do not add up to 100/],
    ['refunds that grow', one => one.money.refunds.reverse(), /does not become less/],
    ['a fee at no site', one => one.money.siteFees.push({ site: 'nowhere', cents: 100 }), /no site "nowhere"/],
    ['no time zone', one => one.zone = 'America/Larkmoor', /time zone/, 400],
  ]
  it.each(REFUSED)('keeps nothing of it with %s', async (_, change, words, status = 422) => {
    const answer = await problemOf(await keep(change))
    expect(answer.status).toBe(status)
    expect(`${answer.title} ${answer.detail} ${JSON.stringify(answer)}`).toMatch(words)
    expect(await institution()).toEqual(stored)
  })
  it('is the office\'s alone', async () => {
    const hollis = await Client.signIn('hollis')
    expect((await keep(() => null, hollis)).status).toBe(403)
  })
})
