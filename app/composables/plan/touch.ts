import type { DropPlace } from './drag'

const HOLD_MS = 280
const SLOP_PX = 9

/**
 * Drag with a finger: rest it on the tile, then move; the tile follows. A finger that moves at once scrolls the page as always.
 * Places are elements with `data-term` (and `data-lane`).
 */
export function useTouchDrag(element: Readonly<Ref<HTMLElement | null>>, movable: () => boolean, dropped: (place: DropPlace) => void) {
  let timer: ReturnType<typeof setTimeout> | null = null
  let start = { x: 0, y: 0 }
  let ghost: HTMLElement | null = null
  let over: Element | null = null

  const placeAt = (x: number, y: number) => document.elementFromPoint(x, y)?.closest<HTMLElement>('[data-term]') ?? null
  function lift() {
    ghost = element.value!.cloneNode(true) as HTMLElement
    ghost.removeAttribute('data-item')
    Object.assign(ghost.style, { position: 'fixed', pointerEvents: 'none', zIndex: '20', opacity: '0.85',
      width: `${element.value!.offsetWidth}px`, left: `${start.x - 40}px`, top: `${start.y - 24}px` })
    document.body.append(ghost)
    navigator.vibrate?.(15)
  }
  function clear() {
    if (timer) clearTimeout(timer)
    timer = null
    ghost?.remove()
    ghost = null
    over?.classList.remove('touch-over')
    over = null
  }
  function begin(event: TouchEvent) {
    clear()
    const touch = event.touches[0]
    if (!touch || event.touches.length > 1 || !movable()) return
    start = { x: touch.clientX, y: touch.clientY }
    timer = setTimeout(lift, HOLD_MS)
  }
  function follow(event: TouchEvent) {
    const touch = event.touches[0]
    if (!touch) return
    if (!ghost) {
      if (Math.hypot(touch.clientX - start.x, touch.clientY - start.y) > SLOP_PX) clear()
      return
    }
    event.preventDefault()
    ghost.style.left = `${touch.clientX - 40}px`
    ghost.style.top = `${touch.clientY - 24}px`
    const place = placeAt(touch.clientX, touch.clientY)
    if (place === over) return
    over?.classList.remove('touch-over')
    over = place
    place?.classList.add('touch-over')
  }
  function end(event: TouchEvent) {
    const touch = event.changedTouches[0]
    const place = ghost && touch ? placeAt(touch.clientX, touch.clientY) : null
    const lifted = ghost !== null
    clear()
    if (lifted) event.preventDefault()
    if (place?.dataset.term) dropped({ term: place.dataset.term, lane: place.dataset.lane ?? null })
  }
  onMounted(() => {
    const target = element.value
    if (!target) return
    target.addEventListener('touchstart', begin, { passive: true })
    // Not passive: once the tile is lifted, the page must not scroll under it.
    target.addEventListener('touchmove', follow, { passive: false })
    target.addEventListener('touchend', end)
    target.addEventListener('touchcancel', clear)
  })
  onBeforeUnmount(clear)
}
