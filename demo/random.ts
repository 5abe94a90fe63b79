/** A small seeded generator (mulberry32, public domain), so that the demo is the same on every machine. */
export class Random {
  constructor(private state: number) {}

  next(): number {
    this.state = (this.state + 0x6D2B79F5) | 0
    let t = Math.imul(this.state ^ (this.state >>> 15), 1 | this.state)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }

  /** A whole number from `low` to `high`, both included. */
  between(low: number, high: number): number {
    return low + Math.floor(this.next() * (high - low + 1))
  }

  pick<T>(list: readonly T[]): T {
    return list[this.between(0, list.length - 1)]!
  }

  chance(probability: number): boolean {
    return this.next() < probability
  }

  shuffle<T>(list: readonly T[]): T[] {
    const copy = [...list]
    for (let i = copy.length - 1; i > 0; i--) {
      const j = this.between(0, i);
      [copy[i], copy[j]] = [copy[j]!, copy[i]!]
    }
    return copy
  }
}
