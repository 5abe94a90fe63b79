/** Something that is done later; while it is put off nothing else needs to do it. */
export function usePutOff(work: () => Promise<unknown>) {
  const isBehind = ref(false)
  let timer: ReturnType<typeof setTimeout> | undefined
  function putOff(milliseconds: number) {
    clearTimeout(timer)
    isBehind.value = true
    timer = setTimeout(doNow, milliseconds)
  }
  function doNow() {
    clearTimeout(timer)
    isBehind.value = false
    void work()
  }
  onScopeDispose(() => clearTimeout(timer))
  return { isBehind: readonly(isBehind), putOff, doNow }
}
