import type { Executor } from '../db/database'
import type { Dossier } from '../db/store/dossiers'
import type { Visitor } from '../db/store/people'
import type { LedgerAction } from '@ridgeway/core/office'
import type { College } from './college'

/** What a request is about, before anything is done for it. */
export interface Asked<Input> {
  /** Who asks; null for nobody, which only what is for everybody admits. */
  visitor: Visitor | null
  /** The student whose file the address names; 0 where it names none. */
  student: number
  /** The plan that the address names; 0 where it names none. */
  plan: number
  input: Input
  college: College
  /** The present instant, and the date in the college's zone. */
  at: string
  date: string
}
/** What a view gets: one connection to read through. */
export interface Looking<Input> extends Asked<Input> {
  db: Executor
  /** What several views of one answer read once, by what was read. */
  shared?: Map<string, Promise<Map<number, Dossier>>>
}
/** What an act gets: one transaction, and nothing that could ask for another connection. */
export interface Doing<Input> extends Asked<Input> {
  tx: Executor
  actor: number
  ledger: (action: LedgerAction, detail: Record<string, unknown>) => Promise<unknown>
}
