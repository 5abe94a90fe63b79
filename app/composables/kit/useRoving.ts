/** Where one gets from here in a direction: the nearest ahead, by where things are on the screen. */
export function nearest(from: HTMLElement, others: readonly HTMLElement[], key: string): HTMLElement | undefined {
  const here = from.getBoundingClientRect()
  const sideways = key === 'ArrowLeft' || key === 'ArrowRight'
  const AHEAD: Record<string, (box: DOMRect) => boolean> = {
    ArrowRight: box => box.left > here.left + 8,
    ArrowLeft: box => box.left < here.left - 8,
    ArrowDown: box => box.top > here.top + 8,
    ArrowUp: box => box.top < here.top - 8,
  }
  const distance = (box: DOMRect) => Math.abs(box.left - here.left) * (sideways ? 1 : 4) + Math.abs(box.top - here.top) * (sideways ? 4 : 1)
  return others.filter(other => other !== from).map(element => ({ element, box: element.getBoundingClientRect() }))
    .filter(({ box }) => box.width > 0 && AHEAD[key]?.(box)).sort((a, b) => distance(a.box) - distance(b.box))[0]?.element
}

/**
 * One stop for the keyboard in a whole field of things: Tab comes to the one that was used last, arrows walk to the nearest in their
 * direction, Home and End to the first and the last. `selector` finds the things; they may come and go.
 */
export function useRoving(field: Readonly<Ref<HTMLElement | null | undefined>>, selector: string) {
  let current: HTMLElement | null = null
  const all = () => [...field.value?.querySelectorAll<HTMLElement>(selector) ?? []]
  function settle() {
    const things = all()
    if (!current || !things.includes(current)) {
      const same = current?.dataset.item && things.find(one => one.dataset.item === current!.dataset.item)
      current = same || things[0] || null
    }
    for (const one of things) one.tabIndex = one === current ? 0 : -1
  }
  onMounted(settle)
  useMutationObserver(field, settle, { childList: true, subtree: true })
  useEventListener(field, 'focusin', (event: FocusEvent) => {
    const thing = (event.target as HTMLElement).closest<HTMLElement>(selector)
    if (!thing || thing === current) return
    current = thing
    settle()
  })
  useEventListener(field, 'keydown', (event: KeyboardEvent) => {
    const from = (event.target as HTMLElement).closest<HTMLElement>(selector)
    if (!from || event.target !== from || event.altKey || event.ctrlKey || event.metaKey || event.defaultPrevented) return
    const things = all()
    const to = event.key === 'Home' ? things[0] : event.key === 'End' ? things.at(-1) : nearest(from, things, event.key)
    if (!to) return
    event.preventDefault()
    to.focus()
    to.scrollIntoView({ block: 'nearest', inline: 'nearest' })
  })
}
