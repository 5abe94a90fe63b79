<script setup lang="ts">
import { termPhase } from '@ridgeway/core/catalog'
import { formatCredits } from '@ridgeway/words'
import { lazily } from '../kit/lazily'

/** Credits by term as a picture; its place is kept while the drawing code comes, which what is to be done does not wait for. */
const student = useStudentStore()
const catalog = useCatalogStore()
const { today } = useNow()
/** The chart is drawn when everything that can be acted on stands, and who goes on at once is not held up by it. */
const CHART_AFTER_MS = 700
const CreditChart = lazily(() => import('./CreditChart.vue'))
const isIdle = ref(false)
let waiting: ReturnType<typeof setTimeout> | undefined
onMounted(() => waiting = setTimeout(() => requestIdleCallback(() => isIdle.value = true, { timeout: 2000 }), CHART_AFTER_MS))
onBeforeUnmount(() => clearTimeout(waiting))
const KINDS = { 'past': 'taken', 'under way': 'under way', 'future': 'planned' } as const
const loads = computed(() =>
  student.standing?.loads.filter(load => load.credits > 0).map((load) => {
    const term = catalog.term(load.term)!
    return { ...load, term, kind: KINDS[termPhase(term, today.value)] }
  }) ?? [],
)
const finish = computed(() => student.standing?.finish ? catalog.term(student.standing.finish)?.name : null)
const said = computed(() => finish.value ? `finish ${finish.value}` : `${formatCredits(student.standing?.unplaced ?? 0)} cr to place`)
</script>

<template>
  <section class="card chart-card" aria-label="Credits by term">
    <h2>
      Credits by term <span class="second small">{{ said }}</span>
    </h2>
    <div v-if="loads.length" class="chart-place"><CreditChart v-if="isIdle" :loads="loads" /></div>
    <p v-else class="second">The chart begins with the first course.</p>
  </section>
</template>

<style scoped>
h2 { margin-bottom: 6px; }
/* As high as the chart, its key and the way to its table. */
.chart-place { min-height: 190px; }
.chart-card { padding: 12px 16px; margin-top: 12px; }
</style>
