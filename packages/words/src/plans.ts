import type { Plan, PlanOperation } from '@ridgeway/core/planning'
import { courseOfEntryId } from '@ridgeway/core/record'
import { sayCredits } from './credits'
import { sayTerm } from './terms'

/**
 * One operation as somebody would tell it: "moved HYD 310 to Spring 2028". `plan` is one that still knows, or knows by now, what it is
 * about.
 */
export function sayOperation(operation: PlanOperation, plan: Known): string {
  const name = nameIn(operation, plan)
  switch (operation.kind) {
    case 'place':
      return `placed ${operation.course} in ${sayTerm(operation.term)}`
    case 'hold':
      return `held a place in ${sayTerm(operation.term)}`
    case 'move':
      return `moved ${name} to ${sayTerm(operation.term)}`
    case 'remove':
      return `took ${name} out`
    case 'pin':
      return `${operation.pinned ? 'pinned' : 'unpinned'} ${name}`
    case 'pin use':
      return operation.line === null ? `unpinned the use of ${name}` : `pinned the use of ${name}`
    case 'credits':
      return `set ${name} to ${sayCredits(operation.credits)}`
    case 'note':
      return `wrote a note on ${name}`
    case 'wishes':
      return 'changed the wishes'
    case 'plan note':
      return 'wrote a note on the plan'
    case 'term note':
      return `wrote a note on ${sayTerm(operation.term)}`
  }
}

/** The same as something that could be done: "move HYD 310 to Spring 2028". */
export function sayProposal(operation: PlanOperation, plan: Known): string {
  const name = nameIn(operation, plan)
  switch (operation.kind) {
    case 'place':
      return `place ${operation.course} in ${sayTerm(operation.term)}`
    case 'hold':
      return `hold a place in ${sayTerm(operation.term)}`
    case 'move':
      return `move ${name} to ${sayTerm(operation.term)}`
    case 'remove':
      return `take ${name} out`
    case 'pin':
      return `${operation.pinned ? 'pin' : 'unpin'} ${name}`
    case 'pin use':
      return operation.line === null ? `unpin the use of ${name}` : `pin the use of ${name}`
    case 'credits':
      return `take ${name} for ${sayCredits(operation.credits)}`
    case 'note':
      return `a note on ${name}: ${operation.note}`
    case 'wishes':
      return 'other wishes for the terms ahead'
    case 'plan note':
      return `a note on the plan: ${operation.note}`
    case 'term note':
      return `a note on ${sayTerm(operation.term)}: ${operation.note}`
  }
}

type Known = Pick<Plan, 'entries' | 'placeholders'>
function nameIn(operation: PlanOperation, plan: Known): string {
  if (!('entry' in operation)) return ''
  return plan.entries.find(entry => entry.id === operation.entry)?.course
    ?? (plan.placeholders.some(one => one.id === operation.entry) ? 'a place to choose' : courseOfEntryId(operation.entry) ?? 'a course')
}
