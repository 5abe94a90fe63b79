<script setup lang="ts">
import { readLeaving } from '@ridgeway/core/next'
import { joinWords, sayLeaving } from '@ridgeway/words'

/** Giving up a registered course: what it comes to is told before, and a course that cannot stay alone goes in the same move. */
const { course } = defineProps<{ course: string }>()
const open = defineModel<boolean>({ required: true })
const student = useStudentStore()
const workingTerm = useWorkingTermStore()
const { today } = useNow()
const { problem, busy, drop } = useChanges()
const read = (courses: readonly string[]) => workingTerm.term && student.file && readLeaving(courses, { term: workingTerm.term,
  date: today.value, file: student.file, rules: student.rules })
const first = computed(() => open.value ? read([course]) : null)
const courses = computed(() => [course, ...first.value?.alone ?? []])
const leaving = computed(() => courses.value.length > 1 ? read(courses.value) : first.value)
const said = computed(() => leaving.value && first.value
  ? sayLeaving({ ...leaving.value, alone: first.value.alone }, courses.value, workingTerm.term!.name)
  : [])
const verb = computed(() => leaving.value?.kind === 'withdraw' ? 'Withdraw from' : 'Drop')
async function act() {
  if (await drop(courses.value)) open.value = false
}
</script>

<template>
  <AskDialog
    v-model="open"
    :title="`Give up ${joinWords(courses, 'and')}?`"
    :act="`${verb} ${joinWords(courses, 'and')}`"
    :busy="busy"
    :off="leaving?.kind === 'closed' && 'The last day is over'"
    @act="act"
  >
    <FailedBox v-if="problem" :problem="problem" />
    <ul>
      <li v-for="words in said" :key="words">{{ words }}</li>
    </ul>
  </AskDialog>
</template>

<style scoped>
ul { margin: 0; padding-left: 18px; display: grid; gap: 4px; }
</style>
