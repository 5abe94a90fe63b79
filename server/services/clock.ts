import { eq } from 'drizzle-orm'
import type { Instant, LocalDate } from '@ridgeway/core/catalog'
import { fromInstant } from '@ridgeway/core/weeks'
import type { Executor } from '../db/connect'
import { clockSetting } from '../db/schema'

/** The present instant: the machine's, or in a demo the demo clock's, which runs on from where it was set. */
export async function currentInstant(db: Executor): Promise<Instant> {
  if (process.env.RIDGEWAY_DEMO !== '1') return new Date().toISOString()
  const [setting] = await db.select().from(clockSetting).where(eq(clockSetting.id, 1))
  if (!setting?.demoNow) return new Date().toISOString()
  return new Date(Date.parse(setting.demoNow) + Date.now() - Date.parse(setting.setAt)).toISOString()
}

export async function today(db: Executor, zone: string): Promise<{ now: Instant, date: LocalDate }> {
  const now = await currentInstant(db)
  return { now, date: fromInstant(now, zone).date }
}

/** Demo only: sets the clock; it runs on from there. */
export async function setClock(db: Executor, demoNow: Instant): Promise<void> {
  await db.update(clockSetting).set({ demoNow, setAt: new Date().toISOString() }).where(eq(clockSetting.id, 1))
}
