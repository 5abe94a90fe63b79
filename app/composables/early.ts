/** Answers that were asked for before anything else was ready; each is taken once, by whoever would have asked. */
const started = new Map<string, Promise<unknown>>()

/** Asks now; what fails is asked for again by whoever needs it, who can tell about it. */
export function askEarly(path: string) {
  const answer = $fetch<unknown>(path)
  answer.catch(() => {})
  started.set(path, answer)
}

/** The answer that was asked for early, if there is one. */
export function takeEarly(path: string): Promise<unknown> | undefined {
  const answer = started.get(path)
  started.delete(path)
  return answer
}
