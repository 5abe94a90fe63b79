<script setup lang="ts">
import { LineChart } from 'echarts/charts'
import { AriaComponent, GridComponent, LegendComponent, TooltipComponent } from 'echarts/components'
import { use } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import VChart from 'vue-echarts'
import { shortTermName } from '@ridgeway/words'
import { readPace } from '#shared/contract/views/office'

/** How many courses were registered in each minute after an opening, beside the openings before it; with the figures behind it. */
use([LineChart, GridComponent, LegendComponent, TooltipComponent, AriaComponent, SVGRenderer])
const workingTerm = useWorkingTermStore()
const catalog = useCatalogStore()
const session = useSessionStore()
const color = useColors()
const { data, problem, reload } = useView(readPace, () => workingTerm.code ? { term: workingTerm.code } : null)
useIntervalFn(() => document.visibilityState === 'visible' && void reload(), 10_000)
const curves = computed(() => (data.value?.openings ?? []).map((one, i) => {
  const term = catalog.term(one.term)
  return { ...one, isNewest: i === 0,
    name: `${toLocal(one.from, session.zone).toFormat('ccc d LLL, HH:mm')}${one.term === workingTerm.code || !term
      ? ''
      : ` (${shortTermName(term)})`}` }
}))
const MARKS = [5, 15, 30, 60]
const at = (minutes: readonly number[], mark: number) => minutes.length >= mark ? minutes[mark - 1]! : null
const option = computed(() => ({
  animation: false,
  aria: { enabled: true, label: { description: `Courses registered after each opening. ${curves.value.map(one =>
    `${one.name}: ${one.minutes.at(-1) ?? 0} after ${one.minutes.length} minutes`).join('; ')}.` } },
  grid: { left: 44, right: 10, top: 10, bottom: 40 },
  tooltip: { trigger: 'axis' as const },
  textStyle: { fontFamily: 'inherit' },
  xAxis: { type: 'category' as const, boundaryGap: false, data: Array.from({ length: 60 }, (_, i) => String(i + 1)),
    name: 'minutes after the opening', nameLocation: 'middle' as const, nameGap: 24, nameTextStyle: { color: color('second-ink') },
    axisLabel: { color: color('second-ink'), interval: 9 } },
  yAxis: { type: 'value' as const, splitNumber: 3, minInterval: 1, axisLabel: { color: color('second-ink') },
    splitLine: { lineStyle: { color: color('line-soft') } } },
  series: curves.value.map((one, i) => ({ type: 'line' as const, name: one.name, data: one.minutes, showSymbol: false,
    lineStyle: { color: color(one.isNewest ? 'primary' : 'slate'), width: one.isNewest ? 2.5 : 1.5,
      type: (['solid', 'dashed', 'dotted'] as const)[Math.min(i, 2)]! }, itemStyle: { color: color(one.isNewest
      ? 'primary'
      : 'slate') } })),
}))
</script>

<template>
  <section class="card pace" aria-label="Pace of registration">
    <h2>Pace of registration</h2>
    <FailedBox v-if="problem" :problem="problem" retry @retry="reload" />
    <p v-if="data && !curves.length" class="second">
      Nothing has opened yet. From the first opening on, courses registered a minute stand here.
    </p>
    <template v-if="curves.length">
      <VChart class="chart" :option="option" autoresize />
      <p class="second small">
        Courses registered and kept, counted from each opening. Solid: the newest; dashed and dotted: those before.
      </p>
      <SameAsTable>
        <thead>
          <tr>
            <th>Opening</th>
            <th v-for="mark in MARKS" :key="mark" class="figure">{{ mark }} min</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="one in curves" :key="one.name">
            <td>{{ one.name }} <span class="second">{{ one.words }}</span></td>
            <td v-for="mark in MARKS" :key="mark" class="figure">{{ at(one.minutes, mark) ?? '–' }}</td>
          </tr>
        </tbody>
      </SameAsTable>
    </template>
  </section>
</template>

<style scoped>
.pace { padding: 10px 16px; }
.chart { height: 190px; }
p { margin: 2px 0; }
.figure { text-align: right; }
</style>
