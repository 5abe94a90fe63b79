/** How one server serves presses of Register, all times in milliseconds. */
export interface Service {
  /** Transactions at a time, and presses in one of them at most. */
  lanes: number
  most: number
  /** What a transaction takes by itself, and for each press in it, while all lanes are at work. */
  base: number
  each: number
}

/** When a press came and when it was answered, in milliseconds. */
export interface Served { came: number, answered: number }

/**
 * A morning on paper: presses that come at given moments, in order, spread over servers in turn; each server's lanes take the first in
 * line, as many as a transaction holds, whenever they are free. Deterministic. The queue of a batch server with several lanes; what it says
 * is held against a measured morning by `./ridgeway bench morning`.
 */
export function simulateMorning(arrivals: readonly number[], servers: number, { lanes, most, base, each }: Service): Served[] {
  const answered = new Array<number>(arrivals.length)
  for (let server = 0; server < servers; server++) {
    // When each lane is free again.
    const free = new Array<number>(lanes).fill(0)
    let next = server
    while (next < arrivals.length) {
      let lane = 0
      for (let i = 1; i < lanes; i++) if (free[i]! < free[lane]!) lane = i
      const begin = Math.max(free[lane]!, arrivals[next]!)
      const batch: number[] = []
      for (; batch.length < most && next < arrivals.length && arrivals[next]! <= begin; next += servers) batch.push(next)
      const end = begin + base + each * batch.length
      for (const press of batch) answered[press] = end
      free[lane] = end
    }
  }
  return arrivals.map((came, i) => ({ came, answered: answered[i]! }))
}

/**
 * Moments at which people come to an opening, in order: so great a share within the first seconds, evenly; the others later and later, as
 * long as the mean says. `random` gives numbers from 0 to below 1.
 */
export function arrivalsAt(opening: number, people: number, random: () => number,
  { atOnce = 0.6, within = 10_000, mean = 20_000 } = {}): number[] {
  return Array.from({ length: people }, () => opening + (random() < atOnce
    ? random() * within
    : within - Math.log(1 - random()) * mean)).sort((a, b) => a - b)
}

/** The straight line through measured transactions, by least squares: what one takes by itself, and for each press in it. */
export function fitService(measured: readonly { presses: number, ms: number }[]): Pick<Service, 'base' | 'each'> {
  const n = measured.length
  if (n === 0) return { base: 0, each: 0 }
  const meanX = measured.reduce((sum, one) => sum + one.presses, 0) / n
  const meanY = measured.reduce((sum, one) => sum + one.ms, 0) / n
  const spread = measured.reduce((sum, one) => sum + (one.presses - meanX) ** 2, 0)
  const slope = spread === 0 ? 0 : measured.reduce((sum, one) => sum + (one.presses - meanX) * (one.ms - meanY), 0) / spread
  const each = Math.max(0, slope)
  return { each, base: Math.max(0, meanY - each * meanX) }
}
