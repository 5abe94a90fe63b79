import { setTimeout as wait } from 'node:timers/promises'
import { randomUUID } from 'node:crypto'
import { eq } from 'drizzle-orm'
import type { Database } from '../../server/db/connect'
import * as s from '../../server/db/schema'
import { freePort, startServer } from '../command/machine.mjs'
import { type Figure, quantile, round } from './figure'
import { signIn } from './large'

const TERM = '2027SP'
/** People who ask without a pause, seconds before it is counted, and seconds in which it is. */
const PEOPLE = 24
const WARM_MS = 6000
const COUNTED_MS = 12_000
/** Of so many requests one writes: a comment to a file. */
const WRITES_EVERY = 10

/** What one server answers in a second, and what two answer on the same database: an advisor's pages, and now and then a comment. */
export async function benchServers(db: Database, url: string): Promise<Figure[]> {
  const [hollis] = await db.select().from(s.people).where(eq(s.people.username, 'hollis'))
  const students = (await db.select({ id: s.students.person }).from(s.students).where(eq(s.students.advisor, hollis!.id)).limit(60))
    .map(row => row.id)
  const counted: { rate: number, p95: number }[] = []
  for (const count of [1, 2]) {
    const servers = await Promise.all(Array.from({ length: count }, async () =>
      startServer({ databaseUrl: url, port: await freePort(), demo: true, log: '/dev/null' })))
    try {
      counted.push(await load(servers.map(server => server.address), students))
    }
    finally {
      await Promise.all(servers.map(server => server.stop()))
    }
  }
  const [one, two] = counted as [typeof counted[0], typeof counted[0]]
  return [{ name: 'servers: answers of two against one', value: round(two.rate, 1), unit: 'a second', ratio: round(two.rate / one.rate),
    reference: `one answers ${round(one.rate, 1)}; p95 ${round(one.p95)} ms with one, ${round(two.p95)} with two, ${PEOPLE} people without `
      + 'a pause; database and askers on the same machine', target: '', ok: null }]
}

async function load(addresses: readonly string[], students: readonly number[]) {
  const cookies = await Promise.all(addresses.map(address => signIn(address, 'hollis')))
  const times: number[] = []
  const began = performance.now()
  const until = began + WARM_MS + COUNTED_MS
  await Promise.all(Array.from({ length: PEOPLE }, async (_, person) => {
    const at = person % addresses.length
    await wait(person * 20)
    for (let i = person * 7; performance.now() < until; i++) {
      const student = students[i % students.length]!
      const isWrite = i % WRITES_EVERY === 0
      const path = `/api/students/${student}${isWrite ? '/comments' : i % 2 ? `?term=${TERM}` : `/week?term=${TERM}`}`
      const asked = performance.now()
      const answer = await fetch(addresses[at]! + path, { headers: { 'cookie': cookies[at]!, 'origin': addresses[at]!,
        'content-type': 'application/json' }, ...isWrite
        ? { method: 'POST', body: JSON.stringify({ term: null, entry: null, text: randomUUID() }) }
        : {} })
      const text = await answer.text()
      if (!answer.ok && answer.status !== 409) throw new Error(`${path}: ${answer.status} ${text.slice(0, 200)}`)
      if (asked - began > WARM_MS) times.push(performance.now() - asked)
    }
  }))
  return { rate: times.length / (COUNTED_MS / 1000), p95: quantile(times, 0.95) }
}
