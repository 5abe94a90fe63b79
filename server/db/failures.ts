/** The database is there and has no time for this request now. */
export class Busy extends Error {}
/** The database does not answer, or cannot be reached. */
export class Unavailable extends Error {}
/** The connection was lost while a change was being kept: it may have been kept or not. */
export class OutcomeUnknown extends Error {}

const LOST = new Set(['PROTOCOL_CONNECTION_LOST', 'ECONNREFUSED', 'ECONNRESET', 'EPIPE', 'ETIMEDOUT', 'ENOTFOUND', 'EHOSTUNREACH',
  'ER_SERVER_SHUTDOWN', 'PROTOCOL_SEQUENCE_TIMEOUT', 'ER_CONNECTION_KILLED'])

/** MariaDB's error number, through the wrappers that a query builder puts around it; 0 for anything else. */
export function errorNumber(problem: unknown): number {
  for (let inner = problem; inner instanceof Error; inner = inner.cause) {
    if ('errno' in inner && typeof inner.errno === 'number' && inner.errno > 0) return inner.errno
  }
  return 0
}

/** Whether the connection is gone, whatever wrapped the news. */
export function isConnectionLost(problem: unknown): boolean {
  for (let inner = problem; inner instanceof Error; inner = inner.cause) {
    if ('code' in inner && typeof inner.code === 'string' && LOST.has(inner.code)) return true
    if (/closed state|Connection lost/i.test(inner.message)) return true
  }
  return false
}

/** Places that are told of a problem. */
const PLACES = 6
/** Where in the code a problem arose, the nearest first; its words could hold what somebody typed. */
export const placesIn = (problem: unknown): string[] => (problem instanceof Error ? problem.stack?.split('\n') ?? [] : [])
  .filter(line => /^\s+at /.test(line)).slice(0, PLACES).map(line => line.trim())
