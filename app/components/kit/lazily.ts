import type { AsyncComponentLoader, Component } from 'vue'
import LateCode from './LateCode.vue'

/** Longest pause between two tries, in milliseconds, and after how many of them it is given up. */
const MOST_MS = 30_000
const MOST_TRIES = 8
/** After how many milliseconds it is said that it is still on its way. */
const LATE_MS = 1000

/** The style sheets that did not come: whoever asks for the code again does not ask for them, since Vite 8 asks once for each. */
const missing = new Set<HTMLLinkElement>()
document.addEventListener('error', ({ target }) => {
  if (target instanceof HTMLLinkElement && target.rel === 'stylesheet') missing.add(target)
}, { capture: true })

/** Asks for them again. Rejects where one stays away. */
const missingStyles = () => Promise.all([...missing].map(link => new Promise<void>((done, fail) => {
  const again = link.cloneNode() as HTMLLinkElement
  again.addEventListener('load', () => done())
  again.addEventListener('error', () => fail(new Error(`${link.href} did not come`)))
  missing.delete(link)
  link.replaceWith(again)
})))

/**
 * A component whose code comes when it is shown. Where it does not come, since the connection is away, it is asked for again: at longer and
 * longer intervals, and as soon as there is a connection. The page does not wait for it, and says in its place what is missing.
 */
export const lazily = <C extends Component>(loader: AsyncComponentLoader<C>): C =>
  defineAsyncComponent({
    loader: async () => {
      await missingStyles()
      return loader()
    },
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
