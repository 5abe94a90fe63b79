<script setup lang="ts">
import { termPhase } from '@ridgeway/core/catalog'
import type { Standing } from '@ridgeway/core/planning'
import type { ProgramReport } from '@ridgeway/core/requirements'
import { formatCredits, shortTermName } from '@ridgeway/words'
import { BarChart, LineChart } from 'echarts/charts'
import { AriaComponent, GridComponent, LegendComponent, MarkLineComponent, TooltipComponent } from 'echarts/components'
import { use } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import VChart from 'vue-echarts'

/** Two pictures where looking beats reading, told apart by pattern and not by colour alone, each with its table. */
const props = defineProps<{ standing: Standing, report: ProgramReport }>()
use([BarChart, LineChart, GridComponent, LegendComponent, MarkLineComponent, TooltipComponent, AriaComponent, SVGRenderer])
const catalog = useCatalogStore()
const { today } = useNow()

const color = useColors()
const credits = (value: number) => Number(formatCredits(value))

/** Credits that can count, by term, and what they add up to. Credit from elsewhere stands before the first term. */
const terms = computed(() => {
  const items = props.report.earning
  let sum = items.filter(item => !item.term).reduce((total, item) => total + item.credits, 0)
  const rows = sum > 0 ? [{ name: 'before', short: 'before', added: sum, sum, kind: 'earned' }] : []
  for (const term of catalog.terms) {
    const mine = items.filter(item => item.term === term.code)
    const added = mine.reduce((total, item) => total + item.credits, 0)
    if (added === 0) continue
    sum += added
    const phase = termPhase(term, today.value)
    rows.push({ name: term.name, short: shortTermName(term), added, sum,
      kind: phase === 'past' ? 'earned' : phase === 'under way' ? 'under way' : 'planned' })
  }
  return rows
})

const STATES = ['met', 'under way', 'covered', 'open'] as const
const areas = computed(() =>
  props.report.areas.map((area) => {
    const active = area.lines.filter(line => !line.setAside)
    const sum = (part: 'met' | 'underWay' | 'covered') => active.reduce((total, line) => total + line.filled[part], 0)
    return { 'title': area.title, 'met': sum('met'), 'under way': sum('underWay'), 'covered': sum('covered'), 'open': area.open }
  }),
)

/** What both pictures share; `said` is the picture for who hears it. */
const base = (said: string) => ({ animation: false, textStyle: { fontFamily: 'Atkinson Hyperlegible Next Variable' },
  tooltip: { trigger: 'axis' as const }, aria: { enabled: true, decal: { show: true }, label: { description: said } } })
const axis = computed(() => ({ axisLabel: { color: color('second-ink') }, axisTick: { show: false },
  splitLine: { lineStyle: { color: color('line-soft') } } }),
)
const LOOKS: Record<typeof STATES[number], { color: string, decal: object | null }> = {
  'met': { color: 'fern', decal: null },
  'under way': { color: 'lake', decal: { symbol: 'rect', dashArrayX: [1, 0], dashArrayY: [3, 4], rotation: -0.8 } },
  'covered': { color: 'slate', decal: { symbol: 'circle', symbolSize: 0.6, dashArrayX: [[6, 6], [0, 6, 6, 0]], dashArrayY: [6, 0] } },
  'open': { color: 'line', decal: null },
}
/** Earned solid, under way hatched, planned a dotted outline: as everywhere. */
const looksOf = (kind: string) =>
  kind === 'planned'
    ? { color: 'transparent', borderColor: color('lake'), borderWidth: 1.5, borderType: 'dotted' as const, decal: { symbol: 'none' } }
    : { color: color('lake'), decal: LOOKS[kind === 'under way' ? 'under way' : 'met'].decal ?? { symbol: 'none' } }
const climb = computed(() => ({
  ...base(`Credits by term. ${terms.value.map(row => `${row.name}: ${formatCredits(row.sum)} in all, ${row.kind}`).join('; ')}.`),
  grid: { left: 40, right: 16, top: 30, bottom: 26 },
  legend: { top: 0, right: 0, textStyle: { color: color('second-ink') } },
  xAxis: { type: 'category' as const, data: terms.value.map(row => row.short), ...axis.value },
  yAxis: { type: 'value' as const, interval: 30,
    max: Math.ceil((Math.max(credits(props.report.totalCredits), credits(terms.value.at(-1)?.sum ?? 0)) + 5) / 30) * 30, ...axis.value },
  series: [
    { type: 'bar' as const, name: 'credits of the term', barMaxWidth: 26,
      data: terms.value.map(row => ({ value: credits(row.added), itemStyle: looksOf(row.kind) })),
      itemStyle: { color: color('lake'), decal: { symbol: 'none' } } },
    {
      type: 'line' as const,
      name: 'credits in all',
      step: 'middle' as const,
      data: terms.value.map(row => credits(row.sum)),
      itemStyle: { color: color('primary') },
      lineStyle: { width: 2 },
      symbolSize: 7,
      markLine: { silent: true, symbol: 'none', lineStyle: { color: color('error'), type: 'dashed' as const },
        label: { formatter: `finish: ${formatCredits(props.report.totalCredits)} cr`, position: 'insideStartTop' as const,
          color: color('error') }, data: [{ yAxis: credits(props.report.totalCredits) }] },
    },
  ],
}))
const sayArea = (area: typeof areas.value[number]) =>
  `${area.title}: ${STATES.filter(state => area[state] > 0).map(state => `${formatCredits(area[state])} ${state}`).join(', ') || 'nothing'}`
const byArea = computed(() => ({
  ...base(`Credits by area. ${areas.value.map(sayArea).join('; ')}.`),
  grid: { left: 120, right: 16, top: 30, bottom: 26 },
  legend: { top: 0, right: 0, textStyle: { color: color('second-ink') } },
  xAxis: { type: 'value' as const, ...axis.value },
  yAxis: { type: 'category' as const, inverse: true, data: areas.value.map(area => area.title), ...axis.value },
  series: STATES.map(state => ({
    type: 'bar' as const,
    stack: 'credits',
    name: state,
    barMaxWidth: 22,
    data: areas.value.map(area => credits(area[state])),
    itemStyle: { color: color(LOOKS[state].color), decal: LOOKS[state].decal ?? { symbol: 'none' }, borderColor: color('surface'),
      borderWidth: 1 },
  })),
}))
</script>

<template>
  <div class="pictures">
    <figure class="card">
      <figcaption><h2>Credits by term against the finish</h2></figcaption>
      <VChart class="chart" :option="climb" autoresize />
      <p class="second small key">bars: solid earned, hatched under way, dotted planned</p>
      <SameAsTable>
          <thead>
            <tr>
              <th>Term</th>
              <th>Credits</th>
              <th>In all</th>
              <th>State</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="row in terms" :key="row.name">
              <td>{{ row.name }}</td>
              <td>{{ formatCredits(row.added) }}</td>
              <td>{{ formatCredits(row.sum) }}</td>
              <td>{{ row.kind }}</td>
            </tr>
          </tbody>
        </SameAsTable>
    </figure>
    <figure class="card">
      <figcaption><h2>Areas by state, in credits</h2></figcaption>
      <VChart class="chart" :option="byArea" autoresize />
      <SameAsTable>
          <thead>
            <tr>
              <th>Area</th>
              <th v-for="state in STATES" :key="state">{{ state }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="area in areas" :key="area.title">
              <td>{{ area.title }}</td>
              <td v-for="state in STATES" :key="state">{{ formatCredits(area[state]) }}</td>
            </tr>
          </tbody>
        </SameAsTable>
    </figure>
  </div>
</template>

<style scoped>
.pictures { display: grid; grid-template-columns: repeat(auto-fit, minmax(min(100%, 480px), 1fr)); gap: 12px; margin-bottom: 12px; }
figure { margin: 0; padding: 12px 16px; min-width: 0; }
.key { margin: 0 0 4px; }
.chart { height: 320px; }
</style>
