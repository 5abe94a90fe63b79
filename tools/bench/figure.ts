/** One printed figure: what was measured, what it is held against, and their ratio. */
export interface Figure {
  name: string
  value: number
  unit: string
  reference: string
  ratio: number | null
  target: string
  ok: boolean | null
}

export const median = (values: readonly number[]) => quantile(values, 0.5)

/** Value below which this share of the sorted values lies (nearest rank). */
export function quantile(values: readonly number[], share: number): number {
  const sorted = [...values].sort((a, b) => a - b)
  return sorted[Math.max(0, Math.ceil(share * sorted.length) - 1)] ?? Number.NaN
}

export function time<T>(work: () => T): { ms: number, result: T } {
  const start = performance.now()
  const result = work()
  return { ms: performance.now() - start, result }
}

export const round = (value: number, digits = 2) => Math.round(value * 10 ** digits) / 10 ** digits
