<script setup lang="ts">
import type { Term } from '@ridgeway/core/catalog'
import { DAY_NAMES, formatCredits } from '@ridgeway/words'
import { setDates } from '#shared/contract/acts/office'
import { call } from '~/composables/useApi'

/** Deadlines, sessions and no-class days of one term; the deadlines are set here. */
const { term } = defineProps<{ term: Term }>()
const emit = defineEmits<{ changed: [] }>()
const isOpen = ref(false)
const isCalendarOpen = ref(false)
const { busy, problem, doing } = useDoing()
const DATES = [['addBy', 'Last day to add'], ['dropBy', 'Last day to drop'], ['withdrawBy', 'Last day to withdraw'],
  ['feesDue', 'Fees are due']] as const
const fresh = ref(read())
function read() {
  return { addBy: term.addBy, dropBy: term.dropBy, withdrawBy: term.withdrawBy, feesDue: term.feesDue,
    loadCap: Number(formatCredits(term.loadCap)), fullTime: Number(formatCredits(term.fullTime)) }
}
watch(isOpen, now => now && (fresh.value = read()))
async function keep() {
  const { loadCap, fullTime, ...dates } = fresh.value
  if (!await doing(async () => void await call(setDates, { term: term.code, ...dates, loadCap: Math.round(Number(loadCap) * 100),
    fullTime: Math.round(Number(fullTime) * 100) }))) return
  isOpen.value = false
  announce(`The dates of ${term.name} are kept.`)
  emit('changed')
}
</script>

<template>
  <section class="card dates" aria-label="Dates">
    <h2>Dates and loads</h2>
    <dl>
      <template v-for="[key, words] in DATES" :key="key">
        <dt>{{ words }}</dt>
        <dd>{{ longDate(term[key]) }}</dd>
      </template>
      <dt>Credits at most</dt>
      <dd>{{ formatCredits(term.loadCap) }}, full-time from {{ formatCredits(term.fullTime) }}</dd>
      <dt>No class</dt>
      <dd>{{ term.noClass.map(one => `${longDate(one.date)} (${one.name})`).join(', ') || 'no day' }}</dd>
      <template v-if="term.movedDays.length">
        <dt>Moved days</dt>
        <dd>{{ term.movedDays.map(one => `${longDate(one.date)} meets as a ${DAY_NAMES[one.follows]}`).join(', ') }}</dd>
      </template>
      <dt>Sessions</dt>
      <dd>
        <span v-for="one in term.sessions" :key="one.code" class="session"
          >{{ one.name }}: {{ longDate(one.start) }} to {{ longDate(one.end)
          }}{{ one.deadlines ? `, add by ${longDate(one.deadlines.addBy)}` : '' }}</span
        >
      </dd>
    </dl>
    <p class="acts">
      <ActButton @click="isOpen = true">Change dates and loads …</ActButton>
      <ActButton @click="isCalendarOpen = true">Days and sessions …</ActButton>
    </p>
    <TermCalendar v-model="isCalendarOpen" :term="term" @changed="emit('changed')" />
    <AskDialog v-model="isOpen" :title="`Dates of ${term.name}`" act="Keep these" :busy="busy" @act="keep">
      <p class="second small">They hold at once, for students who have registered too. Days are counted in the college's zone.</p>
      <FailedBox v-if="problem" :problem="problem" />
      <v-text-field v-for="[key, words] in DATES" :key="key" v-model="fresh[key]" type="date" :label="words" />
      <span class="pair">
        <v-text-field v-model.number="fresh.loadCap" type="number" min="1" max="40" step="0.5" label="Credits at most" />
        <v-text-field v-model.number="fresh.fullTime" type="number" min="0" max="40" step="0.5" label="Full-time from" />
      </span>
    </AskDialog>
  </section>
</template>

<style scoped>
.dates { padding: 10px 16px; }
dl { display: grid; grid-template-columns: auto minmax(0, 1fr); gap: 3px 14px; margin: 4px 0 10px; }
dt { color: var(--second); }
dd { margin: 0; }
.session { display: block; }
.acts { display: flex; flex-wrap: wrap; gap: 8px; margin: 0; }
.pair { display: grid; grid-template-columns: 1fr 1fr; gap: 10px; }
</style>
