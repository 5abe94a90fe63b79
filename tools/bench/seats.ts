import { get } from 'node:http'
import { eq, inArray, like, sql } from 'drizzle-orm'
import { LIMITS } from '../../shared/contract/limits'
import type { Database } from '../../server/db/connect'
import * as s from '../../server/db/schema'
import { freePort, startServer } from '../command/machine.mjs'
import { median, quantile, round as rounded, type Figure } from './figure'

const WATCHERS = 2000
const AT_ONCE = 100
const CHANGES = 12
const TERM = '2027SP'
const TARGET_MS = 2000

/**
 * Live seats: so many open pages, of as many people as may have them, and a seat that is taken now and then. Told is how long it takes
 * from the change in the database until each of them has it, and how many statements the server asks meanwhile, for all of them together.
 */
export async function benchSeats(db: Database, url: string): Promise<Figure[]> {
  const server = await startServer({ databaseUrl: url, port: await freePort(), demo: true, log: '/dev/null' })
  try {
    const cookies = await signIn(db, server.address, Math.ceil(WATCHERS / LIMITS.streams))
    const heard: ((pool: string) => void)[] = []
    let opened = 0
    const watch = (i: number) => new Promise<void>((ready, fail) => {
      get(`${server.address}/api/seats/news?term=${TERM}`, { headers: { cookie: cookies[Math.floor(i / LIMITS.streams)]! } }, (answer) => {
        if (answer.statusCode !== 200) return fail(new Error(`no news: ${answer.statusCode}`))
        let text = ''
        answer.setEncoding('utf8')
        answer.on('data', (chunk: string) => {
          text += chunk
          for (let end = text.indexOf('\n\n'); end >= 0; end = text.indexOf('\n\n')) {
            const line = text.slice(0, end).split('\n').find(one => one.startsWith('data:'))
            text = text.slice(end + 2)
            if (!line) continue
            const pools = Object.keys((JSON.parse(line.slice(5)) as { pools: object }).pools)
            // The first tells all seats; later ones those that changed.
            if (pools.length > 50) {
              opened++
              ready()
            }
            else for (const tell of heard) tell(`${i} ${pools[0]}`)
          }
        })
      }).on('error', fail)
    })
    // Pages are opened one after the other, as people do; a server that is asked for more at once says so.
    for (let i = 0; i < WATCHERS; i += AT_ONCE)
      await Promise.all(Array.from({ length: Math.min(AT_ONCE, WATCHERS - i) }, (_, n) => watch(i + n)))
    const pools = await db.select({ id: s.seatPools.id }).from(s.seatPools).innerJoin(s.sections, eq(s.sections.id, s.seatPools.section))
      .where(sql`${s.sections.term} = ${TERM} AND ${s.seatPools.taken} + ${s.seatPools.held} < ${s.seatPools.capacity}`).limit(CHANGES)
    const times: number[] = []
    const began = performance.now()
    const before = await questions(db)
    for (const { id } of pools) {
      const at = performance.now()
      await new Promise<void>((done) => {
        let left = WATCHERS
        const tell = (what: string) => {
          if (!what.endsWith(` ${id}`)) return
          times.push(performance.now() - at)
          if (--left === 0) {
            heard.splice(heard.indexOf(tell), 1)
            done()
          }
        }
        heard.push(tell)
        void db.execute(sql`UPDATE seat_pools SET taken = taken + 1 WHERE id = ${id}`)
      })
    }
    const seconds = (performance.now() - began) / 1000
    const asked = (await questions(db) - before - pools.length) / seconds
    const worst = Math.max(...times)
    return [
      { name: 'live seats, worst of all', value: rounded(worst), unit: 'ms', ratio: null, target: `≤ ${TARGET_MS}`, ok: worst <= TARGET_MS,
        reference: `median ${rounded(median(times))} ms, p99 ${rounded(quantile(times, 0.99))} ms; ${opened} watchers, ${
          pools.length} changes` },
      { name: 'statements for live seats', value: rounded(asked), unit: '/s', ratio: rounded(asked / WATCHERS, 4), target: '', ok: null,
        reference: `all that the server asks while ${WATCHERS} watch, a watcher` },
    ]
  }
  finally {
    await server.kill()
  }
}

const questions = async (db: Database) => {
  const [rows] = await db.execute(sql`SHOW GLOBAL STATUS LIKE 'Questions'`) as unknown as [{ Value: string }[]]
  return Number(rows[0]!.Value)
}

async function signIn(db: Database, address: string, people: number): Promise<string[]> {
  const [template] = await db.select().from(s.people).where(eq(s.people.username, 'tamsin'))
  const some = await db.select({ id: s.people.id, username: s.people.username }).from(s.people).where(like(s.people.username, 's%'))
    .orderBy(s.people.id).limit(people)
  await db.update(s.people).set({ passwordHash: template!.passwordHash }).where(inArray(s.people.id, some.map(one => one.id)))
  const cookies: string[] = []
  for (const { username } of some) {
    const answer = await fetch(`${address}/api/session`, { method: 'POST', body: JSON.stringify({ username, password: 'larkmoor' }),
      headers: { 'content-type': 'application/json', 'origin': address } })
    if (!answer.ok) throw new Error(`${username} could not sign in: ${answer.status}`)
    cookies.push(answer.headers.getSetCookie().map(line => line.split(';')[0]!).join('; '))
  }
  return cookies
}
