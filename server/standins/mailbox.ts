import type { AddressInfo } from 'node:net'
import { SMTPServer } from 'smtp-server'
import { presentInstant } from '../college/college'
import type { Database } from '../db/database'
import { readStamp } from '../db/store/college'
import { keepCaught } from '../db/store/notices'

const MOST_BYTES = 100_000

/** The demonstration's mail server: it takes every mail on this machine and sends none on. Gives its address and what closes it. */
export async function catchMail(database: Database): Promise<{ server: string, close: () => void }> {
  const smtp = new SMTPServer({ authOptional: true, disabledCommands: ['AUTH', 'STARTTLS'], size: MOST_BYTES, logger: false,
    onData(stream, session, done) {
      const parts: Buffer[] = []
      stream.on('data', (part: Buffer) => parts.push(part))
      stream.on('end', () => {
        const raw = Buffer.concat(parts).toString('utf8')
        const id = /^message-id:\s*<([^>]+)>/im.exec(raw)?.[1] ?? session.id
        const people = session.envelope.rcptTo.map(one => one.address)
        void database.write(async (tx) => {
          const at = presentInstant(await readStamp(tx))
          for (const to of people) await keepCaught(tx, { id: id.slice(0, 120), to: to.slice(0, 120), at, raw })
        }).then(() => done(), (problem: Error) => done(problem))
      })
    } })
  smtp.on('error', () => {})
  await new Promise<void>(ready => smtp.listen(0, '127.0.0.1', ready))
  return { server: `smtp://127.0.0.1:${(smtp.server.address() as AddressInfo).port}`, close: () => smtp.close() }
}
