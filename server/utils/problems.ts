import type { H3Event } from 'h3'
import { Refusal } from '../college/refusal'
import { Busy, errorNumber, OutcomeUnknown, placesIn, Unavailable } from '../db/failures'

/** MariaDB gave a statement up after the time it is allowed. */
const STATEMENT_TIMEOUT = 1969
const DUPLICATE = 1062

/** Answers a failure in words (RFC 9457): what happened, and what to do. */
export function sendProblem(event: H3Event, problem: unknown) {
  const { status, code, message, way } = toRefusal(problem)
  if (!(problem instanceof Refusal)) record(event, problem)
  setResponseStatus(event, status)
  setHeader(event, 'Content-Type', 'application/problem+json')
  setHeader(event, 'Cache-Control', 'no-store')
  if (status === 503) setHeader(event, 'Retry-After', 2)
  if (code === 'too-often') setHeader(event, 'Retry-After', 60)
  return { type: `about:blank#${code}`, status, code, title: message, detail: way }
}

function toRefusal(problem: unknown): Refusal {
  if (problem instanceof Refusal) return problem
  if (problem instanceof OutcomeUnknown)
    return new Refusal(503, 'outcome-unknown', 'The answer was lost while your change was being kept.',
      'It may have been done or not. Reload the page and look before you do it again.')
  if (problem instanceof Unavailable)
    return new Refusal(503, 'database-away', 'Ridgeway cannot reach its data just now.',
      'Nothing of this request was done. Try again in a moment.')
  if (problem instanceof Busy || errorNumber(problem) === STATEMENT_TIMEOUT)
    return new Refusal(503, 'busy', 'Too many people want the same thing at this moment.',
      'Nothing of this request was done. Try again in a moment.')
  if (errorNumber(problem) === DUPLICATE)
    return new Refusal(409, 'there-already', 'This was done a moment ago, perhaps in another window.', 'Reload the page and look.')
  return new Refusal(500, 'unexpected', 'Something went wrong on our side.', 'Reload the page and look what was kept before you try again.')
}

/** What failed and where in the code; never what people typed: messages of the database quote it. */
function record(event: H3Event, problem: unknown) {
  const causes: string[] = []
  const where: string[] = []
  for (let inner = problem; inner instanceof Error && causes.length < 5; inner = inner.cause) {
    const code = 'code' in inner ? String(inner.code) : ''
    causes.push([inner.name === 'Error' ? inner.constructor.name : inner.name, code].filter(Boolean).join(' '))
    if (where.length === 0) where.push(...placesIn(inner))
  }
  useLog().error({ method: event.method, path: event.path.split('?')[0]!.replace(/^\/calendar\/.*/, '/calendar/…'), causes,
    errno: errorNumber(problem), where }, 'unexpected failure')
}
