const FOCUSABLE = 'button, a[href], input, select, textarea, [tabindex="0"], [tabindex="-1"][data-item]'

/** Everything that could hold the focus instead of an element: what stands beside it first, then after it, then before it. */
function neighboursOf(element: HTMLElement, field: HTMLElement): HTMLElement[] {
  const all = [...field.querySelectorAll<HTMLElement>(FOCUSABLE)]
  const at = all.indexOf(element)
  const inOrder = [...all.slice(at + 1), ...all.slice(0, Math.max(0, at)).reverse()]
  const beside = element.parentElement?.closest('li, section, aside')
  return [...inOrder.filter(one => beside?.contains(one)), ...inOrder.filter(one => !beside?.contains(one))]
}

/**
 * The focus never falls to the page: when what had it goes away with nothing taking the focus in its place, it goes on to what stands
 * beside it, else to the field itself.
 */
export function useFocusKept(field: Readonly<Ref<HTMLElement | null>>) {
  let held: HTMLElement | null = null
  let others: HTMLElement[] = []
  useEventListener(field, 'focusin', ({ target }: FocusEvent) => {
    held = target as HTMLElement
    others = field.value && held !== field.value ? neighboursOf(held, field.value) : []
  })
  useMutationObserver(field, () => {
    if (!held || held.isConnected) return
    // Who closes something gives the focus back by itself, a moment later.
    requestAnimationFrame(() => {
      if (!held || held.isConnected || document.activeElement !== document.body) return
      const next = others.find(one => one.isConnected && one.checkVisibility()) ?? field.value
      held = null
      next?.focus({ preventScroll: true })
    })
  }, { childList: true, subtree: true })
}
