/** Attributes of a button that does nothing for now: it stays where the keyboard is, and a press goes nowhere. */
export function useStill(off: () => unknown, busy: () => unknown) {
  const stop = (event: Event) => {
    event.preventDefault()
    event.stopImmediatePropagation()
  }
  return computed(() => off() || busy() ? { 'aria-disabled': 'true' as const, 'onClickCapture': stop } : {})
}
