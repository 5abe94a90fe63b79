import { z } from 'zod'
import type { CourseItem } from '@ridgeway/core/catalog'
import type { ProgramEffect } from '@ridgeway/core/office'
import type { CollegeProblem, FormatProblem, RowChange } from '@ridgeway/formats'
import { zone } from '@ridgeway/formats'
import { act, Done, known, Nothing } from '../define'
import { rowNumber, termCode, workId } from '../values'
import { Account } from '../views/college'

export const signIn = act({ name: 'sign in', method: 'POST', path: '/api/session', who: 'everybody', changes: [], most: 4000,
  input: z.object({ username: z.string().trim().toLowerCase().min(1, 'enter your name').max(40),
    password: z.string().min(1, 'enter your password').max(200) }), output: Account, words: 'Begins a session.' })
export const signOut = act({ name: 'sign out', method: 'DELETE', path: '/api/session', who: 'everybody', changes: [], input: Nothing,
  output: Done, words: 'Ends the session, everywhere.' })

const programText = z.string().min(1, 'the file is empty').max(150_000, 'a program file has at most 150 kB')
const casesText = z.string().max(250_000, 'worked cases have at most 250 kB').nullable()

/** What a program file holds, or what is wrong with it, line by line. */
export const ProgramCheck = z.union([
  z.object({ ok: z.literal(false), problems: z.array(known<FormatProblem>('FormatProblem')) }),
  z.object({ ok: z.literal(true), id: z.string(), title: z.string(), catalogYear: z.number(), lines: z.number(), known: z.boolean(),
    kept: z.boolean() }),
])
export type ProgramCheck = z.infer<typeof ProgramCheck>
export const loadProgramFile = act({ name: 'load program file', method: 'POST', path: '/api/programs', who: 'office', changes: [],
  input: z.object({ text: programText, keep: z.boolean(),
    /** Worked cases to keep with it; nothing leaves those it has. */
    cases: casesText.optional(),
    /** The version that this was made from; nothing for a file that comes from elsewhere. */
    seen: z.number().int().min(0).optional(),
    /** Put it in force although a worked case comes to something else. */
    despite: z.boolean().default(false) }), basis: 'the version that it was made from, where one is named',
  output: ProgramCheck, most: 700_000, words: 'Checks a program file and, with `keep`, makes it the program\'s rules in its year.' })

const Line = z.object({ state: z.enum(['met', 'under way', 'covered', 'open']), open: z.number() })
const ReaderRow = z.object({ id: z.number(), name: z.string(), effect: known<ProgramEffect>('ProgramEffect') })
export const tryProgramText = act({ name: 'try a program', method: 'POST', path: '/api/programs/effect', who: 'office', changes: [],
  input: z.object({ text: programText,
    /** Only these, with every line and the record; else those of the program after this one, some at a time. */
    students: z.array(rowNumber).max(4, 'at most four at once').optional(), after: z.number().int().min(0).default(0) }),
  most: 400_000,
  output: z.union([z.object({ ok: z.literal(false), problems: z.array(known<FormatProblem>('FormatProblem')) }), z.object({
    ok: z.literal(true), total: z.number(), done: z.number(), next: z.number().nullable(), rows: z.array(ReaderRow),
    samples: z.array(z.object({ id: z.number(), lines: z.array(Line.extend({ id: z.string(), title: z.string(),
      uses: z.array(z.string()) })), items: z.array(known<CourseItem>('CourseItem')), milestones: z.array(z.string()),
    placements: z.record(z.string(), z.number()) })) })]),
  words: 'What a program\'s rules would come to for those who are in it, beside what they come to now. Nothing is changed.' })
export type ProgramTried = Extract<z.output<typeof tryProgramText['output']>, { ok: true }>

export const setRegistration = act({ name: 'close or open registration', method: 'PUT', path: '/api/terms', who: 'office', changes: [],
  input: z.object({ term: termCode, because: z.string().trim().min(3, 'say why, so that students know').max(300).nullable() }),
  output: Done,
  words: 'Closes registration of a term for everybody, with what is told; null opens it again.' })

const entitled = z.enum(['advisor', 'office', 'either'])
export const setAdvising = act({ name: 'set how advising works', method: 'PUT', path: '/api/advising', who: 'office', changes: [],
  input: z.object({ programs: z.enum(['in order', 'in sum']).default('in order'), changedAfter: z.enum(['shown', 'closed']),
    releaseCode: z.enum(['instead', 'besides']),
    releaseDays: z.number().int().min(1, 'at least a day').max(120, 'at most 120 days'),
    silentDays: z.number().int().min(1, 'at least a day').max(365, 'at most a year'),
    entitled: z.object({ 'substitution': entitled, 'waiver': entitled, 'prerequisite': entitled, 'load': entitled, 'restriction': entitled,
      'seat': entitled, 'clash': entitled, 'late add': entitled }) }), output: Done,
  words: 'How several programs are read, what a change after sign-off comes to, how release codes are used, who grants exceptions.' })

const cents = z.number().int('whole cents').min(0, 'no less than nothing').max(10_000_000, 'at most 100,000')
const percent = z.number().int('a whole percent').min(0).max(100, 'at most 100 percent')
const days = z.number().int('whole days').min(0).max(400, 'at most 400 days')
const called = z.string().trim().min(1, 'give it a name').max(60)
const plainCode = z.string().trim().regex(/^[a-z][a-z0-9-]{0,19}$/, 'a code of small letters, such as resident')
const GradeRow = z.object({ grade: z.string().trim().regex(/^[A-Z][A-Z+-]{0,2}$/, 'a grade such as B+'),
  points: z.number().int().min(0).max(1000, 'at most 10 points'), inGpa: z.boolean(), earns: z.boolean(),
  standsFor: z.number().int().min(-1).max(1000, 'at most 10 points') })
const Money = z.object({
  bands: z.array(z.object({ code: plainCode, name: called, perCredit: cents })).min(1, 'name a band').max(20),
  siteFees: z.array(z.object({ site: z.string().min(1).max(20), cents })).max(60),
  refunds: z.array(z.object({ share: percent, percent })).max(12),
  plans: z.array(z.object({ code: plainCode, name: called,
    parts: z.array(z.object({ days, percent })).min(1, 'a plan has a part').max(12) })).min(1, 'name a way of paying').max(8),
  lateDays: days, graceDays: days })
export const setCollege = act({ name: 'set the college', method: 'PUT', path: '/api/college/settings', who: 'office', changes: [],
  input: z.object({ name: z.string().trim().min(1, 'name the college').max(120), zone, repeatPolicy: z.enum(['best', 'latest']),
    termsText: z.string().trim().max(2000, 'at most 2,000 characters'),
    offerHours: z.number().int('whole hours').min(1, 'at least an hour').max(336, 'at most two weeks'),
    grades: z.array(GradeRow).min(2, 'name the grades').max(40), money: Money, seen: z.number().int().min(0) }),
  basis: 'the catalog as it was seen', output: Done, most: 60_000,
  words: 'Sets the name, time zone, grades, repeats, terms, seat offers, tuition, refunds and ways of paying of the college.' })

export const startCrowd = act({ name: 'start the crowd', method: 'POST', path: '/api/standins/crowd', who: 'signed in', demo: true,
  changes: [],
  input: z.object({ term: termCode, size: z.number().int().min(1).max(1000, 'at most 1,000 students'),
    pace: z.number().int().min(1).max(200, 'at most 200 a second'), seed: z.number().int().min(0).max(1_000_000).default(1) }),
  output: z.object({ ready: z.number(), from: z.string() }),
  words: 'Lets so many generated students choose sections and press Register from the next opening of the term on, so many a second.' })
export const stopCrowd = act({ name: 'stop the crowd', method: 'DELETE', path: '/api/standins/crowd', who: 'signed in', demo: true,
  changes: [],
  input: z.object({ term: termCode }), output: Done, words: 'Nobody of the crowd presses any more.' })

export const setClock = act({ name: 'set clock', method: 'PUT', path: '/api/standins/clock', who: 'signed in', demo: true, changes: [],
  input: z.object({ now: z.iso.datetime({ message: 'an instant such as 2026-11-09T15:00:00Z' }) }), output: z.object({ now: z.string() }),
  words: 'Moves the demonstration\'s clock, within its calendar.' })

export const cancelWork = act({ name: 'cancel work', method: 'DELETE', path: '/api/work', who: 'office', changes: [],
  input: z.object({ id: workId }), output: Done,
  words: 'Has a piece of work given up that goes on under this name; what it did is taken back.' })

/** Bytes of a folder that one request brings; larger ones go in by the command on the server itself. */
export const FOLDER_BYTES = 30_000_000
/** What a folder would change, or what is wrong with it, row by row. */
export const FolderCheck = z.union([
  z.object({ ok: z.literal(false), problems: z.array(known<CollegeProblem>('CollegeProblem')) }),
  z.object({ ok: z.literal(true), kept: z.boolean(),
    tables: z.array(z.object({ file: z.string(), added: z.number(), changed: z.number(), same: z.number(), left: z.number() })),
    changes: z.array(known<RowChange>('RowChange')),
    /** What was not taken, and why. */
    asides: z.array(z.string()) }),
])
export type FolderCheck = z.infer<typeof FolderCheck>
export const loadFolder = act({ name: 'load college folder', method: 'POST', path: '/api/college', who: 'office', changes: [],
  input: z.object({ files: z.record(z.string().max(200), z.string().max(FOLDER_BYTES)).refine(files => Object.keys(files).length > 0,
    'there is no file in it'),
  keep: z.boolean(),
  /** A name for it while it goes on, by which its progress is asked for and it is given up. */
  work: workId.optional() }), output: FolderCheck, most: FOLDER_BYTES,
  words: 'Checks the files of a college\'s folder and says what they would change; with `keep` all of it is put in force, or nothing.' })

const password = z.string().min(10, 'use at least 10 characters').max(200)
export const invite = act({ name: 'invite', method: 'POST', path: '/api/invitations', who: 'office', changes: [],
  input: z.object({ username: z.string().trim().toLowerCase().min(1, 'write a sign-in name').max(40) }),
  output: z.object({ name: z.string(), code: z.string(), until: z.string() }),
  words: 'Makes a link by which somebody chooses a password; an earlier one of theirs ends.' })
export const acceptInvitation = act({ name: 'accept invitation', method: 'PUT', path: '/api/invitations', who: 'everybody', changes: [],
  input: z.object({ code: z.string().min(20, 'this link is not whole').max(100), password }), output: Account,
  words: 'Chooses a password by an invitation, and begins a session.' })
export const setUp = act({ name: 'set up', method: 'POST', path: '/api/set-up', who: 'everybody', changes: [],
  input: z.object({ code: z.string().min(1, 'write the code that the start of the server printed').max(100),
    college: z.string().trim().min(2, 'write the college\'s name').max(120), zone, name: z.string().trim().min(2,
      'write your name').max(80),
    username: z.string().trim().regex(/^[a-z0-9][a-z0-9._-]{0,39}$/, 'use small letters, digits, dots and hyphens'),
    email: z.email('write a mail address').max(120), password }), output: Account,
  words: 'Begins an empty installation: the college\'s name and zone, and the first person of its office, who is signed in then.' })
