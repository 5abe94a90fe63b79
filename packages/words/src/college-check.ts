import type { CollegeFinding } from '@ridgeway/core/office'
import { formatCredits, sayCredits } from './credits'
import { count, joinWords } from './lists'
import { sayWhy } from './reach'
import { sayTerm } from './terms'

/** What the office has to look at in its catalog, and what would mend it. */
export function sayCollegeFinding(finding: CollegeFinding): string {
  switch (finding.code) {
    case 'given no more':
      return `${finding.course} is given in no term ahead, and ${joinWords(finding.programs, 'and')} ${
        finding.programs.length === 1 ? 'names' : 'name'} it. Name what stands in its place, or announce it.`
    case 'line cannot be filled':
      return `${finding.program}, ${finding.line}: who begins now can never fill it${finding.reasons.length > 0
        ? `, since ${finding.reasons.slice(0, 2).map(sayWhy).join('; ')}`
        : ''}. Widen the line, or offer what it asks for.`
    case 'sequence too early':
      return `${finding.program}, ${finding.step}: ${finding.course} comes before what it asks for. Move it to a later step.`
    case 'sequence not given':
      return `${finding.program}, ${finding.step}: ${finding.course} is not given in ${finding.season}. Move it to a step of its season.`
    case 'sequence over the cap':
      return `${finding.program}, ${finding.step}: ${sayCredits(finding.credits)} are over the cap of ${
        formatCredits(finding.cap)}. Spread them over more steps.`
    case 'minutes':
      return `${finding.course}-${finding.label} in ${sayTerm(finding.term)} meets ${count(finding.minutes, 'minute')} in all; its credits `
        + `stand for ${finding.least} to ${finding.most}. Mend its meetings, or the credits.`
  }
}
