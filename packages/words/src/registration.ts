import type { Finding, OtherBundle, SeatCount } from '@ridgeway/core/registration'
import { mostCredit } from './checks'
import { sayNeeds, sayReason } from './conditions'
import { formatCredits, sayCredits } from './credits'
import { sayGate } from './gates'
import { joinWords } from './lists'
import { describeOffering, sayDate, termName } from './terms'
import { clockTime } from './times'

/** What was found about a row, and the way forward; `way` is empty where it is in order. */
export interface Said {
  words: string
  way: string
}

const fine = (words: string): Said => ({ words, way: '' })

/** Refusals of a row in words, each thing once: parts of one choice that are full are one refusal, with one way forward. */
export function sayRefusals(findings: readonly Finding[]): (Said & { finding: Finding })[] {
  const full = findings.flatMap(finding => finding.code === 'seats-full' && !finding.ok ? [finding] : [])
  const said = findings.filter(finding => finding.code !== 'seats-full').map(finding => ({ finding, ...sayFinding(finding) }))
  const first = full[0]
  if (!first) return said
  if (full.length === 1) return [...said, { finding: first, ...sayFinding(first) }]
  const parts = full.map(({ course, label, seats }) => `${course}-${label} (${saySeats(seats)})`)
  return [...said, { finding: first, words: `${joinWords(parts, 'and')} are full.`, way: sayFinding(first).way }]
}

/** A finding about a row of a line-up in words. */
export function sayFinding(finding: Finding): Said {
  switch (finding.code) {
    case 'gate': {
      const { title, words, way } = sayGate(finding.gate)
      return { words: `${title}: ${words}.`, way }
    }
    case 'section-unknown':
      return { words: `A section chosen for ${finding.course} is not in ${termName(finding.term)}.`, way: 'Choose a bundle again in Week.' }
    case 'session-closed':
      return { words: `${finding.course}-${finding.label} could be added until ${sayDate(finding.by)}.`,
        way: 'Choose a bundle of a later part of the term in Week, or ask your advisor for a late add.' }
    case 'not-signed':
      return { words: `${finding.course} is not among what ${finding.by} signed off for ${termName(finding.term)}.`,
        way: 'Ask for sign-off again: the changed term is shown to your advisor.' }
    case 'section-cancelled':
      return { words: `${finding.course}-${finding.label} is cancelled.`, way: 'Choose another bundle in Week.' }
    case 'bundle-incomplete': {
      const what = finding.missing.length > 0 ? `lacks its ${joinWords(finding.missing, 'and')}` : 'has parts that do not belong together'
      return { words: `The choice for ${finding.course} ${what}.`, way: 'Choose a complete bundle in Week.' }
    }
    case 'duplicate': {
      const where = finding.state === 'registered' ? `registered in ${termName(finding.term)} already` : 'in this line-up already'
      return finding.by === finding.course
        ? { words: `${finding.course} is ${where}.`, way: 'To change sections, drop or replace the registered one.' }
        : { words: `${finding.course} gives the same credit as ${finding.by}, which is ${where}.`, way: 'Keep one of the two.' }
    }
    case 'taken-elsewhere': {
      const state = `${finding.state}${finding.term ? ` in ${termName(finding.term)}` : ''}`
      return finding.by === finding.course
        ? { words: `${finding.course} is ${state}; it gives ${mostCredit(finding)}.`,
            way: 'Take it out of the line-up until that is decided.' }
        : { words: `${finding.course} gives the same credit as ${finding.by}, which is ${state}.`,
            way: 'Take it out of the line-up until that is decided.' }
    }
    case 'already-passed':
      return {
        words: finding.by === finding.course
          ? `${finding.course} is passed with ${finding.grade}; it gives ${mostCredit(finding)}.`
          : `${finding.course} gives the same credit as ${finding.by}, which is passed with ${finding.grade}.`,
        way: 'Take it out of the plan.',
      }
    case 'same-topic': {
      const state = finding.state === 'completed' ? 'passed' : finding.state
      const when = finding.term ? `, ${termName(finding.term)}` : ''
      return { words: `"${finding.topic}" gives credit once, and ${finding.course} with it is ${state} already${when}.`,
        way: 'Choose a section with another topic in Week.' }
    }
    case 'exclusion':
      return {
        words: `No credit for both ${finding.course} and ${finding.by}, which is ${
          finding.state === 'in the line-up' ? 'in this line-up' : finding.state
        }.`,
        way: `Take ${finding.course} out of the plan.`,
      }
    case 'prerequisite': {
      if (finding.ok) return fine(finding.reason ? `Prerequisite: ${sayReason(finding.reason)}.` : 'Prerequisite lifted by an exception.')
      const plan = finding.first ? `Plan ${finding.first.course} first (${describeOffering(finding.first)}), or ask` : 'Ask'
      return { words: `Needs ${sayNeeds(finding.needs, 'record')}.`, way: `${plan} your advisor for a prerequisite exception.` }
    }
    case 'corequisite':
      return finding.ok
        ? fine(`Corequisite: ${sayReason(finding.reason)}.`)
        : {
            words: `Goes with ${sayNeeds(finding.needs, 'record')}, in the same term or before.`,
            way: 'Add it to the line-up, so that both are registered together.',
          }
    case 'partner-refused': {
      const because = finding.because.map(one => sayFinding(one).words).slice(0, 2).join(' ')
      return { words: `Goes with ${finding.partner}, which is refused: ${because}`,
        way: finding.because.map(one => sayFinding(one).way)[0] ?? '' }
    }
    case 'restriction':
      return {
        words: `${finding.course}-${finding.label} is kept for ${joinWords(finding.groups, 'or')} students.`,
        way: 'Choose another bundle in Week, or ask for an exception.',
      }
    case 'clash': {
      const { clash, state } = finding
      const other = `${finding.course}-${finding.label} (${state === 'registered' ? state : 'in this line-up'})`
      return {
        words: clash.kind === 'overlap'
          ? `Clashes with ${other}, first on ${sayDate(clash.date)}.`
          : `Too little time from ${other}: ${clash.shortBy} min short on ${sayDate(clash.date)}.`,
        way: 'Choose another bundle for one of the two in Week.',
      }
    }
    case 'own-clash':
      return {
        words: `The ${finding.parts[0]} and the ${finding.parts[1]} of ${finding.course} clash with each other, first on ${
          sayDate(finding.clash.date)
        }.`,
        way: 'Choose another bundle in Week.',
      }
    case 'load-cap':
      return finding.ok
        ? fine(`${formatCredits(finding.credits)} of at most ${sayCredits(finding.cap)}.`)
        : {
            words: `${sayCredits(finding.credits)}${
              finding.partners.length > 0 ? `, with ${joinWords(finding.partners, 'and')} that it goes with,` : ''
            } would be over the cap of ${formatCredits(finding.cap)}.`,
            way: 'Leave a course for later, or ask your advisor for a load exception.',
          }
    case 'waitlist-full':
      return { words: `The waitlist of ${finding.course}-${finding.label} is full too: ${finding.waiting} wait.`,
        way: 'Choose another bundle in Week.' }
    case 'waiting-already':
      return { words: `You are on the waitlist of ${finding.course}-${finding.label} already.`,
        way: 'A seat is offered to you when it is your turn; take the row out of the line-up.' }
    case 'seats-full':
      return finding.ok
        ? fine(`${finding.left} ${finding.left === 1 ? 'seat' : 'seats'} left.`)
        : { words: `${finding.course}-${finding.label} is full: ${saySeats(finding.seats)}.`,
            way: sayOtherBundle(finding.course, finding.other) }
  }
}

function saySeats({ capacity, taken, held, waiting, kept }: SeatCount): string {
  return [
    `${taken} of ${capacity} seats taken`,
    held > 0 ? `${held} held by ${held === 1 ? 'an offer' : 'offers'}` : '',
    waiting > 0 ? `${waiting} waiting` : '',
    kept.seats > 0 ? `${kept.seats} kept for ${joinWords(kept.for, 'or')}` : '',
  ].filter(Boolean).join(', ')
}

function sayOtherBundle(course: string, other: OtherBundle | null): string {
  if (!other) return `No other bundle of ${course} has a seat; ask your advisor what else fills the requirement.`
  const when = other.meets ? `, ${other.meets.days.join(' ')} ${clockTime(other.meets.start)}` : ''
  return `Choose ${course}-${other.label}${when}: ${other.left} left.`
}

/** A refusal in a few words, for a row where there is no room for a sentence. */
export function sayShortly(finding: Finding): string {
  switch (finding.code) {
    case 'clash': return finding.clash.kind === 'overlap'
      ? `clashes with ${finding.course}-${finding.label}`
      : `${finding.clash.shortBy} min too short from ${finding.course}-${finding.label}`
    case 'own-clash': return 'its parts clash with each other'
    case 'seats-full': return finding.ok
      ? ''
      : finding.seats.kept.seats > 0
        ? `full for you: ${finding.seats.kept.seats} kept for others`
        : 'full'
    case 'restriction': return `only for ${joinWords(finding.groups, 'or')}`
    case 'prerequisite': return finding.ok ? '' : `needs ${sayNeeds(finding.needs, 'record')}`
    case 'corequisite': return finding.ok ? '' : `goes with ${sayNeeds(finding.needs, 'record')}`
    case 'already-passed': return `passed already${finding.grade ? ` with ${finding.grade}` : ''}`
    case 'taken-elsewhere': return `${finding.state} already`
    case 'same-topic': return 'a topic you have had'
    case 'exclusion': return `no credit beside ${finding.by}`
    case 'load-cap': return `over the cap of ${sayCredits(finding.cap)}`
    default: return sayFinding(finding).words
  }
}
