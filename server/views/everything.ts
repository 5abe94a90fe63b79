import type { z } from 'zod'
import type { readEverything } from '#shared/contract/views/student'
import type { Looking } from '../college/asked'
import { everythingAbout, personOf, plainRow } from '../db/store/person'

/** All that is kept about the student: each table with its rows, but for what opens something and what advisors wrote for themselves. */
export async function readEverythingView({ db, student, college,
  at }: Looking<unknown>): Promise<z.output<typeof readEverything['output']>> {
  const tables = await everythingAbout(db, student)
  return { format: 'ridgeway-student', version: 1, made: at, college: college.name, person: await personOf(db, student),
    tables: Object.fromEntries(Object.entries(tables).map(([name, rows]) => [name, rows.map(plainRow)])) }
}
