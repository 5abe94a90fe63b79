import { z } from 'zod'
import { COURSE_CODE } from '@ridgeway/core/catalog'
import type { LineRef } from '@ridgeway/core/record'

/** Values that inputs are made of. Ids are plain ASCII: what the database thinks equal is equal here. */
export const courseCode = z.string().regex(COURSE_CODE, 'a course code such as HYD 230')
export const localDate = z.iso.date('a date such as 2026-11-09')
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
/** How much of a line is waived, in hundredths of a credit, or of a course where it asks for courses alone; null or nothing: all of it. */
export const waivedAmount = z.number().int().min(1).max(20_000).nullish()
export const reason = z.string().trim().min(3, 'say why, in a few words').max(300)
export const rowNumber = z.number().int().positive().max(2_000_000_000)
export const gradingMode = z.enum(['letter', 'pass', 'audit'])
const weekday = z.enum(['M', 'T', 'W', 'R', 'F', 'S', 'U'])
const minuteOfDay = z.number().int().min(0).max(1440)
const wishIs = { id: entryId, weight: z.union([z.literal('hard'), z.literal(1), z.literal(2), z.literal(3), z.literal(4), z.literal(5)]) }
/** What is wished for a week; a block that is kept free can have a name. */
export const wish = z.discriminatedUnion('kind', [
  z.object({ ...wishIs, kind: z.literal('earliest'), at: minuteOfDay }),
  z.object({ ...wishIs, kind: z.literal('latest'), at: minuteOfDay }),
  z.object({ ...wishIs, kind: z.literal('day off'), day: weekday }),
  z.object({ ...wishIs, kind: z.literal('keep free'), days: z.array(weekday).min(1).max(7), start: minuteOfDay, end: minuteOfDay,
    name: z.string().trim().max(40).optional() }).refine(block => block.start < block.end, 'the end of a block comes after its begin'),
  z.object({ ...wishIs, kind: z.literal('avoid site'), site: z.string().max(20) }),
  z.object({ ...wishIs, kind: z.literal('avoid delivery'), delivery: z.enum(['on site', 'online live', 'online any time', 'mixed']) }),
  z.object({ ...wishIs, kind: z.literal('instructor'), name: z.string().max(80) }),
  z.object({ ...wishIs, kind: z.literal('group'), group: z.string().max(20) }),
  z.object({ ...wishIs, kind: z.literal('seats left'), least: z.number().int().min(1).max(500) }),
  z.object({ ...wishIs, kind: z.literal('fewer days') }),
  z.object({ ...wishIs, kind: z.literal('fewer gaps'), pass: minuteOfDay }),
  z.object({ ...wishIs, kind: z.literal('less travel') }),
])
export const sectionIds = z.array(rowNumber).min(1).max(6)
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

/** A name that an asker gives to work that takes its time. */
export const workId = z.uuid('a name for the work, as a UUID')
