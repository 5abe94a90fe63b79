import { createHmac } from 'node:crypto'
import type { H3Event } from 'h3'
import { sessionId } from '../acts/accounts'

declare module '#auth-utils' {
  /** The sealed cookie holds a secret; what it opens stands in the database. */
  interface SecureSessionData { session: string }
}

/** Sessions by the sealed cookies that were opened lately: opening one takes a millisecond of this machine, and a page asks often. */
const OPENED = { most: 20_000, milliseconds: 5 * 60_000 }
const opened = new Map<string, { session: string, until: number }>()
/** As the package that seals it names the cookie, and the header that may stand in its place. */
const NAME = 'nuxt-session'

/**
 * The session that a request belongs to, as the database knows it; null where it brings none. That a cookie is remembered admits nobody:
 * whether the session still holds is the database's to say.
 */
export async function sessionOf(event: H3Event): Promise<string | null> {
  const sealed = getHeader(event, `x-${NAME}-session`) === undefined ? getCookie(event, NAME) : undefined
  const before = sealed ? opened.get(sealed) : undefined
  if (before && Date.now() < before.until) return before.session
  const { secure } = await getUserSession(event)
  const session = secure?.session ? sessionId(secure.session) : null
  if (session !== null && sealed) {
    opened.delete(sealed)
    if (opened.size >= OPENED.most) opened.delete(opened.keys().next().value!)
    opened.set(sealed, { session, until: Date.now() + OPENED.milliseconds })
  }
  return session
}

/** Where a request comes from. Behind a proxy that is trusted, the last address in the list is the one that the proxy saw. */
export function addressOf(event: H3Event): string {
  const passedOn = process.env.RIDGEWAY_PROXY === '1' ? getHeader(event, 'x-forwarded-for')?.split(',').at(-1)?.trim() : undefined
  return (passedOn || event.node.req.socket.remoteAddress || 'unknown').slice(0, 45)
}

/** Whether pages come over TLS: cookies then go nowhere else. */
export const isBehindTls = () => process.env.NUXT_SESSION_COOKIE_SECURE === 'true'

/** A cookie that marks a device on which a name signed in before; it opens nothing. */
const DEVICE = 'ridgeway-device'
const MOST_NAMES = 5
const YEAR = 365 * 86_400

const markOf = (username: string) =>
  createHmac('sha256', `device ${useRuntimeConfig().session.password}`).update(username).digest('base64url').slice(0, 22)
const marksOf = (event: H3Event) => (getCookie(event, DEVICE) ?? '').split('.').filter(Boolean).slice(0, MOST_NAMES)

export const isKnownDevice = (event: H3Event, username: string) => marksOf(event).includes(markOf(username))

export function rememberDevice(event: H3Event, username: string) {
  const mark = markOf(username)
  setCookie(event, DEVICE, [mark, ...marksOf(event).filter(other => other !== mark)].slice(0, MOST_NAMES).join('.'),
    { httpOnly: true, sameSite: 'lax', maxAge: YEAR, path: '/', secure: isBehindTls() })
}
