import { FetchError } from 'ofetch'

/** A failure in words, as every route gives it (RFC 9457): what happened, and what to do. */
export interface Problem {
  code: string
  title: string
  detail: string
  status: number
}

/** Turns whatever a request threw into words; a lost connection says that nothing was lost. */
export function toProblem(error: unknown): Problem {
  if (error instanceof FetchError && error.data && typeof error.data === 'object' && 'title' in error.data) {
    const { code, title, detail, status } = error.data as Problem
    return { code, title, detail, status }
  }
  return { code: 'no-connection', title: 'Ridgeway cannot be reached.',
    detail: 'What you did is kept here and can be sent again. Check the connection and try again.', status: 0 }
}
