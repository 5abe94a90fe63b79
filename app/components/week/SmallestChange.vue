<script setup lang="ts">
import type { Section } from '@ridgeway/core/catalog'
import { mendWeek } from '@ridgeway/core/next'
import { joinWords } from '@ridgeway/words'
import type { Problem } from '~/composables/useApi'

/** When picks cannot stand together, or a bundle is full or cancelled: the fewest bundles to exchange, in one press. */
const week = useWeekStore()
const student = useStudentStore()
const { planned: courses, about, sectionsOf } = useArrangeInput()
const { labelOf } = useArrangement()
const problem = ref<Problem | null>(null)
const mend = computed(() => student.isOwn && about.value ? mendWeek(courses.value, about.value) : null)
const exchanges = computed(() => mend.value?.exchanged.map(({ course, from, to }) =>
  `${labelOf(course, from)} for ${labelOf(course, to)}`) ?? [])
const stays = computed(() => mend.value?.stays.length
  ? `${joinWords(mend.value.stays, 'and')} ${mend.value.stays.length === 1 ? 'stays' : 'stay'} refused: no other bundle mends that.`
  : '')
async function exchange() {
  const { exchanged, mends } = mend.value!
  problem.value = await week.choose(...exchanged.map(({ course, to }) => ({ course,
    sectionIds: sectionsOf(course, to).map((section: Section) => section.id) })))
  if (!problem.value) announce(`Exchanged: ${joinWords(mends, 'and')} can be registered beside the rest now.`)
}
</script>

<template>
  <FailedBox v-if="problem" :problem="problem" />
  <NoticeLine v-if="mend" class="change">
    <b>{{ joinWords(mend.mends, 'and') }} cannot be registered as picked.</b> The smallest change: {{ exchanges.join(', ') }}. {{ stays }}
    <ActButton @click="exchange">Exchange {{ count(exchanges.length, 'bundle') }}</ActButton>
  </NoticeLine>
</template>

<style scoped>
.change { margin: 4px 0 8px; }
</style>
