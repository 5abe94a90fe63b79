import type { ClassStanding } from '../grades/status'
import type { Expression, Parsed } from './types'

/**
 * Reads the text form of a prerequisite rule.
 *
 * ```
 * CHY 110 with C and (MTH 140 or placement MTH at least 60)
 * HYD 210 with C- or alongside          the course may be taken in the same term
 * 2 of (HYD 310, HYD 330, ECL 320)
 * 60 credits · 12 credits in HYD · 6 credits in ECL at 300+
 * standing junior · program WSC-BS · permission
 * ```
 * `and` binds more tightly than `or`; parentheses group. An empty text is no rule and gives `expression: null`.
 * A text that cannot be read gives the place and what was expected there; nothing is guessed.
 */
export function parseExpression(text: string): Parsed {
  const tokens = tokenize(text)
  if (!tokens) return fail(firstStrange(text), 'a course code, a number, a word or a parenthesis was expected')
  if (tokens.length === 0) return { ok: true, expression: null }
  try {
    const reader = new Reader(tokens, text.length)
    const expression = readAny(reader)
    if (!reader.done) return fail(reader.at, '"and", "or" or the end of the rule was expected')
    return { ok: true, expression }
  }
  catch (problem) {
    if (problem instanceof Unreadable) return fail(problem.at, problem.message)
    throw problem
  }
}

const fail = (at: number, message: string): Parsed => ({ ok: false, problem: { at, message } })

interface Token { text: string, at: number }
const TOKEN = /[A-Za-z][A-Za-z-]*[+-]?|\d+(?:\.\d+)?\+?|[(),]/y

function tokenize(text: string): Token[] | null {
  const tokens: Token[] = []
  for (let at = 0; at < text.length;) {
    if (/\s/.test(text[at]!)) {
      at++
      continue
    }
    TOKEN.lastIndex = at
    const match = TOKEN.exec(text)
    if (!match) return null
    tokens.push({ text: match[0], at })
    at = TOKEN.lastIndex
  }
  return tokens
}

function firstStrange(text: string): number {
  const at = text.search(/[^\sA-Za-z0-9(),.+-]/)
  return at < 0 ? 0 : at
}

class Unreadable extends Error {
  constructor(readonly at: number, message: string) { super(message) }
}

class Reader {
  private position = 0
  constructor(private readonly tokens: Token[], private readonly end: number) {}
  get done() { return this.position >= this.tokens.length }
  get at() { return this.tokens[this.position]?.at ?? this.end }
  peek(ahead = 0) { return this.tokens[this.position + ahead]?.text }
  next(expected: string): string {
    const token = this.tokens[this.position++]
    if (!token) throw new Unreadable(this.end, `${expected} was expected`)
    return token.text
  }

  take(word: string): boolean {
    if (this.peek()?.toLowerCase() !== word) return false
    this.position++
    return true
  }

  need(word: string, expected = `"${word}"`) {
    if (!this.take(word)) throw new Unreadable(this.at, `${expected} was expected`)
  }

  number(expected: string, pattern = /^\d+$/): number {
    if (!pattern.test(this.peek() ?? '')) throw new Unreadable(this.at, `${expected} was expected`)
    return Number.parseFloat(this.next(expected))
  }
}

function readAny(reader: Reader): Expression {
  const of = [readAll(reader)]
  while (reader.take('or')) of.push(readAll(reader))
  return of.length === 1 ? of[0]! : { kind: 'any', of: of.flatMap(part => part.kind === 'any' ? part.of : [part]) }
}

function readAll(reader: Reader): Expression {
  const of = [readOne(reader)]
  while (reader.take('and')) of.push(readOne(reader))
  return of.length === 1 ? of[0]! : { kind: 'all', of: of.flatMap(part => part.kind === 'all' ? part.of : [part]) }
}

function readOne(reader: Reader): Expression {
  if (reader.take('(')) {
    const inner = readAny(reader)
    reader.need(')')
    return inner
  }
  const first = reader.peek()
  if (first !== undefined && /^\d/.test(first)) return readCount(reader)
  if (reader.take('placement')) {
    const test = reader.next('the name of a placement test').toUpperCase()
    reader.need('at')
    reader.need('least')
    return { kind: 'placement', test, score: reader.number('the score') }
  }
  if (reader.take('program')) return { kind: 'program', program: reader.next('a program code').toUpperCase() }
  if (reader.take('permission')) return { kind: 'permission' }
  if (reader.take('standing')) return { kind: 'standing', standing: readStanding(reader) }
  return readCourse(reader)
}

function readStanding(reader: Reader): ClassStanding {
  for (const standing of ['freshman', 'sophomore', 'junior', 'senior'] as const) if (reader.take(standing)) return standing
  throw new Unreadable(reader.at, 'freshman, sophomore, junior or senior was expected')
}

function readCount(reader: Reader): Expression {
  const at = reader.at
  const amount = reader.number('a number', /^\d+(\.\d+)?$/)
  if (reader.take('of')) {
    reader.need('(')
    const of = [readAny(reader)]
    while (reader.take(',')) of.push(readAny(reader))
    reader.need(')')
    if (!Number.isInteger(amount) || amount < 1 || amount > of.length) throw new Unreadable(at, `a number from 1 to ${of.length} was expected`)
    return { kind: 'atLeast', n: amount, of }
  }
  if (!reader.take('credits') && !reader.take('credit')) throw new Unreadable(reader.at, '"credits" or "of" was expected')
  const expression: Extract<Expression, { kind: 'credits' }> = { kind: 'credits', credits: Math.round(amount * 100) }
  if (reader.take('in')) expression.subject = readSubject(reader)
  if (reader.take('at')) expression.levelMin = reader.number('a level such as 300+', /^\d+\+$/)
  return expression
}

function readSubject(reader: Reader): string {
  if (!/^[A-Z]{2,4}$/i.test(reader.peek() ?? '')) throw new Unreadable(reader.at, 'a subject such as HYD was expected')
  return reader.next('a subject').toUpperCase()
}

function readCourse(reader: Reader): Expression {
  const subject = readSubject(reader)
  // Kept as it is written: MTH 095 is not MTH 95.
  const number = String(reader.number('a course number', /^\d{3}$/)).padStart(3, '0')
  const minGrade = reader.take('with') ? readGrade(reader) : undefined
  const alongside = reader.peek()?.toLowerCase() === 'or' && reader.peek(1)?.toLowerCase() === 'alongside'
  if (alongside) {
    reader.need('or')
    reader.need('alongside')
  }
  return { kind: 'course', course: `${subject} ${number}`, alongside, ...(minGrade ? { minGrade } : {}) }
}

function readGrade(reader: Reader): string {
  if (!/^([A-D][+-]?|P)$/.test(reader.peek() ?? '')) throw new Unreadable(reader.at, 'a grade such as C or B- was expected')
  return reader.next('a grade')
}
