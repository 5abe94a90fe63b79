<script setup lang="ts">
import { formatCredits } from '@ridgeway/words'
import { liftRule } from '#shared/contract/acts/student'
import type { Problem } from '~/composables/useApi'

/** The advisor lifts a rule of registering for the opened student and the working term; a reason is always kept. */
const student = useStudentStore()
const catalog = useCatalogStore()
const workingTerm = useWorkingTermStore()
const open = ref(false)
const kind = ref<'late add' | 'restriction' | 'prerequisite' | 'load'>('late add')
const course = ref<string | null>(null)
const credits = ref<number | null>(null)
const reason = ref('')
const busy = ref(false)
const problem = ref<Problem | null>(null)
const KINDS = [{ value: 'late add', title: 'Add a course after the last day' },
  { value: 'restriction', title: 'Take a section that is kept for others' },
  { value: 'prerequisite', title: 'Go without a prerequisite' }, { value: 'load', title: 'Take more credits than the cap' }]
/** What they plan and picked first. */
const courses = computed(() => {
  const own = [...new Set(student.entries.filter(entry => entry.term === workingTerm.code).map(entry => entry.course))]
  return [...own, ...[...catalog.courses.keys()].filter(code => !own.includes(code))]
    .map(code => ({ value: code, title: `${code} ${catalog.courses.get(code)?.title ?? ''}` }))
})
const amounts = computed(() => Array.from({ length: 6 }, (_, i) => (workingTerm.term?.loadCap ?? 0) + (i + 1) * 100)
  .map(value => ({ value, title: `${formatCredits(value)} credits` })))
const lacking = computed(() => (kind.value === 'load' ? credits.value : course.value) === null
  ? 'Choose what it is about'
  : reason.value.trim().length < 3 ? 'Give a reason; it is kept with the exception' : '')
async function grant() {
  busy.value = true
  const about = { term: workingTerm.code, reason: reason.value }
  problem.value = await student.act(liftRule, kind.value === 'load'
    ? { kind: kind.value, credits: credits.value!, ...about }
    : { kind: kind.value, course: course.value!, ...about })
  busy.value = false
  if (problem.value) return
  reason.value = ''
  course.value = null
  credits.value = null
  announce('The exception is granted.')
}
</script>

<template>
  <WordLink class="small" @click="open = true">Lift a rule …</WordLink>
  <AskDialog
    v-model="open"
    :title="`Lift a rule for ${student.state?.name} in ${workingTerm.term?.name}`"
    act="Grant it"
    :busy="busy"
    :off="lacking"
    @act="grant"
  >
    <FailedBox v-if="problem" :problem="problem" />
    <LiftedRules may-take-back />
    <v-select v-model="kind" :items="KINDS" label="What is allowed" />
    <v-select v-if="kind === 'load'" v-model="credits" :items="amounts" label="Credits in all" />
    <v-autocomplete v-else v-model="course" :items="courses" label="Course" />
    <v-text-field v-model="reason" label="Why" maxlength="300" />
  </AskDialog>
</template>
