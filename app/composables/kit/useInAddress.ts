/**
 * What lies over every page, as one value in the address: a reload keeps it, a link can lead to it, and back closes it.
 * Empty while it is closed; other parts of the address stay as they are.
 */
export function useInAddress(name: string) {
  const router = useRouter()
  const value = computed(() => {
    const found = router.currentRoute.value.query[name]
    return typeof found === 'string' ? found : ''
  })
  async function open(next: string) {
    // A page that is on its way comes first: opening would stop it.
    await navigationDone()
    const { path, query } = router.currentRoute.value
    await router[value.value ? 'replace' : 'push']({ path, query: { ...query, [name]: next } })
  }
  async function close() {
    await navigationDone()
    const { path, query: { [name]: _, ...query } } = router.currentRoute.value
    if (router.options.history.state.back === router.resolve({ path, query }).fullPath) router.back()
    else await router.replace({ path, query })
  }
  return { value, open, close }
}
