import { createTransport, type Transporter } from 'nodemailer'
import { writeMail } from '@ridgeway/words'
import { type KeptCollege, presentInstant } from '../college/college'
import type { Database } from '../db/database'
import { readStamp } from '../db/store/college'
import { claimMail, isMailDue, mailAgain, markMailed } from '../db/store/notices'

/** Notices that go in one mail at most, and mails that go in one turn. */
const MOST_IN_ONE = 40
const MOST_MAILS = 20
/** While a server sends, no other takes the same notices; after that it may be dead. */
const CLAIM_MS = 60_000
/** The pause after a failure doubles up to an hour. */
const PAUSE_MS = 5000
const LONGEST_PAUSE_MS = 3_600_000
/** How long the mail server is waited for, in milliseconds. */
const WAITS = 'connectionTimeout=4000&greetingTimeout=4000&socketTimeout=8000'

export interface MailWay {
  /** SMTP server as a URL, `smtp://host:port`. */
  server: string
  from: string
  /** Where the college's pages are, for the link. */
  address: string
}

let transporter: { server: string, mailer: Transporter } | undefined
function mailerFor(server: string): Transporter {
  if (transporter?.server !== server) {
    transporter?.mailer.close()
    transporter = { server, mailer: createTransport(`${server}${server.includes('?') ? '&' : '?'}${WAITS}`) }
  }
  return transporter.mailer
}

/**
 * Sends what is due by mail, one mail a person. Any server may do it at any time: what one has claimed the others pass over. When the mail
 * server is away it is tried again later, and nothing is lost. A server that dies between handing a mail over and noting it leaves it to
 * be sent again under the same message id, by which mail programs know it for the same mail.
 */
export async function sendMail(database: Database, kept: KeptCollege, way: MailWay): Promise<void> {
  if (!await database.read(async db => isMailDue(db, presentInstant(await readStamp(db))))) return
  for (let n = 0; n < MOST_MAILS; n++) {
    const claimed = await database.write(async (tx) => {
      const stamp = await readStamp(tx)
      const now = presentInstant(stamp)
      return { now, college: await kept.at(tx, stamp.catalog),
        mine: await claimMail(tx, now, new Date(Date.parse(now) + CLAIM_MS).toISOString(), MOST_IN_ONE) }
    })
    const { now, college, mine } = claimed
    const [first] = mine
    if (!first) return
    const ids = mine.map(one => one.id)
    const { subject, text } = writeMail(mine.map(({ id, notice, isOwn }) => ({ id, notice, own: isOwn })), { name: first.name,
      college: college.name, address: way.address, zone: college.zone })
    try {
      await mailerFor(way.server).sendMail({ from: { name: `Ridgeway, ${college.name}`, address: way.from }, to: first.email, subject, text,
        date: new Date(now), messageId: `<notices-${ids[0]}-${ids.at(-1)}@${way.from.split('@')[1]}>` })
    }
    catch {
      const pause = Math.min(PAUSE_MS * 2 ** Math.min(first.tries, 20), LONGEST_PAUSE_MS)
      await database.write(tx => mailAgain(tx, ids, new Date(Date.parse(now) + pause).toISOString()))
      return
    }
    await database.write(tx => markMailed(tx, ids))
  }
}
