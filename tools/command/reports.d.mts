/** Where a runner of tests writes what it found, as JSON. */
export function reportOf(name: string): string
/** How many tests passed, and what did not, by file and name. */
export function readReport(report: unknown): { passed: number, failed: string[] }
/** Sums over all checks, told together at the end. */
export function checks(): {
  step: <T>(name: string, work: () => Promise<T>) => Promise<T>
  report: (name: string, run: () => Promise<number>) => Promise<void>
  single: (name: string, run: () => Promise<number>) => Promise<void>
  suite: (name: string, run: () => Promise<number>) => Promise<void>
  tell: () => boolean
}
