import { expect } from 'vitest'

/** What happens beside everything else is waited for: tries again until nothing is wrong. */
export const settled = (holds: () => Promise<void>) => expect.poll(async () => {
  try {
    await holds()
    return ''
  }
  catch (problem) {
    return String(problem)
  }
}, { timeout: 15_000, interval: 100 }).toBe('')
