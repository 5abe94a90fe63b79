import type { Weekday } from '@ridgeway/core/catalog'

/** Minutes to which a drawn block snaps. */
const STEP = 30
interface Drawn { day: Weekday, start: number, end: number }

/**
 * Hours drawn over a day of the week with the mouse or a pen: from where it is pressed to where it is let go, in half hours. A finger
 * scrolls; it has the form. A block that is there is moved the same way. Esc leaves everything as it was.
 */
export function useDrawnBlock(may: () => boolean, span: () => { from: number, to: number }, done: (block: Drawn) => void,
  moved: (id: string, start: number, end: number) => void) {
  const drawn = ref<Drawn | null>(null)
  function begin(day: Weekday, event: PointerEvent) {
    const line = event.currentTarget as HTMLElement
    if (!may() || event.button !== 0 || event.pointerType === 'touch' || event.target !== line) return
    event.preventDefault()
    const { from, to } = span()
    const box = line.getBoundingClientRect()
    const minuteAt = (x: number) => from + Math.max(0, Math.min(1, (x - box.left) / box.width)) * (to - from)
    const first = Math.floor(minuteAt(event.clientX) / STEP) * STEP
    follow(event, ({ clientX }) => {
      const now = minuteAt(clientX)
      drawn.value = now >= first
        ? { day, start: first, end: Math.max(first + STEP, Math.ceil(now / STEP) * STEP) }
        : { day, start: Math.floor(now / STEP) * STEP, end: first + STEP }
    }, done)
  }

  /** Moves a block along the hours of its days, by half hours, as long as it is. */
  function move(day: Weekday, block: { id: string, start: number, end: number }, event: PointerEvent) {
    const line = (event.currentTarget as HTMLElement).parentElement!
    if (!may() || event.button !== 0 || event.pointerType === 'touch' || (event.target as HTMLElement).closest('.words-link')) return
    event.preventDefault()
    const { from, to } = span()
    const perPixel = (to - from) / line.getBoundingClientRect().width
    follow(event, ({ clientX }) => {
      const by = Math.round((clientX - event.clientX) * perPixel / STEP) * STEP
      const start = Math.max(from, Math.min(to - (block.end - block.start), block.start + by))
      drawn.value = { day, start, end: start + block.end - block.start }
    }, ({ start, end }) => start !== block.start && moved(block.id, start, end))
  }

  /** Follows the pointer until it is let go; Esc and a lost pointer leave everything as it was. */
  function follow(begun: PointerEvent, draw: (event: PointerEvent) => void, keep: (block: Drawn) => void) {
    const stop = new AbortController()
    const finish = (keeps: boolean) => {
      stop.abort()
      const block = drawn.value
      drawn.value = null
      if (keeps && block) keep(block)
    }
    const mine = (event: PointerEvent) => event.pointerId === begun.pointerId
    window.addEventListener('pointermove', event => mine(event) && draw(event), { signal: stop.signal })
    window.addEventListener('pointerup', event => mine(event) && finish(true), { signal: stop.signal })
    window.addEventListener('pointercancel', () => finish(false), { signal: stop.signal })
    window.addEventListener('keydown', (pressed: KeyboardEvent) => pressed.key === 'Escape' && finish(false), { signal: stop.signal })
  }
  return { drawn, begin, move }
}
