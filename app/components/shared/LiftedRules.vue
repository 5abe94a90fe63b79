<script setup lang="ts">
import { sayCredits } from '@ridgeway/words'
import { takeBackLifted } from '#shared/contract/acts/student'
import type { StudentState } from '#shared/contract/views/student'
import type { Problem } from '~/composables/useApi'

/** Rules that are lifted for the student in the working term; whoever advises can take one back. */
const { mayTakeBack = false } = defineProps<{ mayTakeBack?: boolean }>()
const student = useStudentStore()
const problem = ref<Problem | null>(null)
type Lifted = StudentState['lifted'][number]
const WHAT: Record<Lifted['kind'], (one: Lifted) => string> = {
  'late add': one => `${one.course} may be added after the last day`,
  'restriction': one => `sections of ${one.course} that are kept for others may be taken`,
  'prerequisite': one => `${one.course} may be taken without its prerequisite`,
  'seat': one => `a seat of ${one.course} that is kept for others may be taken`,
  'clash': one => `${one.course} and ${one.instead} may meet at the same time`,
  'load': one => `up to ${sayCredits(one.value ?? 0)}`,
}
const { sayWithout } = useWithout()
const ending = ref<Lifted | null>(null)
async function takeBack() {
  problem.value = await student.act(takeBackLifted, { id: ending.value!.id })
  ending.value = null
  if (!problem.value) announce('It is taken back.')
}
</script>

<template>
  <FailedBox v-if="problem" :problem="problem" />
  <ul v-if="student.state?.lifted.length" class="lifted small" aria-label="Lifted rules">
    <li v-for="one in student.state.lifted" :key="one.id">
      <b>{{ WHAT[one.kind](one) }}</b>
      <span class="second"> by {{ one.by }}: {{ one.reason }}{{ one.until ? ` · until ${longDate(one.until)}` : '' }}</span>
      <WordLink v-if="mayTakeBack" class="small" :aria-label="`Take back: ${WHAT[one.kind](one)}`" @click="ending = one">
        take back
      </WordLink>
    </li>
  </ul>
  <TakeBackDialog :open="ending !== null" :effect="ending ? sayWithout(ending) : []" @close="ending = null" @act="takeBack" />
</template>

<style scoped>
.lifted { margin: 4px 0; padding-left: 18px; }
</style>
