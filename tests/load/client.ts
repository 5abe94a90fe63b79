import { eq } from 'drizzle-orm'
import { connect } from '../../server/db/connect'
import { people } from '../../server/db/schema'

export const ADDRESS = process.env.RIDGEWAY_ADDRESS ?? ''
if (!ADDRESS || !process.env.DATABASE_URL) throw new Error('these tests need a running college: use ./ridgeway test server')

export const { db, close } = connect(process.env.DATABASE_URL!, 8)

/** A signed-in client of the real server. */
export class Client {
  private constructor(readonly cookie: string, readonly id: number, readonly username: string) {}

  static async signIn(username: string, password = 'larkmoor'): Promise<Client> {
    const answer = await fetch(`${ADDRESS}/api/session`, { method: 'POST',
      headers: { 'content-type': 'application/json', 'origin': ADDRESS }, body: JSON.stringify({ username, password }) })
    if (!answer.ok) throw new Error(`${username} could not sign in: ${answer.status}`)
    const cookie = answer.headers.getSetCookie().map(line => line.split(';')[0]!).join('; ')
    return new Client(cookie, (await answer.json() as { id: number }).id, username)
  }

  call(method: string, path: string, body?: unknown, origin = ADDRESS): Promise<Response> {
    return fetch(`${ADDRESS}${path.replace('~', `/api/students/${this.id}`)}`, {
      method,
      headers: { cookie: this.cookie, origin, ...(body === undefined ? {} : { 'content-type': 'application/json' }) },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    })
  }

  async json<T>(method: string, path: string, body?: unknown): Promise<T> {
    const answer = await this.call(method, path, body)
    if (!answer.ok) throw new Error(`${this.username} ${method} ${path}: ${answer.status} ${await answer.text()}`)
    return await answer.json() as T
  }
}

/** Lets generated students sign in with the demo's password. */
export async function openAccounts(ids: readonly number[]): Promise<string[]> {
  const [template] = await db.select().from(people).where(eq(people.username, 'tamsin'))
  const usernames: string[] = []
  for (const id of ids) {
    await db.update(people).set({ passwordHash: template!.passwordHash }).where(eq(people.id, id))
    const [person] = await db.select().from(people).where(eq(people.id, id))
    usernames.push(person!.username)
  }
  return usernames
}
