import { readdirSync, readFileSync, statSync } from 'node:fs'
import { join } from 'node:path'
import { type CaseResult, readCases, runCases } from '@ridgeway/formats'

/** `tsx tools/cases.ts FILE…`: works out files or folders of cases and prints every expectation that does not hold. */
function filesOf(path: string): string[] {
  if (!statSync(path).isDirectory()) return [path]
  return readdirSync(path).sort().flatMap(name =>
    name.endsWith('.json') || statSync(join(path, name)).isDirectory() ? filesOf(join(path, name)) : [],
  )
}

const said = (value: unknown) => typeof value === 'string' ? value : JSON.stringify(value)

function print(path: string, result: CaseResult) {
  console.log(`${path}: ${result.name} (${result.source})`)
  if (result.problem) console.log(`  cannot be worked out: ${result.problem}`)
  for (const { about, expected, actual } of result.mismatches)
    console.log(`  ${about}: expected ${said(expected)}, came out ${said(actual)}`)
}

const paths = process.argv.slice(2)
if (paths.length === 0) {
  console.error('Name files or folders of cases: ./ridgeway cases tests/cases')
  process.exit(2)
}
let held = 0
let failed = 0
let unreadable = 0
for (const path of paths) {
  let files: string[]
  try {
    files = filesOf(path)
  }
  catch (problem) {
    console.error(`${path} cannot be read: ${(problem as Error).message}`)
    unreadable++
    continue
  }
  for (const file of files) {
    const read = readCases(readFileSync(file, 'utf8'))
    if (!read.ok) {
      unreadable++
      for (const { line, column, path: part, message } of read.problems)
        console.error(`${file}:${line}:${column} ${part ? `${part}: ` : ''}${message}`)
      continue
    }
    for (const result of runCases(read.file)) {
      if (result.problem === null && result.mismatches.length === 0) held++
      else {
        failed++
        print(file, result)
      }
    }
  }
}
console.log(`${held} cases hold, ${failed} do not${unreadable > 0 ? `, ${unreadable} could not be read` : ''}`)
process.exit(unreadable > 0 ? 2 : failed > 0 ? 1 : 0)
