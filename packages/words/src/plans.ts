import type { Plan, PlanOperation } from '@ridgeway/core/planning'
import { courseOfEntryId } from '@ridgeway/core/record'
import { formatCredits } from './credits'
import { sayTerm } from './terms'

/**
 * One operation as somebody would tell it: "moved HYD 310 to Spring 2028". `plan` is one that still knows, or knows by now, what it is
 * about.
 */
export function sayOperation(operation: PlanOperation, plan: Pick<Plan, 'entries' | 'placeholders'>): string {
  const name = 'entry' in operation
    ? plan.entries.find(entry => entry.id === operation.entry)?.course
    ?? (plan.placeholders.some(one => one.id === operation.entry) ? 'a place to choose' : courseOfEntryId(operation.entry) ?? 'a course')
    : ''
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
      return `set ${name} to ${formatCredits(operation.credits)} credits`
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
