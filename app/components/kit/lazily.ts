import type { AsyncComponentLoader, Component } from 'vue'
import LateCode from './LateCode.vue'

/** Longest pause between two tries, in milliseconds, and after how many of them it is given up. */
const MOST_MS = 30_000
const MOST_TRIES = 8
/** After how many milliseconds it is said that it is still on its way. */
const LATE_MS = 1000

/**
 * A component whose code comes when it is shown. Where it does not come, since the connection is away, it is asked for again: at longer and
 * longer intervals, and as soon as there is a connection. The page does not wait for it, and says in its place what is missing.
 */
export const lazily = <C extends Component>(loader: AsyncComponentLoader<C>): C =>
  defineAsyncComponent({
    loader,
    suspensible: false,
    delay: LATE_MS,
    loadingComponent: LateCode,
    errorComponent: LateCode,
    onError(_, retry, fail, attempts) {
      if (attempts > MOST_TRIES) return fail()
      const again = () => {
        clearTimeout(timer)
        window.removeEventListener('online', again)
        retry()
      }
      const timer = setTimeout(again, Math.min(MOST_MS, 1000 * 2 ** (attempts - 1)))
      window.addEventListener('online', again)
    },
  })
