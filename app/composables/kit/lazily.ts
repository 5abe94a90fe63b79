import type { AsyncComponentLoader, Component } from 'vue'

/** Longest pause between two tries, in milliseconds, and after how many of them it is given up. */
const MOST_MS = 30_000
const MOST_TRIES = 8

/**
 * A component whose code comes when it is shown. Where it does not come, since the connection is away, it is asked for again: at longer and
 * longer intervals, and as soon as there is a connection. The page does not wait for it.
 */
export const lazily = <C extends Component>(loader: AsyncComponentLoader<C>): C => defineAsyncComponent({ loader, suspensible: false,
  onError(_, retry, fail, attempts) {
    if (attempts > MOST_TRIES) return fail()
    const again = () => {
      clearTimeout(timer)
      window.removeEventListener('online', again)
      retry()
    }
    const timer = setTimeout(again, Math.min(MOST_MS, 1000 * 2 ** (attempts - 1)))
    window.addEventListener('online', again)
  } })
