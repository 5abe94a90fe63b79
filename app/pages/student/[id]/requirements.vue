<script setup lang="ts">
import { formatCredits, type LineReport } from '@ridgeway/core'

const student = useStudentStore()
const catalog = useCatalogStore()
const route = useRoute()
const { hueOf, doneOf } = useItems()
const view = ref<'area' | 'term'>('area')
const selected = ref<{ program: string, line: string } | null>(null)
const pointed = ref<string | null>(null)

const reports = computed(() => student.standing?.reports ?? [])
const major = computed(() => reports.value[0])
const selectedLine = computed(() => {
  const report = reports.value.find(r => r.code === selected.value?.program)
  const line = report && [...report.areas.flatMap(area => area.lines), ...report.overlays].find(l => l.id === selected.value?.line)
  return line && report ? { report, line } : null
})
const select = (program: string, line: string) => selected.value = selected.value?.line === line && selected.value.program === program ? null : { program, line }
onMounted(() => {
  const about = String(route.query.about ?? '')
  for (const report of reports.value) {
    const line = [...report.areas.flatMap(area => area.lines), ...report.overlays].find(l => l.id === about || (about === 'open' && l.state === 'open' && !l.setAside))
    if (line) {
      selected.value = { program: report.code, line: line.id }
      break
    }
  }
})
/** A line lights up fully where the pointed course counts, faintly where it could. */
const light = (program: string, line: LineReport) => {
  if (!pointed.value) return ''
  if (line.uses.some(use => use.item.id === pointed.value)) return 'counts-here'
  const report = reports.value.find(r => r.code === program)
  return report?.couldCount[pointed.value]?.includes(line.id) ? 'could-count' : ''
}
const suggested = computed(() => {
  const program = student.state && catalog.programs.get(student.state.programIds[0] ?? '')
  return program?.suggested.map(step => ({ name: step.name, courses: step.courses.map(code => ({ code, item: student.standing?.items.find(item => item.course === code && major.value?.couldCount[item.id]) })) })) ?? []
})
const totals = computed(() => major.value && [
  { value: major.value.met, word: 'met' }, { value: major.value.underWay, word: 'under way' }, { value: major.value.covered, word: 'covered' }, { value: major.value.open, word: 'open' },
])
/** Attempts that can count at all: a withdrawn, failed or replaced one earns nothing here. */
const creditsHere = computed(() => student.standing!.items.filter(item => item.source === 'here' && major.value?.couldCount[item.id]).reduce((sum, item) => sum + item.credits, 0))
const unusedBelow = computed(() => student.standing?.items.filter(item => student.standing!.offPath.includes(item.id)) ?? [])
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>{{ major?.title }} · catalog {{ major?.catalogYear }}</h1>
      <div role="group" aria-label="Read the requirements" class="by">
        <button class="words-link" type="button" :aria-pressed="view === 'area'" @click="view = 'area'">by area</button> ·
        <button class="words-link" type="button" :aria-pressed="view === 'term'" @click="view = 'term'">by suggested term</button>
      </div>
      <span class="spacer" />
      <span v-if="totals"><template v-for="(part, i) in totals" :key="part.word">{{ i ? ' · ' : '' }}<b>{{ formatCredits(part.value) }}</b> {{ part.word }}</template> <span class="second">of {{ formatCredits(major!.totalCredits) }} cr</span></span>
    </div>

    <template v-if="view === 'area'">
      <section v-for="report in reports" :key="report.code" class="card tree" :aria-label="report.title">
        <h2 v-if="report !== major" class="program">{{ report.title }} · catalog {{ report.catalogYear }} <span class="second small">{{ formatCredits(report.met) }} of {{ formatCredits(report.totalCredits) }} cr met</span></h2>
        <template v-for="area in report.areas" :key="area.id">
          <div class="area-row"><h3>{{ area.title }}</h3><span :class="area.open ? 'strong' : 'second'">{{ area.open ? `${formatCredits(area.open)} cr open` : area.state }}</span></div>
          <RequirementLine
            v-for="line in area.lines" :key="line.id" :line="line" :hue="area.hue" :selected="selected?.line === line.id && selected.program === report.code" :light="light(report.code, line)"
            @select="select(report.code, line.id)" @point="pointed = $event"
          />
        </template>
        <RequirementLine
          v-for="line in report.overlays" :key="line.id" :line="line" hue="slate" :selected="selected?.line === line.id" :light="light(report.code, line)"
          @select="select(report.code, line.id)" @point="pointed = $event"
        />
      </section>
      <section class="card below">
        <div>
          <h3>Counts for nothing</h3>
          <p v-if="unusedBelow.length === 0" class="second">Every course has a use.</p>
          <p v-for="item in unusedBelow" :key="item.id"><b>{{ item.course }}</b> {{ catalog.courses.get(item.course)?.title }}, {{ formatCredits(item.credits) }} cr, {{ item.state }}<template v-if="item.grade"> ({{ item.grade }})</template>: no line has room for it{{ item.state === 'completed' ? '; it counts in the GPA only' : '' }}.</p>
        </div>
        <div>
          <h3>Also asked</h3>
          <p>GPA of at least {{ (catalog.programs.get(student.state!.programIds[0]!)!.gpaMinimum / 100).toFixed(2) }}: <b>{{ student.standing!.gpa.value === null ? 'no grades yet' : (student.standing!.gpa.value / 100).toFixed(2) }}</b></p>
          <p>{{ formatCredits(catalog.programs.get(student.state!.programIds[0]!)!.creditsHere) }} credits taken here: <b>{{ formatCredits(creditsHere) }}</b> with the plan</p>
        </div>
      </section>
    </template>

    <section v-else class="card tree">
      <div v-for="step in suggested" :key="step.name" class="line-row">
        <span class="line-title">{{ step.name }}</span>
        <div class="bar">
          <CourseBlock v-for="{ code, item } in step.courses" :key="code" class="sized" compact :code="code" :state="item?.state ?? 'open'" :hue="item ? hueOf(item) : undefined" :corner="item?.grade ?? ''" :done="item ? doneOf(item) : 0" />
        </div>
      </div>
    </section>

    <LineDrawer v-if="selectedLine" :line="selectedLine.line" :program="selectedLine.report.code" @close="selected = null" />
  </div>
</template>

<style scoped>
.by button[aria-pressed='true'] { color: var(--ink); text-decoration: underline; }
.tree { margin-bottom: 12px; overflow: hidden; }
.program { padding: 9px 14px 3px; }
.area-row { display: grid; grid-template-columns: 250px 1fr; gap: 12px; padding: 7px 14px 5px; border-top: 1px solid var(--line); }
.tree > .area-row:first-child { border-top: 0; }
.line-row { display: grid; grid-template-columns: 160px 1fr; gap: 12px; align-items: center; padding: 5px 14px; border-top: 1px solid var(--line-soft); }
.line-row:first-child { border-top: 0; }
.bar { display: flex; flex-wrap: wrap; gap: 4px; }
.sized { width: 110px; }
.below { display: grid; grid-template-columns: 1fr 1fr; gap: 20px; padding: 10px 14px; }
.below p { margin: 2px 0; }
@media (max-width: 700px) { .area-row, .line-row, .below { grid-template-columns: 1fr; gap: 2px; } }
</style>
