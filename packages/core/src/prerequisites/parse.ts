import { type GradeScale, gradesThatEarn, LETTER_SCALE } from '../grades/scale'
import type { ClassStanding } from '../grades/status'
import type { Expected, Expression, Parsed } from './types'

/**
 * Reads the text form of a prerequisite rule.
 *
 * ```
 * CHY 110 with C and (MTH 140 or placement MTH at least 60)
 * HYD 210 with C- or alongside          the course may be taken in the same term
 * 2 of (HYD 310, HYD 330, ECL 320)
 * 60 credits · 12 credits in HYD · 6 credits in ECL at 300+
 * standing junior · program WSC-BS · permission · GPA at least 2.50
 * not open to program EST-MIN · not open to MTH 140       nobody of that program; nobody who has passed it, or is taking it
 * ```
 * `and` binds more tightly than `or`; parentheses group. An empty text is no rule and gives `expression: null`.
 * A text that cannot be read gives the place and what was expected there; nothing is guessed. A minimum grade must be one of the scale
 * that earns credit; with `null` any grade is read, for texts that were checked before.
 */
export function parseExpression(text: string, scale: GradeScale | null = LETTER_SCALE): Parsed {
  const tokens = tokenize(text)
  if (!tokens) return fail(firstStrange(text), { code: 'a token' })
  if (tokens.length === 0) return { ok: true, expression: null }
  try {
    const reader = new Reader(tokens, text.length, scale)
    const expression = readAny(reader)
    if (!reader.done) return fail(reader.at, { code: 'and, or, or the end' })
    return { ok: true, expression }
  }
  catch (problem) {
    if (problem instanceof Unreadable) return fail(problem.at, problem.expected)
    throw problem
  }
}

const fail = (at: number, expected: Expected): Parsed => ({ ok: false, problem: { at, expected } })

interface Token { text: string, at: number }
const TOKEN = /[A-Za-z][A-Za-z-]*[+-]?|\d{3,4}[A-Z]{1,2}(?![A-Za-z])|\d+(?:\.\d+)?\+?|[(),]/y
/** A program's code may have digits anywhere: `WSC-BS`, `GIS-2`, `3D-ART`. */
const PROGRAM = /[A-Za-z0-9](?:[A-Za-z0-9-]*[A-Za-z0-9])?/y

function tokenize(text: string): Token[] | null {
  const tokens: Token[] = []
  for (let at = 0; at < text.length;) {
    if (/\s/.test(text[at]!)) {
      at++
      continue
    }
    const pattern = tokens.at(-1)?.text.toLowerCase() === 'program' ? PROGRAM : TOKEN
    pattern.lastIndex = at
    const match = pattern.exec(text)
    if (!match) return null
    tokens.push({ text: match[0], at })
    at = pattern.lastIndex
  }
  return tokens
}

function firstStrange(text: string): number {
  const at = text.search(/[^\sA-Za-z0-9(),.+-]/)
  return at < 0 ? 0 : at
}

class Unreadable extends Error {
  constructor(readonly at: number, readonly expected: Expected) { super(expected.code) }
}

class Reader {
  private position = 0
  depth = 0
  constructor(private readonly tokens: Token[], private readonly end: number, readonly scale: GradeScale | null) {}
  get done() { return this.position >= this.tokens.length }
  get at() { return this.tokens[this.position]?.at ?? this.end }
  peek(ahead = 0) { return this.tokens[this.position + ahead]?.text }
  next(expected: Expected): string {
    const token = this.tokens[this.position++]
    if (!token) throw new Unreadable(this.end, expected)
    return token.text
  }

  take(word: string): boolean {
    if (this.peek()?.toLowerCase() !== word) return false
    this.position++
    return true
  }

  need(word: string) {
    if (!this.take(word)) throw new Unreadable(this.at, { code: 'a word', words: [word] })
  }

  number(expected: Expected, pattern = /^\d+$/): number {
    if (!pattern.test(this.peek() ?? '')) throw new Unreadable(this.at, expected)
    return Number.parseFloat(this.next(expected))
  }
}

/** Deeper than anybody writes by hand; a text made to be deep must not exhaust the stack. */
const MOST_DEPTH = 50

function readAny(reader: Reader): Expression {
  if (++reader.depth > MOST_DEPTH) throw new Unreadable(reader.at, { code: 'fewer parentheses' })
  const of = [readAll(reader)]
  while (reader.take('or')) of.push(readAll(reader))
  reader.depth--
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
    const test = reader.next({ code: 'the name of a placement test' }).toUpperCase()
    reader.need('at')
    reader.need('least')
    return { kind: 'placement', test, score: reader.number({ code: 'the score' }) }
  }
  if (reader.take('program')) return { kind: 'program', program: reader.next({ code: 'a program code' }).toUpperCase() }
  if (reader.take('gpa')) {
    reader.need('at')
    reader.need('least')
    return { kind: 'gpa', minimum: Math.round(reader.number({ code: 'an average' }, /^\d(\.\d{1,2})?$/) * 100) }
  }
  if (reader.take('not')) {
    reader.need('open')
    reader.need('to')
    const at = reader.at
    const condition = readOne(reader)
    if (condition.kind !== 'program' && condition.kind !== 'standing' && condition.kind !== 'course')
      throw new Unreadable(at, { code: 'a program, a standing or a course' })
    return { kind: 'not', condition }
  }
  if (reader.take('permission')) return { kind: 'permission' }
  if (reader.take('standing')) return { kind: 'standing', standing: readStanding(reader) }
  return readCourse(reader)
}

function readStanding(reader: Reader): ClassStanding {
  for (const standing of ['freshman', 'sophomore', 'junior', 'senior'] as const) if (reader.take(standing)) return standing
  throw new Unreadable(reader.at, { code: 'a word', words: ['freshman', 'sophomore', 'junior', 'senior'] })
}

function readCount(reader: Reader): Expression {
  const at = reader.at
  const amount = reader.number({ code: 'a number' }, /^\d+(\.\d+)?$/)
  if (reader.take('of')) {
    reader.need('(')
    const of = [readAny(reader)]
    while (reader.take(',')) of.push(readAny(reader))
    reader.need(')')
    if (!Number.isInteger(amount) || amount < 1 || amount > of.length) throw new Unreadable(at, { code: 'a number from 1', to: of.length })
    return { kind: 'atLeast', n: amount, of }
  }
  if (!reader.take('credits') && !reader.take('credit')) throw new Unreadable(reader.at, { code: 'a word', words: ['credits', 'of'] })
  const expression: Extract<Expression, { kind: 'credits' }> = { kind: 'credits', credits: Math.round(amount * 100) }
  if (reader.take('in')) expression.subject = readSubject(reader)
  if (reader.take('at')) expression.levelMin = reader.number({ code: 'a level' }, /^\d+\+$/)
  return expression
}

function readSubject(reader: Reader): string {
  if (!/^[A-Z]{2,5}$/i.test(reader.peek() ?? '')) throw new Unreadable(reader.at, { code: 'a subject' })
  return reader.next({ code: 'a subject' }).toUpperCase()
}

function readCourse(reader: Reader): Expression {
  const subject = readSubject(reader)
  // Kept as it is written: MTH 095 is not MTH 95.
  if (!/^\d{3,4}[A-Z]{0,2}$/.test(reader.peek() ?? '')) throw new Unreadable(reader.at, { code: 'a course number' })
  const number = reader.next({ code: 'a course number' })
  const minGrade = reader.take('with') ? readGrade(reader) : undefined
  const alongside = reader.peek()?.toLowerCase() === 'or' && reader.peek(1)?.toLowerCase() === 'alongside'
  if (alongside) {
    reader.need('or')
    reader.need('alongside')
  }
  return { kind: 'course', course: `${subject} ${number}`, alongside, ...(minGrade ? { minGrade } : {}) }
}

function readGrade(reader: Reader): string {
  const expected: Expected = { code: 'a grade', grades: reader.scale ? gradesThatEarn(reader.scale) : [] }
  const grade = reader.peek() ?? ''
  const isWord = /^(and|or)$/i.test(grade)
  const isGrade = !isWord && /^(?:[A-Za-z]{1,3}|\d+(?:\.\d+)?)[+-]?$/.test(grade)
  if (!isGrade || (reader.scale && !expected.grades.includes(grade))) throw new Unreadable(reader.at, expected)
  return reader.next(expected)
}
