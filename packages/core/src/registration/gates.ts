import type { Credits, Instant, LocalDate, TermName } from '../catalog/types'

export type GateKind = 'opening' | 'closing' | 'office' | 'sign-off' | 'holds' | 'program' | 'terms'

/** Something that must be open before registering. */
export type Gate = { open: boolean, term: TermName } & (
  /** `from` is null when no opening is set for the student. */
  | { kind: 'opening', from: Instant | null, zone: string, who: string }
  /** Only once it is over: `by` was the last day on which courses of the term could be added. */
  | { kind: 'closing', by: LocalDate }
  /** Only while the office keeps registration closed, with what it says. */
  | { kind: 'office', because: string }
  /** `released` is the day on which a release code was used in place of a sign-off. */
  | { kind: 'sign-off' } & SignOffGate
  | { kind: 'holds', holds: Hold[] }
  | { kind: 'program', program: string }
  | { kind: 'terms', accepted: LocalDate | null }
)

interface SignOffGate {
  signed: { by: string, on: LocalDate } | null
  released?: LocalDate | null
  asked: boolean
  advisor: string | null
  /** A code is asked for besides the sign-off, and was not used yet. */
  needsCode?: boolean
  /** The plan came back with these words. */
  returned?: string | null
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

interface Hold { reason: string, contact: string, placed: string }

export interface GateInput {
  term: TermName
  now: Instant
  /** The date in the college's zone, and the last one on which any course of the term can be added. */
  today: LocalDate
  addBy: LocalDate
  /** What the office says while it keeps registration closed. */
  closedBecause?: string | null | undefined
  zone: string
  openings: readonly OpeningRule[]
  programs: readonly string[]
  earned: Credits
  signedOff: { by: string, on: LocalDate } | null
  /** When a release code was used. */
  released?: LocalDate | null
  /** Whether a code opens the gate by itself, or is asked for besides. */
  releaseCode?: 'instead' | 'besides'
  returned?: string | null
  signOffAsked: boolean
  advisor: string | null
  holds: readonly Hold[]
  programConfirmed: boolean
  programTitle: string
  termsAccepted: LocalDate | null
}

/** The opening that applies to a student, or null when none has been set for them. */
export function openingFor(openings: readonly OpeningRule[], programs: readonly string[], earned: Credits): OpeningRule | null {
  const mine = openings.filter(rule => (rule.program === null || programs.includes(rule.program)) && earned >= rule.earnedMin)
  return mine.reduce<OpeningRule | null>((first, rule) => first && first.from <= rule.from ? first : rule, null)
}

/** All gates of a term for one student, in the order in which they are passed. */
export function readGates(input: GateInput): Gate[] {
  const { term, now, zone, holds } = input
  const opening = openingFor(input.openings, input.programs, input.earned)
  const isOver = input.today > input.addBy
  return [
    { kind: 'opening', term, open: opening !== null && opening.from <= now, from: opening?.from ?? null, zone, who: opening?.words ?? '' },
    ...isOver ? [{ kind: 'closing' as const, term, open: false, by: input.addBy }] : [],
    ...input.closedBecause ? [{ kind: 'office' as const, term, open: false, because: input.closedBecause }] : [],
    signOffGate(input),
    { kind: 'holds', term, open: holds.length === 0, holds: [...holds] },
    { kind: 'program', term, open: input.programConfirmed, program: input.programTitle },
    { kind: 'terms', term, open: input.termsAccepted !== null, accepted: input.termsAccepted },
  ]
}

function signOffGate({ term, signedOff, released, releaseCode, signOffAsked, advisor, returned }: GateInput): Gate {
  const isBesides = releaseCode === 'besides'
  const open = isBesides ? signedOff !== null && Boolean(released) : signedOff !== null || Boolean(released)
  return { kind: 'sign-off', term, open, signed: signedOff, released: released ?? null, asked: signOffAsked, advisor,
    ...isBesides && !released ? { needsCode: true } : {}, ...returned ? { returned } : {} }
}
