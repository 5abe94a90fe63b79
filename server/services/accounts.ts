import { randomUUID } from 'node:crypto'
import { hash, verify } from '@node-rs/argon2'
import { and, eq, ne } from 'drizzle-orm'
import type { Database } from '../db/connect'
import { people, students, type Role } from '../db/schema'
import { Refusal } from './errors'

export interface Account {
  id: number
  name: string
  username: string
  role: Role
}

const WINDOW_MS = 10 * 60_000
const TRIES = 10
const failures = new Map<string, { count: number, since: number }>()
/** The hash of a secret nobody knows: an unknown name costs as much time as a wrong password. */
let nobodysHash: Promise<string> | undefined

/** Checks a name and a password. Which of the two was wrong is not told; after ten failures in ten minutes the name rests. */
export async function signIn(db: Database, username: string, password: string, at = Date.now()): Promise<Account> {
  const recent = failures.get(username)
  if (recent && at - recent.since < WINDOW_MS && recent.count >= TRIES) {
    throw new Refusal(429, 'too-many-tries', 'Too many wrong tries for this name.', 'Wait ten minutes, then try again.')
  }
  const [person] = await db.select().from(people).where(eq(people.username, username))
  const right = await verify(person?.passwordHash ?? await (nobodysHash ??= hash(randomUUID())), password)
  if (!person?.passwordHash || !right) {
    const counted = recent && at - recent.since < WINDOW_MS ? recent : { count: 0, since: at }
    failures.set(username, { ...counted, count: counted.count + 1 })
    throw new Refusal(401, 'wrong-credentials', 'This name and password do not go together.',
      'Check both. Demo accounts are listed beside the form.')
  }
  failures.delete(username)
  return { id: person.id, name: person.name, username: person.username, role: person.role }
}

/** Accounts that the demo's sign-in page offers, with their stories. */
export async function demoAccounts(db: Database): Promise<{ username: string, name: string, role: Role, story: string }[]> {
  return db.select({ username: people.username, name: people.name, role: people.role, story: people.story }).from(people).where(
    ne(people.story, ''),
  )
}

/** Whether an account may act on a student's file: their own, an advisee's; the office reads all. */
export async function mayReach(db: Database, account: Pick<Account, 'id' | 'role'>, student: number, write: boolean): Promise<boolean> {
  if (account.role === 'student') return account.id === student
  if (account.role === 'office') return !write
  const [found] = await db.select({ person: students.person }).from(students).where(
    and(eq(students.person, student), eq(students.advisor, account.id)),
  )
  return found !== undefined
}
