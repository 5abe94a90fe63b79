<script setup lang="ts">
import { writeTable } from '@ridgeway/formats'
import type { Everybody } from '#shared/contract/acts/office'

/** Programs with how many finish when; the students behind a number are a press away, and all of it goes out as a table. */
interface Props { found: Everybody, termOf: (code: string) => string, creditsOf: (hundredths: number) => string }
const { found, termOf, creditsOf } = defineProps<Props>()
type What = 'open' | 'blocked' | 'low' | 'all'
const program = ref('')
const what = ref<What>('open')
const KINDS: Record<What, string> = { open: 'No finish as planned', blocked: 'Plan is forbidden something',
  low: 'Average below what is asked', all: 'Everybody' }
const kinds = Object.entries(KINDS).map(([value, title]) => ({ value, title }))
const choices = computed(() => [{ value: '', title: 'All programs' },
  ...found.programs.map(one => ({ value: one.program, title: one.program || 'no program' }))])
const whenOf = ({ finishes }: Everybody['programs'][number]) => {
  const later = finishes.slice(4).reduce((sum, one) => sum + one.students, 0)
  return [...finishes.slice(0, 4).map(one => `${one.students} in ${termOf(one.term)}`), ...later ? [`${later} later`] : []].join(' · ')
}
const shown = computed(() => found.students.filter(one => (!program.value || one.program === program.value) && (what.value === 'all'
  || (what.value === 'open' ? one.finish === null : what.value === 'blocked' ? one.blockers > 0 : one.isLow))))
const programs = [
  { title: 'Program', key: 'program' }, { title: 'Students', key: 'students', align: 'end' as const },
  { title: 'Finish as planned', key: 'finishes', sortable: false }, { title: 'No finish', key: 'open', align: 'end' as const },
  { title: 'Forbidden', key: 'blocked', align: 'end' as const }, { title: 'Low average', key: 'low', align: 'end' as const },
  { title: 'Credits earned, mean', key: 'earned', align: 'end' as const }]
const students = [{ title: 'Student', key: 'name' }, { title: 'Program', key: 'program' },
  { title: 'Credits earned', key: 'earned', align: 'end' as const }, { title: 'Finishes', key: 'finish' },
  { title: 'Forbidden', key: 'blockers', align: 'end' as const }]
function choose(one: string, kind: What) {
  program.value = one
  what.value = kind
}
function download() {
  saveFile('progress.csv', 'text/csv', writeTable(found.students.map(one => ({ 'student': one.name, 'program': one.program,
    'credits earned': creditsOf(one.earned), 'finishes': one.finish ?? '', 'forbidden': String(one.blockers),
    'low average': one.isLow ? 'yes' : '' }))))
}
</script>

<template>
  <section class="card" aria-label="By program">
    <header>
      <h2>By program</h2>
      <ActButton @click="download">Download as CSV</ActButton>
    </header>
    <v-data-table :headers="programs" :items="found.programs" :items-per-page="15">
      <template #[`item.program`]="{ item }">{{ item.program || 'no program' }}</template>
      <template #[`item.students`]="{ item }"
        ><v-btn class="press" variant="text" density="compact" @click="choose(item.program, 'all')">{{ item.students }}</v-btn></template
      >
      <template #[`item.finishes`]="{ item }"
        ><span class="small">{{ whenOf(item) || 'nobody' }}</span></template
      >
      <template v-for="kind in ['open', 'blocked', 'low'] as const" :key="kind" #[`item.${kind}`]="{ item }"
        ><v-btn v-if="item[kind]" class="press" variant="text" density="compact" @click="choose(item.program, kind)"
          >{{ item[kind] }}</v-btn
        ><span v-else class="second">none</span></template
      >
      <template #[`item.earned`]="{ item }">{{ Math.round(item.earned / 100) }}</template>
    </v-data-table>
  </section>
  <section class="card" aria-label="Students">
    <header>
      <h2>{{ count(shown.length, 'student') }}</h2>
      <v-select v-model="what" label="Show" :items="kinds" density="compact" hide-details />
      <v-select v-model="program" label="Program" :items="choices" density="compact" hide-details />
    </header>
    <v-data-table :headers="students" :items="shown" :items-per-page="25">
      <template #[`item.name`]="{ item }"
        ><NuxtLink :to="`/student/${item.id}/requirements`">{{ item.name }}</NuxtLink></template
      >
      <template #[`item.earned`]="{ item }">{{ creditsOf(item.earned) }}</template>
      <template #[`item.finish`]="{ item }">{{ item.finish ? termOf(item.finish) : 'not as planned' }}</template>
      <template #[`item.blockers`]="{ item }">{{ item.blockers || 'nothing' }}</template>
    </v-data-table>
  </section>
</template>

<style scoped>
section { padding: 10px 16px; margin: 0 0 12px; }
header { display: flex; gap: 12px; align-items: center; flex-wrap: wrap; }
h2 { flex: 1 1 auto; }
.v-select { flex: 0 1 240px; }
.press { min-width: 0; padding: 0; text-decoration: underline; text-underline-offset: 3px; }
</style>
