import { readdirSync, readFileSync } from 'node:fs'
import { resolve } from 'node:path'
import { describe, expect, it } from 'vitest'
import { casesJsonSchema, readCases, runCases } from '@ridgeway/formats'

const files = readdirSync(import.meta.dirname).filter(name => name.endsWith('.json')).sort()
const read = (name: string) => {
  const result = readCases(readFileSync(resolve(import.meta.dirname, name), 'utf8'))
  if (!result.ok) throw new Error(result.problems.map(({ line, path, message }) => `${name}:${line} ${path}: ${message}`).join('\n'))
  return result.file
}

describe.each(files)('worked cases: %s', (name) => {
  it.each(runCases(read(name)).map(result => [result.name, result] as const))('%s', (_, { mismatches, problem }) => {
    expect({ mismatches, problem }).toEqual({ mismatches: [], problem: null })
  })
})

describe('the format of worked cases', () => {
  const minimal = (given: string, expected: string) =>
    `{ "format": "ridgeway-cases/1", "cases": [{ "name": "a case", "source": "by hand", "given": ${given}, "expect": ${expected} }] }`
  const outcome = (given: string, expected: string) => {
    const result = readCases(minimal(given, expected))
    if (!result.ok) throw new Error(JSON.stringify(result.problems))
    return runCases(result.file)[0]!
  }

  it('says what was expected and what came out', () => {
    expect(outcome('{ "record": ["AAA 100 2025FA B"] }', '{ "earned": 6, "gpa": 3 }').mismatches).toEqual([{ about: 'earned', expected: 6,
      actual: 3 }])
  })
  it('says when there is nothing of what is expected', () => {
    expect(outcome('{}', '{ "lines": { "core": { "state": "met" } } }').mismatches).toMatchObject([{ about: 'line core',
      actual: 'there is no such thing in this case' }])
    expect(outcome('{}', '{ "lineUp": { "AAA 100": { "outcome": "register" } } }').mismatches).toHaveLength(1)
  })
  it.each([
    ['an entry of the record that cannot be read', '{ "record": ["AAA 100 2025FA B and more"] }',
      /"AAA 100 2025FA B and more" is no entry of a record/],
    ['a course twice in a term of the plan', '{ "plan": ["AAA 100 2027SP", "AAA 100 2027SP"] }', /stands in the plan twice/],
    ['a line-up in a term that there is not', '{ "lineUp": ["AAA 100"], "lineUpTerm": "2040SP" }', /2040SP, is not among the terms/],
  ])('tells of %s', (_, given, words) => expect(outcome(given, '{}').problem).toMatch(words))
  it.each([
    ['an unknown key', '{ "format": "ridgeway-cases/1", "cases": [{ "name": "a case", "source": "by hand", "expect": { "eraned": 3 } }] }',
      'cases[1].expect.eraned'],
    ['a case without a source', '{ "format": "ridgeway-cases/1", "cases": [{ "name": "a case", "expect": {} }] }', 'cases[1].source'],
    ['a key twice', '{ "format": "ridgeway-cases/1", "format": "ridgeway-cases/1", "cases": [] }', 'format'],
  ])('refuses %s, and says where, counting from 1', (_, text, path) => {
    const result = readCases(text)
    expect(result.ok ? [] : result.problems.map(problem => problem.path)).toContain(path)
  })
  it('has its schema in the documentation, up to date', async () => {
    const documented = (await import('../../docs/formats/cases.schema.json')).default
    expect(JSON.parse(JSON.stringify(casesJsonSchema()))).toEqual(documented)
  })
  it('holds at least sixty cases, each with its source', () => {
    const all = files.flatMap(name => read(name).cases)
    expect(all.length).toBeGreaterThanOrEqual(60)
    expect(new Set(all.map(one => one.name)).size).toBe(all.length)
  })
})
