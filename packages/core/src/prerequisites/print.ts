import type { Expression } from './types'

/** The text form of a rule; `parseExpression(printExpression(e))` gives `e` again. */
export function printExpression(expression: Expression | null): string {
  return expression ? print(expression) : ''
}

function print(expression: Expression): string {
  switch (expression.kind) {
    case 'all':
      return expression.of.map(part => part.kind === 'any' || part.kind === 'all' ? `(${print(part)})` : print(part)).join(' and ')
    case 'any':
      return expression.of.map(part => part.kind === 'any' ? `(${print(part)})` : print(part)).join(' or ')
    case 'atLeast':
      return `${expression.n} of (${expression.of.map(print).join(', ')})`
    case 'course':
      return expression.course + (expression.minGrade ? ` with ${expression.minGrade}` : '') + (expression.alongside ? ' or alongside' : '')
    case 'credits':
      return `${expression.credits / 100} credits`
        + (expression.subject ? ` in ${expression.subject}` : '') + (expression.levelMin !== undefined ? ` at ${expression.levelMin}+` : '')
    case 'placement':
      return `placement ${expression.test} at least ${expression.score}`
    case 'program':
      return `program ${expression.program}`
    case 'standing':
      return `standing ${expression.standing}`
    case 'permission':
      return 'permission'
    case 'gpa':
      return `GPA at least ${(expression.minimum / 100).toFixed(2)}`
    case 'not':
      return `not open to ${print(expression.condition)}`
  }
}
