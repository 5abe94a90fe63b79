/** Answers that were asked for before anything else was ready; each is taken once, by whoever would have asked. */
const started = new Map<string, Promise<unknown>>()
const arrived = new Map<string, number>()

/** Asks now; what fails is asked for again by whoever needs it, who can tell about it. */
export function askEarly(path: string) {
  const answer = $fetch<unknown>(path)
  answer.then(() => arrived.set(path, Date.now()), () => {})
  started.set(path, answer)
}

/** The answer that was asked for early, if there is one. */
export function takeEarly(path: string): Promise<unknown> | undefined {
  const answer = started.get(path)
  started.delete(path)
  return answer
}

/** When the answer of an address came, by this machine's clock: it may have waited here for a while. */
export function arrivedAt(path: string): number {
  const at = arrived.get(path) ?? Date.now()
  arrived.delete(path)
  return at
}
