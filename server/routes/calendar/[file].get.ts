import { hashOfSecret } from '../../acts/week'
import { presentInstant } from '../../college/college'
import { Refusal } from '../../college/refusal'
import { readStamp } from '../../db/store/college'
import { studentOfFeed } from '../../db/store/week'
import { readCalendar } from '../../views/calendar'

/** A student's calendar at its secret address, as calendar programs read it: whoever knows the address may, and nothing else is told. */
export default answering(async (event) => {
  const secret = /^([\w-]{20,64})\.ics$/.exec(getRouterParam(event, 'file') ?? '')?.[1]
  const text = await useDatabase().read(async (db) => {
    const student = secret ? await studentOfFeed(db, hashOfSecret(secret)) : null
    if (student === null)
      throw new Refusal(404, 'no-calendar', 'There is no calendar at this address; it may have been renewed.',
        'Make a new address under Week.')
    const stamp = await readStamp(db)
    return readCalendar(db, await useKeptCollege().at(db, stamp.catalog), student, presentInstant(stamp))
  })
  setHeader(event, 'Content-Type', 'text/calendar; charset=utf-8')
  setHeader(event, 'Cache-Control', 'private, no-cache')
  return text
})
