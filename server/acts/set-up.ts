import { timingSafeEqual } from 'node:crypto'
import { hash } from '@node-rs/argon2'
import type { z } from 'zod'
import type * as contract from '#shared/contract/acts/college'
import { BEGINNING } from '../college/beginning'
import { Refusal } from '../college/refusal'
import type { Database } from '../db/database'
import { addCollege, hasCollege } from '../db/store/college'
import { addPerson } from '../db/store/people'
import { writeLedger } from '../db/store/students'
import { beginFor } from './accounts'

/** Begins an empty installation. Whoever started the server has the code; once there is a college, nobody can begin again. */
export async function setUp(database: Database, input: z.output<typeof contract.setUp.input>, at: string) {
  const asked = process.env.RIDGEWAY_SET_UP_CODE ?? ''
  const given = Buffer.from(input.code.trim())
  if (asked === '' || given.length !== Buffer.byteLength(asked) || !timingSafeEqual(given, Buffer.from(asked)))
    throw new Refusal(403, 'wrong-code', 'This is not the code.',
      'It is printed where the server was started, as long as there is no college. Start it again for a new one.')
  const passwordHash = await hash(input.password)
  const person = await database.write(async (tx) => {
    if (await hasCollege(tx)) throw new Refusal(409, 'set-up-already', 'There is a college here already.', 'Sign in.')
    await addCollege(tx, { ...BEGINNING, name: input.college, zone: input.zone })
    const made = await addPerson(tx, { username: input.username, name: input.name, email: input.email, role: 'office', passwordHash })
    await writeLedger(tx, { at, actor: made.id, student: null, action: 'set up', detail: { college: input.college } })
    return made
  })
  return beginFor(database, person, passwordHash, at)
}
