import type { H3Event } from 'h3'

/** What a server that stops lets go of: pages that only listen would keep it for ever. */
const streams = new Set<() => unknown>()
let begun = false

/** Whether this server was told to stop: it answers what it has, and whoever sends people to servers sends them elsewhere. */
export const isStopping = () => begun

export function beginStopping(): void {
  begun = true
}

/** An open page that listens; it ends when the server stops, and its browser then comes again, to another one. */
export function openStream(event: H3Event) {
  const stream = createEventStream(event)
  const end = () => stream.close()
  streams.add(end)
  stream.onClosed(() => {
    streams.delete(end)
  })
  return stream
}

/** Ends all of them; those that come while it goes on as well. */
export function endStreams(): void {
  for (const end of [...streams]) void end()
}
