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

/**
 * Takes the focus when something opens, and again when it turns to something else (`key`), and gives it back when it closes: to where it
 * came from, or to what stands there now, or to the page.
 */
export function useReturn(panel: Readonly<Ref<HTMLElement | null>>, key: () => string) {
  let from = placeOf(null)
  function take() {
    const active = document.activeElement
    if (active && active !== document.body && !panel.value?.contains(active)) from = placeOf(active)
    panel.value?.focus({ preventScroll: true })
  }
  onMounted(take)
  watch(key, () => nextTick(take))
  onBeforeUnmount(() => {
    const active = document.activeElement
    const isOurs = active === null || active === document.body || panel.value?.contains(active)
    if (!isOurs) return
    const { element, selector } = from
    void nextTick(() => {
      if (element instanceof HTMLElement && element.isConnected && focusOn(element)) return
      if (selector && focusOn(document.querySelector<HTMLElement>(selector))) return
      document.querySelector<HTMLElement>('#main')?.focus({ preventScroll: true })
    })
  })
}
