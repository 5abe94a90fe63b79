import { DateTime } from 'luxon'
import type { Gate } from '@ridgeway/core/registration'
import { sayDate, termName } from './terms'

/** What a gate is called, how it stands, and what to do about a closed one. */
export interface GateWords {
  title: string
  words: string
  way: string
}

const TITLES: Record<Gate['kind'], string> = {
  'opening': 'Opening', 'closing': 'Closing', 'office': 'Registration', 'sign-off': 'Sign-off', 'holds': 'Holds', 'program': 'Program',
  'terms': 'Terms' }

/** A gate said; `way` is empty where it is open. */
export function sayGate(gate: Gate): GateWords {
  const { words, way } = sayState(gate)
  return { title: TITLES[gate.kind], words, way: gate.open ? '' : way }
}

function sayState(gate: Gate): { words: string, way: string } {
  const term = termName(gate.term)
  switch (gate.kind) {
    case 'opening': {
      if (gate.from === null) return { words: `No opening is set for ${term}.`, way: 'The registrar\'s office sets openings; ask there.' }
      const when = DateTime.fromISO(gate.from, { zone: gate.zone }).toFormat('ccc d LLL, HH:mm')
      return gate.open
        ? { words: `open since ${when}`, way: '' }
        : { words: `opens ${when}`, way: `Registration for ${term} opens for you on ${when} (${gate.who}).` }
    }
    case 'closing':
      return { words: `closed after ${sayDate(gate.by)}`,
        way: `Courses of ${term} could be added until ${sayDate(gate.by)}. Choose a later term, or ask the registrar's office.` }
    case 'office':
      return { words: `closed by the office: ${gate.because}`, way: 'Your line-up is kept; the office opens registration again.' }
    case 'sign-off': {
      if (gate.signed && gate.needsCode)
        return { words: `by ${gate.signed.by}, ${sayDate(gate.signed.on)}; a release code is asked for besides`,
          way: `Enter the release code that ${gate.signed.by} gave you.` }
      if (gate.released && !gate.signed && gate.open) return { words: `released by a code, ${sayDate(gate.released)}`, way: '' }
      if (gate.signed) return { words: `by ${gate.signed.by}, ${sayDate(gate.signed.on)}`, way: '' }
      const who = gate.advisor ?? 'an advisor'
      if (gate.returned) return { words: `${who} asks for changes: ${gate.returned}`, way: `Change the plan, then ask for sign-off again.` }
      return gate.asked
        ? { words: `asked, not yet given by ${who}`, way: `${who} has your request. If it is urgent ask them for a release code.` }
        : { words: 'not asked for', way: `Ask ${who} to sign off ${term}.` }
    }
    case 'holds': {
      const first = gate.holds[0]
      return first
        ? { words: gate.holds.map(hold => hold.reason).join('; '), way: `Contact ${first.contact} to clear it.` }
        : { words: 'none', way: '' }
    }
    case 'program':
      return gate.open
        ? { words: `${gate.program}, confirmed`, way: '' }
        : { words: `${gate.program || 'no program'}, not confirmed`, way: 'Confirm your program and catalog year under Now.' }
    case 'terms':
      return gate.accepted
        ? { words: `accepted ${sayDate(gate.accepted)}`, way: '' }
        : { words: 'not accepted', way: `Read and accept the terms of registration for ${term}.` }
  }
}
