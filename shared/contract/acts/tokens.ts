import { z } from 'zod'
import { act, Done } from '../define'
import { rowNumber } from '../values'

/** Days that a token stands at most. */
const MOST_DAYS = 366
export const makeToken = act({ name: 'make API token', method: 'POST', path: '/api/tokens', who: 'signed in', byHand: true, changes: [],
  input: z.object({ name: z.string().trim().min(2, 'say what it is for').max(60), scope: z.enum(['read', 'write']),
    days: z.number().int().min(1, 'at least a day').max(MOST_DAYS, 'at most a year') }),
  output: z.object({ id: z.number(), token: z.string(), until: z.string() }),
  words: 'Makes a token by which another program acts for its owner; it is told only now.' })
export const revokeToken = act({ name: 'revoke API token', method: 'DELETE', path: '/api/tokens', who: 'signed in', byHand: true,
  changes: [], input: z.object({ id: z.coerce.number().pipe(rowNumber) }), output: Done,
  words: 'Ends a token at once: one\'s own, or for the office anybody\'s.' })
