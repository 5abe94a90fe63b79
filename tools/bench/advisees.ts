import { eq, inArray, sql } from 'drizzle-orm'
import { KeptCollege } from '../../server/college/college'
import type { Database as Open } from '../../server/db/connect'
import { Database } from '../../server/db/database'
import * as s from '../../server/db/schema'
import { readStamp } from '../../server/db/store/college'
import { figuresSettled, forgetFigures, readAdviseesView } from '../../server/views/advisees'
import { type Figure, median, round } from './figure'

const SIZES = [60, 600]
const RUNS = 5
const AT = '2026-11-09T15:00:00.000Z'

/** The table of one advisor's students: everything computed, then read again unchanged, then after one student's plan changed. */
export async function benchAdvisees(db: Open, url: string): Promise<Figure[]> {
  const database = new Database(url, 4)
  const college = await database.read(async tx => new KeptCollege().at(tx, (await readStamp(tx)).catalog))
  const [advisor] = await db.select().from(s.people).where(eq(s.people.username, 'hollis'))
  const ids = (await db.select({ id: s.students.person }).from(s.students).orderBy(s.students.person)).map(row => row.id)
  const figures: Figure[] = []
  const ask = () => readAdviseesView(database, { student: 0, plan: 0, college, at: AT, date: AT.slice(0, 10), input: { term: '2027SP' },
    visitor: { id: advisor!.id, name: '', username: 'hollis', role: 'advisor', session: '' } })
  const timed = async () => {
    const start = performance.now()
    const rows = await ask()
    return { ms: performance.now() - start, rows: rows.length }
  }
  for (const size of SIZES) {
    await db.update(s.students).set({ advisor: null })
    await db.update(s.students).set({ advisor: advisor!.id }).where(inArray(s.students.person, ids.slice(0, size)))
    const first: number[] = []
    const whole: number[] = []
    for (let i = 0; i < (size > 100 ? 2 : RUNS); i++) {
      forgetFigures()
      const start = performance.now()
      first.push((await timed()).ms)
      await figuresSettled()
      whole.push(performance.now() - start)
    }
    const again: number[] = []
    const changed: number[] = []
    for (let i = 0; i < 3 * RUNS; i++) {
      again.push((await timed()).ms)
      await db.execute(sql`UPDATE plans SET version = version + 1 WHERE student = ${ids[i % size]} AND is_current`)
      changed.push((await timed()).ms)
    }
    figures.push(
      { name: `advisees ${size} first`, value: round(median(first)), unit: 'ms',
        reference: `nothing known yet; worst ${round(Math.max(...first))} ms, on cold code`,
        ratio: round(1000 / Math.max(...first)), target: size === 60 ? '≤ 1000' : '',
        ok: size === 60 ? Math.max(...first) <= 1000 : null },
      { name: `advisees ${size} all requirements`, value: round(Math.max(...whole)), unit: 'ms',
        reference: 'worst, on cold code; the table is there before, and other requests are served between two files', ratio: null,
        target: '', ok: null },
      { name: `advisees ${size} unchanged`, value: round(median(again)), unit: 'ms', reference: 'three statements, nothing computed',
        ratio: round(Math.max(...whole) / median(again)), target: '', ok: null },
      { name: `advisees ${size} after one change`, value: round(median(changed)), unit: 'ms', reference: 'one file read again',
        ratio: round(Math.max(...whole) / median(changed)), target: size === 60 ? '≤ 100' : '≤ 200',
        ok: median(changed) <= (size === 60 ? 100 : 200) },
    )
  }
  await database.close()
  return figures
}
