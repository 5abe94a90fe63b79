import { CaseProblem, mergeGiven, worldOf } from './case-given'
import { compareCase, type Mismatch } from './case-outcome'
import { type CasesFile, casesSchema } from './case-schema'
import { checkShape, type FormatProblem, readJson } from './json'

/** One case of a file, worked out. `problem` says why it could not be. */
export interface CaseResult { name: string, source: string, mismatches: Mismatch[], problem: string | null }

/** Reads a file of worked cases; all of it is right, or every problem is named with its place. */
export function readCases(text: string): { ok: true, file: CasesFile } | { ok: false, problems: FormatProblem[] } {
  const read = readJson(text)
  if (!read.ok) return read
  const shape = checkShape(casesSchema, read.json)
  return shape.ok ? { ok: true, file: shape.data } : shape
}

/** Works out every case of a file and compares it with what it expects. */
export function runCases(file: CasesFile): CaseResult[] {
  return file.cases.map(({ name, source, given, expect }) => {
    try {
      return { name, source, mismatches: compareCase(worldOf(mergeGiven(file.given ?? {}, given)), expect), problem: null }
    }
    catch (problem) {
      if (!(problem instanceof CaseProblem || problem instanceof RangeError)) throw problem
      return { name, source, mismatches: [], problem: problem.message }
    }
  })
}
