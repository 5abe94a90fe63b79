import type { Closed, Expression, Lack, Reason } from '@ridgeway/core/prerequisites'
import { formatCredits, sayCredits } from './credits'
import { formatGpa } from './grades'
import { sayTerm } from './terms'

/** One condition as a person would say it: "CHY 110 with C or better". */
function sayCondition(expression: Expression): string {
  switch (expression.kind) {
    case 'course':
      return expression.course + (expression.minGrade ? ` with ${expression.minGrade} or better` : '')
        + (expression.alongside ? ' (or in the same term)' : '')
    case 'credits':
      return `${sayCredits(expression.credits)} earned`
        + (expression.subject ? ` in ${expression.subject}` : '')
        + (expression.levelMin !== undefined ? ` at ${expression.levelMin} or above` : '')
    case 'placement':
      return `a ${expression.test} placement score of at least ${expression.score}`
    case 'program':
      return `enrolment in program ${expression.program}`
    case 'standing':
      return `${expression.standing} standing`
    case 'permission':
      return 'the instructor\'s permission'
    case 'gpa':
      return `an average of at least ${formatGpa(expression.minimum)}`
    case 'not':
      return sayClosed(expression.condition)
    case 'all':
      return expression.of.map(part => part.kind === 'any' ? `(${sayCondition(part)})` : sayCondition(part)).join(' and ')
    case 'any':
      return expression.of.map(sayCondition).join(' or ')
    case 'atLeast':
      return `${expression.n} of ${expression.of.map(sayCondition).join(', ')}`
  }
}

/** Whom a course is not open to, as what a student must be. */
function sayClosed(condition: Closed): string {
  if (condition.kind === 'program') return `a student who is not in program ${condition.program}`
  if (condition.kind === 'standing') return `a student who is not a ${condition.standing}`
  return `a student who has neither passed ${condition.course} nor is taking it`
}

/**
 * Says what is missing, at most two sets: "CHY 120 with C or better (you have D); or MTH 140 first, which is not in the plan".
 * On registration day a plan is no help, so there only the record is told; beside a course nothing has to come first.
 */
export function sayNeeds(needs: readonly Lack[][], against: 'plan' | 'record' | 'beside' = 'plan'): string {
  return needs.slice(0, 2).map((set) => {
    const parts = set.map(lack => sayLack(lack, against))
    return parts.join(parts.slice(0, -1).some(part => part.includes(',')) ? ', and ' : ' and ')
  }).join('; or ')
}

function sayLack({ condition, held }: Lack, against: 'plan' | 'record' | 'beside'): string {
  const words = sayCondition(condition)
  if (condition.kind !== 'course') return words
  const first = against === 'plan' ? ' first' : ''
  if (!held) return against === 'record' ? `${words}, which is not on your record` : `${words}${first}, which is not in the plan`
  return held.state === 'completed'
    ? `${words} (you have ${held.grade ?? 'no grade'})`
    : `${words}${first}, which is ${held.state}${held.term ? ` for ${sayTerm(held.term)}` : ''}`
}

/** How a rule is met: the conditions that hold, each with what it rests on. */
export function sayReason(reason: Reason): string {
  const met = reason.parts.filter(part => part.firmness !== 'unmet')
  return met.length > 0 ? met.map(sayReason).join(', ') : sayBecause(reason)
}

/** What decided one condition: "CHY 110 passed with B", "60 credits earned: 45 by then". */
export function sayBecause({ expression, because }: Pick<Reason, 'expression' | 'because'>): string {
  const condition = sayCondition(expression)
  switch (because.code) {
    case 'as stated':
      return condition
    case 'passed':
      return `${because.course} passed with ${because.grade}`
    case 'grade too low':
      return `${because.course} has ${because.grade ?? 'no grade'}, ${
        because.minGrade ? `${because.minGrade} or better` : 'a passing grade'
      } is needed`
    case 'not before':
      return `${because.course} is ${because.state} for ${because.sameTerm ? 'the same term' : 'a later term'}, it must come ${
        because.alongside ? 'no later' : 'first'
      }`
    case 'to be passed':
      return `${because.course} ${because.state}${because.minGrade ? `, ${because.minGrade} or better is needed` : ''}`
    case 'intended':
      return `${because.course} ${because.state}`
    case 'absent':
      return `${condition}: not on your record and not in the plan`
    case 'credits by then':
      return `${condition}: ${formatCredits(because.credits)} by then`
    case 'standing now':
      return `${condition}: ${because.standing} now`
    case 'average now':
      return `${condition}: ${because.value === null ? 'no grades yet' : `${formatGpa(because.value)} now`}`
    case 'score':
      return because.score === null
        ? `${condition}: no score on file`
        : `${expression.kind === 'placement' ? expression.test : ''} placement score ${because.score}`
  }
}
