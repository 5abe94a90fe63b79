import { createHash, randomBytes } from 'node:crypto'
import type { z } from 'zod'
import type * as contract from '#shared/contract/acts/tokens'
import { DONE } from '#shared/contract/define'
import { LIMITS } from '#shared/contract/limits'
import type { Doing } from '../college/asked'
import { Refusal } from '../college/refusal'
import { keepToken, removeToken, tokenFor, tokensOf } from '../db/store/tokens'
import { writeLedger } from '../db/store/students'

type Input<Act extends { input: z.ZodType }> = z.output<Act['input']>

/** What a token begins with, so that it is known for what it is where it should not be. */
const BEGINS = 'rw_'
/** Longer texts are no tokens, and are not hashed. */
const MOST_CHARS = 100

/** What a token is kept as; null for what cannot be one. */
export const tokenHash = (token: string): string | null => token.startsWith(BEGINS) && token.length <= MOST_CHARS
  ? createHash('sha256').update(token).digest('hex')
  : null

/** Makes a token, which is told only now. Its time runs on the machine's clock, as that of sessions does. */
export async function makeToken({ tx, actor, visitor, at, input }: Doing<Input<typeof contract.makeToken>>) {
  const now = new Date().toISOString()
  if ((await tokensOf(tx, actor, now)).length >= LIMITS.tokens)
    throw new Refusal(422, 'too-many-tokens', `You have ${LIMITS.tokens} tokens already.`, 'Revoke one that is not used any more.')
  const token = BEGINS + randomBytes(32).toString('base64url')
  const until = new Date(Date.parse(now) + input.days * 86_400_000).toISOString()
  const id = await keepToken(tx, { person: actor, name: input.name, hash: tokenHash(token)!, scope: input.scope, at: now, until })
  await writeLedger(tx, { at, actor, student: null, action: 'make token', detail: { person: visitor!.username, name: input.name,
    scope: input.scope, until } })
  return { id, token, until }
}

/** Ends a token at once: one's own, or for the office anybody's. */
export async function revokeToken({ tx, actor, visitor, at, input }: Doing<Input<typeof contract.revokeToken>>) {
  const found = await tokenFor(tx, input.id, visitor!.role === 'office' ? null : actor)
  if (!found) throw new Refusal(404, 'token-unknown', 'There is no such token.', 'Reload the page; it may be over or revoked already.')
  await removeToken(tx, input.id)
  await writeLedger(tx, { at, actor, student: null, action: 'revoke token', detail: { person: found.username, name: found.name } })
  return DONE
}
