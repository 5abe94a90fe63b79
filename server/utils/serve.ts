import type { H3Event } from 'h3'
import type { z } from 'zod'
import { type Act, type FileView, Shown, type View } from '#shared/contract/define'
import { LIMITS } from '#shared/contract/limits'
import { tokenHash } from '../acts/tokens'
import type { Asked, Doing, Looking } from '../college/asked'
import { dateIn, presentInstant } from '../college/college'
import { Refusal } from '../college/refusal'
import { isAdmitted } from '../college/relations'
import { readStamp } from '../db/store/college'
import { deputiesOf } from '../db/store/advisors'
import { countTries, type Visitor } from '../db/store/people'
import { bumpStudents, lockStudent, writeLedger } from '../db/store/students'
import { visitorByToken } from '../db/store/tokens'
import { cameAt, type Trace, traced } from '../db/trace'
import { FILE_VIEWS } from '../views/file-views'
import { announce } from '../views/news'
import { readJson } from './body'
import { useDatabase, useKeptCollege } from './database'
import { sendProblem } from './problems'

/** What an act gets that keeps its own transactions, and a view that is no plain answer. */
export interface Call<Input> extends Asked<Input> { event: H3Event }

type Declared<Input extends z.ZodType, Output extends z.ZodType> = Act<Input, Output> | View<Input, Output>

/** Makes a route of an act: who, input, one transaction; its answer holds the views that it changed and the page shows. */
export function serveAct<Input extends z.ZodType, Output extends z.ZodType>(act: Act<Input, Output>,
  handler: (doing: Doing<z.output<Input>>) => Promise<z.output<Output>>) {
  return serveOwn(act, actOn(act, handler))
}

/** What an act does to the database: one transaction, who may asked again inside it, and whoever looks at the file hears of it. */
export const actOn = <Input extends z.ZodType, Output extends z.ZodType>(act: Act<Input, Output>,
  handler: (doing: Doing<z.output<Input>>) => Promise<z.output<Output>>) =>
  ({ event: _, ...call }: Call<z.output<Input>>): Promise<z.output<Output>> =>
    useDatabase().write(async (tx) => {
      let { college } = call
      if (call.student > 0) {
        const locked = await lockStudent(tx, call.student)
        if (!locked) throw noStudent()
        // What admitted the request may have changed since: it is asked again where nobody can change it any more.
        if (!await isAdmitted(act.who, call.visitor!, { ...call, advisor: locked.advisor }, advisor => deputiesOf(tx, advisor, call.date)))
          throw notYours()
        college = await useKeptCollege().at(tx, locked.catalog)
      }
      const actor = call.visitor!.id
      const ledger: Doing<unknown>['ledger'] = (action, detail) =>
        writeLedger(tx, { at: call.at, actor, student: call.student || null, action, detail })
      const answer = await handler({ ...call, college, tx, actor, ledger })
      if (call.student > 0 && act.changes.includes('student')) await bumpStudents(tx, [call.student])
      return answer
    })

/**
 * Makes a route of an act that keeps its own transactions; see `serveAct`. Where `calmIn` tells milliseconds, others wait for the same act
 * so long that the views come later: the answer says when to ask for them.
 */
export function serveOwn<Input extends z.ZodType, Output extends z.ZodType>(act: Act<Input, Output>,
  handler: (call: Call<z.output<Input>>) => Promise<z.output<Output>>, calmIn = () => 0) {
  return serve(act, async (call) => {
    const answer = checked(act, await handler(call))
    const later = calmIn()
    // In a crowd the next round tells it: the page that asked has its answer by then, and does not read everything because of the news.
    if (call.student > 0 && later === 0) announce(call.student)
    return later > 0 ? { answer, views: {}, later } : { answer, views: await viewsFor(act, call) }
  })
}

/** Makes a route of a view: who, input, one connection. */
export function serveView<Input extends z.ZodType, Output extends z.ZodType>(view: View<Input, Output>,
  reader: (looking: Looking<z.output<Input>>) => Promise<z.output<Output>> | z.output<Output>) {
  return serve(view, async ({ event: _, ...rest }) =>
    checked(view, await useDatabase().read(async db => reader({ ...rest, db }))))
}

/** The same for a view that reads or works out so much that it takes its time: it waits for minutes where others wait for seconds. */
export function serveLongView<Input extends z.ZodType, Output extends z.ZodType>(view: View<Input, Output>,
  reader: (looking: Looking<z.output<Input>>) => Promise<z.output<Output>>) {
  return serve(view, async ({ event: _, ...rest }) =>
    checked(view, await usePatientDatabase().read(async db => reader({ ...rest, db }))))
}

/** Makes a route of whatever is declared: an expected failure becomes a problem detail (RFC 9457). */
export function serve<Input extends z.ZodType, Output extends z.ZodType, Result>(declared: Declared<Input, Output>,
  answer: (call: Call<z.output<Input>>) => Promise<Result>) {
  return answering(async (event) => {
    if (declared.demo && process.env.RIDGEWAY_DEMO !== '1') throw nothingHere()
    const token = tokenIn(event)
    if (token !== null) refuseByHand(declared)
    else if (declared.kind === 'act') checkOrigin(event)
    const call = await admit(event, declared, token === null ? null : await byToken(declared, token))
    const inQuery = declared.method === 'GET' || declared.method === 'DELETE'
    const input = parse(declared.input, inQuery ? getQuery(event) : await readJson(event, declared.most))
    return answer({ ...call, input: input as z.output<Input> })
  })
}

/** Makes a route of an act that needs no college to be there yet: it knows who and when by itself. */
export function serveBefore<Input extends z.ZodType, Output extends z.ZodType>(act: Act<Input, Output>,
  handler: (call: { event: H3Event, input: z.output<Input>, at: string }) => Promise<z.output<Output>>) {
  return answering(async (event) => {
    checkOrigin(event)
    const input = parse(act.input, await readJson(event, act.most)) as z.output<Input>
    return { answer: checked(act, await handler({ event, input, at: new Date().toISOString() })), views: {} }
  })
}

/** A route that always answers: with its result, or with a problem in words. */
export function answering<Result>(answer: (event: H3Event) => Promise<Result>) {
  return defineEventHandler(async (event) => {
    try {
      setHeader(event, 'Cache-Control', 'no-store')
      return await traced(event.context.trace as Trace | undefined, () => answer(event))
    }
    catch (problem) {
      // A problem is an answer of its own kind; clients meet it as an error, never as the route's result.
      return sendProblem(event, problem) as never
    }
  })
}

/** Who asks, how the college stands, and whether this is for them, at the instant at which the request came. */
async function admit(event: H3Event, { who }: Pick<Act, 'who'>, program: Visitor | null): Promise<Omit<Call<unknown>, 'input'>> {
  const came = cameAt(event.context.trace as Trace | undefined)
  const session = program ? null : await sessionOf(event)
  const student = numberIn(event, 'id')
  const plan = numberIn(event, 'plan')
  const { stamp, college, advisor, ...known } = await useDoor().come({ session, student })
  const at = presentInstant(stamp, came)
  const visitor = program ?? known.visitor
  if (who !== 'everybody' && !visitor)
    throw new Refusal(401, 'signed-out', 'You are not signed in, or your session has ended.',
      'Sign in again; what you did before is saved.')
  if ((who === 'advisor' || who === 'office') && visitor!.role !== who)
    throw new Refusal(403, 'wrong-role', `This is not for ${visitor!.role} accounts.`, 'Go back to your own start page.')
  const date = dateIn(at, college.zone)
  if (student > 0) {
    const deputies = (of: number) => useDatabase().read(db => deputiesOf(db, of, date))
    if (!await isAdmitted(who, visitor!, { student, advisor: advisor ?? null }, deputies)) throw notYours()
    if (advisor === undefined) throw noStudent()
  }
  return { event, visitor, student, plan, college, at, date }
}

/** The token that a request brings, null where it brings none: with one, cookies are nothing. What a proxy asks for is no token. */
function tokenIn(event: H3Event): string | null {
  const said = getHeader(event, 'authorization')
  const found = /^Bearer(?: +(\S*))?$/i.exec(said?.trim() ?? '')
  return found && (found[1] ?? '')
}
/** What only people at a page do. */
function refuseByHand(declared: Act | View) {
  if (declared.byHand || (declared.kind === 'act' ? declared.who === 'everybody' : declared.stream))
    throw new Refusal(403, 'not-by-token', 'This is not done by a token.', 'Sign in on a page and do it there.')
}
/** Who acts by a token, as often as it may be used and for what it was made. */
async function byToken(declared: Act | View, token: string): Promise<Visitor> {
  const now = new Date().toISOString()
  const hash = tokenHash(token)
  const { found, tries } = await useDatabase().write(async (tx) => {
    const known = hash === null ? undefined : await visitorByToken(tx, hash, now)
    const until = new Date(Date.parse(now) + MINUTE_MS).toISOString()
    return { found: known, tries: known ? (await countTries(tx, [`t:${known.token}`], now, until))[0]! : 0 }
  })
  if (!found)
    throw new Refusal(401, 'token-over', 'This token is none, is over, or was revoked.', 'Make another one under API access.')
  if (tries > LIMITS.tokenRequests)
    throw new Refusal(429, 'too-often', `This token asks more than ${LIMITS.tokenRequests} times a minute.`,
      'Wait a minute, then ask less often.')
  if (declared.kind === 'act' && found.scope === 'read')
    throw new Refusal(403, 'token-reads', 'This token only reads.', 'Make one that writes under API access.')
  return found.visitor
}
const MINUTE_MS = 60_000

function numberIn(event: H3Event, name: 'id' | 'plan'): number {
  const text = getRouterParam(event, name)
  if (text === undefined) return 0
  if (/^[1-9]\d{0,8}$/.test(text)) return Number(text)
  throw name === 'id'
    ? new Refusal(400, 'bad-address', 'This address names no student.', 'Go back to the list and open the student from there.')
    : new Refusal(400, 'bad-address', 'This address names no plan.', 'Go back to the plan and open it from there.')
}

/** The views that an act changed and the page shows. What cannot be read now, the page reads by itself: the act is done. */
async function viewsFor(act: Pick<Act, 'changes'>, call: Call<unknown>): Promise<Partial<Record<FileView, unknown>>> {
  const shown = Shown.safeParse(getQuery(call.event))
  const names = shown.success ? shown.data.show.filter(name => act.changes.includes(name)) : []
  if (names.length === 0 || call.student === 0) return {}
  const { term, plan } = shown.data!
  try {
    return await useDatabase().read(async (db) => {
      const { event: _, ...asked } = call
      const college = await useKeptCollege().at(db, (await readStamp(db)).catalog)
      const views: Partial<Record<FileView, unknown>> = {}
      const looking = { ...asked, college, db, shared: new Map(), input: { term, ...plan ? { plan } : {} } }
      for (const name of names) views[name] = await FILE_VIEWS[name](looking)
      return views
    })
  }
  catch {
    return {}
  }
}

/** In a demonstration what is answered is held against the contract, so that tests notice where the two part. */
function checked<Output extends z.ZodType>({ output, name }: { output: Output, name: string }, answer: z.output<Output>) {
  if (process.env.RIDGEWAY_DEMO !== '1') return answer
  const read = output.safeParse(answer)
  if (!read.success) throw new Error(`the answer of "${name}" is not what the contract says: ${read.error.issues[0]!.path.join('.')}`)
  return answer
}

/** Requests that change something must come from our own pages. */
function checkOrigin(event: H3Event) {
  const origin = getHeader(event, 'origin') ?? ''
  if (!URL.canParse(origin) || new URL(origin).host !== getRequestHost(event, { xForwardedHost: process.env.RIDGEWAY_PROXY === '1' })) {
    throw new Refusal(403, 'foreign-origin', 'This request did not come from Ridgeway\'s own pages.',
      'Open Ridgeway in this browser and try there.')
  }
}

function parse<T>(schema: z.ZodType<T>, value: unknown): T {
  const parsed = schema.safeParse(value)
  if (parsed.success) return parsed.data
  const issue = parsed.error.issues[0]!
  throw new Refusal(400, 'bad-input', `${issue.path.join('.') || 'The request'}: ${issue.message}`, 'Correct it and send it again.')
}

const notYours = () => new Refusal(403, 'not-yours', 'This is not open to you.',
  'Students see and change their own file, advisors those of their advisees; some things only one of the two can do. '
  + 'Go back to your start page.')
const noStudent = () => new Refusal(404, 'student-unknown', 'There is no such student.', 'Go back to the list of advisees.')
export const nothingHere = () => new Refusal(404, 'not-here', 'There is nothing at this address.', 'Go back to your start page.')
