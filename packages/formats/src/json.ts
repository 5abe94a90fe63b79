import { findNodeAtLocation, type Node as JsonNode, type ParseError, parseTree, printParseErrorCode } from 'jsonc-parser'
import type { z } from 'zod'

/**
 * Something wrong in a file: where (line and column, counted from 1), which part, and what to do. Items of a list are counted from 1 as
 * well.
 */
export interface FormatProblem {
  line: number
  column: number
  path: string
  message: string
}

export type JsonPath = (string | number)[]

/** Deeper than any format of ours is nested; a file made to be deep must not exhaust the stack. */
const MOST_DEPTH = 60

/** A JSON text that was read: its value, and where its parts stand. */
export interface JsonText {
  value: unknown
  problemAt: (path: JsonPath, message: string) => FormatProblem
}

/** Reads a JSON text. What is no JSON, nested too deeply, or names a key twice is told by place; then there is no value. */
export function readJson(text: string): { ok: true, json: JsonText } | { ok: false, problems: FormatProblem[] } {
  const clean = text.replace(/^\uFEFF/, '')
  const at = (offset: number) => {
    const before = clean.slice(0, offset).split('\n')
    return { line: before.length, column: before.at(-1)!.length + 1 }
  }
  const fail = (offset: number, message: string, path = '') => ({ ok: false as const, problems: [{ ...at(offset), path, message }] })
  const deep = tooDeepAt(clean)
  if (deep !== null)
    return fail(deep, `This is nested more than ${MOST_DEPTH} levels deep, which no file of this format is. Check the brackets.`)
  const errors: ParseError[] = []
  const root = parseTree(clean, errors, { disallowComments: true })
  const first = errors[0]
  if (first || !root) return fail(first?.offset ?? 0, first ? `This is not JSON: ${sayJsonError(first)}.` : 'The file is empty.')
  const problems = repeatedKeys(root, []).map(({ offset, path, key }): FormatProblem => ({ ...at(offset), path: sayPath(path),
    message: `"${key}" stands here twice; only one can hold. Remove one of them.` }),
  )
  if (problems.length > 0) return { ok: false, problems }
  return { ok: true,
    json: { value: toValue(root),
      problemAt: (path, message) => ({ ...at((nearestNode(root, path) ?? root).offset), path: sayPath(path), message }) } }
}

/** Where brackets stand open more than so many times, outside strings; null when they never do. */
function tooDeepAt(text: string): number | null {
  let depth = 0
  let quoted = false
  for (let i = 0; i < text.length; i++) {
    const char = text[i]
    if (quoted) {
      if (char === '\\') i++
      else if (char === '"') quoted = false
    }
    else if (char === '"') quoted = true
    else if (char === '{' || char === '[') {
      if (++depth > MOST_DEPTH) return i
    }
    else if (char === '}' || char === ']') depth--
  }
  return null
}

function repeatedKeys(node: JsonNode, path: JsonPath): { offset: number, path: JsonPath, key: string }[] {
  if (node.type === 'array') return (node.children ?? []).flatMap((child, i) => repeatedKeys(child, [...path, i]))
  if (node.type !== 'object') return []
  const seen = new Set<string>()
  return (node.children ?? []).flatMap(({ children }) => {
    const [name, value] = children ?? []
    if (!name || !value) return []
    const key = String(name.value)
    const again = seen.has(key)
    seen.add(key)
    return [...again ? [{ offset: name.offset, path: [...path, key], key }] : [], ...repeatedKeys(value, [...path, key])]
  })
}

function toValue(node: JsonNode): unknown {
  if (node.type === 'array') return (node.children ?? []).map(toValue)
  if (node.type !== 'object') return node.value
  return Object.fromEntries(
    (node.children ?? []).flatMap(({ children }) => children?.length === 2 ? [[children[0]!.value, toValue(children[1]!)]] : []),
  )
}

/** The node at a path, or the innermost one on the way that exists. */
function nearestNode(root: JsonNode, path: JsonPath): JsonNode | undefined {
  for (let length = path.length; length >= 0; length--) {
    const found = findNodeAtLocation(root, path.slice(0, length))
    if (found) return found
  }
  return undefined
}

/** `['areas', 0, 'title']` → `areas[1].title`: items of lists are counted from 1, in every format. */
export const sayPath = (path: readonly PropertyKey[]) =>
  path.map(part => typeof part === 'number' ? `[${part + 1}]` : `.${String(part)}`).join('').replace(/^\./, '')

const sayJsonError = ({ error }: ParseError) => printParseErrorCode(error).replace(/([A-Z])/g, ' $1').trim().toLowerCase()

/** Checks a value against a schema; every problem with its place, first things first. */
export function checkShape<T>(schema: z.ZodType<T>, json: JsonText): { ok: true, data: T } | { ok: false, problems: FormatProblem[] } {
  const parsed = schema.safeParse(json.value)
  if (parsed.success) return { ok: true, data: parsed.data }
  return { ok: false,
    problems: inOrder(
      parsed.error.issues.map(issue =>
        json.problemAt([...issue.path as JsonPath, ...(issue.code === 'unrecognized_keys' ? [issue.keys[0]!] : [])], sayIssue(issue)),
      ),
    ) }
}

export const inOrder = (problems: FormatProblem[]) => problems.sort((a, b) => a.line - b.line || a.column - b.column)

function sayIssue(issue: z.core.$ZodIssue): string {
  if (issue.code === 'unrecognized_keys') return `"${issue.keys[0]}" is not part of the format here; remove it or correct its name.`
  return `${issue.message.charAt(0).toUpperCase()}${issue.message.slice(1)}.`
}
