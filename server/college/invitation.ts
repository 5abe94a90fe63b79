import { createHash, randomBytes } from 'node:crypto'
import type { Executor } from '../db/database'
import { keepInvitation } from '../db/store/people'

/** Days for which an invitation is good. */
const INVITED_DAYS = 14

/** What an invitation's code is kept as: nobody can read the code out of the database. */
export const invitationId = (code: string) => createHash('sha256').update(code).digest('hex')

/** Makes an invitation by which somebody chooses a password; an earlier one of theirs ends. Its time goes by the machine's clock. */
export async function makeInvitation(tx: Executor, person: number): Promise<{ code: string, until: string }> {
  const code = randomBytes(24).toString('base64url')
  const until = new Date(Date.now() + INVITED_DAYS * 86_400_000).toISOString()
  await keepInvitation(tx, { id: invitationId(code), person, until })
  return { code, until }
}
