import { mkdirSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { ROOT } from './machine.mjs'
import { checks, readReport, reportOf } from './reports.mjs'

/** What the test command says at its end, from what the runners of tests write. */
const VITEST = { numPassedTests: 3, testResults: [
  { name: join(ROOT, 'tests/load/lanes.test.ts'), status: 'failed', message: '', assertionResults: [
    { status: 'passed', fullName: 'lanes one', failureMessages: [] },
    { status: 'failed', fullName: ' lanes two ',
      failureMessages: ['\u001B[31mAssertionError: expected 1 to be 2\u001B[39m\n  at here'] }] },
  { name: join(ROOT, 'server/broken.test.ts'), status: 'failed', message: 'Error: no such module\n at there', assertionResults: [] },
  { name: join(ROOT, 'server/fine.test.ts'), status: 'passed', message: '', assertionResults: [
    { status: 'passed', fullName: 'fine', failureMessages: [] }, { status: 'skipped', fullName: 'left out', failureMessages: [] }] },
] }
const isNotThere = { error: { message: 'Error: not there\nat x' } }
const PLAYWRIGHT = { stats: { expected: 5 }, suites: [{ specs: [], suites: [{ specs: [
  { file: 'plan.spec.ts', title: 'a tile is dragged', tests: [{ status: 'expected', results: [{}] }] },
  { file: 'plan.spec.ts', title: 'a tile is dropped', tests: [{ status: 'unexpected', results: [{}, isNotThere] }] },
  { file: 'plan.spec.ts', title: 'a tile falls', tests: [{ status: 'flaky', results: [{}] }] },
] }] }] }

describe('readReport', () => {
  it('names what failed by file and test, with the first line of why; a file that cannot be read is one failure', () => {
    expect(readReport(VITEST)).toEqual({ passed: 3, failed: ['tests/load/lanes.test.ts › lanes two: AssertionError: expected 1 to be 2',
      'server/broken.test.ts: Error: no such module'] })
    expect(readReport(PLAYWRIGHT)).toEqual({ passed: 5, failed: ['plan.spec.ts › a tile is dropped: Error: not there',
      'plan.spec.ts › a tile falls: no word of why'] })
  })
})

describe('checks', () => {
  const name = 'of-its-own-test'
  const said: string[] = []
  const listen = () => vi.spyOn(console, 'log').mockImplementation((words: string) => void said.push(words))
  afterEach(() => {
    vi.restoreAllMocks()
    said.length = 0
  })
  const writing = (report: unknown, status: number) => async () => {
    mkdirSync(dirname(reportOf(name)), { recursive: true })
    if (report) writeFileSync(reportOf(name), JSON.stringify(report))
    return status
  }

  it('passes only where everything passed and something was checked, and tells how long each took', async () => {
    listen()
    expect(checks().tell()).toBe(false)
    const fine = checks()
    await fine.single('lint', async () => 0)
    await fine.suite(name, writing({ numPassedTests: 2, testResults: [] }, 0))
    expect(fine.tell()).toBe(true)
    expect(said.join('\n')).toMatch(/Minutes: lint 0\.0, of-its-own-test 0\.0; 0\.0 in all\n\n3 passed, 0 failed$/)
  })

  it('counts a suite without a report, one that ends badly without a failed test, and every failed test', async () => {
    listen()
    const bad = checks()
    await bad.single('types', async () => 2)
    await bad.suite(name, writing(null, 0))
    await bad.suite(name, writing({ numPassedTests: 1, testResults: [] }, 1))
    await bad.suite(name, writing(VITEST, 1))
    await bad.suite(name, writing(PLAYWRIGHT, 1))
    expect(bad.tell()).toBe(false)
    expect(said.join('\n')).toContain(
      `\nFailed:\n  types\n  ${name}: it gave no report\n  ${name}: ended with 1, see above\n  ${name}: tests/load`)
    expect(said.at(-1)).toBe('\n9 passed, 7 failed')
  })
})
