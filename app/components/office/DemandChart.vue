<script setup lang="ts">
import { BarChart, ScatterChart } from 'echarts/charts'
import { AriaComponent, GridComponent, LegendComponent, TooltipComponent } from 'echarts/components'
import { use } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import VChart from 'vue-echarts'
import type { CourseDemand } from '@ridgeway/core/demand'

/** The courses most asked for beyond their seats: who has a seat, who lacks one, and how many seats there are. */
const { courses } = defineProps<{ courses: readonly CourseDemand[] }>()
use([BarChart, ScatterChart, GridComponent, LegendComponent, TooltipComponent, AriaComponent, SVGRenderer])
const MOST = 14
const color = useColors()
const shown = computed(() => {
  const over = courses.filter(one => one.short > 0).sort((a, b) => b.short - a.short || b.students - a.students)
  return (over.length > 0 ? over : [...courses].sort((a, b) => b.students - a.students)).slice(0, MOST)
})
const title = computed(() => shown.value.some(one => one.short > 0) ? 'Most short of seats' : 'Most asked for')
const option = computed(() => ({
  ...courseChart(shown.value.map(one => one.course), color),
  aria: { enabled: true, label: { description: `${title.value}. ${shown.value.map(one =>
    `${one.course}: ${one.students} plan it, ${one.seats} seats`).join('; ')}.` } },
  series: [
    { type: 'bar' as const, name: 'registered', stack: 'students', data: shown.value.map(one => one.registered), barMaxWidth: 26,
      itemStyle: { color: color('slate') } },
    { type: 'bar' as const, name: 'without a seat', stack: 'students', data: shown.value.map(one => one.students - one.registered),
      barMaxWidth: 26, itemStyle: { color: color('primary', 0.15), borderColor: color('primary'), borderType: 'dashed' as const } },
    { type: 'scatter' as const, name: 'seats', data: shown.value.map(one => one.seats), symbol: 'rect', symbolSize: [30, 4],
      itemStyle: { color: color('on-surface') } },
  ],
}))
</script>

<template>
  <section class="card chart-card" :aria-label="title">
    <h2>{{ title }}</h2>
    <VChart class="chart" :option="option" autoresize />
  </section>
</template>

<style scoped>
.chart-card { padding: 10px 16px; }
.chart { height: 220px; }
</style>
