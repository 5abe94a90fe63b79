<script setup lang="ts">
import { distanceInWeek } from '@ridgeway/core/weeks'
import { sayFinding, sayMeetings } from '@ridgeway/words'
import type { BundleView } from '#shared/contract/views/student'
import type { Problem } from '~/composables/useApi'

/** What happened to picks since: moved, cancelled or gone; with the bundles nearest to what was chosen that fit. */
const student = useStudentStore()
const week = useWeekStore()
const { fits, idsOf } = useBundleWords()
const problem = ref<Problem | null>(null)
const moved = computed(() => student.state?.moved ?? [])
const GONE = ['section-cancelled', 'section-unknown']
const gone = computed(() => student.state?.refused.filter(one => GONE.includes(one.finding.code)) ?? [])
onMounted(() => (gone.value.length + moved.value.length > 0) && void week.ensure())
/** Bundles that fit, those first whose hours are nearest to those that were chosen. */
function nearest(course: string): BundleView[] {
  const before = student.state?.lineUp.find(one => one.course === course)?.seen ?? []
  const distance = (bundle: BundleView) => distanceInWeek(bundle.sections.flatMap(section => section.meetings), before)
  return (week.courses?.find(one => one.course === course)?.bundles ?? []).filter(bundle => fits(bundle) && !bundle.picked)
    .sort((a, b) => distance(a) - distance(b)).slice(0, 3)
}
const keep = async (course: string) => {
  const row = student.state!.lineUp.find(one => one.course === course)!
  problem.value = await week.choose({ course, sectionIds: row.sectionIds })
  if (!problem.value) announce(`${course} is kept at its new hours.`)
}
async function take(bundle: BundleView) {
  problem.value = await week.choose({ course: bundle.course, sectionIds: idsOf(bundle) })
  if (!problem.value) announce(`${bundle.course}-${bundle.sections[0]!.label} picked.`)
}
</script>

<template>
  <FailedBox v-if="problem" :problem="problem" />
  <NoticeLine v-for="one in moved" :key="one.course" class="change">
    <b>
      {{ one.course }}-{{ one.label }} was moved.</b> It meets {{ sayMeetings(one.now) }} now, and met {{ sayMeetings(one.before) }} when
      you picked it.
    <template v-if="student.isOwn">
      <ActButton @click="keep(one.course)">Keep it</ActButton>
      <ActButton
        v-for="bundle in nearest(one.course)"
        :key="bundle.id"
        @click="take(bundle)"
      >
        Take {{ bundle.sections[0]!.label }}, {{ bundle.times }}
      </ActButton>
    </template>
  </NoticeLine>
  <NoticeLine v-for="one in gone" :key="one.course" blocking class="change">
    <b>{{ sayFinding(one.finding).words }}</b>
    <template v-if="student.isOwn">
      <ActButton
        v-for="bundle in nearest(one.course)"
        :key="bundle.id"
        @click="take(bundle)"
      >
        Take {{ bundle.sections[0]!.label }}, {{ bundle.times }}
      </ActButton>
      <template v-if="nearest(one.course).length === 0"> No other bundle of it fits; look for another course.</template>
    </template>
  </NoticeLine>
</template>

<style scoped>
.change { margin: 4px 0 8px; }
.change .act { margin: 2px 0 2px 8px; }
</style>
