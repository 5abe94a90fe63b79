/** An element as it can be found again after the page was drawn anew. */
function placeOf(element: Element | null) {
  const marked = element?.closest<HTMLElement>('[data-item], [data-line], [data-term-head], [id]')
  const mark = marked && ['data-item', 'data-line', 'data-term-head', 'id'].find(name => marked.hasAttribute(name))
  return { element, selector: mark ? `[${mark}="${CSS.escape(marked.getAttribute(mark)!)}"]` : null }
}

/** Puts the focus on an element or what in it can hold it; whether it worked. */
function focusOn(element: HTMLElement | null | undefined): boolean {
  element?.focus({ preventScroll: true })
  if (element && document.activeElement === element) return true
  const inside = element?.querySelector<HTMLElement>('button, a[href], [tabindex="0"]')
  inside?.focus({ preventScroll: true })
  return inside !== null && inside !== undefined && document.activeElement === inside
}

/** Gives the focus back to where it was, or to what stands there now, or to the page; unless it went somewhere by itself. */
function giveBack({ element, selector }: ReturnType<typeof placeOf>, about = '') {
  void nextTick(() => {
    const active = document.activeElement
    // A dialog that is on its way out still holds it.
    if (active && active !== document.body && !active.closest('.v-overlay')) return
    if (about && focusOn(document.querySelector<HTMLElement>(`[data-item="${CSS.escape(about)}"]`))) return
    if (element instanceof HTMLElement && element.isConnected && focusOn(element)) return
    if (selector && focusOn(document.querySelector<HTMLElement>(selector))) return
    document.querySelector<HTMLElement>('#main')?.focus({ preventScroll: true })
  })
}

/**
 * Takes the focus when something opens, and again when it turns to something else, and gives it back when it closes: to the tile it was
 * about, else to where it was.
 */
export function useReturn(panel: Readonly<Ref<HTMLElement | null>>, title: () => string, about: () => string) {
  let from = placeOf(null)
  function take() {
    const active = document.activeElement
    if (active && active !== document.body && !panel.value?.contains(active)) from = placeOf(active)
    panel.value?.focus({ preventScroll: true })
  }
  onMounted(take)
  watch([title, about], () => nextTick(take))
  onUnmounted(() => giveBack(from, about()))
}

/** Gives the focus back when a dialog closes that takes it by itself. */
export function useGivesBack(open: Readonly<Ref<boolean>>) {
  let from = placeOf(null)
  watch(open, (now, before) => {
    if (now) from = placeOf(document.activeElement)
    else if (before) giveBack(from)
  }, { flush: 'sync', immediate: true })
}
