/** How many times as long as it took to work out, and at most so many milliseconds, what may be a little old is kept. */
const TIMES = 20
const MOST_MS = 30_000

/**
 * Figures over everybody that may be a little old: each is worked out once however many ask, and kept for as long as twenty times what it
 * took. In a small college they are as good as new; in a large one they cost a twentieth of a core at most.
 */
export class KeptAWhile<Value> {
  private readonly kept = new Map<string, { until: number, value: Promise<Value> }>()

  /** The figure of this name, worked out where it is not kept. Names of an older state of the college are let go. */
  get(name: string, make: () => Promise<Value>): Promise<Value> {
    const before = this.kept.get(name)
    if (before && Date.now() < before.until) return before.value
    const began = performance.now()
    const one = { until: Number.POSITIVE_INFINITY, value: make() }
    this.kept.set(name, one)
    one.value.then(() => one.until = Date.now() + Math.min(MOST_MS, (performance.now() - began) * TIMES), () => {
      if (this.kept.get(name) === one) this.kept.delete(name)
    })
    for (const [other, { until }] of this.kept) if (until < Date.now()) this.kept.delete(other)
    return one.value
  }
}
