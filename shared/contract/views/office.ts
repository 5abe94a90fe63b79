import { z } from 'zod'
import { known, view } from '../define'
import { localDate, rowNumber, termCode } from '../values'
import type { CollegeFinding, OfficeNeed } from '@ridgeway/core/office'

export const readOfficeToday = view({ name: 'office today', path: '/api/office', who: 'office', input: z.object({ term: termCode }),
  output: z.object({ needs: z.array(known<OfficeNeed>('OfficeNeed')) }), stamp: 'none',
  words: 'What needs the office now, most pressing first.' })

const Touched = z.object({ id: z.number(), name: z.string(), registeredAt: z.string(), credits: z.number(), fullTimeLost: z.boolean(),
  /** Courses that would stay without their partner. */
  alone: z.array(z.string()),
  /** The bundle in which a seat would be held; null where none fits. */
  other: z.object({ label: z.string(), times: z.string() }).nullable() })
export type Touched = z.infer<typeof Touched>
export const readSection = view({ name: 'section of the office', path: '/api/sections', who: 'office',
  input: z.object({ term: termCode, section: z.coerce.number().pipe(rowNumber), consequences: z.enum(['0', '1']).default('0') }),
  output: z.object({ course: z.string(), title: z.string(), label: z.string(), part: z.string(), cancelled: z.boolean(),
    /** The section whose seats it shares; null where it has its own. */
    seatsWith: z.string().nullable(),
    seats: z.array(z.object({ for: z.string().nullable(), capacity: z.number(), taken: z.number(), held: z.number() })),
    times: z.string(),
    registered: z.array(z.object({ id: z.number(), name: z.string(), at: z.string() })),
    waiting: z.array(z.object({ id: z.number(), name: z.string(), offerUntil: z.string().nullable() })),
    touched: z.array(Touched).nullable() }), stamp: 'none',
  words: 'Who is in a section and who waits for it; with `consequences`, what cancelling it would come to for each.' })
export type SectionStory = z.infer<typeof readSection['output']>

const Person = z.object({ id: z.number(), name: z.string(), username: z.string() })
export const readOfficePeople = view({ name: 'people of the office', path: '/api/office/people', who: 'office',
  input: z.object({ term: termCode.optional() }),
  output: z.object({
    advisorless: z.array(Person.extend({ programs: z.array(z.string()) })),
    unpaid: z.array(Person.extend({ cents: z.number() })),
    holds: z.array(z.object({ id: z.number(), student: Person, reason: z.string(), contact: z.string(), placed: z.string(),
      byRule: z.boolean() })),
    unconfirmed: z.array(Person.extend({ programs: z.array(z.string()) })),
    exceptions: z.array(z.object({ id: z.number(), student: Person, kind: z.string(), course: z.string().nullable(),
      term: z.string().nullable(), value: z.number().nullable(), until: z.string().nullable(), reason: z.string(), by: z.string(),
      at: z.string() })),
    asked: z.array(z.object({ id: z.number(), student: Person, words: z.string(), reason: z.string(), at: z.string(),
      mine: z.boolean() })) }),
  stamp: 'none', words: 'Students without an advisor, who owes for a term, holds, programs to confirm, exceptions and requests for them.' })

const LedgerRow = z.object({ id: z.number(), at: z.string(), actor: z.string().nullable(), student: Person.nullable(), action: z.string(),
  section: z.object({ id: z.number(), name: z.string(), term: z.string() }).nullable(), detail: z.record(z.string(), z.unknown()) })
export type LedgerRow = z.infer<typeof LedgerRow>
export const readLedger = view({ name: 'ledger', path: '/api/ledger', who: 'office',
  input: z.object({ student: z.coerce.number().pipe(rowNumber).optional(), section: z.coerce.number().pipe(rowNumber).optional(),
    action: z.string().max(40).optional(), day: localDate.optional(), before: z.coerce.number().int().positive().optional() }),
  output: z.object({ rows: z.array(LedgerRow), more: z.boolean() }), stamp: 'none',
  words: 'What happened, the newest first: of everybody, of one student or section, one kind of act or up to the end of a day.' })

const Curve = z.object({ from: z.string(), words: z.string(), term: z.string(), minutes: z.array(z.number()) })
export const readPace = view({ name: 'pace of registration', path: '/api/office/pace', who: 'office', input: z.object({ term: termCode }),
  output: z.object({ openings: z.array(Curve) }), stamp: 'none',
  words: 'For the openings that have begun, the newest first: courses registered up to each minute of the hour after.' })

export const readProgramFile = view({ name: 'program of the office', path: '/api/programs', who: 'office',
  input: z.object({ program: z.string().regex(/^[A-Z][A-Z0-9-]{1,18}-\d{4}$/, 'a program and its catalog year, such as WSC-BS-2025'),
    version: z.coerce.number().int().min(1).optional() }),
  output: z.object({ text: z.string(), cases: z.string().nullable(), version: z.number(), students: z.number(),
    /** Some of those who are in it, to look at the rules with. */
    some: z.array(Person.omit({ username: true })),
    history: z.array(z.object({ version: z.number(), at: z.string(), by: z.string().nullable() })) }),
  stamp: 'none', words: 'A program as a file, or as it was in an earlier version, with its worked cases, who is in it, and its history.' })
export type ProgramOnFile = z.output<typeof readProgramFile['output']>

export const readCollegeCheck = view({ name: 'catalog check', path: '/api/office/check', who: 'office', input: z.object({}),
  output: z.object({ findings: z.array(known<CollegeFinding>('CollegeFinding')) }), stamp: 'none',
  words: 'What is wrong in the catalog that no single rule shows: lines that nobody can fill, sequences that break their own rules.' })
