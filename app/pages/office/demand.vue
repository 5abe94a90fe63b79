<script setup lang="ts">
import { readDemand } from '#shared/contract/views/demand'

/** What students ask of the working term beside what it offers; before it has sections, what they will ask. A chosen course opens below. */
const workingTerm = useWorkingTermStore()
const { value: chosen, open, close } = useInAddress('course')
const { data, problem, reload } = useView(readDemand, () => workingTerm.code ? { term: workingTerm.code } : null)
useIntervalFn(() => document.visibilityState === 'visible' && void reload(), 60_000)
watch(() => workingTerm.code, (_, before) => before && chosen.value && close())
const short = computed(() => (data.value?.courses ?? []).filter(one => one.short > 0))
const about = computed(() => {
  if (!data.value || !workingTerm.term) return workingTerm.term?.name ?? ''
  const { students, forecast } = data.value
  return [workingTerm.term.name, `${count(students, 'student')} plan it`, forecast
    ? `${count(forecast.courses.length, 'course')} forecast, no sections yet`
    : short.value.length > 0
      ? `${count(short.value.length, 'course')} short of ${count(short.value.reduce((sum, one) => sum + one.short, 0), 'seat')}`
      : 'seats for everybody'].join(' · ')
})
</script>

<template>
  <div class="page">
    <PageHead title="Demand" :about="about"><WordLink to="/office/sections">Sections</WordLink></PageHead>
    <FailedBox v-if="problem" :problem="problem" retry @retry="reload" />
    <template v-if="!data && !problem">
      <p class="second" role="status">Reading what everybody plans, and what waits behind it …</p>
      <GreyShapes />
    </template>
    <template v-if="data">
      <EmptyState v-if="!data.courses.length && !data.forecast?.courses.length">
        Nobody plans anything for {{ workingTerm.term?.name }} yet, and nothing tells what they will. Choose another working term above.
      </EmptyState>
      <template v-else-if="data.forecast">
        <ForecastChart :courses="data.forecast.courses" />
        <DemandForecast :forecast="data.forecast" @open="open" />
      </template>
      <template v-else>
        <div class="two">
          <DemandChart :courses="data.courses" />
          <DemandByDay :parts="data.byDayPart" />
        </div>
        <DemandTable :courses="data.courses" @open="open" />
      </template>
      <DemandDrawer v-if="chosen" :key="chosen" :course="chosen" @close="close" />
    </template>
  </div>
</template>

<style scoped>
.two { display: grid; grid-template-columns: minmax(0, 1.5fr) minmax(0, 1fr); gap: 12px; margin-bottom: 12px; align-items: stretch; }
@media (max-width: 900px) { .two { grid-template-columns: minmax(0, 1fr); } }
</style>
