import { z } from 'zod'
import type { FormatProblem } from '@ridgeway/formats'
import { act, Done, known, Nothing } from '../define'
import { termCode } from '../values'
import { Account } from '../views/college'

export const signIn = act({ name: 'sign in', method: 'POST', path: '/api/session', who: 'everybody', changes: [], most: 4000,
  input: z.object({ username: z.string().trim().toLowerCase().min(1, 'enter your name').max(40),
    password: z.string().min(1, 'enter your password').max(200) }), output: Account, words: 'Begins a session.' })
export const signOut = act({ name: 'sign out', method: 'DELETE', path: '/api/session', who: 'everybody', changes: [], input: Nothing,
  output: Done, words: 'Ends the session, everywhere.' })

/** What a program file holds, or what is wrong with it, line by line. */
export const ProgramCheck = z.union([
  z.object({ ok: z.literal(false), problems: z.array(known<FormatProblem>('FormatProblem')) }),
  z.object({ ok: z.literal(true), id: z.string(), title: z.string(), catalogYear: z.number(), lines: z.number(), known: z.boolean(),
    kept: z.boolean() }),
])
export type ProgramCheck = z.infer<typeof ProgramCheck>
export const loadProgramFile = act({ name: 'load program file', method: 'POST', path: '/api/programs', who: 'office', changes: [],
  input: z.object({ text: z.string().min(1, 'the file is empty').max(150_000, 'a program file has at most 150 kB'), keep: z.boolean() }),
  output: ProgramCheck, most: 400_000, words: 'Checks a program file and, with `keep`, makes it the program\'s rules in its year.' })

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
