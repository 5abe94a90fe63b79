import type { Section } from '@ridgeway/core/catalog'
import type { SeatNews } from '#shared/contract/views/student'
import type { KeptCollege } from '../college/college'
import type { Database } from '../db/database'
import { readStamp } from '../db/store/college'
import { OpenPages } from './pages'

/** How often seats are looked at while somebody watches a term: once for all of them, however many they are. */
const EVERY_MS = 1000
/**
 * Pages that are told in a second, and bytes that go out to them for it, at most: where many watch while many register, they hear of seats
 * less often, and what they press is decided by the seats as they are.
 */
const MOST = { pages: 500, bytes: 4_000_000 }
/** Pages that are told in one go; others are served between two. */
const AT_ONCE = 100

type Known = Pick<SeatNews, 'pools' | 'waiting'>

/** Those who watch one term, and what they were told last. */
interface Term {
  watches: Set<(text: string) => void>
  known: Known | null
  /** The sections that this is of: while they are the same list, nothing has changed. */
  sections: readonly Section[] | null
  /** All of it as one text, for whoever comes. */
  text: string
  timer: ReturnType<typeof setTimeout> | null
}
const terms = new Map<string, Term>()
/** Pages that listen to seats alone. */
export const seatPages = new OpenPages()

/** Tells the seats of a term, all of them at first and then those that changed, as one text for everybody; gives the call that ends it. */
export function watchSeats(database: Database, kept: KeptCollege, term: string, tell: (text: string) => void): () => void {
  const here = terms.get(term) ?? { watches: new Set(), known: null, sections: null, text: '', timer: null }
  terms.set(term, here)
  here.watches.add(tell)
  if (here.known) tell(here.text ||= JSON.stringify({ term, ...here.known }))
  if (!here.timer) here.timer = setTimeout(() => void look(database, kept, term, here), here.known ? EVERY_MS : 0)
  return () => here.watches.delete(tell)
}

async function look(database: Database, kept: KeptCollege, term: string, here: Term): Promise<void> {
  let pause = EVERY_MS
  try {
    const now = await database.read(async (db) => {
      const college = await kept.at(db, (await readStamp(db)).catalog)
      return (await college.sections.recently(db, term)).sections
    })
    const change = here.sections === now ? null : changeTo(here, now)
    if (change) {
      const text = JSON.stringify({ term, ...change })
      pause = pauseAfter(here.watches.size, text.length)
      await tellAll([...here.watches], text)
    }
  }
  catch { /* the next turn tells what this one could not */ }
  if (here.watches.size > 0) here.timer = setTimeout(() => void look(database, kept, term, here), pause)
  else terms.delete(term)
}

/** What has changed since the pages were told, all of it at first; null where nothing has. */
function changeTo(here: Term, sections: readonly Section[]): Known | null {
  const pools: SeatNews['pools'] = {}
  const waiting: SeatNews['waiting'] = {}
  for (const section of sections) {
    if (section.waiting > 0) waiting[section.id] = section.waiting
    for (const { id, capacity, taken, held } of section.pools) pools[id] = [capacity, taken, held]
  }
  const change = here.known ? changesSince(here.known, { pools, waiting }) : { pools, waiting }
  here.known = { pools, waiting }
  here.sections = sections
  if (change) here.text = ''
  return change
}

/** Milliseconds from one telling of so many pages to the next, by what it sends to each. */
export const pauseAfter = (watching: number, bytes: number) =>
  Math.max(EVERY_MS, watching / MOST.pages * 1000, watching * bytes / MOST.bytes * 1000)

async function tellAll(watches: readonly ((text: string) => void)[], text: string): Promise<void> {
  for (let at = 0; at < watches.length; at += AT_ONCE) {
    for (const tell of watches.slice(at, at + AT_ONCE)) tell(text)
    await new Promise(resolve => setImmediate(resolve))
  }
}

function changesSince(before: Known, now: Known): Known | null {
  const pools = Object.fromEntries(Object.entries(now.pools).filter(([id, seats]) => before.pools[id]?.join() !== seats.join()))
  const ids = new Set([...Object.keys(before.waiting), ...Object.keys(now.waiting)])
  const waiting = Object.fromEntries([...ids].filter(id => before.waiting[id] !== now.waiting[id]).map(id => [id, now.waiting[id] ?? 0]))
  return Object.keys(pools).length + Object.keys(waiting).length > 0 ? { pools, waiting } : null
}
