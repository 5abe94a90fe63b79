import { z } from 'zod'
import { view } from '../define'
import { role } from '../values'

const Token = z.object({ id: z.number(), name: z.string(), scope: z.enum(['read', 'write']), made: z.string(), until: z.string(),
  used: z.string().nullable(), person: z.object({ id: z.number(), name: z.string(), username: z.string(), role }) })
export type ApiToken = z.infer<typeof Token>
export const readTokens = view({ name: 'API tokens', path: '/api/tokens', who: 'signed in', byHand: true,
  input: z.object({ whose: z.enum(['mine', 'all']).default('mine') }), output: z.array(Token), stamp: 'none',
  words: 'Tokens that stand: one\'s own, or for the office everybody\'s.' })
