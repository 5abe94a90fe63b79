import type { PlanOperation } from '@ridgeway/core/planning'

/** A step that can be undone, with what takes it back. */
export interface Done {
  forward: PlanOperation[]
  back: PlanOperation[]
}
/** What outlives a reload of the page: edits that were not sent yet, and what can be undone. */
export interface Kept {
  waiting: PlanOperation[]
  /** How the first of them were put together to be sent, each batch under its own key: sent again, it acts once. */
  batches: { key: string, count: number }[]
  done: Done[]
  undone: Done[]
}

/** Under these names a device keeps what belongs to one account, one plan and one tab. */
const KEPT = 'ridgeway-plan-'
const TAB = 'ridgeway-tab-'
const NOTHING: Kept = { waiting: [], batches: [], done: [], undone: [] }

/** This page, as long as it is open; the page before it in the same tab, which a reload replaced. */
const tab = crypto.randomUUID().slice(0, 8)
const before = sessionStorage.getItem(TAB)
sessionStorage.setItem(TAB, tab)
// Held until the page goes: by it other pages know that what is kept under its name is not left behind.
void navigator.locks?.request(TAB + tab, () => new Promise(() => {}))

const nameOf = (account: number, plan: number) => `${KEPT}${account}-${plan}`

function read(key: string): Kept {
  try {
    return { ...NOTHING, ...JSON.parse(localStorage.getItem(key) ?? '{}') as Partial<Kept> }
  }
  catch {
    return NOTHING
  }
}

/** Keeps what this page has of a plan. */
export function keepPlan(account: number, plan: number, kept: Kept) {
  try {
    localStorage.setItem(`${nameOf(account, plan)}-${tab}`, JSON.stringify(kept))
  }
  catch { /* A device that keeps nothing still sends everything. */ }
}

/** What this page kept of a plan that it had open before. */
export const readOwn = (account: number, plan: number): Kept => read(`${nameOf(account, plan)}-${tab}`)

/** Another plan was opened while this one's edits were on their way: what was taken is done with there. */
export function forgetSent(account: number, plan: number, count: number) {
  const kept = read(`${nameOf(account, plan)}-${tab}`)
  keepPlan(account, plan, { ...kept, batches: kept.batches.slice(1), waiting: kept.waiting.slice(count) })
}

/**
 * Takes over what pages that are gone left of a plan, the one before a reload last, so that it is undone first. What other open pages
 * keep is theirs. `take` gets it under a lock: then it is nobody else's any more.
 */
export async function takeLeft(account: number, plan: number, take: (kept: Kept) => void): Promise<void> {
  const locks = navigator.locks
  if (!locks) return takeFrom(account, plan, new Set(), take)
  await locks.request(`${TAB}left`, async () => {
    const { held } = await locks.query()
    takeFrom(account, plan, new Set(held?.flatMap(lock => lock.name?.startsWith(TAB) ? lock.name.slice(TAB.length) : [])), take)
  })
}
function takeFrom(account: number, plan: number, open: ReadonlySet<string>, take: (kept: Kept) => void) {
  const name = nameOf(account, plan)
  const left = Object.keys(localStorage).filter((key) => {
    const of = key === name ? '' : key.startsWith(`${name}-`) ? key.slice(name.length + 1) : null
    return of !== null && of !== tab && !open.has(of)
  }).sort((a, b) => Number(a.endsWith(`-${before}`)) - Number(b.endsWith(`-${before}`)))
  for (const key of left) {
    take(read(key))
    localStorage.removeItem(key)
  }
}

/** After signing out nothing of an account stays on the device, except edits that could not be sent yet. */
export function forgetPlans(account: number) {
  for (const key of Object.keys(localStorage).filter(one => one.startsWith(`${KEPT}${account}-`))) {
    const kept = read(key)
    if (kept.waiting.length === 0) localStorage.removeItem(key)
    else localStorage.setItem(key, JSON.stringify({ ...kept, done: [], undone: [] }))
  }
}
