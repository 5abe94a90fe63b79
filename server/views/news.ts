import type { News } from '#shared/contract/views/student'
import { LIMITS } from '#shared/contract/limits'
import { Refusal } from '../college/refusal'
import { dateIn, type KeptCollege, presentInstant } from '../college/college'
import { mayAct } from '../college/relations'
import type { Database } from '../db/database'
import { readStamp } from '../db/store/college'
import { endPresence, keepPresence } from '../db/store/advisors'
import { readWatched, type Watched } from '../db/store/students'

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
}

/** How often the database is asked, while somebody looks: changes may come through another server. */
const EVERY_MS = 400

/** How often those who have a file open are noted down, and for how long such a note counts. */
const SEEN_MS = 5000
const GONE_MS = 15_000
let sawAt = 0
const since = (now: string) => ({ present: new Date(Date.parse(now) - GONE_MS).toISOString() })

const watches = new Set<Watch>()
let source: Database | null = null
let kept: KeptCollege | null = null
let timer: ReturnType<typeof setTimeout> | null = null
let looking = false
let again = false

/** How many pages listen through this server. */
export const openWatches = () => watches.size

/** Tells a page the versions now, and again after each change; gives the call that ends it. Too many pages of one person are refused. */
export function watchStudent(database: Database, college: KeptCollege, watch: Omit<Watch, 'told'>): () => void {
  if ([...watches].filter(other => other.person === watch.person).length >= LIMITS.streams)
    throw new Refusal(429, 'too-many-pages', `${LIMITS.streams} of your pages are open here already.`,
      'Close one of them; then reload this one.')
  source = database
  kept = college
  const mine = { ...watch, told: '' }
  watches.add(mine)
  // Who comes is seen at once.
  sawAt = 0
  void look()
  return () => {
    watches.delete(mine)
    const { student, person } = mine
    const isGone = ![...watches].some(other => other.student === student && other.person === person)
    if (isGone && noted.delete(`${student} ${person}`)) void database.write(tx => endPresence(tx, student, person)).catch(() => {})
  }
}

/** Something was changed through this server: whoever watches is told at once. */
export function announce(student: number): void {
  for (const watch of watches) if (watch.student === student) return void look()
}

/** One statement for everybody who is watched; a database that does not answer is asked again at the next turn. */
async function look(): Promise<void> {
  if (looking) {
    again = true
    return
  }
  looking = true
  if (timer) clearTimeout(timer)
  timer = null
  try {
    const all = [...watches]
    if (source && all.length > 0) {
      const students = [...new Set(all.map(watch => watch.student))]
      const sessions = [...new Set(all.map(watch => watch.session))]
      const now = new Date().toISOString()
      const watched = await source.read(async (db) => {
        const stamp = await readStamp(db)
        const college = await kept!.at(db, stamp.catalog)
        return readWatched(db, students, sessions, { now, date: dateIn(presentInstant(stamp), college.zone), ...since(now) })
      })
      if (Date.now() - sawAt > SEEN_MS) {
        sawAt = Date.now()
        // News do not wait for it.
        void note(source, all, watched, now).catch(() => {})
      }
      for (const watch of all) tell(watch, watched)
    }
  }
  catch { /* The next turn tells what this one could not. */ }
  looking = false
  if (again) {
    again = false
    return look()
  }
  if (watches.size > 0) timer = setTimeout(() => void look(), EVERY_MS)
}

/** Who was noted down as having a file open, `student person`. */
const noted = new Set<string>()
/**
 * Notes down who has a file open: whoever opens somebody else's, and the student themselves once another is there. Most students are alone
 * with their files, and nothing is written for them.
 */
async function note(source: Database, all: readonly Watch[], watched: Watched, now: string) {
  const elsewhere = [...watched.students].filter(([student, { here }]) => Object.keys(here).some(person => Number(person) !== student))
  const visited = new Set([...all.filter(watch => watch.isSeen && watch.person !== watch.student).map(watch => watch.student),
    ...elsewhere.map(([student]) => student)])
  const present = all.filter(watch => watch.isSeen && visited.has(watch.student)).map(({ student, person }) => ({ student, person }))
  for (const { student, person } of present) noted.add(`${student} ${person}`)
  await source.write(tx => keepPresence(tx, present, now))
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
