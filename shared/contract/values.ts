import { z } from 'zod'
import type { LineRef } from '@ridgeway/core/record'

/** Values that inputs are made of. Ids are plain ASCII: what the database thinks equal is equal here. */
export const courseCode = z.string().regex(/^[A-Z]{3} \d{3}$/, 'a course code such as HYD 230')
export const termCode = z.string().regex(/^\d{4}(SP|SU|FA)$/, 'a term code such as 2027SP')
export const entryId = z.string().regex(/^[A-Za-z0-9_.-]{1,40}$/, 'an id of letters, digits, dots and dashes, at most 40')
export const credits = z.number().int().min(0).max(2000)
export const lineAt = z.string().regex(/^[A-Z][A-Z0-9-]{1,18}\/[a-z0-9-]{1,40}$/, 'a requirement line such as WSC-BS/voices')
  .transform(text => text as LineRef)
export const planId = z.coerce.number().int().positive().max(2_000_000_000)
export const planName = z.string().trim().min(1, 'give the plan a name').max(60)
export const programCode = z.string().regex(/^[A-Z][A-Z0-9-]{1,18}$/, 'a program code such as WSC-BS')
export const programIds = z.array(z.string().regex(/^[A-Z][A-Z0-9-]{1,18}-\d{4}$/, 'a program and its catalog year, such as WSC-BS-2025'))
  .min(1, 'choose at least one program').max(4)
export const lineId = z.string().regex(/^[a-z0-9][a-z0-9-]*$/).max(40)
export const reason = z.string().trim().min(3, 'say why, in a few words').max(300)
export const rowNumber = z.number().int().positive().max(2_000_000_000)
export const role = z.enum(['student', 'advisor', 'office'])

export const planOperation = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('place'), entry: entryId, course: courseCode, term: termCode, credits }),
  z.object({ kind: z.literal('move'), entry: entryId, term: termCode }),
  z.object({ kind: z.literal('remove'), entry: entryId }),
  z.object({ kind: z.literal('pin'), entry: entryId, pinned: z.boolean() }),
  z.object({ kind: z.literal('pin use'), entry: entryId, line: lineAt.nullable() }),
  z.object({ kind: z.literal('hold'), entry: entryId, line: lineAt, term: termCode, credits }),
  z.object({ kind: z.literal('credits'), entry: entryId, credits }),
  z.object({ kind: z.literal('note'), entry: entryId, note: z.string().max(500) }),
  z.object({ kind: z.literal('wishes'),
    wishes: z.object({ target: credits.nullable(), termsOff: z.array(termCode).max(40), latestFinish: termCode.nullable() }) }),
  z.object({ kind: z.literal('plan note'), note: z.string().max(2000) }),
  z.object({ kind: z.literal('term note'), term: termCode, note: z.string().max(500) }),
])
