import { z } from 'zod'
import type { FormatProblem } from '@ridgeway/formats'
import { act, Done, known, Nothing } from '../define'
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

export const setClock = act({ name: 'set clock', method: 'PUT', path: '/api/standins/clock', who: 'signed in', demo: true, changes: [],
  input: z.object({ now: z.iso.datetime({ message: 'an instant such as 2026-11-09T15:00:00Z' }) }), output: z.object({ now: z.string() }),
  words: 'Moves the demonstration\'s clock, within its calendar.' })
