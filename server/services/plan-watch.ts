import { inArray, max } from 'drizzle-orm'
import type { Database } from '../db/connect'
import { comments, plans } from '../db/schema'

/** What can change beside an open page: the plans with their versions, and the newest comment. */
export interface PlanNews {
  plans: { id: number, version: number, name: string, current: boolean, deleted: boolean }[]
  comment: number
}

type Listener = (news: PlanNews) => void

/** How often the database is asked, while somebody looks: changes may come through another server. */
const EVERY_MS = 400

const listeners = new Map<number, Set<Listener>>()
const told = new Map<number, string>()
let timer: ReturnType<typeof setTimeout> | null = null
let source: Database | null = null

const open = new Set<() => void>()

/**
 * Calls `listener` with the state now and after each change of the student's plans; gives the call that ends it. `ended` is called when
 * the server stops.
 */
export function watchPlans(db: Database, student: number, listener: Listener, ended: () => void): () => void {
  source = db
  open.add(ended)
  const mine = listeners.get(student) ?? new Set()
  listeners.set(student, mine.add(listener))
  void readNews(db, [student]).then(news => listener(news.get(student)!))
  schedule()
  return () => {
    open.delete(ended)
    mine.delete(listener)
    if (mine.size > 0) return
    listeners.delete(student)
    told.delete(student)
  }
}

/** Ends every watch: a server that stops does not wait for pages that only listen. */
export function endWatches(): void {
  for (const end of [...open]) end()
}

/** Something was changed through this server: whoever watches is told at once. */
export function announcePlans(student: number): void {
  if (listeners.has(student)) void look()
}

function schedule() {
  timer ??= setTimeout(() => {
    timer = null
    void look().finally(() => listeners.size > 0 && schedule())
  }, EVERY_MS)
}

/** One query for everybody who is watched; a database that does not answer is asked again at the next turn. */
async function look() {
  if (!source || listeners.size === 0) return
  try {
    for (const [student, news] of await readNews(source, [...listeners.keys()])) {
      const now = JSON.stringify(news)
      if (told.get(student) === now) continue
      told.set(student, now)
      listeners.get(student)?.forEach(listener => listener(news))
    }
  }
  catch { /* The next turn tells what this one could not. */ }
}

async function readNews(db: Database, students: number[]): Promise<Map<number, PlanNews>> {
  const [rows, newest] = await Promise.all([
    db.select().from(plans).where(inArray(plans.student, students)),
    db.select({ student: comments.student, id: max(comments.id) }).from(comments).where(inArray(comments.student, students)).groupBy(
      comments.student,
    ),
  ])
  return new Map(students.map(student => [student, {
    plans: rows.filter(row => row.student === student).sort((a, b) => a.id - b.id).map(({ id, version, name, current, deletedAt }) => ({ id,
      version, name, current, deleted: deletedAt !== null }),
    ),
    comment: newest.find(row => row.student === student)?.id ?? 0,
  }]))
}
