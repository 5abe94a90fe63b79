import { DateTime } from 'luxon'
import { sayDate } from '../catalog/terms'
import type { Credits, Instant } from '../catalog/types'

export type GateKind = 'opening' | 'sign-off' | 'holds' | 'program' | 'terms'

/** Something that must be open before registering. */
export interface Gate {
  kind: GateKind
  open: boolean
  title: string
  words: string
  /** What to do about a closed gate; empty when it is open. */
  way: string
}

/** From when the students that a rule describes may register; the earliest rule that fits a student is theirs. */
export interface OpeningRule {
  from: Instant
  /** Program code; null for every program. */
  program: string | null
  /** Credits earned at least. */
  earnedMin: Credits
  words: string
}

export interface Hold { reason: string, contact: string, placed: string }

export interface GateInput {
  termName: string
  now: Instant
  zone: string
  openings: readonly OpeningRule[]
  programs: readonly string[]
  earned: Credits
  signedOff: { by: string, on: string } | null
  signOffAsked: boolean
  advisor: string | null
  holds: readonly Hold[]
  programConfirmed: boolean
  programTitle: string
  termsAccepted: string | null
}

/** The opening that applies to a student, or null when none has been set for them. */
export function openingFor(openings: readonly OpeningRule[], programs: readonly string[], earned: Credits): OpeningRule | null {
  const mine = openings.filter(rule => (rule.program === null || programs.includes(rule.program)) && earned >= rule.earnedMin)
  return mine.reduce<OpeningRule | null>((first, rule) => first && first.from <= rule.from ? first : rule, null)
}

/** All gates of a term for one student, in the order in which they are passed. */
export function readGates(input: GateInput): Gate[] {
  return [openingGate(input), signOffGate(input), holdsGate(input), programGate(input), termsGate(input)]
}

function openingGate({ openings, programs, earned, now, zone, termName }: GateInput): Gate {
  const rule = openingFor(openings, programs, earned)
  const gate = { kind: 'opening' as const, title: 'Opening' }
  if (!rule) return { ...gate, open: false, words: `No opening is set for ${termName}.`, way: 'The registrar\'s office sets openings; ask there.' }
  const when = DateTime.fromISO(rule.from, { zone }).toFormat('ccc d LLL, HH:mm')
  return rule.from <= now
    ? { ...gate, open: true, words: `open since ${when}`, way: '' }
    : { ...gate, open: false, words: `opens ${when}`, way: `Registration for ${termName} opens for you on ${when} (${rule.words}).` }
}

function signOffGate({ signedOff, signOffAsked, advisor, termName }: GateInput): Gate {
  const gate = { kind: 'sign-off' as const, title: 'Sign-off' }
  if (signedOff) return { ...gate, open: true, words: `by ${signedOff.by}, ${sayDate(signedOff.on)}`, way: '' }
  const who = advisor ?? 'an advisor'
  return signOffAsked
    ? { ...gate, open: false, words: `asked, not yet given by ${who}`, way: `${who} has your request. Write to them if it is urgent.` }
    : { ...gate, open: false, words: 'not asked for', way: `Ask ${who} to sign off ${termName}.` }
}

function holdsGate({ holds }: GateInput): Gate {
  const gate = { kind: 'holds' as const, title: 'Holds' }
  const first = holds[0]
  if (!first) return { ...gate, open: true, words: 'none', way: '' }
  return { ...gate, open: false, words: holds.map(hold => hold.reason).join('; '), way: `Contact ${first.contact} to clear it.` }
}

function programGate({ programConfirmed, programTitle }: GateInput): Gate {
  const gate = { kind: 'program' as const, title: 'Program' }
  return programConfirmed
    ? { ...gate, open: true, words: `${programTitle}, confirmed`, way: '' }
    : { ...gate, open: false, words: `${programTitle || 'no program'}, not confirmed`, way: 'Confirm your program and catalog year under Now.' }
}

function termsGate({ termsAccepted, termName }: GateInput): Gate {
  const gate = { kind: 'terms' as const, title: 'Terms' }
  return termsAccepted
    ? { ...gate, open: true, words: `accepted ${sayDate(termsAccepted)}`, way: '' }
    : { ...gate, open: false, words: 'not accepted', way: `Read and accept the terms of registration for ${termName}.` }
}
