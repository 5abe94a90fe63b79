import type { Executor } from '../database'
import { change, fromInstantText, plain, toInstant } from './plain'
import type { Visitor } from './people'

/** Milliseconds after which it is noted again that a token was used. */
const NOTED_MS = 60_000

export type TokenScope = 'read' | 'write'
interface TokenRow {
  id: number
  name: string
  scope: TokenScope
  made: string
  until: string
  used: string | null
  person: number
  personName: string
  username: string
  role: string
}

/** Tokens of one person, or of everybody, that are not over; the newest first. */
export async function tokensOf(db: Executor, person: number | null, now: string) {
  const rows = await plain<TokenRow>(db,
    `SELECT t.id, t.name, t.scope, t.made_at made, t.valid_until \`until\`, t.used_at used, t.person, p.name personName, p.username, p.role
     FROM api_tokens t JOIN people p ON p.id = t.person
     WHERE (? OR t.person = ?) AND t.valid_until > ? AND t.mark = SHA2(p.password_hash, 256) ORDER BY t.id DESC LIMIT 1000`,
    [person === null, person ?? 0, fromInstantText(now)])
  return rows.map(({ person: id, personName, username, role, ...row }) => ({ ...row, made: toInstant(row.made), until: toInstant(row.until),
    used: row.used && toInstant(row.used), person: { id, name: personName, username, role } }))
}
interface NewToken { person: number, name: string, hash: string, scope: TokenScope, at: string, until: string }
/** Keeps a token of somebody who has a password; gives its id. */
export async function keepToken(tx: Executor, { person, name, hash, scope, at, until }: NewToken): Promise<number> {
  const done = await plain(tx, `INSERT INTO api_tokens (person, name, token_hash, scope, made_at, valid_until, mark)
    SELECT id, ?, ?, ?, ?, ?, SHA2(password_hash, 256) FROM people WHERE id = ? AND password_hash IS NOT NULL`,
  [name, hash, scope, fromInstantText(at), fromInstantText(until), person]) as unknown as { insertId: number }
  return done.insertId
}
/** Whose a token is that may be revoked by `person`, or by anybody where that is null; undefined where there is none. */
export async function tokenFor(tx: Executor, id: number, person: number | null): Promise<{ username: string, name: string } | undefined> {
  const [row] = await plain<{ username: string, name: string }>(tx,
    'SELECT p.username, t.name FROM api_tokens t JOIN people p ON p.id = t.person WHERE t.id = ? AND (? OR t.person = ?) FOR UPDATE',
    [id, person === null, person ?? 0])
  return row
}
export const removeToken = (tx: Executor, id: number) => change(tx, 'DELETE FROM api_tokens WHERE id = ?', [id])

/** Who acts by a token, and what it may; undefined where there is none that stands. */
export async function visitorByToken(db: Executor, hash: string, now: string):
Promise<{ token: number, scope: TokenScope, visitor: Visitor } | undefined> {
  const [row] = await plain<Omit<Visitor, 'session'> & { token: number, scope: TokenScope, used: string | null }>(db,
    `SELECT t.id token, t.scope, t.used_at used, p.id, p.name, p.username, p.role FROM api_tokens t JOIN people p ON p.id = t.person
     WHERE t.token_hash = ? AND t.valid_until > ? AND t.mark = SHA2(p.password_hash, 256)`, [hash, fromInstantText(now)])
  if (!row) return undefined
  const { token, scope, used, ...person } = row
  if (used === null || Date.parse(now) - Date.parse(toInstant(used)) > NOTED_MS)
    await plain(db, 'UPDATE api_tokens SET used_at = ? WHERE id = ?', [fromInstantText(now), token])
  return { token, scope, visitor: { ...person, session: `token ${token}` } }
}
