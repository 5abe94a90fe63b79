/** What lies over the page, lowest first: Esc closes the topmost, and only that. */
const layers: { close: () => void, isOpen: () => boolean }[] = []

/** Whether a menu, a dialog or a list of choices lies over everything; what merely tells something is none. */
export const isCovered = () => document.querySelector('.v-overlay--active:not(.v-tooltip):not(.v-snackbar)') !== null

/** Closes a layer with Esc while it is open, unless something lies over it; a menu or a dialog closes itself. */
export function useCloses(close: () => void, isOpen: () => boolean = () => true) {
  const layer = { close, isOpen }
  onMounted(() => layers.push(layer))
  onBeforeUnmount(() => layers.splice(layers.indexOf(layer), 1))
  // While it goes down to what is focused: a menu that closes at this press still covers.
  useEventListener('keydown', (event: KeyboardEvent) => {
    if (event.key !== 'Escape' || event.defaultPrevented || isCovered()) return
    if (layers.findLast(one => one.isOpen()) !== layer) return
    event.preventDefault()
    close()
  }, { capture: true })
}
