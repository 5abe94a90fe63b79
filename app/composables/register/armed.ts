import type { Instant } from '@ridgeway/core/catalog'

/** Milliseconds before the opening from which it can be armed, and at which the college's clock is asked for once more. */
const ARM_MS = 30 * 60_000
const ASK_MS = 8000
/** Milliseconds after the opening at which it is sent, so that a clock that runs a little ahead is not too early; and the pauses after
 * which it is sent again where the server says that it was. */
const AFTER_MS = 25
const AGAIN_MS = [150, 400, 1000, 2000]

/**
 * One press before the opening that goes by itself in its first moment, by the college's clock and not this machine's: a laptop that slept
 * sends as soon as it wakes. A second press takes it back, and nothing goes twice.
 */
export function useArmed(opening: () => Instant | null, go: () => Promise<unknown>, wasTooEarly: () => boolean) {
  const session = useSessionStore()
  const armed = ref(false)
  let timers: ReturnType<typeof setTimeout>[] = []
  const left = () => Date.parse(opening() ?? '') - Date.now() - session.offset
  const canArm = computed(() => {
    const ms = Date.parse(opening() ?? '') - Date.parse(session.instant)
    return ms > 0 && ms <= ARM_MS
  })
  const stop = () => {
    for (const timer of timers) clearTimeout(timer)
    timers = []
  }
  function disarm() {
    armed.value = false
    stop()
  }
  async function fire() {
    // The clock may have been put right since: only when it is time by the newest that is known.
    if (!armed.value) return
    if (left() > 0) return plan()
    disarm()
    await go()
    for (const pause of AGAIN_MS) {
      if (!wasTooEarly()) return
      await new Promise(done => setTimeout(done, pause))
      await go()
    }
  }
  function plan() {
    stop()
    const ms = left()
    timers.push(setTimeout(() => void fire(), Math.max(0, ms + AFTER_MS)))
    if (ms > ASK_MS) timers.push(setTimeout(() => void session.load().catch(() => {}).then(() => armed.value && plan()), ms - ASK_MS))
  }
  function arm() {
    armed.value = true
    void session.load().catch(() => {}).then(() => armed.value && plan())
  }
  // The clock was asked for anew, or the opening was moved.
  watch([() => session.offset, opening], () => armed.value && plan())
  onScopeDispose(stop)
  return { armed, canArm, arm, disarm }
}
