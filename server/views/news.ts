import type { News } from '#shared/contract/views/student'
import { dateIn, type KeptCollege, presentInstant } from '../college/college'
import { mayAct } from '../college/relations'
import type { Database } from '../db/database'
import { readStamp } from '../db/store/college'
import { endPresence, keepPresence } from '../db/store/advisors'
import { readWatched, type Watched } from '../db/store/students'
import { OpenPages } from './pages'

/** Somebody's open page that listens. */
interface Watch {
  student: number
  /** The session through which it may, as the database knows it. */
  session: string
  person: number
  /** Whether others see that this person has the file open. */
  isSeen: boolean
  tell: (news: News) => void
  /** Ends it: access has ended. */
  end: () => void
  told: string
  /** Which reading it was told of last: one that began before it is old. */
  reading: number
}

/**
 * How often the database is asked about all of them, while somebody looks: changes may come through another server. Where many look, all
 * of them are asked about less often, so that it takes a tenth of the time at most; what is changed through this server is told at once.
 */
const EVERY_MS = 400
const TIMES = 10
/** Pages that one statement asks about. */
const AT_ONCE = 500

/** How often those who have a file open are noted down, and for how long such a note counts. */
const SEEN_MS = 5000
const GONE_MS = 15_000
let sawAt = 0
const since = (now: string) => ({ present: new Date(Date.parse(now) - GONE_MS).toISOString() })

/** Pages that listen, by the student whose file they show. */
const watches = new Map<number, Set<Watch>>()
const pages = new OpenPages()
let open = 0
let source: Database | null = null
let kept: KeptCollege | null = null
let timer: ReturnType<typeof setTimeout> | null = null
let readings = 0

/** How many pages listen through this server. */
export const openWatches = () => open

/** Tells a page the versions now, and again after each change; gives the call that ends it. Too many pages of one person are refused. */
export function watchStudent(database: Database, college: KeptCollege, watch: Omit<Watch, 'told' | 'reading'>): () => void {
  const { student, person } = watch
  const leave = pages.open(person)
  source = database
  kept = college
  const mine = { ...watch, told: '', reading: 0 }
  watches.set(student, (watches.get(student) ?? new Set()).add(mine))
  open++
  // Who comes is seen at once, and told how it is.
  comers.add(student)
  void hurry()
  timer ??= setTimeout(() => void round(), EVERY_MS)
  return () => {
    leave()
    const here = watches.get(student)
    if (!here?.delete(mine)) return
    open--
    if (here.size === 0) watches.delete(student)
    const isGone = ![...here].some(other => other.person === person)
    if (isGone && noted.delete(`${student} ${person}`)) inTurn(() => database.write(tx => endPresence(tx, student, person)))
  }
}

/** Something was changed through this server: whoever watches is told at once. */
export function announce(student: number): void {
  if (!watches.has(student)) return
  changed.add(student)
  void hurry()
}

/** Students of whom is told at once: those who were changed, and those whose file somebody has opened. */
const changed = new Set<number>()
const comers = new Set<number>()
let hurrying = false
async function hurry(): Promise<void> {
  if (hurrying) return
  hurrying = true
  while (changed.size + comers.size > 0) {
    const came = [...comers].slice(0, AT_ONCE)
    const students = [...new Set([...came, ...[...changed].slice(0, AT_ONCE)])]
    for (const student of students) {
      changed.delete(student)
      comers.delete(student)
    }
    // The next round tells what this one could not.
    await lookAt(students, came.length > 0).catch(() => {})
  }
  hurrying = false
}

/** All who are watched, some after the others; a database that does not answer is asked again in the next round. */
async function round(): Promise<void> {
  const began = performance.now()
  const now = Date.now()
  const isNoted = now - sawAt > SEEN_MS
  if (isNoted) sawAt = now
  const all = [...watches.keys()]
  try {
    for (let at = 0; at < all.length; at += AT_ONCE) await lookAt(all.slice(at, at + AT_ONCE), isNoted)
  }
  catch { /* The next turn tells what this one could not. */ }
  timer = watches.size > 0
    ? setTimeout(() => void round(), Math.max(EVERY_MS, (performance.now() - began) * TIMES))
    : null
}

/** One statement for all who watch some students; with `isNoted` it is noted down who has their files open. */
async function lookAt(students: readonly number[], isNoted: boolean): Promise<void> {
  const all = students.flatMap(student => [...watches.get(student) ?? []])
  if (!source || all.length === 0) return
  const reading = ++readings
  const sessions = [...new Set(all.map(watch => watch.session))]
  const now = new Date().toISOString()
  const watched = await source.read(async (db) => {
    const stamp = await readStamp(db)
    const college = await kept!.at(db, stamp.catalog)
    return readWatched(db, students, sessions, { now, date: dateIn(presentInstant(stamp), college.zone), ...since(now) })
  })
  for (const watch of all) {
    if (watch.reading > reading) continue
    watch.reading = reading
    tell(watch, watched)
  }
  // News do not wait for it, and whose access has just ended is not noted any more.
  if (isNoted) note(source, all.filter(watch => watches.get(watch.student)?.has(watch)), watched, now)
}

/**
 * What is noted down about who is here, one after the other: that somebody has left never overtakes that they are here. What fails is
 * said again in a few seconds, or counts no more by then.
 */
function inTurn(write: () => Promise<unknown>): void {
  writing = writing.then(write).catch(() => {})
}
let writing: Promise<unknown> = Promise.resolve()

/** Who was noted down as having a file open, `student person`. */
const noted = new Set<string>()
/**
 * Notes down who has a file open: whoever opens somebody else's, and the student themselves once another is there. Most students are alone
 * with their files, and nothing is written for them.
 */
function note(source: Database, all: readonly Watch[], watched: Watched, now: string) {
  const elsewhere = [...watched.students].filter(([student, { here }]) => Object.keys(here).some(person => Number(person) !== student))
  const visited = new Set([...all.filter(watch => watch.isSeen && watch.person !== watch.student).map(watch => watch.student),
    ...elsewhere.map(([student]) => student)])
  const present = all.filter(watch => watch.isSeen && visited.has(watch.student)).map(({ student, person }) => ({ student, person }))
  for (const { student, person } of present) noted.add(`${student} ${person}`)
  if (present.length > 0) inTurn(() => source.write(tx => keepPresence(tx, present, now)))
}

function tell(watch: Watch, { visitors, students, catalog }: Watched) {
  const visitor = visitors.get(watch.session)
  const file = students.get(watch.student)
  if (!visitor || !file || !mayAct('file', visitor, watch.student, file.advising)) return watch.end()
  const { [watch.person]: _, ...here } = file.here
  const news: News = { version: file.version, plans: file.plans, catalog, here }
  const text = JSON.stringify(news)
  if (watch.told === text) return
  watch.told = text
  watch.tell(news)
}
