import { AsyncLocalStorage } from 'node:async_hooks'

/** A stretch of a request, in milliseconds since it began: waiting for a connection, or holding one. */
export interface Span { what: string, at: number, ms: number }
export interface Trace { begun: number, spans: Span[] }

/** More stretches than any page has; what comes after is not kept. */
const MOST = 40
const traces = new AsyncLocalStorage<Trace>()

export const beginTrace = (): Trace => ({ begun: performance.now(), spans: [] })

/** When a request came, in milliseconds of this machine's clock; now where nothing is known of it. */
export const cameAt = (trace: Trace | undefined): number => Date.now() - (trace ? performance.now() - trace.begun : 0)

/** While the work goes on, what it waits for is written down in the trace, whoever does it; without one, in none. */
export const traced = <T>(trace: Trace | undefined, work: () => T): T => trace ? traces.run(trace, work) : traces.exit(work)

/** The trace of the request for which work is being done now, if it is for one. */
export const traceNow = (): Trace | undefined => traces.getStore()

/** Writes down a stretch that began at a moment of `performance.now()` and ended at another, now if none is said. */
export function noteSpan(what: string, began: number, ended = performance.now()): void {
  const trace = traces.getStore()
  if (trace && trace.spans.length < MOST)
    trace.spans.push({ what, at: Math.round(began - trace.begun), ms: Math.round(ended - began) })
}
