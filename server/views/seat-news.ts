import { LIMITS } from '#shared/contract/limits'
import type { SeatNews } from '#shared/contract/views/student'
import type { KeptCollege } from '../college/college'
import { Refusal } from '../college/refusal'
import type { Database } from '../db/database'
import { readStamp } from '../db/store/college'

/** How often seats are looked at while somebody watches a term: once for all of them, however many they are. */
const EVERY_MS = 1000

/** Those who watch one term, and what they were told last. */
interface Term {
  watches: Set<(text: string) => void>
  known: { pools: SeatNews['pools'], waiting: SeatNews['waiting'] } | null
  timer: ReturnType<typeof setTimeout> | null
}
const terms = new Map<string, Term>()
/** Pages that somebody has open which listen to seats alone, by person. */
const pages = new Map<number, number>()

/** Counts one more page of a person that listens to seats; gives the call that ends it. Too many of one person are refused. */
export function countPage(person: number): () => void {
  const open = pages.get(person) ?? 0
  if (open >= LIMITS.streams)
    throw new Refusal(429, 'too-many-pages', `${LIMITS.streams} of your pages are open here already.`,
      'Close one of them; then reload this one.')
  pages.set(person, open + 1)
  return () => {
    const left = (pages.get(person) ?? 1) - 1
    if (left > 0) pages.set(person, left)
    else pages.delete(person)
  }
}

/** Tells the seats of a term, all of them at first and then those that changed, as one text for everybody; gives the call that ends it. */
export function watchSeats(database: Database, kept: KeptCollege, term: string, tell: (text: string) => void): () => void {
  const here = terms.get(term) ?? { watches: new Set(), known: null, timer: null }
  terms.set(term, here)
  here.watches.add(tell)
  if (here.known) tell(JSON.stringify({ term, ...here.known }))
  if (!here.timer) here.timer = setTimeout(() => void look(database, kept, term, here), here.known ? EVERY_MS : 0)
  return () => here.watches.delete(tell)
}

async function look(database: Database, kept: KeptCollege, term: string, here: Term): Promise<void> {
  try {
    const now = await database.read(async (db) => {
      const college = await kept.at(db, (await readStamp(db)).catalog)
      return (await college.sections.recently(db, term)).sections
    })
    const pools: SeatNews['pools'] = {}
    const waiting: SeatNews['waiting'] = {}
    for (const section of now) {
      if (section.waiting > 0) waiting[section.id] = section.waiting
      for (const { id, capacity, taken, held } of section.pools) pools[id] = [capacity, taken, held]
    }
    const change = here.known ? changesSince(here.known, { pools, waiting }) : { pools, waiting }
    here.known = { pools, waiting }
    if (change) {
      const text = JSON.stringify({ term, ...change })
      for (const tell of here.watches) tell(text)
    }
  }
  catch { /* the next turn tells what this one could not */ }
  if (here.watches.size > 0) here.timer = setTimeout(() => void look(database, kept, term, here), EVERY_MS)
  else terms.delete(term)
}

type Known = NonNullable<Term['known']>
function changesSince(before: Known, now: Known): Known | null {
  const pools = Object.fromEntries(Object.entries(now.pools).filter(([id, seats]) => before.pools[id]?.join() !== seats.join()))
  const ids = new Set([...Object.keys(before.waiting), ...Object.keys(now.waiting)])
  const waiting = Object.fromEntries([...ids].filter(id => before.waiting[id] !== now.waiting[id]).map(id => [id, now.waiting[id] ?? 0]))
  return Object.keys(pools).length + Object.keys(waiting).length > 0 ? { pools, waiting } : null
}
