import { z } from 'zod'
import type { ProgramProgress, StudentProgress } from '@ridgeway/core/office'
import { act, Done, known } from '../define'
import { localDate, reason, rowNumber, termCode, workId } from '../values'

/** What the registrar's office does: sections, seats, openings, holds. */
export const cancelSection = act({ name: 'cancel or restore a section', method: 'PUT', path: '/api/sections', who: 'office', changes: [],
  input: z.object({ section: rowNumber, cancelled: z.boolean(), because: reason }), output: Done,
  words: 'Cancels a section, or restores it: those registered get back what was charged and, where one fits, a seat held elsewhere.' })

const group = z.string().trim().min(1).max(30)
const Seats = z.array(z.object({ for: group.nullable(), seats: z.number().int('seats are whole').min(0, 'seats cannot be fewer than none')
  .max(9999, 'at most 9,999 seats') })).min(1, 'name the seats').max(13)
export const setSeats = act({ name: 'set seats', method: 'PUT', path: '/api/seats', who: 'office', changes: [],
  input: z.object({ section: rowNumber, seats: Seats, seen: Seats }), basis: 'the seats as they were seen', output: Done,
  words: 'Sets how many seats a section has for everybody, and how many are kept for whom. Waitlists are served first.' })

const students = z.array(rowNumber).min(1, 'choose somebody').max(500, 'at most 500 at once')
export const placeHolds = act({ name: 'place holds', method: 'POST', path: '/api/holds', who: 'office', changes: [],
  input: z.object({ usernames: z.array(z.string().trim().toLowerCase().min(1).max(40)).min(1, 'name somebody').max(500,
    'at most 500 at once'), reason: reason.max(200), contact: z.string().trim().min(3, 'say whom to see').max(120) }),
  output: z.object({ placed: z.number(), unknown: z.array(z.string()) }),
  words: 'Places a hold on each of these students; names that are no student\'s place none at all, and are said.' })
export const clearHolds = act({ name: 'clear holds', method: 'PUT', path: '/api/holds', who: 'office', changes: [],
  input: z.object({ holds: students }), output: z.object({ cleared: z.number() }), words: 'Clears these holds.' })
export const confirmPrograms = act({ name: 'confirm programs', method: 'PUT', path: '/api/programs/confirmed', who: 'office', changes: [],
  input: z.object({ students }), output: z.object({ confirmed: z.number() }),
  words: 'Confirms the programs of these students for them, as they could themselves.' })

const username = z.string().trim().toLowerCase().min(1, 'write the sign-in name').max(40)
export const erasePerson = act({ name: 'erase person', method: 'POST', path: '/api/people', who: 'office', byHand: true, changes: [],
  input: z.object({ username, again: username }), output: z.object({ id: z.number() }),
  words: 'Erases a person for good: what is about them alone goes; seats, money and what happened stay, without words or a name.' })

const Opening = z.object({ from: z.iso.datetime({ message: 'an instant such as 2026-11-09T15:00:00Z' })
  .transform(text => new Date(text).toISOString()),
program: z.string().regex(/^[A-Z][A-Z0-9-]{1,18}$/, 'a program code such as WSC-BS').nullable(),
earnedMin: z.number().int().min(0).max(40_000), words: z.string().trim().min(1, 'say who they are').max(120) })
const Openings = z.array(Opening).max(60, 'at most 60 openings')
export const setOpenings = act({ name: 'set openings', method: 'PUT', path: '/api/openings', who: 'office', changes: [],
  input: z.object({ term: termCode, openings: Openings, seen: Openings, keep: z.boolean() }), basis: 'the openings as they were seen',
  output: z.object({ kept: z.boolean(), openings: z.array(z.object({ students: z.number() })), without: z.number(),
    earlier: z.number(), later: z.number(), gained: z.number(), lost: z.number() }),
  words: 'All openings of a term, in the place of those it has; without `keep` only how many students each lets in, and whose moves.' })
export type OpeningsEffect = z.output<typeof setOpenings['output']>

export const setDates = act({ name: 'set dates of a term', method: 'PUT', path: '/api/terms/dates', who: 'office', changes: [],
  input: z.object({ term: termCode, addBy: localDate, dropBy: localDate, withdrawBy: localDate, feesDue: localDate,
    loadCap: z.number().int().min(100, 'at least a credit').max(4000), fullTime: z.number().int().min(0).max(4000) }), output: Done,
  words: 'Sets the deadlines, the due date of fees and the loads of a term.' })

const calendarName = z.string().trim().min(1, 'give it a name').max(60)
const CalendarOfTerm = z.object({
  noClass: z.array(z.object({ date: localDate, name: calendarName })).max(100, 'at most 100 days'),
  movedDays: z.array(z.object({ date: localDate, follows: z.enum(['M', 'T', 'W', 'R', 'F', 'S', 'U']) })).max(30, 'at most 30 days'),
  sessions: z.array(z.object({ code: z.string().regex(/^[a-z0-9][a-z0-9-]{0,9}$/, 'a session such as early: small letters and digits'),
    name: calendarName.max(40), start: localDate, end: localDate,
    deadlines: z.object({ addBy: localDate, dropBy: localDate, withdrawBy: localDate }).nullable() })).min(1,
    'a term has a session').max(12),
})
export type CalendarOfTerm = z.output<typeof CalendarOfTerm>
export const setCalendar = act({ name: 'set calendar of a term', method: 'PUT', path: '/api/terms/calendar', who: 'office', changes: [],
  input: CalendarOfTerm.extend({ term: termCode, seen: CalendarOfTerm }), basis: 'the calendar as it was seen', output: Done,
  words: 'Sets the days without classes, those that follow another weekday, and the sessions of a term; a session is added or changed.' })
export const addTerm = act({ name: 'add term', method: 'POST', path: '/api/terms', who: 'office', changes: [],
  input: z.object({ term: termCode, name: calendarName.max(40), start: localDate, end: localDate, addBy: localDate, dropBy: localDate,
    withdrawBy: localDate, feesDue: localDate, loadCap: z.number().int().min(100, 'at least a credit').max(4000),
    fullTime: z.number().int().min(0).max(4000) }), output: Done,
  words: 'Adds a term to the calendar, with one session from its first day to its last; there are no sections and no openings yet.' })

export const workOutProgress = act({ name: 'work out everybody\'s progress', method: 'POST', path: '/api/office/progress', who: 'office',
  changes: [], input: z.object({ work: workId.optional() }),
  output: z.object({ at: z.string(), seconds: z.number(),
    /** How many files had changed since they were worked out last. */
    fresh: z.number(), programs: z.array(known<ProgramProgress>('ProgramProgress')),
    students: z.array(known<StudentProgress>('StudentProgress')) }),
  words: 'Works out the file of every student: by program when they finish as planned, who has no finish, whose plan is forbidden '
    + 'something and whose average is low. Changes nothing; files that did not change since are not read again; how far it is, is asked '
    + 'for by the name given, as is giving it up.' })
export type Everybody = z.output<typeof workOutProgress['output']>
