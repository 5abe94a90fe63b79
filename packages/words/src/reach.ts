import type { Candidate, CandidateNote, Lost, Why } from '@ridgeway/core/requirements'
import { sayNeeds } from './conditions'
import { sayCredits } from './credits'
import { sentence } from './lists'
import { describeOffering, sayTerm, termName } from './terms'

/** Why a course cannot be taken any more, or what it waits for. */
export function sayWhy(why: Why): string {
  switch (why.code) {
    case 'asks for itself': return `${why.course} asks for itself`
    case 'not in the catalog': return `${why.course} is not in the catalog`
    case 'in no term ahead': return `${why.course} is in no term ahead`
    case 'excluded': return `${why.course} gives no credit beside ${why.by}, which is ${why.state === 'completed' ? 'passed' : why.state}`
    case 'needs what cannot be had': return `${why.course} needs something that cannot be had any more: ${sayWhy(why.why)}`
    case 'last offered': return `${why.course} was last offered in ${sayTerm(why.until)}`
    case 'placement': return `a ${why.test} placement of ${why.score}`
    case 'program': return `being in ${why.program}`
    case 'closed': return `not open to ${why.to}`
    case 'credits': return `${sayCredits(why.credits)} earned`
  }
}

/** Why a line cannot be filled any more, and what can be done. */
export function sayLost({ reasons }: Lost): string {
  const why = reasons.length > 0 ? sentence(reasons.slice(0, 2).map(sayWhy).join('; ')) : 'No course that is left fits this line.'
  return `${why} Ask your advisor for a substitution or a waiver.`
}

/** Why a course is among those that can be taken now, later, or not yet. */
export function sayCandidate({ course, note }: Pick<Candidate, 'course' | 'note'>): string {
  switch (note.code) {
    case 'can take':
    case 'if passed':
    case 'if planned': return sayStanding(note.code)
    case 'offered later': return `${describeOffering(course)}: ${termName(note.term)}`
    case 'ready later': return `from ${termName(note.term)}: ${sayStanding(note.then)}`
    case 'needs': return `needs ${sayNeeds(note.needs)}`
    case 'in no term of the plan': return 'not offered in any term of the plan'
  }
}

const sayStanding = (code: Extract<CandidateNote, { code: 'ready later' }>['then']) =>
  ({ 'can take': 'you can take it', 'if passed': 'if what is under way is passed', 'if planned': 'if the plan before it holds' })[code]
