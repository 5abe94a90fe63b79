import type { MoveName, PlanCheck } from '@ridgeway/core/planning'
import { sayNeeds } from './conditions'
import { formatCredits, sayCredits } from './credits'
import { sentence } from './lists'
import { ruleTitle, sayOutOfReach, sayRule } from './rules'
import { describeOffering, sayTerm, termName } from './terms'

/** What is wrong with the plan, where, and what was asked. */
export function sayCheck(check: PlanCheck): string {
  const { course } = check
  switch (check.kind) {
    case 'term over':
      return `${termName(check.in)} has begun; ${course} was not taken.`
    case 'not offered':
      return `${course} is not offered in ${termName(check.in)}: ${describeOffering(check)} only.`
    case 'offering not announced':
      return `Nobody has said yet in which terms ${course} is given; ${termName(check.in)} may not be one of them.`
    case 'prerequisite':
      return `${course} is too early in ${termName(check.in)}: it needs ${sayNeeds(check.needs)}.`
    case 'corequisite':
      return `${course} goes with ${sayNeeds(check.needs, 'beside')}, in the same term or before.`
    case 'already passed':
    case 'repeat limit': {
      const had = check.state === 'completed' ? `passed with ${check.grade}` : `${check.state} in another term`
      return check.by === course
        ? `${course} is ${had}; it gives ${mostCredit(check)}.`
        : `${course} gives the same credit as ${check.by}, which is ${had}; they give credit ${times(check.times)} together.`
    }
    case 'excluded':
      return `No credit for both ${course} and ${check.by}, which is ${check.state}.`
    case 'over the cap':
      return `${termName(check.in)} has ${sayCredits(check.credits)}, the cap is ${
        formatCredits(check.cap)
      }. Move a course, or ask your advisor for a load exception.`
    case 'under the wish':
      return `${termName(check.in)} has ${sayCredits(check.credits)}, fewer than the ${
        formatCredits(check.wish)
      } you wish for in a term.`
    case 'term off':
      return `${course} stands in ${termName(check.in)}, a term you want off.`
    case 'past the wished finish':
      return `${course} stands in ${termName(check.in)}; you want to finish by ${sayTerm(check.finish)}.`
    case 'differs from sign-off': {
      const changes = [...check.gone.map(one => `${one} is gone`), ...check.added.map(one => `${one} is new`)]
      return `${termName(check.in)} is no longer what was signed off: ${changes.join(', ')}.`
    }
    case 'differs from registration':
      return `${course} is planned for ${termName(check.in)}, and you registered without it.`
    case 'to choose':
      return check.over
        ? `${termName(check.in)} has begun; no course was chosen for this place.`
        : `The sections of ${termName(check.in)} are known: choose a course for this place.`
    case 'counts for nothing':
      return `${course} counts for nothing yet: no requirement line has room for it.`
    case 'not reached':
      return `${check.program}${sayUnreached(check.lacks)}.`
    case 'gpa':
      return sentence(`${check.program}, ${ruleTitle(check.rule)}: ${sayOutOfReach(check.rule) || sayRule(check.rule)}`)
  }
}

function sayUnreached(lacks: Extract<PlanCheck, { kind: 'not reached' }>['lacks']): string {
  if ('overlay' in lacks) return `, ${lacks.overlay}: nothing in the plan carries it yet, ${sayCredits(lacks.open)} are open`
  if ('open' in lacks) return `: ${sayCredits(lacks.open)} have no place in the plan yet`
  const held = lacks.held > 0 ? ` and ${formatCredits(lacks.held)} more with the places held` : ''
  return `, ${ruleTitle(lacks.rule)}: ${sayRule(lacks.rule)}${held}`
}

/** "credit once", "credit 3 times", "6 credits in all". */
export const mostCredit = ({ times: n, most }: { times: number, most?: number }) =>
  most === undefined ? `credit ${times(n)}` : `${sayCredits(most)} in all`

/** "once", "3 times". */
const times = (n: number) => n === 1 ? 'once' : `${n} times`

/** What a move that mends a problem does. */
export function sayMove(move: MoveName): string {
  switch (move.code) {
    case 'take out':
      return `Take ${move.course} out`
    case 'take the place out':
      return 'Take this place out'
    case 'move here':
      return `Move to ${termName(move.term)}`
    case 'move':
      return `Move ${move.course} to ${termName(move.term)}`
    case 'place':
      return `Place ${move.course} in ${termName(move.term)}`
    case 'put back':
      return `Put ${termName(move.term)} back as it was signed off${move.without.length > 0 ? `, without ${move.without.join(', ')}` : ''}`
  }
}
