import type { Router } from 'vue-router'

/** The way to another page that is being gone at this moment. */
let going: Promise<void> = Promise.resolve()

/** Keeps account of ways between pages: what is opened over a page waits until the page is there. */
export function watchNavigation(router: Router) {
  let arrive = () => {}
  router.beforeEach(() => {
    arrive()
    going = new Promise(resolve => arrive = resolve)
  })
  router.afterEach(() => arrive())
  router.onError(() => arrive())
}

/** When the page is there that is being gone to; at once where none is. */
export const navigationDone = (): Promise<void> => going
