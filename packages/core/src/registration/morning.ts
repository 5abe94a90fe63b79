/** How one server serves presses of Register, all times in milliseconds. */
export interface Service {
  /** Transactions at a time, and presses in one of them at most. */
  lanes: number
  most: number
  /** What a transaction takes by itself, and for each press in it, while all lanes are at work. */
  base: number
  each: number
  /** What letting a press in takes (who it is, what it asks), while which nothing else goes on. */
  admit: number
}

/** When a press came and when it was answered, in milliseconds. */
export interface Served { came: number, answered: number }

/**
 * A morning on paper: presses that come at given moments, in order, spread over servers in turn; each server lets in whoever comes, and
 * with the time that this leaves its lanes take the first in line, as many as a transaction holds, whenever they are free. Deterministic.
 * The queue of a batch server with several lanes, behind work that goes before it (a preemptive priority queue); what it says is held
 * against a measured morning by `./ridgeway bench morning`.
 */
export function simulateMorning(arrivals: readonly number[], servers: number, service: Service): Served[] {
  const answered = new Array<number>(arrivals.length)
  for (let server = 0; server < servers; server++) {
    const mine = Array.from({ length: Math.ceil((arrivals.length - server) / servers) }, (_, i) => server + i * servers)
    serveLine(mine.map(press => arrivals[press]!), service).forEach((end, i) => answered[mine[i]!] = end)
  }
  return arrivals.map((came, i) => ({ came, answered: answered[i]! }))
}

/** When one server answers what comes to it at these moments, in order. */
function serveLine(arrivals: readonly number[], { lanes, most, base, each, admit }: Service): number[] {
  // Serving goes on a clock that stands still while somebody is let in: what it shows when letting in each of them begins.
  let free = -Infinity
  const shown = arrivals.map((came, i) => {
    const begins = Math.max(came, free)
    free = begins + admit
    return begins - admit * i
  })
  const answered = new Array<number>(arrivals.length)
  const freeAt = new Array<number>(lanes).fill(0)
  for (let next = 0; next < arrivals.length;) {
    let lane = 0
    for (let i = 1; i < lanes; i++) if (freeAt[i]! < freeAt[lane]!) lane = i
    const begin = Math.max(freeAt[lane]!, shown[next]!)
    const first = next
    while (next - first < most && next < arrivals.length && shown[next]! <= begin) next++
    const end = begin + base + each * (next - first)
    // By then all those are let in before whom the clock shows less.
    const at = end + admit * countBelow(shown, end)
    for (let press = first; press < next; press++) answered[press] = at
    freeAt[lane] = end
  }
  return answered
}

/** How many of numbers in order are below one. */
function countBelow(sorted: readonly number[], one: number): number {
  let [low, high] = [0, sorted.length]
  while (low < high) {
    const middle = (low + high) >> 1
    if (sorted[middle]! < one) low = middle + 1
    else high = middle
  }
  return low
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

/** A stretch of a measured morning in which people stood in line all the time. */
export interface Stretch { ms: number, came: number, answered: number }

/**
 * What each press took that was answered, and each that came, in milliseconds: by least squares over stretches in which the server had no
 * moment to spare, so that both together make up their time; neither below zero. Null where there are none.
 */
export function fitShares(stretches: readonly Stretch[]): { serve: number, admit: number } | null {
  const sum = (of: (one: Stretch) => number) => stretches.reduce((total, one) => total + of(one), 0)
  const [aa, cc, ac] = [sum(one => one.answered ** 2), sum(one => one.came ** 2), sum(one => one.answered * one.came)]
  const [am, cm] = [sum(one => one.answered * one.ms), sum(one => one.came * one.ms)]
  if (aa === 0) return null
  const spread = aa * cc - ac * ac
  const admit = spread <= 1e-9 * aa * cc ? 0 : (cm * aa - am * ac) / spread
  if (admit <= 0) return { serve: am / aa, admit: 0 }
  const serve = (am - admit * ac) / aa
  return serve > 0 ? { serve, admit } : { serve: 0, admit: cm / cc }
}
