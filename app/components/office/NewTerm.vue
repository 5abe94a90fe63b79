<script setup lang="ts">
import { shiftDate, termOrder } from '@ridgeway/core/catalog'
import { formatCredits } from '@ridgeway/words'
import { addTerm } from '#shared/contract/acts/office'
import { call } from '~/composables/useApi'

/** Another term: its days and deadlines begin as those of the same season a year before, moved by whole weeks. */
const emit = defineEmits<{ added: [code: string] }>()
const isOpen = defineModel<boolean>({ required: true })
const catalog = useCatalogStore()
const { busy, problem, doing } = useDoing()
const SEASONS = [{ value: 'SP', title: 'Spring' }, { value: 'SU', title: 'Summer' }, { value: 'FA', title: 'Fall' }]
const DATES = [['start', 'First day'], ['end', 'Last day'], ['addBy', 'Last day to add'], ['dropBy', 'Last day to drop'],
  ['withdrawBy', 'Last day to withdraw'], ['feesDue', 'Fees are due']] as const
const fresh = ref({ season: 'FA', year: 2027, name: '', start: '', end: '', addBy: '', dropBy: '', withdrawBy: '', feesDue: '', loadCap: 18,
  fullTime: 12 })
const code = computed(() => `${fresh.value.year}${fresh.value.season}`)
const known = computed(() => catalog.term(code.value) !== undefined)
/** The term of the season, the nearest before. */
const like = computed(() => catalog.terms
  .filter(one => one.code.endsWith(fresh.value.season) && termOrder(one.code) < termOrder(code.value))
  .sort((a, b) => termOrder(b.code) - termOrder(a.code))[0])
function begin() {
  const last = [...catalog.terms].sort((a, b) => termOrder(b.code) - termOrder(a.code))[0]
  const at = last ? SEASONS.findIndex(one => last.code.endsWith(one.value)) : 1
  fresh.value.season = SEASONS[(at + 1) % 3]!.value
  fresh.value.year = last ? last.year + (at === 2 ? 1 : 0) : new Date().getFullYear()
}
watch(isOpen, now => now && begin())
watch([code, like], () => {
  const { season, year } = fresh.value
  fresh.value.name = `${SEASONS.find(one => one.value === season)!.title} ${year}`
  if (!like.value) return
  // Fifty-two weeks a year keep the weekdays; a week more every sixth year or so keeps the season.
  const years = year - like.value.year
  const days = Math.round(years * 365.2425 / 7) * 7
  for (const [key] of DATES) fresh.value[key] = shiftDate(like.value[key], days)
  fresh.value.loadCap = Number(formatCredits(like.value.loadCap))
  fresh.value.fullTime = Number(formatCredits(like.value.fullTime))
}, { immediate: true })
const lacking = computed(() => known.value
  ? `${code.value} is in the calendar already`
  : (!fresh.value.name.trim() || DATES.some(([key]) => !fresh.value[key])) && 'The term needs a name and all its days')
async function keep() {
  if (lacking.value) return
  const { season: _, year: __, loadCap, fullTime, ...rest } = fresh.value
  if (!await doing(async () => void await call(addTerm, { ...rest, term: code.value, loadCap: Math.round(Number(loadCap) * 100),
    fullTime: Math.round(Number(fullTime) * 100) }))) return
  isOpen.value = false
  announce(`${fresh.value.name} is in the calendar.`)
  emit('added', code.value)
}
</script>

<template>
  <AskDialog v-model="isOpen" title="Another term" act="Add the term" :busy="busy" :off="lacking" :width="560" @act="keep">
    <p class="second small">
      <template v-if="like">Its days begin as those of {{ like.name }}, the weekdays kept. Look them over.</template>
      Openings and sections come after.
    </p>
    <FailedBox v-if="problem" :problem="problem" />
    <span class="pair">
      <v-select v-model="fresh.season" :items="SEASONS" label="Season" />
      <v-text-field v-model.number="fresh.year" type="number" min="2000" max="2100" label="Year" />
      <v-text-field v-model="fresh.name" label="Name" maxlength="40" class="whole" />
      <v-text-field v-for="[key, words] in DATES" :key="key" v-model="fresh[key]" type="date" :label="words" />
      <v-text-field v-model.number="fresh.loadCap" type="number" min="1" max="40" step="0.5" label="Credits at most" />
      <v-text-field v-model.number="fresh.fullTime" type="number" min="0" max="40" step="0.5" label="Full-time from" />
    </span>
  </AskDialog>
</template>

<style scoped>
.pair { display: grid; grid-template-columns: 1fr 1fr; gap: 10px; }
.whole { grid-column: 1 / -1; }
@media (max-width: 500px) { .pair { grid-template-columns: 1fr; } }
</style>
