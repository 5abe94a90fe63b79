/** An expected failure that a person can do something about; it becomes a problem detail (RFC 9457). */
export class Refusal extends Error {
  constructor(
    readonly status: 400 | 401 | 403 | 404 | 405 | 409 | 413 | 422 | 429 | 500 | 503,
    readonly code: string,
    message: string,
    /** What to do about it. */
    readonly way = '',
  ) { super(message) }
}
