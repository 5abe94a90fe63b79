import { z } from 'zod'
import type { LineRef } from '@ridgeway/core/record'

/** What clients may send. Every route parses its input with one of these before anything else happens. */
const courseCode = z.string().regex(/^[A-Z]{3} \d{3}$/, 'a course code such as HYD 230')
const termCode = z.string().regex(/^\d{4}(SP|SU|FA)$/, 'a term code such as 2027SP')
const entryId = z.string().min(1).max(40)
const credits = z.number().int().min(0).max(2000)
const lineAt = z.string().regex(/^[A-Z][A-Z0-9-]{1,18}\/[a-z0-9-]{1,40}$/, 'a requirement line such as WSC-BS/voices').transform(text =>
  text as LineRef,
)

export const SignInRequest = z.object({ username: z.string().trim().toLowerCase().min(1, 'enter your name').max(40),
  password: z.string().min(1, 'enter your password').max(200) })
export const TermQuery = z.object({ term: termCode })
export const TermNote = z.object({ term: termCode, note: z.string().max(500).default('') })
export const BundleChoice = z.object({ term: termCode, course: courseCode, sectionIds: z.array(z.number().int().positive()).max(6) })
export const RegisterRequest = z.object({ term: termCode, key: z.uuid('a fresh key for each press'),
  rowIds: z.array(z.number().int()).min(1, 'choose at least one row').max(20) })
export const ClockRequest = z.object({ now: z.iso.datetime({ message: 'an instant such as 2026-11-09T15:00:00Z' }) })

const operation = z.discriminatedUnion('kind', [
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
const planId = z.coerce.number().int().positive()
export const PlanEditRequest = z.object({ plan: planId.optional(), baseVersion: z.number().int().min(0),
  batch: z.uuid('a fresh key for each sending').optional(), operations: z.array(operation).min(1).max(200) })
export const StudentQuery = TermQuery.extend({ plan: planId.optional() })
export const SinceQuery = z.object({ since: z.coerce.number().int().min(0).default(0) })
const planName = z.string().trim().min(1, 'give the plan a name').max(60)
export const NewPlanRequest = z.object({ name: planName, copyOf: planId.nullable(), operations: z.array(operation).max(400).optional() })
export const PlanChangeRequest = z.object({ name: planName.optional(), current: z.literal(true).optional(),
  deleted: z.boolean().optional() })
export const CommentRequest = z.object({ term: termCode.nullable(), entry: entryId.nullable(),
  text: z.string().trim().min(1, 'write something first').max(1000) })

const programCode = z.string().regex(/^[A-Z][A-Z0-9-]{1,18}$/, 'a program code such as WSC-BS')
const programIds = z.array(z.string().regex(/^[A-Z][A-Z0-9-]{1,18}-\d{4}$/, 'a program and its catalog year, such as WSC-BS-2025')).min(1,
  'choose at least one program').max(4)
const lineId = z.string().regex(/^[a-z0-9][a-z0-9-]*$/).max(40)
const reason = z.string().trim().min(3, 'say why, in a few words').max(300)

export const UsePinRequest = z.object({ item: entryId, program: programCode, line: lineId.nullable() })
export const ExceptionRequest = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('substitution'), program: programCode, line: lineId, course: courseCode, instead: courseCode.nullable(),
    reason }),
  z.object({ kind: z.literal('waiver'), program: programCode, line: lineId, course: courseCode.nullable(), reason }),
])
export const ExceptionQuery = z.object({ id: z.coerce.number().int().positive() })
export const MilestoneRequest = z.object({ program: programCode, milestone: lineId, done: z.boolean() })
export const ProgramChangeRequest = z.object({ programs: programIds, note: z.string().max(500).default('') })
export const ProgramDecision = z.object({ granted: z.boolean(), words: z.string().max(500).default('') })
export const ProgramFileRequest = z.object({ text: z.string().min(1, 'the file is empty').max(150_000, 'a program file has at most 150 kB'),
  keep: z.boolean() })
