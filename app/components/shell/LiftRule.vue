<script setup lang="ts">
import { type ExceptionAsked, mayGrant } from '@ridgeway/core/advising'
import { sayCredits } from '@ridgeway/words'
import { liftRule } from '#shared/contract/acts/student'
import type { Problem } from '~/composables/useApi'

/** Who is entitled lifts a rule of registering for the opened student and the working term; a reason is always kept. */
const student = useStudentStore()
const catalog = useCatalogStore()
const workingTerm = useWorkingTermStore()
const open = ref(false)
const session = useSessionStore()
const kind = ref<ExceptionAsked['kind']>('load')
const other = ref<string | null>(null)
const section = ref<number | null>(null)
const until = ref('')
const course = ref<string | null>(null)
const credits = ref<number | null>(null)
const reason = ref('')
const busy = ref(false)
const problem = ref<Problem | null>(null)
const KINDS = [{ value: 'prerequisite', title: 'Go without a prerequisite' }, { value: 'load', title: 'Take more credits than the cap' },
  { value: 'clash', title: 'Take two courses that meet at the same time' },
  { value: 'late add', title: 'Add a course after the last day' },
  { value: 'restriction', title: 'Take a section that is kept for others' },
  { value: 'seat', title: 'Take a seat that is kept for others' },
] as const
/** What who is signed in may grant here. */
const kinds = computed(() => KINDS.filter(one => mayGrant(one.value, session.account?.role ?? '', catalog.advising)))
watch(open, now => now && (kind.value = kinds.value[0]?.value ?? 'load'))
/** Sections of the course, as the week has them. */
const week = useWeekStore()
const sections = computed(() => [...new Map((week.courses?.find(one => one.course === course.value)?.bundles ?? [])
  .flatMap(bundle => bundle.sections).map(one => [one.id, { value: one.id, title: `${one.course}-${one.label}` }])).values()])
watch([open, kind], () => open.value && kind.value === 'seat' && void week.ensure())
/** What they plan and picked first. */
const courses = computed(() => {
  const own = [...new Set(student.entries.filter(entry => entry.term === workingTerm.code).map(entry => entry.course))]
  return [...own, ...[...catalog.courses.keys()].filter(code => !own.includes(code))]
    .map(code => ({ value: code, title: `${code} ${catalog.courses.get(code)?.title ?? ''}` }))
})
const amounts = computed(() => Array.from({ length: 6 }, (_, i) => (workingTerm.term?.loadCap ?? 0) + (i + 1) * 100)
  .map(value => ({ value, title: `${sayCredits(value)}` })))
const lacking = computed(() => (kind.value === 'load' ? credits.value : course.value) === null
  || (kind.value === 'clash' && !other.value) || (kind.value === 'seat' && !section.value)
  ? 'Choose what it is about'
  : reason.value.trim().length < 3 ? 'Give a reason; it is kept with the exception' : '')
async function grant() {
  busy.value = true
  const about = { term: workingTerm.code, reason: reason.value, until: until.value || null }
  const [what, one] = [kind.value, course.value!]
  problem.value = await student.act(liftRule, what === 'load'
    ? { kind: what, credits: credits.value!, ...about }
    : what === 'clash'
      ? { kind: what, course: one, instead: other.value!, ...about }
      : what === 'seat'
        ? { kind: what, course: one, section: section.value!, ...about }
        : { kind: what as 'late add', course: one, ...about })
  busy.value = false
  if (problem.value) return
  reason.value = ''
  course.value = null
  other.value = null
  section.value = null
  credits.value = null
  until.value = ''
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
    <v-select v-model="kind" :items="kinds" label="What is allowed" />
    <v-select v-if="kind === 'load'" v-model="credits" :items="amounts" label="Credits in all" />
    <v-autocomplete v-else v-model="course" :items="courses" label="Course" />
    <v-autocomplete v-if="kind === 'clash'" v-model="other" :items="courses" label="With this course" />
    <v-select v-if="kind === 'seat'" v-model="section" :items="sections" label="Section" no-data-text="It has no sections in the week" />
    <v-text-field v-model="until" type="date" label="Until, if not the whole term" />
    <v-text-field v-model="reason" label="Why" maxlength="300" />
  </AskDialog>
</template>
