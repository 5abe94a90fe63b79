import { parseExpression } from './parse'
import type { Expression } from './types'

const parsed = new Map<string, Expression | null>()

/** The rule of a catalog text; the catalog is checked when it is loaded, so an unreadable text here is a fault. */
export function ruleOf(text: string): Expression | null {
  const known = parsed.get(text)
  if (known !== undefined) return known
  const result = parseExpression(text)
  if (!result.ok) throw new Error(`the rule "${text}" cannot be read at ${result.problem.at}: ${result.problem.message}`)
  parsed.set(text, result.expression)
  return result.expression
}
