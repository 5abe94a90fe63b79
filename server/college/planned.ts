import type { Executor } from '../db/database'
import { demandOf } from '../db/store/staff'
import type { College } from './college'
import { KeptAWhile } from './kept-a-while'

const planned = new KeptAWhile<Map<string, number>>()

/** How many students have each course in their current plan for a term, as it was a moment ago. */
export const plannedOf = (db: Executor, college: College, term: string) => planned.get(`${college.stamp} ${term}`, () => demandOf(db, term))
