<script setup lang="ts">
import { writeTable } from '@ridgeway/formats'
import { sayBacktest, sayTerm } from '@ridgeway/words'
import type { Demand } from '#shared/contract/views/demand'

/** How many will take each course of a term that has no sections yet, with how far that may be off. */
const { forecast } = defineProps<{ forecast: NonNullable<Demand['forecast']> }>()
const emit = defineEmits<{ open: [course: string] }>()
const catalog = useCatalogStore()
const workingTerm = useWorkingTermStore()
const search = ref('')
const headers = [
  { title: 'Course', key: 'course' },
  { title: 'Expected', key: 'expected', align: 'end' as const },
  { title: 'Eight times in ten', key: 'range', value: 'high', align: 'end' as const },
  { title: 'A year before', key: 'lastYear', align: 'end' as const },
  { title: 'Planned already', key: 'planned', align: 'end' as const },
  { title: 'Sections', key: 'sections', align: 'end' as const },
]
const rows = computed(() => forecast.courses.map(one => ({ ...one, title: catalog.courses.get(one.course)?.title ?? '',
  range: one.low === null || one.high === null ? 'not known' : `${one.low} to ${one.high}`,
  sections: one.usual > 0 ? Math.ceil(one.expected / one.usual) : 0 })))
const save = () => saveFile(`forecast-${workingTerm.code}.csv`, 'text/csv', writeTable(rows.value.map(one => ({
  course: one.course, title: one.title, expected: String(one.expected), low: String(one.low ?? ''), high: String(one.high ?? ''),
  a_year_before: String(one.lastYear ?? ''), planned: String(one.planned), sections: String(one.sections), section_size: String(one.usual),
}))))
</script>

<template>
  <section class="card" aria-label="Forecast">
    <header>
      <h2>Forecast</h2>
      <v-text-field v-model="search" class="finder" label="Find a course" />
      <span class="spacer" />
      <WordLink @click="save">Save as CSV</WordLink>
    </header>
    <p class="words">
      From how students of earlier years went on, those who are here now are carried forward from {{ sayTerm(forecast.known) }}, with as
      many newcomers as a year before. Nobody who plans a course already is forecast away.
      <b v-if="forecast.backtest">{{ sayBacktest(forecast.backtest) }}</b>
      <b v-else>There is no earlier year to check it against: take the numbers as a guess.</b>
    </p>
    <v-data-table :headers="headers" :items="rows" :search="search" :items-per-page="15">
      <template #[`item.course`]="{ item }"
        ><WordLink :aria-label="`Open ${item.course}`" @click="emit('open', item.course)">{{ item.course }}</WordLink>
        <span class="second small title">{{ item.title }}</span></template
      >
      <template #[`item.expected`]="{ item }"><b>{{ item.expected }}</b></template>
      <template #[`item.range`]="{ item }">{{ item.range }}</template>
      <template #[`item.lastYear`]="{ item }">{{ item.lastYear ?? 'not on record' }}</template>
      <template #[`item.sections`]="{ item }"
        >{{ item.sections }} <span class="second small">of {{ item.usual }}</span></template
      >
    </v-data-table>
  </section>
</template>

<style scoped>
header { display: flex; gap: 12px; align-items: center; padding: 10px 16px 4px; flex-wrap: wrap; }
h2 { margin: 0; }
.finder { max-width: 230px; }
.title { margin-left: 7px; }
.words { margin: 0; padding: 4px 16px; max-width: 980px; }
</style>
