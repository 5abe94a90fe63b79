import { formatCredits } from '../catalog/credits'
import type { CourseItem } from '../catalog/types'
import type { Expression } from './types'

/** The text form of a rule; `parseExpression(printExpression(e))` gives `e` again. */
export function printExpression(expression: Expression | null): string {
  return expression ? print(expression) : ''
}

function print(expression: Expression): string {
  switch (expression.kind) {
    case 'all': return expression.of.map(part => part.kind === 'any' || part.kind === 'all' ? `(${print(part)})` : print(part)).join(' and ')
    case 'any': return expression.of.map(part => part.kind === 'any' ? `(${print(part)})` : print(part)).join(' or ')
    case 'atLeast': return `${expression.n} of (${expression.of.map(print).join(', ')})`
    case 'course': return expression.course + (expression.minGrade ? ` with ${expression.minGrade}` : '') + (expression.alongside ? ' or alongside' : '')
    case 'credits': return `${formatCredits(expression.credits)} credits`
      + (expression.subject ? ` in ${expression.subject}` : '') + (expression.levelMin !== undefined ? ` at ${expression.levelMin}+` : '')
    case 'placement': return `placement ${expression.test} at least ${expression.score}`
    case 'program': return `program ${expression.program}`
    case 'standing': return `standing ${expression.standing}`
    case 'permission': return 'permission'
  }
}

/** One condition as a person would say it: "CHY 110 with C or better". */
export function sayCondition(expression: Expression): string {
  switch (expression.kind) {
    case 'course': return expression.course + (expression.minGrade ? ` with ${expression.minGrade} or better` : '')
      + (expression.alongside ? ' (or in the same term)' : '')
    case 'credits': return `${formatCredits(expression.credits)} credits earned`
      + (expression.subject ? ` in ${expression.subject}` : '') + (expression.levelMin !== undefined ? ` at ${expression.levelMin} or above` : '')
    case 'placement': return `a ${expression.test} placement score of at least ${expression.score}`
    case 'program': return `enrolment in program ${expression.program}`
    case 'standing': return `${expression.standing} standing`
    case 'permission': return 'the instructor\'s permission'
    case 'all': return expression.of.map(part => part.kind === 'any' ? `(${sayCondition(part)})` : sayCondition(part)).join(' and ')
    case 'any': return expression.of.map(sayCondition).join(' or ')
    case 'atLeast': return `${expression.n} of ${expression.of.map(sayCondition).join(', ')}`
  }
}

/** Says the smallest missing sets: "CHY 120 with C or better; or MTH 140 and STT 201". */
export function sayMissing(missing: Expression[][], items: readonly CourseItem[]): string {
  return missing.slice(0, 2).map(set => set.map((expression) => {
    const words = sayCondition(expression)
    if (expression.kind !== 'course') return words
    const item = items.find(i => i.course === expression.course)
    if (!item) return `${words} first, which is not in the plan`
    return item.state === 'completed' ? `${words} (you have ${item.grade})` : `${words} first, which is ${item.state} for ${item.term}`
  }).join(' and ')).join('; or ')
}
