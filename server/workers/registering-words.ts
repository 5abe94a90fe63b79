import type { RunResult } from '#shared/contract/acts/student'
import type { Press } from '../acts/register'
import { Refusal } from '../college/refusal'
import { Busy, errorNumber, OutcomeUnknown, placesIn, Unavailable } from '../db/failures'

/** What the thread that registers is started with. */
export interface RegisteringTask { url: string, lanes: number }
/** A batch that it is given; see `Batches`. */
export interface BatchAsked { id: number, presses: readonly Press[], skip: boolean }

/** An answer, or a failure, as it passes from one thread to another: of an error its kind would be lost. */
export type Said = { result: RunResult } | { refusal: Pick<Refusal, 'status' | 'code' | 'message' | 'way'> } | Failure
/** `errno` is MariaDB's number, 0 for none; of its words nothing is told, which quote what people typed. */
interface Failure { failure: string, errno: number, where: string[] }
/** What it tells of a batch. */
export type BatchTold = { id: number } & ({ answers: (Said | null)[], milliseconds: number } | { problem: Said })

/** Failures whose kind matters to whoever hears of them. */
const KINDS = { Busy, Unavailable, OutcomeUnknown }
type Kind = keyof typeof KINDS

export function saidOf(answer: unknown): Said {
  if (!(answer instanceof Error)) return { result: answer as RunResult }
  if (answer instanceof Refusal) {
    const { status, code, message, way } = answer
    return { refusal: { status, code, message, way } }
  }
  return { failure: Object.keys(KINDS).find(name => answer instanceof KINDS[name as Kind]) ?? '', errno: errorNumber(answer),
    where: placesIn(answer) }
}

/** What was said, as it was: an answer, or the error. */
export function heardOf(said: Said): RunResult | Error {
  if ('result' in said) return said.result
  if ('refusal' in said) return new Refusal(said.refusal.status, said.refusal.code, said.refusal.message, said.refusal.way)
  const { failure, errno, where } = said
  const made = failure in KINDS ? new KINDS[failure as Kind]('while registering') : new Error('while registering')
  return Object.assign(made, { stack: where.map(place => `    ${place}`).join('\n') }, errno > 0 ? { errno } : {})
}
