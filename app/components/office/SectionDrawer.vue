<script setup lang="ts">
import { sayMoment } from '@ridgeway/words'
import { setSeats } from '#shared/contract/acts/office'
import { readSection } from '#shared/contract/views/office'
import { call } from '~/composables/useApi'

/** One section: its seats, to be set; who is in it and who waits; and cancelling it, with whom that touches. */
const { section } = defineProps<{ section: number }>()
const emit = defineEmits<{ close: [], changed: [] }>()
const workingTerm = useWorkingTermStore()
const session = useSessionStore()
const { data, problem, reload } = useView(readSection, () => workingTerm.code ? { term: workingTerm.code, section } : null)
useIntervalFn(() => document.visibilityState === 'visible' && !isSetting.value && void reload(), 5000)
const title = computed(() => data.value ? `${data.value.course}-${data.value.label}` : 'Section')
const isSetting = ref(false)
const fresh = ref<{ for: string, seats: number }[]>([])
const everybody = ref(0)
const { busy, problem: refused, doing } = useDoing()
function begin() {
  const seats = data.value!.seats.filter(one => one.for === null || one.capacity > 0)
  everybody.value = seats.find(one => one.for === null)?.capacity ?? 0
  fresh.value = seats.flatMap(one => one.for === null ? [] : [{ for: one.for, seats: one.capacity }])
  refused.value = null
  isSetting.value = true
}
const lacking = computed(() => fresh.value.some(one => !one.for.trim()) && 'Write whom the seats are kept for, or take the line out')
async function keep() {
  const seats = [{ for: null, seats: Number(everybody.value) }, ...fresh.value.map(one => ({ for: one.for.trim(),
    seats: Number(one.seats) }))]
  const seen = data.value!.seats.map(one => ({ for: one.for, seats: one.capacity }))
  const done = await doing(async () => void await call(setSeats, { section, seats, seen: seen.length > 0
    ? seen
    : [{ for: null,
        seats: 0 }] }))
  await reload()
  if (!done) return
  isSetting.value = false
  announce(`The seats of ${title.value} are kept.`)
  emit('changed')
}
async function changed() {
  await reload()
  emit('changed')
}
</script>

<template>
  <SidePanel :title="title" :about="String(section)" @close="emit('close')">
    <template #beside><span v-if="data" class="second small">{{ data.title }} · {{ data.part }} · {{ data.times }}</span></template>
    <FailedBox v-if="problem" :problem="problem" retry @retry="reload" />
    <div v-if="data" class="columns">
      <div>
        <h3>Seats</h3>
        <p v-if="data.seatsWith" class="second">It shares those of {{ data.seatsWith }}; they are set there.</p>
        <template v-if="!isSetting">
          <p v-for="one in data.seats" :key="one.for ?? ''">
            <b>{{ one.capacity }}</b> {{ one.for === null ? 'for everybody' : `kept for ${one.for}` }} ·
            {{ one.taken }} taken{{ one.held ? `, ${one.held} held` : '' }}
          </p>
          <ActButton v-if="!data.seatsWith" :off="data.cancelled && 'It is cancelled'" @click="begin">Set the seats …</ActButton>
        </template>
        <form v-else @submit.prevent="keep">
          <FailedBox v-if="refused" :problem="refused" />
          <v-text-field v-model.number="everybody" type="number" min="0" max="9999" label="For everybody" />
          <div v-for="(one, i) in fresh" :key="i" class="kept">
            <v-text-field v-model="one.for" label="Kept for" maxlength="30" placeholder="WSC-BS, junior, or a cohort" />
            <v-text-field v-model.number="one.seats" type="number" min="0" max="9999" label="Seats" />
            <WordLink :aria-label="`Keep none for ${one.for || 'this group'}`" @click="fresh.splice(i, 1)">take out</WordLink>
          </div>
          <p>
            <WordLink v-if="fresh.length < 12" @click="fresh.push({ for: '', seats: 0 })">+ keep seats for a group</WordLink>
          </p>
          <p class="second small">What is taken or held stays. Where somebody waits, new seats are offered to them first.</p>
          <p class="acts">
            <ActButton weight="full" type="submit" :busy="busy" :off="lacking">Keep these seats</ActButton>
            <WordLink @click="isSetting = false">Leave them as they are</WordLink>
          </p>
        </form>
      </div>
      <div>
        <h3>{{ count(data.registered.length, 'student') }} registered</h3>
        <ul>
          <li v-for="one in data.registered" :key="one.id">
            <NuxtLink :to="`/student/${one.id}/now`">{{ one.name }}</NuxtLink>
          </li>
        </ul>
        <template v-if="data.waiting.length">
          <h3>{{ count(data.waiting.length, 'student') }} waiting</h3>
          <ol>
            <li v-for="one in data.waiting" :key="one.id">
              <NuxtLink :to="`/student/${one.id}/now`">{{ one.name }}</NuxtLink>
              <span v-if="one.offerUntil" class="second"> · offered a seat until {{ sayMoment(one.offerUntil, session.zone) }}</span>
            </li>
          </ol>
        </template>
        <p v-if="!data.registered.length && !data.waiting.length" class="second">Nobody is in it or waits for it.</p>
      </div>
      <div>
        <h3>{{ data.cancelled ? 'It is cancelled' : 'Cancelling it' }}</h3>
        <p v-if="data.cancelled && data.registered.length" class="blocking strong" role="status">
          {{ count(data.registered.length, 'student') }} still being served: money back, and a held seat where another bundle fits.
        </p>
        <p v-else-if="data.cancelled" class="second">
          Nobody is in it any more. Restored, it can be registered again; nobody comes back by itself.
        </p>
        <p v-else class="second">Look first whom it touches and what each would be offered.</p>
        <CancelSection :section="section" :title="title" :cancelled="data.cancelled" @changed="changed" />
        <p><WordLink :to="`/office/ledger?section=${section}`">What happened to it</WordLink></p>
      </div>
    </div>
  </SidePanel>
</template>

<style scoped>
.columns { display: grid; grid-template-columns: repeat(3, minmax(0, 1fr)); gap: 22px; }
h3 { margin: 2px 0 4px; font-size: 14px; }
p { margin: 2px 0 6px; }
ul, ol { margin: 0 0 8px; padding-left: 18px; columns: 2; }
form { display: grid; gap: 8px; }
.kept { display: grid; grid-template-columns: minmax(0, 1fr) 76px auto; gap: 8px; align-items: center; }
.acts { display: flex; gap: 14px; align-items: center; }
@media (max-width: 900px) { .columns { grid-template-columns: minmax(0, 1fr); } }
</style>
