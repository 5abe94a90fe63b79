<script setup lang="ts">
import { sayGate } from '@ridgeway/words'

/** The press itself: how many courses it would register, and why it is off while it is. */
const student = useStudentStore()
const week = useWeekStore()
const session = useSessionStore()
const { opensIn, rows, gatesClosed, tooLate, willRegister, willWait, offBecause, press } = useRunSheet()
const names = (gates: typeof gatesClosed.value) => gates.map(gate => sayGate(gate).title.toLowerCase()).join(', ')
const othersClosed = computed(() => gatesClosed.value.filter(gate => gate.kind !== 'opening'))
/** What a press does, exactly: so many registered, so many waited for. */
const pressWords = computed(() => {
  const [now, waits] = [willRegister.value.length, willWait.value.length]
  if (waits === 0) return `Register ${count(now, 'course')}`
  return now === 0 ? `Join ${count(waits, 'waitlist')}` : `Register ${count(now, 'course')}, join ${count(waits, 'waitlist')}`
})
const words = computed(() => {
  if (tooLate.value) return sayGate(tooLate.value).way
  if (gatesClosed.value.length > 0) return `Closed: ${names(gatesClosed.value)}. ${sayGate(gatesClosed.value[0]!).way}`
  const does = willRegister.value.length + willWait.value.length
  if (rows.value.length > 0 && does === 0) return 'Nothing in the line-up would be registered; each row says why.'
  const refused = rows.value.length - does
  return refused > 0 ? `${count(refused, 'row')} would be refused and ${refused === 1 ? 'stays' : 'stay'} here.` : ''
})
</script>

<template>
  <div class="press">
    <ActButton weight="full" class="big" :off="offBecause" :busy="week.running" @click="press">
      {{ week.running ? 'Registering…' : pressWords }}
    </ActButton>
    <span v-if="opensIn" class="opens" role="timer"
      >Opens in <b>{{ opensIn }}</b> <template v-if="othersClosed.length"> · also closed: {{ names(othersClosed) }}</template
      ><template v-else-if="willRegister.length">
        · one press at {{ toLocal(student.state!.opening!.from, session.zone).toFormat('HH:mm') }} is enough</template
      ></span
    >
    <span v-else>{{ words }}</span>
  </div>
</template>

<style scoped>
.press { display: flex; align-items: center; gap: 16px; margin: 14px 0; flex-wrap: wrap; }
.big { padding: 10px 22px; font-size: 16px; min-height: 44px; }
.opens b { font-size: 18px; }
@media (max-width: 800px) {
  .big { width: 100%; }
  /* In a corridor at 7:59 the button is always in reach. */
  .press {
    position: sticky; bottom: 0; background: var(--paper); border-top: 1px solid var(--line); padding: 8px 0;
    gap: 4px 12px; z-index: 4;
  }
}
</style>
