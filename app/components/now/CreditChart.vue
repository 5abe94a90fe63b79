<script setup lang="ts">
import type { Term } from '@ridgeway/core/catalog'
import { formatCredits, shortTermName } from '@ridgeway/words'
import { BarChart } from 'echarts/charts'
import { AriaComponent, GridComponent, TooltipComponent } from 'echarts/components'
import { use } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import VChart from 'vue-echarts'

/** Credits of each term, taken, under way and planned; told apart by fill, not by hue, with the table behind it. */
const props = defineProps<{ loads: { term: Term, credits: number, kind: 'taken' | 'under way' | 'planned' }[] }>()
use([BarChart, GridComponent, TooltipComponent, AriaComponent, SVGRenderer])

const color = useColors()
const said = computed(() => props.loads.map(load => `${load.term.name}: ${formatCredits(load.credits)}, ${load.kind}`).join('; '))
const option = computed(() => {
  const lake = color('lake')
  const looks = {
    'taken': { color: lake },
    'under way': { color: color('lake', 0.3), borderColor: lake, borderWidth: 1.5 },
    'planned': { color: 'transparent', borderColor: lake, borderWidth: 1.5, borderType: 'dotted' as const },
  }
  return {
    animation: false,
    aria: { enabled: true, label: { description: `Credits by term. ${said.value}.` } },
    grid: { left: 28, right: 6, top: 18, bottom: 22 },
    tooltip: { trigger: 'item' as const },
    textStyle: { fontFamily: 'inherit' },
    xAxis: { type: 'category' as const, data: props.loads.map(load => shortTermName(load.term)), axisTick: { show: false },
      axisLabel: { color: color('second-ink'), interval: 0 } },
    yAxis: { type: 'value' as const, splitNumber: 3, axisLabel: { color: color('second-ink') },
      splitLine: { lineStyle: { color: color('line-soft') } } },
    series: [{ type: 'bar' as const, barMaxWidth: 34,
      label: { show: true, position: 'top' as const, color: color('on-surface'), fontSize: 11, formatter: '{c}' },
      data: props.loads.map(load => ({ value: Number(formatCredits(load.credits)), itemStyle: looks[load.kind],
        name: `${load.term.name}, ${load.kind}` }),
      ) }],
  }
})
</script>

<template>
  <div>
    <VChart class="chart" :option="option" autoresize />
    <p class="second small key">solid: taken · shaded: under way · dotted: planned</p>
    <SameAsTable>
        <thead>
          <tr>
            <th>Term</th>
            <th>Credits</th>
            <th>State</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="load in loads" :key="load.term.code">
            <td>{{ load.term.name }}</td>
            <td>{{ formatCredits(load.credits) }}</td>
            <td>{{ load.kind }}</td>
          </tr>
        </tbody>
      </SameAsTable>
  </div>
</template>

<style scoped>
.chart { height: 150px; }
.key { margin: 0; }
</style>
