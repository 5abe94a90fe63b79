import type { CourseCode, Credits, Instant, TermCode } from '../catalog/types'

/** Why an advisee needs the advisor. */
export type Need
  = | { code: 'sign-off asked', at: Instant }
    | { code: 'exceptions asked', count: number }
    | { code: 'opens unsigned', from: Instant, open: boolean }
    | { code: 'blockers', count: number }
    | { code: 'program asked' }
    | { code: 'changed after sign-off', added: CourseCode[], gone: CourseCode[] }
    | { code: 'finish slipped', from: TermCode, to: TermCode | null }
    | { code: 'comments', count: number }
    | { code: 'hold', count: number, reason: string }
    | { code: 'gpa', now: number, asked: number }
    | { code: 'unconfirmed' }
    | { code: 'off path', credits: Credits }
    | { code: 'no plan' }
    | { code: 'silent', days: number }
export type NeedCode = Need['code']

/** Most pressing first. What comes before outweighs everything that comes after it together. */
export const NEEDS: readonly NeedCode[] = ['sign-off asked', 'exceptions asked', 'opens unsigned', 'blockers', 'program asked',
  'changed after sign-off', 'finish slipped', 'comments', 'hold', 'gpa', 'unconfirmed', 'no plan', 'off path', 'silent']
const weightOf = (code: NeedCode) => 2 ** (NEEDS.length - NEEDS.indexOf(code))

/** How far ahead an opening without a sign-off is told, in milliseconds. */
const SOON_MS = 48 * 3_600_000

export interface NeedsInput {
  now: Instant
  /** When sign-off of the working term was asked for and not answered. */
  signOffAsked: Instant | null
  signedOff: boolean
  /** How the signed term differs from what was agreed. */
  added: CourseCode[]
  gone: CourseCode[]
  exceptionsAsked: number
  programAsked: boolean
  /** Blockers of the working term. */
  blockers: number
  opensAt: Instant | null
  /** Whether something is registered for the working term. */
  registered: boolean
  finish: TermCode | null
  /** The finish when the advisor last looked; undefined where they never did. */
  finishSeen: TermCode | null | undefined
  /** Comments of others that the advisor has not read. */
  comments: number
  holds: readonly { reason: string }[]
  /** An average below what a program asks. */
  gpa: { now: number, asked: number } | null
  confirmed: boolean
  offPath: Credits
  /** Credits planned for the working term. */
  planned: Credits
  /** When the student last did anything; null for never. */
  lastSign: Instant | null
  silentDays: number
}

/** Everything that an advisee needs the advisor for, most pressing first. Codes of terms order as their names in time do. */
export function needsOf(input: NeedsInput, later: (one: TermCode, other: TermCode) => boolean): Need[] {
  const needs: (Need | false | null)[] = [
    input.signOffAsked !== null && { code: 'sign-off asked', at: input.signOffAsked },
    input.exceptionsAsked > 0 && { code: 'exceptions asked', count: input.exceptionsAsked },
    opensUnsigned(input),
    input.blockers > 0 && { code: 'blockers', count: input.blockers },
    input.programAsked && { code: 'program asked' },
    input.signedOff && input.added.length + input.gone.length > 0
    && { code: 'changed after sign-off', added: input.added, gone: input.gone },
    slipped(input, later),
    input.comments > 0 && { code: 'comments', count: input.comments },
    input.holds.length > 0 && { code: 'hold', count: input.holds.length, reason: input.holds[0]!.reason },
    input.gpa && { code: 'gpa', ...input.gpa },
    !input.confirmed && { code: 'unconfirmed' },
    input.planned === 0 && !input.registered && { code: 'no plan' },
    input.offPath > 0 && { code: 'off path', credits: input.offPath },
    silent(input),
  ]
  return needs.filter(need => need !== false && need !== null)
}

/** The order of a list of advisees: a number, higher for who needs more. */
export const urgencyOf = (needs: readonly Need[]): number => needs.reduce((sum, need) => sum + weightOf(need.code), 0)

function opensUnsigned({ opensAt, signedOff, signOffAsked, registered, now }: NeedsInput): Need | null {
  if (opensAt === null || signedOff || signOffAsked !== null || registered) return null
  return Date.parse(opensAt) - Date.parse(now) < SOON_MS ? { code: 'opens unsigned', from: opensAt, open: opensAt <= now } : null
}

/** A finish that was known and is later now, or not known any more. */
function slipped({ finish, finishSeen }: NeedsInput, later: (one: TermCode, other: TermCode) => boolean): Need | null {
  if (finishSeen === null || finishSeen === undefined || finish === finishSeen) return null
  return finish === null || later(finish, finishSeen) ? { code: 'finish slipped', from: finishSeen, to: finish } : null
}

function silent({ lastSign, registered, silentDays, now, signedOff }: NeedsInput): Need | null {
  if (registered || signedOff || lastSign === null) return null
  const days = Math.floor((Date.parse(now) - Date.parse(lastSign)) / 86_400_000)
  return days >= silentDays ? { code: 'silent', days } : null
}
