import { createHash, randomBytes, randomUUID } from 'node:crypto'
import { hash, verify } from '@node-rs/argon2'
import type { z } from 'zod'
import type * as contract from '#shared/contract/acts/college'
import { LIMITS } from '#shared/contract/limits'
import type { Doing } from '../college/asked'
import { invitationId, makeInvitation } from '../college/invitation'
import { Refusal } from '../college/refusal'
import type { Database, Executor } from '../db/database'
import { beginSession, countTries, endSession, findForSignIn, forgetOldTries, forgetTry, keepPassword, type Person,
  takeInvitation } from '../db/store/people'
import { writeLedger } from '../db/store/students'

/** Minutes in which wrong tries add up, and how many are taken in that time. */
const WINDOW_MS = 10 * 60_000
const MOST = {
  /** For one name from one address. */
  pair: 10,
  /** For one name from all addresses that it was never used from; a device that it was used from is not counted here. */
  name: 60,
  /** From one address, for all names: a whole campus may come from one, and sign in within minutes. */
  address: 1000,
} as const
export const SESSION_MS = 8 * 3_600_000

const sha256 = (text: string) => createHash('sha256').update(text).digest('hex')
/** What a session's secret is kept as. */
export const sessionId = sha256
/** The hash of a secret nobody knows: an unknown name costs as much time as a wrong password. */
let nobodysHash: Promise<string> | undefined

/**
 * Checks a name and a password and begins a session. Which of the two was wrong is not told. Tries are counted before they are looked
 * at, for all servers together; a stranger who tries a name cannot keep its owner out, who comes from another address or a device that
 * was used before.
 */
export async function signIn(database: Database,
  attempt: { username: string, password: string, address: string, knownDevice: boolean, at: string }):
Promise<{ person: Person, secret: string }> {
  const { username, at } = attempt
  // Names are plain: what the database could take for another name is none.
  const isName = /^[a-z0-9._-]{1,40}$/.test(username)
  const name = sha256(username).slice(0, 32)
  const keys = [`a:${attempt.address}`, `p:${name}:${attempt.address}`, ...attempt.knownDevice ? [] : [`n:${name}`]]
  const limits = [MOST.address, MOST.pair, MOST.name]
  const until = new Date(Date.parse(at) + WINDOW_MS).toISOString()
  const person = await database.write(async (tx) => {
    const counts = await countTries(tx, keys, at, until)
    return { isOver: counts.some((count, i) => count > limits[i]!), found: isName ? await findForSignIn(tx, username) : undefined }
  })
  if (person.isOver) throw new Refusal(429, 'too-many-tries', 'Too many wrong tries.', 'Wait ten minutes, then try again.')
  const isRight = await verify(person.found?.passwordHash ?? await (nobodysHash ??= hash(randomUUID())), attempt.password)
  if (!person.found?.passwordHash || !isRight) {
    throw new Refusal(401, 'wrong-credentials', 'This name and password do not go together.',
      'Check both. Demo accounts are listed beside the form.')
  }
  const { passwordHash, ...found } = person.found
  return beginFor(database, found, passwordHash, at, async (tx) => {
    await forgetTry(tx, keys)
    await forgetOldTries(tx, at)
  })
}

/** Begins a session of somebody who has shown who they are. */
export async function beginFor(database: Database, person: Person, passwordHash: string, at: string,
  also: (tx: Executor) => Promise<void> = async () => {}): Promise<{ person: Person, secret: string }> {
  const secret = randomBytes(32).toString('base64url')
  await database.write(async (tx) => {
    await also(tx)
    await beginSession(tx, { id: sessionId(secret), person: person.id, mark: sha256(passwordHash), at,
      until: new Date(Date.parse(at) + SESSION_MS).toISOString(), most: LIMITS.sessions })
  })
  return { person, secret }
}

/** Makes a link by which somebody chooses a password. */
export async function invite({ tx, input, ledger }: Doing<z.output<typeof contract.invite.input>>) {
  const person = await findForSignIn(tx, input.username)
  if (!person)
    throw new Refusal(404, 'person-unknown', `Nobody here signs in as ${input.username}.`, 'Import them first, in people.csv.')
  const { code, until } = await makeInvitation(tx, person.id)
  await ledger('invite', { person: person.username })
  return { name: person.name, code, until }
}

/** Takes an invitation: the password is set, sessions of an older one end, and one begins. */
export async function acceptInvitation(database: Database, { code, password, at }: { code: string, password: string, at: string }) {
  const passwordHash = await hash(password)
  const person = await database.write(async (tx) => {
    const invited = await takeInvitation(tx, invitationId(code), at)
    if (!invited)
      throw new Refusal(409, 'invitation-over', 'This invitation is used already, or its time is over.',
        'Ask the registrar\'s office for a new one.')
    await keepPassword(tx, invited.id, passwordHash)
    await writeLedger(tx, { at, actor: invited.id, student: null, action: 'accept invitation', detail: {} })
    return invited
  })
  return beginFor(database, person, passwordHash, at)
}

/** Ends a session, wherever its cookie is. */
export const signOut = (database: Database, id: string) => database.write(tx => endSession(tx, id))
