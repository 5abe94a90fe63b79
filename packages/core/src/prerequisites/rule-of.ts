import { parseExpression } from './parse'
import type { Expression } from './types'

const parsed = new Map<string, Expression | null>()

/**
 * The rule of a catalog text. The catalog is checked when it is loaded (`checkCatalog`), so an unreadable text here is a fault.
 * @throws Error when the text is no rule.
 */
export function ruleOf(text: string): Expression | null {
  const known = parsed.get(text)
  if (known !== undefined) return known
  const result = parseExpression(text, null)
  if (!result.ok) throw new Error(`the rule "${text}" cannot be read at ${result.problem.at}: ${result.problem.expected.code}`)
  parsed.set(text, result.expression)
  return result.expression
}
