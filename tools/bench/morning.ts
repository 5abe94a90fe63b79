import { createHash, randomUUID } from 'node:crypto'
import { readFile } from 'node:fs/promises'
import { Agent, request } from 'node:http'
import { join } from 'node:path'
import { setTimeout as wait } from 'node:timers/promises'
import { sql } from 'drizzle-orm'
import { sealSession } from 'h3'
import { arrivalsAt, fitShares, type Served, type Service, simulateMorning, type Stretch } from '@ridgeway/core/registration'
import { bundlesOf } from '@ridgeway/core/weeks'
import { COURSES } from '../../demo/courses'
import { loadLarge } from '../../demo/large'
import { Random } from '../../demo/random'
import { KeptCollege } from '../../server/college/college'
import type { Database as Direct } from '../../server/db/connect'
import { Database } from '../../server/db/database'
import * as s from '../../server/db/schema'
import { readStamp } from '../../server/db/store/college'
import { ensureBuild, freePort, startServer, STATE } from '../command/machine.mjs'
import type { Place } from '../../shared/contract/views/student'
import { type Figure, quantile, round } from './figure'
import { signIn as signInOf } from './large'

const TERM = '2027SP'
const PEOPLE = Number(process.env.MORNING_PEOPLE ?? 20_000)
/**
 * One page in so many listens to news: each that does holds a connection for as long as it is open, and neither this program nor the server
 * may open more than twenty thousand files on an ordinary machine. Up to 6,000 people all listen.
 */
const LISTENS = Math.ceil(PEOPLE / 6000)
/** Waves of an opening, and milliseconds between two of them. */
const WAVES = 3
const BETWEEN = 45_000
/** As the lanes of a server are made. */
const LANES = { lanes: 2, most: 8 }
/** Milliseconds before their press that people open the page at least and at most; nobody opens it in the rush itself. */
const OPENED = { least: 5000, most: 20_000 }
const RUSH_MS = 10_000
/** How long they look at their result before they leave; what their page is told to read later than that, it does not read. */
const STAYS_MS = 5000
/** What a page does that waits: when it looks at its place first, and after how long it asks again, longer and longer. */
const PLACE_MS = 1500
const ASK_AGAIN_MS = [1000, 2000, 4000, 8000]
/** The views that a page shows on which somebody registers, and is answered with. */
const SHOWN = `?term=${TERM}&show=student,sheet`
const SECRET = 'demo-only-secret-demo-only-secret-0'
const HASH = 'a password that nobody has'
/** Milliseconds by which somebody came clearly before somebody else. */
const CLEARLY_MS = 200
/** Milliseconds that somebody has to have waited for the morning to tell how many can be served. */
const BUSY_MS = 5000

interface Pressed extends Served, Listening {
  student: number
  /** How often it was sent; the answers that told it to come again. */
  tries: number
  told: string[]
  /** How often it looked at its place. */
  looks: number
  /** Milliseconds after which it was told to ask for what its page shows; 0 where that came with the answer. */
  later: number
}

/** Whether a page still heard of news when they left, null where it does not listen, why not, and how much it heard, in bytes. */
interface Listening { alive: boolean | null, heard: number, ended: string }

/**
 * An opening played against a running server: everybody presses once, in waves, as their own browser would, and tries again when told to.
 * What each of them lives through is measured; then the same morning is worked out on paper, held against it, and drawn for ten and a
 * hundred times as many.
 */
export async function benchMorning(db: Direct, url: string): Promise<Figure[]> {
  await ensureBuild()
  await loadLarge(db, { students: PEOPLE, tell: (done, of) => console.error(`large college: ${done} of ${of} students`) })
  const presses = await lineUp(db, url)
  const cookies = await signIn(db, [...presses.keys()])
  const server = await startServer({ databaseUrl: url, port: await freePort(), demo: true, log: join(STATE, 'morning.log'),
    env: { NUXT_SESSION_PASSWORD: SECRET } })
  try {
    const random = new Random(9)
    const students = random.shuffle([...presses.keys()])
    const each = Math.ceil(students.length / WAVES)
    const arrivals = Array.from({ length: WAVES }, (_, wave) =>
      arrivalsAt(wave * BETWEEN, Math.min(each, students.length - wave * each), () => random.next())).flat().sort((a, b) => a - b)
    // Before the first press the server has read the term, as it has on such a morning.
    await press(server.address, { agent: new Agent(), cookie: cookies.get(students[0]!)! }, students[0]!, [])
    const pages: number[] = []
    let over = false
    const cost = await watchCost(db, server.address, await signInOf(server.address, 'edda'))
    const probing = probe(server.address, cookies, students, pages, () => over)
    const began = performance.now() + OPENED.most
    const until = (moment: number) => wait(Math.max(0, moment - (performance.now() - began)))
    const pressed = await Promise.all(arrivals.map(async (came, i): Promise<Pressed> => {
      const student = students[i]!
      const cookie = cookies.get(student)!
      const listening: Browser = { agent: new Agent({ keepAlive: true }), cookie }
      const browser: Browser = { agent: new Agent({ keepAlive: true }), cookie }
      await until(openedAt(came, () => random.next()))
      void ask(server.address, 'GET', '/favicon.svg', browser)
      const page = i % LISTENS === 0 ? listenTo(server.address, student, listening) : null
      await until(came)
      // They press when they press: that this program is late is no fault of the server's.
      const answer = await pressUntilAnswered(server.address, browser, student, presses.get(student)!, began, performance.now() - began)
      browser.agent.destroy()
      await wait(Math.min(answer.later, STAYS_MS))
      if (answer.later > 0 && answer.later <= STAYS_MS) await readRest(server.address, student, { ...browser, agent: new Agent() })
      else await wait(STAYS_MS)
      const { alive, heard, ended } = page ?? { alive: null, heard: 0, ended: '' }
      listening.agent.destroy()
      return { ...answer, alive, heard, ended }
    }))
    over = true
    await probing
    return await figuresOf(db, pressed, pages, await cost())
  }
  finally {
    await server.stop()
  }
}

/** Nobody is registered, every gate is open, and everybody has lined up what they plan, with a backup and the waitlist behind it. */
async function lineUp(db: Direct, url: string): Promise<Map<number, number[]>> {
  for (const table of ['registrations', 'waitlist_entries', 'ledger', 'money_entries', 'line_up_rows', 'holds', 'openings'])
    await db.execute(sql.raw(`DELETE FROM ${table}`))
  const moment = '2026-11-10 16:00:00'
  await db.execute(sql`UPDATE seat_pools SET taken = 0, held = 0`)
  await db.execute(sql`UPDATE students SET program_confirmed = TRUE`)
  await db.execute(sql`UPDATE clock_setting SET demo_now = ${moment}, set_at = UTC_TIMESTAMP(3)`)
  await db.insert(s.openings).values({ term: TERM, from: '2026-11-09T15:00:00.000Z', program: null, earnedMin: 0, words: 'everybody' })
  await db.execute(sql`INSERT IGNORE INTO sign_offs (student, term, advisor, signed_at, note, copy)
    SELECT person, ${TERM}, IFNULL(advisor, 1), ${moment}, '', '[]' FROM students`)
  await db.execute(sql`INSERT IGNORE INTO terms_acceptances (student, term, accepted_at) SELECT person, ${TERM}, ${moment} FROM students`)
  await db.execute(sql`UPDATE college_stamp SET version = version + 1`)
  const store = new Database(url, 2)
  const sections = await store.read(async own => (await new KeptCollege().at(own, (await readStamp(own)).catalog)).sections.now(own, TERM))
  await store.close()
  const random = new Random(3)
  const byCourse = new Map<string, typeof sections>()
  for (const section of sections) byCourse.set(section.course, [...byCourse.get(section.course) ?? [], section])
  const parts = new Map(COURSES.map(course => [course.code, course.parts]))
  const bundles = new Map([...byCourse].map(([code, list]) => [code, bundlesOf({ code,
    parts: parts.get(code.replace(/^([A-Z]{3})[A-Z] /, '$1 ')) ?? ['lecture'] }, list).map(bundle => bundle.sections.map(one => one.id))]))
  const planned = (await db.execute(sql`SELECT p.student, e.course FROM plan_entries e JOIN plans p ON p.id = e.plan
    WHERE p.is_current AND p.deleted_at IS NULL AND e.term = ${TERM} ORDER BY p.student, e.course`) as unknown as
    [{ student: number, course: string }[]])[0]
  const rows = planned.flatMap(({ student, course }, position) => {
    const found = bundles.get(course) ?? []
    if (found.length === 0) return []
    const first = random.between(0, found.length - 1)
    return [{ student, term: TERM, course, position, sectionIds: found[first]!, waitIfFull: true,
      backups: found.length > 1 ? [found[(first + 1) % found.length]!] : [] }]
  })
  for (let at = 0; at < rows.length; at += 1000) await db.insert(s.lineUpRows).values(rows.slice(at, at + 1000))
  const kept = await db.select({ id: s.lineUpRows.id, student: s.lineUpRows.student }).from(s.lineUpRows)
  const byStudent = new Map<number, number[]>()
  for (const row of kept) byStudent.set(row.student, [...byStudent.get(row.student) ?? [], row.id])
  return byStudent
}

/** A session for everybody, as signing in would begin it: twenty thousand passwords would take the machine half an hour. */
async function signIn(db: Direct, students: readonly number[]): Promise<Map<number, string>> {
  const sha256 = (text: string) => createHash('sha256').update(text).digest('hex')
  await db.execute(sql`UPDATE people SET password_hash = ${HASH} WHERE role = 'student'`)
  const cookies = new Map<number, string>()
  const rows = []
  for (const person of students) {
    const secret = randomUUID()
    const session = { id: randomUUID(), createdAt: Date.now(), data: { secure: { session: secret } } }
    const event = { context: { sessions: { 'nuxt-session': session } } } as never
    cookies.set(person, `nuxt-session=${await sealSession(event, { password: SECRET, name: 'nuxt-session', maxAge: 8 * 3600 })}`)
    rows.push({ id: sha256(secret), person, started: '2026-11-10T12:00:00.000Z', until: '2099-01-01T00:00:00.000Z', mark: sha256(HASH) })
  }
  for (let at = 0; at < rows.length; at += 1000) await db.insert(s.sessions).values(rows.slice(at, at + 1000))
  return cookies
}

/** When somebody opens the page who presses at a moment: a while before, and before the rush of an opening rather than in it. */
function openedAt(came: number, random: () => number): number {
  const before = OPENED.least + random() * (OPENED.most - OPENED.least)
  const opening = Math.floor((came - before) / BETWEEN) * BETWEEN
  return came - before - opening < RUSH_MS ? opening - before : came - before
}

/** What an open page hears: it listens from when it is opened until all is over. */
function listenTo(address: string, student: number, { agent, cookie }: Browser): Omit<Listening, 'alive'> & { alive: boolean } {
  const page = { alive: false, heard: 0, ended: 'not answered yet' }
  const end = (why: string) => {
    page.alive = false
    page.ended = why
  }
  const sent = request(`${address}/api/students/${student}/news?term=${TERM}`, { agent, headers: { cookie } }, (response) => {
    page.alive = response.statusCode === 200
    page.ended = page.alive ? '' : `answered ${response.statusCode}`
    response.on('data', (part: Buffer) => { page.heard += part.length })
    response.on('close', () => end('ended by the server'))
  })
  sent.on('error', (problem: NodeJS.ErrnoException) => end(`no connection: ${problem.code}`))
  sent.end()
  return page
}

/** What a morning cost: megabytes that the server held at most, and seconds of a core that each of the three worked. */
interface Cost { memory: number, cores: { server: number, database: number, askers: number } }

/** Looks at what the server holds, and at what it, the database and this program work, until the call that tells it. */
async function watchCost(db: Direct, address: string, cookie: string): Promise<() => Promise<Cost>> {
  let memory = 0
  const agent = new Agent({ keepAlive: true })
  const read = async () => {
    const { text } = await ask(address, 'GET', '/api/metrics', { agent, cookie })
    const metric = (name: string) => Number(new RegExp(`^${name} (\\S+)`, 'm').exec(text)?.[1] ?? 0)
    memory = Math.max(memory, metric('process_resident_memory_bytes') / 1e6)
    return metric('process_cpu_seconds_total')
  }
  const [{ file }] = (await db.execute(sql`SELECT @@pid_file file`) as unknown as [[{ file: string }]])[0]
  const ofDatabase = async () => {
    // The fourteenth and fifteenth of what the system tells of a process, in hundredths of a second; its name may hold spaces.
    const said = (await readFile(`/proc/${(await readFile(file, 'utf8')).trim()}/stat`, 'utf8')).split(') ')[1]!.split(' ')
    return (Number(said[11]) + Number(said[12])) / 100
  }
  const ofThis = () => (process.cpuUsage().user + process.cpuUsage().system) / 1e6
  const before = { server: await read(), database: await ofDatabase(), askers: ofThis() }
  const timer = setInterval(() => void read(), 5000)
  return async () => {
    clearInterval(timer)
    const cores = { server: await read() - before.server, database: await ofDatabase() - before.database, askers: ofThis() - before.askers }
    agent.destroy()
    return { memory, cores }
  }
}

/** Everybody has a browser whose connections are kept from the page to the press. */
interface Browser { agent: Agent, cookie: string }
function ask(address: string, method: string, path: string, { agent, cookie }: Browser, body?: string):
Promise<{ status: number, text: string }> {
  return new Promise((done) => {
    const sent = request(`${address}${path}`, { method, agent, headers: { cookie, origin: address,
      ...body ? { 'content-type': 'application/json' } : {} } }, (response) => {
      const parts: Buffer[] = []
      response.on('data', (part: Buffer) => parts.push(part))
      response.on('end', () => done({ status: response.statusCode ?? 0, text: Buffer.concat(parts).toString() }))
      // An answer that breaks off is none; after its end this says nothing more.
      response.on('close', () => done({ status: 0, text: '' }))
    })
    sent.on('error', () => done({ status: 0, text: '' }))
    sent.end(body)
  })
}

const press = (address: string, browser: Browser, student: number, rowIds: readonly number[], key: string = randomUUID()) =>
  ask(address, 'POST', `/api/students/${student}/registrations${SHOWN}`, browser, JSON.stringify({ term: TERM, key, rowIds }))

async function pressUntilAnswered(address: string, browser: Browser, student: number, rowIds: readonly number[], began: number,
  came: number): Promise<Omit<Pressed, keyof Listening>> {
  const key = randomUUID()
  const told: string[] = []
  // A second connection of everybody who waits would be more files than this program may open: it is closed after each look.
  const once = { ...browser, agent: new Agent() }
  let looks = 0
  for (let tries = 1; ; tries++) {
    const watching = new AbortController()
    const look = async (after: number): Promise<void> => {
      await wait(after, null, { signal: watching.signal })
      looks++
      const { status, text } = await ask(address, 'GET', `/api/students/${student}/registrations?key=${key}`, once)
      return look(status === 200 ? (JSON.parse(text) as Place).again : ASK_AGAIN_MS.at(-1)!)
    }
    look(PLACE_MS).catch(() => { /* it has its answer */ })
    const { status, text } = await press(address, browser, student, rowIds, key)
    watching.abort()
    const { later = 0 } = (status === 200 ? JSON.parse(text) : {}) as { later?: number }
    if (status === 200) return { student, came, answered: performance.now() - began, tries, told, looks, later }
    if (status !== 503 && status !== 0) throw new Error(`a press was answered ${status}: ${text.slice(0, 200)}`)
    told.push(status === 0 ? 'no connection' : (JSON.parse(text) as { code: string }).code)
    await wait(ASK_AGAIN_MS[Math.min(tries, ASK_AGAIN_MS.length) - 1]!)
  }
}

/** What a page reads that was answered without it. */
async function readRest(address: string, student: number, browser: Browser) {
  for (const path of [`?term=${TERM}`, `/dry-run?term=${TERM}`]) await ask(address, 'GET', `/api/students/${student}${path}`, browser)
}

/** Others look at their files meanwhile. */
async function probe(address: string, cookies: ReadonlyMap<number, string>, students: readonly number[], times: number[],
  isOver: () => boolean) {
  const agent = new Agent({ keepAlive: true })
  for (let i = 0; !isOver(); i++) {
    const student = students[i * 7 % students.length]!
    const began = performance.now()
    const { status } = await ask(address, 'GET', `/api/students/${student}?term=${TERM}`,
      { agent, cookie: cookies.get(student)! })
    times.push(status === 200 ? performance.now() - began : Number.POSITIVE_INFINITY)
    await wait(250)
  }
}

async function figuresOf(db: Direct, pressed: readonly Pressed[], pages: readonly number[], { memory, cores }: Cost): Promise<Figure[]> {
  const arrivals = pressed.map(one => one.came).sort((a, b) => a - b)
  const listening = pressed.filter(one => one.alive !== null)
  const alive = listening.filter(one => one.alive).length / listening.length
  const waits = pressed.map(one => one.answered - one.came)
  const order = await overtaken(db, pressed)
  const [wrong] = (await db.execute(sql`SELECT COUNT(*) n FROM seat_pools p LEFT JOIN (SELECT pool, COUNT(*) n FROM registrations
    GROUP BY pool) r ON r.pool = p.id WHERE p.taken <> IFNULL(r.n, 0) OR p.taken + p.held > p.capacity`) as unknown as [{ n: number }[]])[0]
  const [made] = (await db.execute(sql`SELECT COUNT(*) n FROM registrations WHERE credits > 0`) as unknown as [{ n: number }[]])[0]
  // How many are served while people stand in line, and what a press takes when nobody else is there.
  const rate = rateInLine(pressed)
  const service = serviceOf(pressed, quantile(waits, 0.02))
  const paper = simulateMorning(arrivals, 1, service).map(one => one.answered - one.came)
  const at = (list: readonly number[], share: number) => quantile(list, share) / 1000
  // Only where people stood in line for long is what was served all that can be served.
  const isBusy = Math.max(...waits) > BUSY_MS
  const drawn = (isBusy ? [10, 100] : []).map((times) => {
    const people = arrivals.flatMap(one => Array.from({ length: times }, (_, i) => one + i / times))
    const here = simulateMorning(people, 1, service).map(one => one.answered - one.came)
    // How much faster it all would have to be, in powers of two, for nineteen of twenty to wait as they do now.
    let faster = 1
    for (; faster < 4096; faster *= 2) {
      const then = simulateMorning(people, 1, { ...service, base: service.base / faster, each: service.each / faster,
        admit: service.admit / faster })
      if (quantile(then.map(one => one.answered - one.came), 0.95) <= quantile(waits, 0.95) * 1.1) break
    }
    return { name: `morning on paper, ${times} times as many`, value: round(at(here, 0.5)), unit: 's median',
      ratio: round(at(here, 0.5) / at(waits, 0.5)), target: '', ok: null,
      reference: `p95 ${round(at(here, 0.95))} s on this machine; as quick as now with ${faster} times its speed` } satisfies Figure
  })
  return [
    { name: 'morning presses served', value: round(rate * 1000), unit: 'a second', ratio: null,
      reference: `while people stood in line; ${pressed.length} people, ${Number(made!.n)} courses registered`,
      target: '', ok: null },
    { name: 'morning time to a result', value: round(at(waits, 0.5)), unit: 's median',
      ratio: isBusy ? round(at(paper, 0.5) / at(waits, 0.5)) : null,
      reference: `p95 ${round(at(waits, 0.95))} s, longest ${round(Math.max(...waits) / 1000)} s; ${isBusy
        ? `on paper ${round(at(paper, 0.5))}, p95 ${round(at(paper, 0.95))} (${round(service.admit)} ms to let a press in, ${
          round(service.base)} + ${round(service.each)} a press for a transaction)`
        : 'nobody stood in line for long: no paper'}; tried again ${
        pressed.filter(one => one.tries > 1).length}${counted(pressed.flatMap(one => one.told))}`, target: '', ok: null },
    { name: 'morning first come, first served', value: round(order.share * 100, 3), unit: '%', ratio: null,
      reference: `who wait though they came before somebody who has a seat of the section, by more than ${CLEARLY_MS} ms; by ${
        round(order.longest)} ms at most; by when the server heard of it ${round(order.asHeard * 100, 3)} %, which was up to ${
        round(order.heardLate)} ms later`, target: '≤ 1', ok: order.share <= 0.01 },
    { name: 'morning seats that are wrong', value: Number(wrong!.n), unit: '', ratio: null, reference: 'oversold, or not those registered',
      target: '0', ok: Number(wrong!.n) === 0 },
    { name: 'morning pages meanwhile', value: round(quantile(pages, 0.95)), unit: 'ms p95', ratio: null,
      reference: `median ${round(quantile(pages, 0.5))}, ${pages.length} files looked at, ${
        pages.filter(one => !Number.isFinite(one)).length} not answered`, target: '', ok: null },
    { name: 'morning pages that stayed alive', value: round(alive * 100, 3), unit: '%', ratio: null, reference: `of ${
      listening.length} that listen to news and seats, of all that press${
      counted(listening.filter(one => !one.alive).map(one => one.ended))}; ${
      round(listening.reduce((sum, one) => sum + one.heard, 0) / listening.length / 1000)} kB each; looked at their place ${
      round(pressed.reduce((sum, one) => sum + one.looks, 0) / pressed.length)} times each; the server holds ${round(memory)} MB`,
    target: '≥ 99', ok: alive >= 0.99 },
    { name: 'morning seconds of a core', value: round(cores.server), unit: 's of the server', ratio: null,
      reference: `database ${round(cores.database)} s, those who ask ${round(cores.askers)} s, all on two cores, for ${
        round((Math.max(...pressed.map(one => one.answered)) + OPENED.most) / 1000)} s`, target: '', ok: null },
    ...drawn,
  ]
}

/** How often what was told, in brackets; nothing where nothing was. */
function counted(told: readonly string[]): string {
  const times = new Map<string, number>()
  for (const one of told) times.set(one, (times.get(one) ?? 0) + 1)
  return times.size === 0 ? '' : ` (${[...times].map(([one, n]) => `${one}: ${n}`).join(', ')})`
}

/** Milliseconds of the stretches in which what goes on is counted. */
const STRETCH_MS = 1000

/** How the server served, from stretches in which more were there than its lanes take, and from what a press takes by itself. */
function serviceOf(pressed: readonly Served[], alone: number): Service {
  const shares = fitShares(stretchesIn(pressed)) ?? { serve: 0, admit: 0 }
  const full = LANES.lanes * LANES.most * shares.serve
  const single = Math.max(0, Math.min(full, alone - shares.admit))
  const each = (full - single) / (LANES.most - 1)
  return { ...LANES, base: Math.max(0, single - each), each, admit: shares.admit }
}

/** Seconds through all of which more were there than the lanes take at once, with how many came in each and how many were answered. */
function stretchesIn(pressed: readonly Served[]): Stretch[] {
  const last = Math.ceil(Math.max(...pressed.map(one => one.answered)) / STRETCH_MS)
  const all = Array.from({ length: last }, () => ({ ms: STRETCH_MS, came: 0, answered: 0, least: Infinity }))
  const events = pressed.flatMap(one => [{ at: one.came, change: 1 }, { at: one.answered, change: -1 }]).sort((a, b) => a.at - b.at)
  let there = 0
  let next = 0
  for (const [i, stretch] of all.entries()) {
    stretch.least = there
    for (; next < events.length && events[next]!.at < (i + 1) * STRETCH_MS; next++) {
      const { change } = events[next]!
      there += change
      if (change > 0) stretch.came++
      else stretch.answered++
      stretch.least = Math.min(stretch.least, there)
    }
  }
  return all.filter(stretch => stretch.least > LANES.lanes * LANES.most)
}

/** Presses served in a millisecond while more are there than the lanes take at once; 0 where that never was. */
function rateInLine(pressed: readonly Pressed[]): number {
  const events = pressed.flatMap(one => [{ at: one.came, change: 1 }, { at: one.answered, change: -1 }]).sort((a, b) => a.at - b.at)
  let there = 0
  let before = 0
  let busy = 0
  let served = 0
  for (const { at, change } of events) {
    if (there > LANES.lanes * LANES.most) {
      busy += at - before
      if (change < 0) served++
    }
    there += change
    before = at
  }
  return busy === 0 ? 0 : served / busy
}

/** How well first come was first served, with how late the server heard of a press at most, all in milliseconds. */
interface Order { share: number, longest: number, asHeard: number, heardLate: number }

/**
 * Of those who wait for a section, how many came clearly before somebody who has a seat in it that is kept for nobody: seats that are kept
 * for a program are for its students, whenever they come. `asHeard` is the same by when the server heard of the presses.
 */
async function overtaken(db: Direct, pressed: readonly Pressed[]): Promise<Order> {
  interface Row { student: number, section: number, heard: string }
  const of = async (text: string) => (await db.execute(sql.raw(text)) as unknown as [Row[]])[0]
  const seated = await of('SELECT r.student, r.section, r.registered_at heard FROM registrations r JOIN seat_pools p ON p.id = r.pool '
    + 'WHERE p.for_group IS NULL')
  const waiting = await of('SELECT student, section, joined_at heard FROM waitlist_entries WHERE offer_until IS NULL')
  const heard = new Map([...seated, ...waiting].map(row => [row.student, Date.parse(`${row.heard.replace(' ', 'T')}Z`)]))
  const came = new Map(pressed.map(one => [one.student, one.came]))
  const measure = (at: ReadonlyMap<number, number>) => {
    const last = new Map<number, number>()
    for (const { student, section } of seated) last.set(section, Math.max(last.get(section) ?? 0, at.get(student) ?? 0))
    const by = waiting.map(({ student, section }) => (last.get(section) ?? 0) - (at.get(student) ?? 0))
    return { share: by.length === 0 ? 0 : by.filter(one => one > CLEARLY_MS).length / by.length, longest: Math.max(0, ...by) }
  }
  const { share, longest } = measure(came)
  // The clocks of the two begin at different moments: who was heard soonest was heard at once.
  const late = [...heard].flatMap(([student, at]) => came.has(student) ? [at - came.get(student)!] : [])
  return { share, longest, asHeard: measure(heard).share, heardLate: Math.max(0, ...late) - Math.min(...late) }
}
