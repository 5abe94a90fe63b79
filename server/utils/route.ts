import pino from 'pino'
import type { H3Event } from 'h3'
import type { z } from 'zod'
import { Refusal } from '../services/errors'
import { mayReach, type Account } from '../services/accounts'
import type { Role } from '../db/schema'
import { useDatabase } from './database'

const log = pino({ level: process.env.LOG_LEVEL ?? 'info' })

/** Who may call a route. `student file` is the student's own, the advisor's advisees', and for reading the office's. */
export type Access = 'everybody' | 'signed in' | 'student file' | 'own file' | Role | Role[]

interface RouteOptions<Body, Query, Result> {
  access: Access
  body?: z.ZodType<Body>
  query?: z.ZodType<Query>
  /** Demo only: answers 404 in production. */
  demo?: boolean
  handle: (call: { event: H3Event, account: Account, student: number, body: Body, query: Query }) => Promise<Result>
}

/** Makes a route: access first, then input, then one service; expected failures become problem details (RFC 9457). */
export function defineRoute<Body = undefined, Query = undefined, Result = unknown>(options: RouteOptions<Body, Query, Result>) {
  return defineEventHandler(async (event) => {
    try {
      if (options.demo && process.env.RIDGEWAY_DEMO !== '1') throw new Refusal(404, 'not-here', 'There is nothing at this address.')
      if (event.method !== 'GET') checkOrigin(event)
      const account = await admit(event, options.access)
      const student = await reachStudent(event, options.access, account)
      const body = options.body ? parse(options.body, await readJson(event)) : undefined as Body
      const query = options.query ? parse(options.query, getQuery(event)) : undefined as Query
      setHeader(event, 'Cache-Control', 'no-store')
      return await options.handle({ event, account, student, body, query })
    }
    catch (problem) {
      // A problem is an answer of its own kind; clients meet it as an error, never as the route's result.
      return sendProblem(event, problem) as never
    }
  })
}

const NOBODY: Account = { id: 0, name: '', username: '', role: 'student' }

async function admit(event: H3Event, access: Access): Promise<Account> {
  if (access === 'everybody') return NOBODY
  const session = await getUserSession(event)
  const account = session.user as Account | undefined
  if (!account)
    throw new Refusal(401, 'signed-out', 'You are not signed in, or your session has ended.',
      'Sign in again; what you did before is saved.')
  const roles: Role[] | null = Array.isArray(access)
    ? access
    : access === 'student' || access === 'advisor' || access === 'office'
      ? [access]
      : null
  if (roles && !roles.includes(account.role))
    throw new Refusal(403, 'wrong-role', `This is not for ${account.role} accounts.`, 'Go back to your own start page.')
  return account
}

async function reachStudent(event: H3Event, access: Access, account: Account): Promise<number> {
  if (access !== 'student file' && access !== 'own file') return 0
  const id = Number(getRouterParam(event, 'id'))
  if (!Number.isInteger(id) || id <= 0)
    throw new Refusal(400, 'bad-address', 'This address names no student.', 'Go back to the list and open the student from there.')
  const allowed = access === 'own file'
    ? account.role === 'student' && account.id === id
    : await mayReach(useDatabase(), account, id, event.method !== 'GET')
  if (!allowed)
    throw new Refusal(403, 'not-yours', 'This student\'s file is not open to you.',
      'Students see their own file, advisors those of their advisees.')
  return id
}

/** The plan that an address names. */
export function planOf(event: H3Event): number {
  const id = Number(getRouterParam(event, 'plan'))
  if (!Number.isInteger(id) || id <= 0)
    throw new Refusal(400, 'bad-address', 'This address names no plan.', 'Go back to the plan and open it from there.')
  return id
}

/** Requests that change something must come from our own pages. */
function checkOrigin(event: H3Event) {
  const origin = getHeader(event, 'origin')
  if (!origin || new URL(origin).host !== getRequestHost(event)) {
    throw new Refusal(403, 'foreign-origin', 'This request did not come from Ridgeway\'s own pages.',
      'Open Ridgeway in this browser and try there.')
  }
}

async function readJson(event: H3Event): Promise<unknown> {
  try {
    return await readBody(event)
  }
  catch {
    throw new Refusal(400, 'not-json', 'The request could not be read.', 'Send JSON.')
  }
}

function parse<T>(schema: z.ZodType<T>, value: unknown): T {
  const parsed = schema.safeParse(value)
  if (parsed.success) return parsed.data
  const issue = parsed.error.issues[0]!
  throw new Refusal(400, 'bad-input', `${issue.path.join('.') || 'The request'}: ${issue.message}`, 'Correct it and send it again.')
}

function sendProblem(event: H3Event, problem: unknown) {
  const known = problem instanceof Refusal
  if (!known) log.error({ err: problem, path: event.path.split('?')[0] }, 'unexpected failure')
  const status = known ? problem.status : 500
  setResponseStatus(event, status)
  setHeader(event, 'Content-Type', 'application/problem+json')
  setHeader(event, 'Cache-Control', 'no-store')
  return known
    ? { type: `about:blank#${problem.code}`, status, code: problem.code, title: problem.message, detail: problem.way }
    : { type: 'about:blank#unexpected', status, code: 'unexpected', title: 'Something went wrong on our side.',
        detail: 'Nothing was changed unless you were told so. Try again in a moment.' }
}
