/**
 * What is opened on a page, as one word, kept in the address: a reload keeps it, back closes it, and a link can lead to it.
 * Empty while nothing is opened.
 */
export function useOpened(): Ref<string> {
  const router = useRouter()
  const { path } = useRoute()
  const inAddress = () => String(router.currentRoute.value.query.open ?? '')
  const opened = ref(inAddress())
  /** Own changes that are still on their way to the address. */
  let writing = 0
  let last: Promise<unknown> = Promise.resolve()

  async function write(next: string) {
    const { path: now, query: { open, ...query } } = router.currentRoute.value
    if (now !== path || String(open ?? '') === next) return
    if (next) await router[open ? 'replace' : 'push']({ path, query: { ...query, open: next } })
    else if (router.options.history.state.back === router.resolve({ path, query }).fullPath) await goBack(router)
    else await router.replace({ path, query })
  }
  watch(opened, (next) => {
    writing++
    last = last.then(() => write(next)).catch(() => {}).finally(() => writing--)
  })
  watch(() => router.currentRoute.value.query.open, () => {
    if (writing === 0 && router.currentRoute.value.path === path) opened.value = inAddress()
  })
  return opened
}

/** One step back in the history, until the address shows it. */
function goBack(router: ReturnType<typeof useRouter>): Promise<void> {
  return new Promise((done) => {
    const stop = router.afterEach(() => {
      stop()
      done()
    })
    router.back()
  })
}
