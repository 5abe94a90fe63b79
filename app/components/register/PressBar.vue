<script setup lang="ts">
import { sayGate } from '@ridgeway/words'

/**
 * The press itself: what it does, exactly, and why it is off while it is. Before the opening it can be armed, so that it goes by itself in
 * the first moment; while it has no answer its place in the line is told.
 */
const student = useStudentStore()
const week = useWeekStore()
const others = useOtherTermsStore()
const session = useSessionStore()
const { opensIn, rows, gatesClosed, tooLate, willRegister, willWait, offBecause, onlyOpening, armed: arming, press } = useRunSheet()
const { armed, canArm, arm, disarm } = arming
const names = (gates: typeof gatesClosed.value) => gates.map(gate => sayGate(gate).title.toLowerCase()).join(', ')
const othersClosed = computed(() => gatesClosed.value.filter(gate => gate.kind !== 'opening'))
const isEarly = computed(() => onlyOpening.value && others.open.length === 0)
const at = computed(() => student.state!.opening ? toLocal(student.state!.opening.from, session.zone).toFormat('HH:mm') : '')
/** What a press does, exactly: so many registered, so many waited for. */
const pressWords = computed(() => {
  const other = others.open.flatMap(sheet => others.willRegister(sheet))
  // Where another term is open and this one is not, a press is about the other.
  const isMine = others.open.length === 0 || gatesClosed.value.length === 0
  const mine = (rows: unknown[]) => isMine ? rows.length : 0
  const now = mine(willRegister.value) + other.filter(row => row.outcome === 'register').length
  const waits = mine(willWait.value) + other.filter(row => row.outcome === 'waitlist').length
  if (now + waits === 0) return 'Register'
  const terms = others.open.length > 0 ? ` in ${count(others.open.length + (mine(willRegister.value) > 0 ? 1 : 0), 'term')}` : ''
  const does = waits === 0
    ? `Register ${count(now, 'course')}`
    : now === 0 ? `Join ${count(waits, 'waitlist')}` : `Register ${count(now, 'course')}, join ${count(waits, 'waitlist')}`
  return `${does}${terms}`
})
const label = computed(() => {
  if (week.running) return 'Registering…'
  if (armed.value) return `Armed for ${at.value}`
  return isEarly.value && canArm.value ? `${pressWords.value} at ${at.value}` : pressWords.value
})
const words = computed(() => {
  if (tooLate.value) return sayGate(tooLate.value).way
  if (gatesClosed.value.length > 0) return `Closed: ${names(gatesClosed.value)}. ${sayGate(gatesClosed.value[0]!).way}`
  const does = willRegister.value.length + willWait.value.length
  if (rows.value.length > 0 && does === 0) return 'Nothing in the line-up would be registered; each row says why.'
  const refused = rows.value.length - does
  return refused > 0 ? `${count(refused, 'row')} would be refused and ${refused === 1 ? 'stays' : 'stay'} here.` : ''
})
/** What is told while the press has no answer. */
const inLine = computed(() => {
  const { before, served, seconds } = week.place ?? {}
  if (served) return 'You are being served now.'
  if (before === undefined || before === null) return 'Your press is on its way.'
  if (before === 0) return 'You are the next in line.'
  const time = (seconds ?? 0) > 90 ? count(Math.ceil(seconds! / 60), 'minute') : count(seconds ?? 0, 'second')
  const turn = seconds && seconds > 1 ? `, your turn in about ${time}` : ''
  return `${count(before, 'person', 'people')} before you in line${turn}. Leave this page open.`
})
/** Said when it is on its way, once with the place, and again when the turn has come; the numbers between run on silently. */
const stage = computed(() => week.running && (week.place?.served ? 'served' : week.place?.before ? 'in line' : 'on its way'))
watch(stage, now => now && announce(inLine.value))
async function act() {
  if (!isEarly.value) return press()
  // A second press in haste does nothing more.
  if (armed.value) return
  arm()
  announce(`Armed: it goes by itself at ${at.value}.`)
}
function takeBack() {
  disarm()
  announce('It is taken back; nothing goes by itself.')
}
</script>

<template>
  <div class="press" :class="{ armed }">
    <ActButton weight="full" class="big" :off="offBecause" :busy="week.running" @click="act">{{ label }}</ActButton>
    <span v-if="week.running" class="opens" role="timer">{{ inLine }}</span>
    <span v-else-if="opensIn" class="opens" role="timer"
      >Opens in <b>{{ opensIn }}</b> <template v-if="othersClosed.length"> · also closed: {{ names(othersClosed) }}</template
      ><template v-else-if="armed"> · leave this page open, it goes by itself ·
        <WordLink @click="takeBack">take it back</WordLink></template
      ><template v-else-if="willRegister.length"> · press once now, and it goes by itself at {{ at }}</template
      ></span
    >
    <span v-else>{{ words }}</span>
  </div>
</template>

<style scoped>
.press { display: flex; align-items: center; gap: 16px; margin: 14px 0; flex-wrap: wrap; }
.press.armed { outline: 2px solid var(--act); outline-offset: 6px; border-radius: 6px; }
.big { padding: 10px 22px; font-size: 16px; min-height: 44px; }
.opens b { font-size: 18px; }
@media (max-width: 800px) {
  .big { width: 100%; }
  /* In a corridor at 7:59 the button is always in reach. */
  .press {
    position: sticky; bottom: 0; background: var(--paper); border-top: 1px solid var(--line); padding: 8px 0;
    gap: 4px 12px; z-index: 4;
  }
  .press.armed { outline-offset: 0; }
}
</style>
