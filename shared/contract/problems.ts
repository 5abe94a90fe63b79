import { z } from 'zod'

/** What a failure answers (RFC 9457, problem details): what happened, and what to do. */
export const Problem = z.object({
  /** Tells failures apart; stays the same whatever the words are. */
  code: z.string(),
  title: z.string(),
  detail: z.string(),
  status: z.number(),
})
export type Problem = z.infer<typeof Problem>
