import { existsSync, readFileSync, rmSync } from 'node:fs'
import { join, relative } from 'node:path'
import { ROOT, STATE } from './machine.mjs'

/** Where a runner of tests writes what it found, as JSON. */
export const reportOf = name => join(STATE, 'reports', `${name}.json`)

/** Sums over all checks, and what failed by its name, told together at the end: what was printed in between may be long gone by then. */
export function checks() {
  const began = Date.now()
  let passed = 0
  const failed = []
  const took = []
  /** Does one step and keeps how long it took. */
  const step = async (name, work) => {
    const start = Date.now()
    try {
      return await work()
    }
    finally {
      took.push(`${name} ${minutes(Date.now() - start)}`)
    }
  }
  /** Runs what writes a report; one that gives none, or ends badly without a failed test, counts as one failure. */
  const report = async (name, run) => {
    const file = reportOf(name)
    rmSync(file, { force: true })
    const status = await run()
    if (!existsSync(file)) {
      failed.push(`${name}: it gave no report`)
      return
    }
    const found = readReport(JSON.parse(readFileSync(file, 'utf8')))
    passed += found.passed
    failed.push(...found.failed.map(words => `${name}: ${words}`))
    if (status !== 0 && found.failed.length === 0) failed.push(`${name}: ended with ${status}, see above`)
  }
  return {
    step,
    report,
    /** A check that only ends well or not. */
    async single(name, run) {
      if (await step(name, run) === 0) passed++
      else failed.push(name)
    },
    /** Runs a suite that writes a report, and keeps how long it took. */
    suite: (name, run) => step(name, () => report(name, run)),
    /** Prints what failed, what took how long, and the sums. True where everything passed and something was checked. */
    tell() {
      if (failed.length > 0) console.log(['\nFailed:', ...failed.map(words => `  ${words}`)].join('\n'))
      console.log(`\nMinutes: ${took.join(', ')}; ${minutes(Date.now() - began)} in all`)
      console.log(`\n${passed} passed, ${failed.length} failed`)
      return failed.length === 0 && passed > 0
    },
  }
}

const minutes = ms => (ms / 60_000).toFixed(1)

/** Reads a report of Vitest or of Playwright: how many passed, and what did not, by file and name. */
export function readReport(report) {
  return report.testResults ? readVitest(report) : readPlaywright(report)
}

function readVitest({ testResults, numPassedTests }) {
  const failed = testResults.flatMap(({ name, status, message, assertionResults }) => {
    const file = relative(ROOT, name)
    const tests = assertionResults.filter(test => test.status === 'failed')
      .map(({ fullName, failureMessages }) => `${file} › ${fullName.trim()}: ${firstLine(failureMessages[0])}`)
    // A file that could not even be read has no tests to name.
    return tests.length === 0 && status === 'failed' ? [`${file}: ${firstLine(message)}`] : tests
  })
  return { passed: numPassedTests, failed }
}

function readPlaywright({ suites, stats }) {
  const failed = []
  const walk = (suite) => {
    for (const { file, title, tests } of suite.specs ?? [])
      for (const { status, results } of tests)
        if (status === 'unexpected' || status === 'flaky') {
          const problem = results.find(result => result.error)?.error.message
          failed.push(`${file} › ${title}: ${firstLine(problem)}`)
        }
    for (const inner of suite.suites ?? []) walk(inner)
  }
  for (const suite of suites) walk(suite)
  return { passed: stats.expected, failed }
}

// eslint-disable-next-line no-control-regex -- runners colour what they print
const firstLine = words => (words ?? 'no word of why').replace(/\u001B\[[0-9;]*m/g, '').trim().split('\n')[0].slice(0, 200)
