<script setup lang="ts">
import type { Section } from '@ridgeway/core/catalog'
import { smallestChange } from '@ridgeway/core/weeks'
import { placeToMend } from '@ridgeway/core/next'
import type { Problem } from '~/composables/useApi'

/** When what is picked cannot stand together: the fewest bundles to exchange so that it does, in one press. */
const week = useWeekStore()
const student = useStudentStore()
const { inputFor, sectionsOf } = useArrangeInput()
const { picked, labelOf } = useArrangement()
const problem = ref<Problem | null>(null)
/** Courses whose pick is refused for something that another bundle mends. */
const refused = computed(() =>
  (week.courses ?? []).flatMap(({ course, bundles }) =>
    bundles.filter(bundle => bundle.picked && !bundle.registered && bundle.decision.findings.some(finding =>
      !finding.ok && finding.code !== 'gate' && finding.code !== 'duplicate' && placeToMend(finding) === 'week')).map(() => course)),
)
const change = computed(() => {
  if (!student.isOwn || refused.value.length === 0) return null
  const input = inputFor([], {})
  if (!input) return null
  // Only what is picked is to stand together: what has no bundle yet stays as it is.
  return smallestChange({ ...input, courses: input.courses.filter(one => picked.value[one.course]) }, picked.value)
})
const exchanges = computed(() =>
  change.value?.exchanged.map(course => ({ course, from: labelOf(course, picked.value[course]!), to: labelOf(course,
    change.value!.choices[course]!) })) ?? [],
)
const words = computed(() => exchanges.value.map(({ from, to }) => `${from} for ${to}`).join(', '))
async function exchange() {
  const { choices, exchanged } = change.value!
  problem.value = await week.choose(...exchanged.map(course => ({ course,
    sectionIds: sectionsOf(course, choices[course]!).map((section: Section) => section.id) })))
  if (!problem.value) announce('Exchanged: what is picked stands together.')
}
</script>

<template>
  <FailedBox v-if="problem" :problem="problem" />
  <NoticeLine v-if="exchanges.length" class="change">
    <b>What is picked cannot all be registered.</b> The smallest change: {{ words }}.
    <ActButton @click="exchange">Exchange {{ count(exchanges.length, 'bundle') }}</ActButton>
  </NoticeLine>
</template>

<style scoped>
.change { margin: 4px 0 8px; }
</style>
