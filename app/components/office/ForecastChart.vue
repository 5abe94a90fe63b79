<script setup lang="ts">
import { BarChart, CustomChart, ScatterChart } from 'echarts/charts'
import type { CustomSeriesRenderItemAPI, CustomSeriesRenderItemParams } from 'echarts'
import { AriaComponent, GridComponent, LegendComponent, TooltipComponent } from 'echarts/components'
import { use } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import VChart from 'vue-echarts'
import type { Demand } from '#shared/contract/views/demand'

/** The courses that most will take: how many are expected, within what range, and how many took it a year before. */
const { courses } = defineProps<{ courses: NonNullable<Demand['forecast']>['courses'] }>()
use([BarChart, CustomChart, ScatterChart, GridComponent, LegendComponent, TooltipComponent, AriaComponent, SVGRenderer])
const MOST = 14
const color = useColors()
const shown = computed(() => [...courses].sort((a, b) => b.expected - a.expected || (a.course < b.course ? -1 : 1)).slice(0, MOST))
/** A line from the low to the high end of a course's range, with a foot at each. */
function whisker(_: CustomSeriesRenderItemParams, api: CustomSeriesRenderItemAPI) {
  const [x, low, high] = [api.value(0), api.value(1), api.value(2)]
  const [from, to] = [api.coord([x!, low!]), api.coord([x!, high!])]
  const line = (x1: number, y1: number, x2: number, y2: number) => ({ type: 'line' as const, shape: { x1, y1, x2, y2 },
    style: { stroke: color('on-surface'), lineWidth: 1.5 } })
  return { type: 'group' as const, children: [line(from[0]!, from[1]!, to[0]!, to[1]!), line(from[0]! - 4, from[1]!, from[0]! + 4,
    from[1]!),
  line(to[0]! - 4, to[1]!, to[0]! + 4, to[1]!)] }
}
const option = computed(() => ({
  ...courseChart(shown.value.map(one => one.course), color),
  aria: { enabled: true,
    label: { description: `How many will take each course. ${shown.value.map(one => `${one.course}: ${one.expected} expected${
      one.low === null ? '' : `, ${one.low} to ${one.high} eight times in ten`}`).join('; ')}.` } },
  series: [
    { type: 'bar' as const, name: 'expected', data: shown.value.map(one => one.expected), barMaxWidth: 26,
      itemStyle: { color: color('primary', 0.25), borderColor: color('primary') } },
    { type: 'custom' as const, name: 'eight times in ten', renderItem: whisker, itemStyle: { color: color('on-surface') },
      dimensions: ['course', 'low', 'high'], encode: { x: 0, y: [1, 2] },
      data: shown.value.flatMap((one, i) => one.low === null || one.high === null ? [] : [[i, one.low, one.high]]) },
    { type: 'scatter' as const, name: 'a year before', data: shown.value.map(one => one.lastYear), symbol: 'diamond', symbolSize: 9,
      itemStyle: { color: color('slate') } },
  ],
}))
</script>

<template>
  <section class="card chart-card" aria-label="Most will take">
    <h2>Most will take</h2>
    <VChart class="chart" :option="option" autoresize />
  </section>
</template>

<style scoped>
.chart-card { padding: 10px 16px; margin-bottom: 12px; }
.chart { height: 240px; }
</style>
