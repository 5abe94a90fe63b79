import type { H3Event } from 'h3'
import { Refusal } from '../college/refusal'

/** Most bytes of a body where an act says nothing. */
const MOST_BYTES = 64_000

/** The JSON of a request, counted as it comes in: a header can say anything. */
export async function readJson(event: H3Event, most = MOST_BYTES): Promise<unknown> {
  const request = event.node.req
  const chunks: Buffer[] = []
  let size = 0
  for await (const chunk of request as AsyncIterable<Buffer>) {
    size += chunk.length
    if (size > most) {
      // What still comes is not read: the connection ends with the answer.
      event.node.res.setHeader('Connection', 'close')
      throw new Refusal(413, 'too-large', `This is larger than ${Math.round(most / 1000)} kB, the most that is taken here.`,
        'Send less at a time.')
    }
    chunks.push(chunk)
  }
  try {
    return JSON.parse(Buffer.concat(chunks).toString('utf8') || '{}')
  }
  catch {
    throw new Refusal(400, 'not-json', 'The request could not be read.', 'Send JSON.')
  }
}
