import { join } from 'node:path'
import { Agent, get as httpGet } from 'node:http'
import { sql } from 'drizzle-orm'
import { VIEWS } from '../../shared/contract'
import type { View } from '../../shared/contract/define'
import { loadLarge } from '../../demo/large'
import { connect, type Database } from '../../server/db/connect'
import { students } from '../../server/db/schema'
import { applyMigrations } from '../../server/db/migrations'
import { ensureBuild, freePort, ROOT, startServer, STATE } from '../command/machine.mjs'
import { type Figure, median, quantile, round } from './figure'

const SIZES = [2000, 20_000] as const
/** Requests of each view, each for another student where it is about one. */
const TIMES = 40
const TERM = '2027SP'
/** Lists of many; everything else that a page asks for is held to the stricter limit. */
const LISTS = new Set(['advisees', 'students by name', 'people of the office', 'seats', 'openings', 'ledger', 'messages', 'find sections',
  'demand', 'demand of a course', 'office today', 'groups', 'pace of registration', 'deputies', 'office hours', 'API tokens',
  'college counts'])
/** Whole files of everything, reports that are asked for and waited for, what asks the machine and not the college, and open streams. */
const APART = new Set(['college folder', 'college roster', 'records and plans', 'everything about me', 'catalog check', 'metrics',
  'API description', 'health', 'readiness', 'work under way', 'caught mails', 'crowd', 'program of the office'])
const MOST = { list: 150, page: 100, memory: 400, minutes: 3, progress: 400 }

interface Measured { name: string, first: number, median: number, p95: number, kilobytes: number }
interface Sized { students: number, made: number, views: Measured[], memory: number, progress: { first: number, again: number } }

/** Every view of a college of 20,000 students and of one of 2,000, asked of a running server one after the other. */
export async function benchLarge(url: string): Promise<Figure[]> {
  await ensureBuild()
  const sizes: Sized[] = []
  for (const size of SIZES) sizes.push(await measure(url, size))
  return figuresOf(sizes[0]!, sizes[1]!)
}

async function measure(url: string, size: number): Promise<Sized> {
  const name = `bench_large_${size}`
  const admin = connect(url, 1)
  await admin.db.execute(sql.raw(`DROP DATABASE IF EXISTS ${name}`))
  await admin.db.execute(sql.raw(`CREATE DATABASE ${name} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci`))
  const databaseUrl = url.replace(/\/[^/]+$/, `/${name}`)
  const { db, close } = connect(databaseUrl, 4)
  await applyMigrations(db, join(ROOT, 'server/db/migrations'))
  const began = performance.now()
  await loadLarge(db, { students: size, tell: (done, of) => console.error(`large college: ${done} of ${of} students`) })
  const made = (performance.now() - began) / 1000
  // As a database that has been there for a while knows its tables.
  for (const table of ['records', 'students', 'people', 'registrations', 'plan_entries', 'plans', 'sections', 'ledger', 'money_entries'])
    await db.execute(sql.raw(`ANALYZE TABLE ${table}`))
  const server = await startServer({ databaseUrl, port: await freePort(), demo: true, log: join(STATE, `${name}.log`) })
  try {
    const views = await askEverything(db, server.address, size)
    const progress = await workOutEverybody(server.address)
    const memory = (await read<{ memory: number }>(server.address, await signIn(server.address, 'edda'), '/api/server')).memory / 1e6
    return { students: size, made, views, memory, progress }
  }
  finally {
    await server.stop()
    await close()
    await admin.db.execute(sql.raw(`DROP DATABASE IF EXISTS ${name}`))
    await admin.close()
  }
}

async function askEverything(db: Database, address: string, size: number): Promise<Measured[]> {
  const office = await signIn(address, 'edda')
  const advisor = await signIn(address, 'hollis')
  const own = await signIn(address, 'tamsin')
  const pick = async (text: string) => ((await db.execute(sql.raw(text)) as unknown as [{ id: number }[]])[0]).map(row => row.id)
  // Spread over the whole college, with what people have there.
  const some = await pick(`SELECT person id FROM students WHERE person % ${Math.max(1, Math.floor(await count(db) / TIMES))} = 0 LIMIT
    ${TIMES}`)
  const [tamsin] = await pick('SELECT id FROM people WHERE username = \'tamsin\'')
  const [section] = await pick(`SELECT s.id FROM sections s JOIN courses c ON c.code = s.course
    WHERE term = '${TERM}' AND JSON_LENGTH(c.parts) = 1 AND NOT cancelled LIMIT 1`)
  const input: Record<string, string[]> = {
    'students by name': ['an', 'be', 'ell', 's12'].map(text => `text=${text}`),
    'demand of a course': ['HYD 230', 'WRT 210', 'ECLB 110', 'MTHC 140', 'STTD 201'].map(course =>
      `term=${TERM}&course=${encodeURIComponent(size > 2000 ? course : 'HYD 230')}`),
    'section of the office': [`term=${TERM}&section=${section}`],
    'section sheet': [`term=${TERM}&sections=${section}`],
    'ledger': ['', 'action=register', 'day=2026-11-05', `section=${section}`, `student=${tamsin}`],
    'find sections': ['water', 'ma', 'hyd 2', 'lab', 'monday'].map(text =>
      `term=${TERM}&search=${encodeURIComponent(JSON.stringify({ text }))}&most=40`),
    'place in line': ['key=00000000-0000-4000-8000-000000000000'],
  }
  const measured: Measured[] = []
  for (const view of VIEWS.filter(one => !one.stream && !APART.has(one.name))) {
    const cookie = view.who === 'advisor' || view.who === 'their advisor' || view.who === 'own or advisor'
      ? advisor
      : view.who === 'own' ? own : office
    const isOf = view.path.includes(':id')
    const ids = !isOf ? [0] : view.who === 'file' || view.who === 'advisor or office' ? some : [tamsin!]
    const queries = input[view.name] ?? [`term=${TERM}`]
    const plans = view.path.includes(':plan')
      ? new Map((await db.execute(sql.raw(`SELECT student, MIN(id) id FROM plans WHERE student IN (${ids.join()}) GROUP BY student`)) as
        unknown as [{ student: number, id: number }[]])[0].map(row => [row.student, row.id]))
      : null
    const times: number[] = []
    let bytes = 0
    for (let i = 0; i <= TIMES; i++) {
      const id = ids[i % ids.length]!
      const path = view.path.replace(':id', String(id)).replace(':plan', String(plans?.get(id)))
      const start = performance.now()
      const answer = await ask(address, cookie, `${path}?${queries[i % queries.length]}`)
      times.push(performance.now() - start)
      bytes = Math.max(bytes, answer.bytes)
      if (answer.status !== 200) throw new Error(`${view.name} ${path}: ${answer.status} ${answer.text.slice(0, 200)}`)
    }
    measured.push(of(view, times, bytes))
  }
  return measured
}

const of = ({ name }: View, [first, ...rest]: number[], bytes: number): Measured =>
  ({ name, first: first!, median: median(rest), p95: quantile(rest, 0.95), kilobytes: bytes / 1000 })

const count = (db: Database) => db.$count(students)

const agent = new Agent({ keepAlive: true })
interface Answer { status: number, text: string, bytes: number, cookies: string[] }
/** The plain client: what it costs here is not counted as the server's. */
function ask(address: string, cookie: string, path: string): Promise<Answer> {
  return new Promise((done, fail) => {
    httpGet(`${address}${path}`, { agent, headers: { cookie } }, (response) => {
      const parts: Buffer[] = []
      response.on('data', (part: Buffer) => parts.push(part))
      response.on('end', () => {
        const body = Buffer.concat(parts)
        done({ status: response.statusCode ?? 0, text: body.subarray(0, 2000).toString(), bytes: body.length, cookies: [] })
      })
    }).on('error', fail)
  })
}

/** The cookies of somebody of the demonstration who signed in. */
export async function signIn(address: string, username: string): Promise<string> {
  const answer = await fetch(`${address}/api/session`, { method: 'POST', body: JSON.stringify({ username, password: 'larkmoor' }),
    headers: { 'content-type': 'application/json', 'origin': address } })
  if (!answer.ok) throw new Error(`${username} could not sign in: ${answer.status}`)
  return answer.headers.getSetCookie().map(line => line.split(';')[0]).join('; ')
}

/** Students whose files are worked out in a second, in threads of the server: for the first time, and when none has changed since. */
async function workOutEverybody(address: string) {
  return { first: await workOut(address), again: await workOut(address) }
}

async function workOut(address: string): Promise<number> {
  const answer = await fetch(`${address}/api/office/progress`, { method: 'POST', body: '{}', headers: { 'content-type': 'application/json',
    'origin': address, 'cookie': await signIn(address, 'edda') } })
  if (!answer.ok) throw new Error(`progress of everybody: ${answer.status} ${(await answer.text()).slice(0, 200)}`)
  const { answer: made } = await answer.json() as { answer: { seconds: number, students: unknown[] } }
  return made.students.length / made.seconds
}

const read = async <T>(address: string, cookie: string, path: string) =>
  await (await fetch(`${address}${path}`, { headers: { cookie } })).json() as T

function figuresOf(small: Sized, large: Sized): Figure[] {
  const before = new Map(small.views.map(view => [view.name, view]))
  const views = [...large.views].sort((a, b) => b.p95 - a.p95).map((view): Figure => {
    const most = LISTS.has(view.name) ? MOST.list : MOST.page
    const then = before.get(view.name)!
    return { name: `large ${view.name}`, value: round(view.p95, 1), unit: 'ms p95', ratio: round(view.median / then.median),
      reference: `median ${round(view.median, 1)}, the first ${round(view.first)}, ${Math.round(view.kilobytes)} kB; the ratio is to the `
        + `median ${round(then.median, 1)} with a tenth of the students`, target: `≤ ${most}`, ok: view.p95 <= most }
  })
  const growth = Math.max(...large.views.map(view => view.median / Math.max(before.get(view.name)!.median, 1)))
  return [
    { name: 'large college made', value: round(large.made), unit: 's', ratio: round(large.made / small.made),
      reference: `${large.students} students; with a tenth ${round(small.made)} s`, target: `≤ ${MOST.minutes * 60}`,
      ok: large.made <= MOST.minutes * 60 },
    { name: 'large memory of a server', value: Math.round(large.memory), unit: 'MB', ratio: round(large.memory / small.memory),
      reference: `after every view was asked ${TIMES} times; with a tenth ${Math.round(small.memory)} MB`, target: `≤ ${MOST.memory}`,
      ok: large.memory <= MOST.memory },
    { name: 'large growth of a view, worst', value: round(growth), unit: 'times', ratio: round(growth),
      reference: 'median with ten times the students, against the median with a tenth (at least 1 ms)', target: '≤ 10', ok: growth <= 10 },
    { name: 'large progress of everybody', value: Math.round(large.progress.first), unit: 'a second',
      ratio: round(large.progress.first / small.progress.first),
      reference: `files worked out, in two threads beside the server; with a tenth ${Math.round(small.progress.first)} a second`,
      target: `≥ ${MOST.progress}`, ok: large.progress.first >= MOST.progress },
    { name: 'large progress of everybody, again', value: Math.round(large.progress.again), unit: 'a second',
      ratio: round(large.progress.again / large.progress.first),
      reference: 'no file has changed since; the ratio is to the first time', target: `≥ ${MOST.progress}`,
      ok: large.progress.again >= MOST.progress },
    ...views,
  ]
}
