import type { Weekday } from '@ridgeway/core/catalog'

/** Minutes to which a drawn block snaps. */
const STEP = 30

/**
 * Hours drawn over a day of the week with the mouse or a pen: from where it is pressed to where it is let go, in half hours. A finger
 * scrolls; it has the form. Esc lets the block go.
 */
export function useDrawnBlock(may: () => boolean, span: () => { from: number, to: number },
  done: (block: { day: Weekday, start: number, end: number }) => void) {
  const drawn = ref<{ day: Weekday, start: number, end: number } | null>(null)
  function begin(day: Weekday, event: PointerEvent) {
    const line = event.currentTarget as HTMLElement
    if (!may() || event.button !== 0 || event.pointerType === 'touch' || event.target !== line) return
    event.preventDefault()
    const { from, to } = span()
    const box = line.getBoundingClientRect()
    const minuteAt = (x: number) => from + Math.max(0, Math.min(1, (x - box.left) / box.width)) * (to - from)
    const first = Math.floor(minuteAt(event.clientX) / STEP) * STEP
    const draw = ({ clientX }: { clientX: number }) => {
      const now = minuteAt(clientX)
      drawn.value = now >= first
        ? { day, start: first, end: Math.max(first + STEP, Math.ceil(now / STEP) * STEP) }
        : { day, start: Math.floor(now / STEP) * STEP, end: first + STEP }
    }
    const stop = new AbortController()
    const finish = (keep: boolean) => {
      stop.abort()
      const block = drawn.value
      drawn.value = null
      if (keep && block) done(block)
    }
    addEventListener('pointermove', draw, { signal: stop.signal })
    addEventListener('pointerup', () => finish(true), { signal: stop.signal })
    addEventListener('pointercancel', () => finish(false), { signal: stop.signal })
    window.addEventListener('keydown', (pressed: KeyboardEvent) => pressed.key === 'Escape' && finish(false), { signal: stop.signal })
  }
  return { drawn, begin }
}
