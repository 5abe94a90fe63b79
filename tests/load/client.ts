import { eq } from 'drizzle-orm'
import { connect } from '../../server/db/connect'
import { people } from '../../server/db/schema'
import { ADDRESS } from './caller'

export { ADDRESS, Client, cookiesOf, News, problemOf, trySignIn } from './caller'

if (!ADDRESS || !process.env.DATABASE_URL) throw new Error('these tests need a running college: use ./ridgeway test server')

export const { db, close } = connect(process.env.DATABASE_URL!, 8)

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
