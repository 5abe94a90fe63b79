import { eq } from 'drizzle-orm'
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import { sendMail } from '../../server/acts/mail'
import { KeptCollege } from '../../server/college/college'
import { connect } from '../../server/db/connect'
import { applyMigrations } from '../../server/db/migrations'
import { Database } from '../../server/db/database'
import * as s from '../../server/db/schema'
import { catchMail } from '../../server/standins/mailbox'
import { loadDemo } from '../../demo/load'
import { type RunningDatabase, startDatabase } from '../../tools/command/machine.mjs'

/** Mail through a real SMTP server: once however many send, later when the server is away, and nothing lost. */
let database: RunningDatabase
let open: ReturnType<typeof connect>
let own: Database
const kept = new KeptCollege()
const FROM = { from: 'ridgeway@larkmoor.example', address: 'https://ridgeway.example' }
const NOBODY = 'smtp://127.0.0.1:9'
beforeAll(async () => {
  database = await startDatabase('mail')
  await database.create('college', true)
  open = connect(database.url('college'), 4)
  await applyMigrations(open.db, 'server/db/migrations')
  await loadDemo(open.db, { generated: 20 })
  own = new Database(database.url('college'), 8)
}, 240_000)
afterAll(async () => {
  await own.close()
  await open.close()
  await database.stop()
})
beforeEach(async () => {
  await open.db.delete(s.notices)
  await open.db.delete(s.caughtMails)
  await at('2026-11-09T15:00:00.000Z')
})

const at = (demoNow: string) => open.db.update(s.clockSetting).set({ demoNow, setAt: new Date().toISOString() })
const mails = () => open.db.select().from(s.caughtMails)
const student = async (username: string) => (await open.db.select().from(s.people).where(eq(s.people.username, username)))[0]!
const notice = (person: number, mailAt: string, term = '2027SP') => ({ person, student: person, at: '2026-11-09T14:00:00.000Z',
  notice: { code: 'signed off' as const, term, by: 'Hollis Brandt' }, mail: 'wait' as const, mailAt })
const AT_ONCE = '2000-01-01T00:00:00.000Z'

describe('mail', () => {
  it('goes out once for each person, however many servers send at the same moment', async () => {
    const people = await Promise.all(['tamsin', 'joss', 'wren', 'kit', 'dov', 'lise'].map(student))
    await open.db.insert(s.notices).values(people.flatMap(one => [notice(one.id, AT_ONCE), notice(one.id, AT_ONCE, '2027SU')]))
    const box = await catchMail(own)
    process.env.RIDGEWAY_DEMO = '1'
    await Promise.all(Array.from({ length: 5 }, () => sendMail(own, kept, { ...FROM, server: box.server })))
    const caught = await mails()
    expect(caught.map(mail => mail.to).sort()).toEqual(people.map(one => one.email).sort())
    expect((await open.db.select().from(s.notices)).map(one => one.mail)).toEqual(Array.from({ length: 12 }, () => 'sent'))
    expect(caught[0]!.raw).toContain('Summer 2027 is signed off')
    box.close()
  })

  it('is tried again later when its server is away, each time after a longer pause, and then goes out', async () => {
    const { id } = await student('tamsin')
    await open.db.insert(s.notices).values(notice(id, AT_ONCE))
    const waits: number[] = []
    for (let n = 0; n < 3; n++) {
      await sendMail(own, kept, { ...FROM, server: NOBODY })
      const [one] = await open.db.select().from(s.notices)
      expect(one).toMatchObject({ mail: 'wait', tries: n + 1 })
      waits.push(Date.parse(one!.mailAt))
      // Not before its time.
      await sendMail(own, kept, { ...FROM, server: NOBODY })
      expect((await open.db.select().from(s.notices))[0]!.tries).toBe(n + 1)
      await at(new Date(waits.at(-1)! + 1000).toISOString())
    }
    expect(waits[2]! - waits[1]!).toBeGreaterThan(waits[1]! - waits[0]!)
    const box = await catchMail(own)
    await sendMail(own, kept, { ...FROM, server: box.server })
    expect(await mails()).toHaveLength(1)
    box.close()
  })

  it('that a server claimed and never sent, because it died, is taken up by another', async () => {
    const { id } = await student('tamsin')
    await open.db.insert(s.notices).values({ ...notice(id, '2026-11-09T15:01:00.000Z'), mail: 'claimed' })
    const box = await catchMail(own)
    await sendMail(own, kept, { ...FROM, server: box.server })
    expect(await mails()).toHaveLength(0)
    await at('2026-11-09T15:02:00.000Z')
    await sendMail(own, kept, { ...FROM, server: box.server })
    expect(await mails()).toHaveLength(1)
    box.close()
  })

  it('that is sent twice under one id is one mail', async () => {
    const { id } = await student('tamsin')
    await open.db.insert(s.notices).values(notice(id, AT_ONCE))
    const box = await catchMail(own)
    await sendMail(own, kept, { ...FROM, server: box.server })
    // As after a server that died between handing it over and noting it.
    await open.db.update(s.notices).set({ mail: 'wait' })
    await sendMail(own, kept, { ...FROM, server: box.server })
    expect(await mails()).toHaveLength(1)
    box.close()
  })

  it('of a digest waits for its hour, and is one for all of the day', async () => {
    const { id } = await student('tamsin')
    await open.db.insert(s.notices).values([notice(id, '2026-11-10T00:00:00.000Z'), notice(id, '2026-11-10T00:00:00.000Z', '2027SU')])
    const box = await catchMail(own)
    await sendMail(own, kept, { ...FROM, server: box.server })
    expect(await mails()).toHaveLength(0)
    await at('2026-11-10T00:01:00.000Z')
    await sendMail(own, kept, { ...FROM, server: box.server })
    expect((await mails()).map(mail => /Subject: (.*)/.exec(mail.raw)?.[1])).toEqual(['2 things are new for you'])
    box.close()
  })
})
