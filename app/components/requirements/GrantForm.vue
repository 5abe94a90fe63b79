<script setup lang="ts">
import type { ExceptionAsked } from '@ridgeway/core/advising'
import type { LineReport } from '@ridgeway/core/requirements'
import { askException } from '#shared/contract/acts/advising'
import type { Problem } from '~/composables/useApi'

/** Another course counts here, or the line is not asked: the advisor grants it, the student asks for it. A reason is always kept. */
const props = defineProps<{ line: LineReport, program: string }>()
const emit = defineEmits<{ done: [words: string] }>()
const student = useStudentStore()
const catalog = useCatalogStore()
const requirements = useRequirementsStore()
/** Who owns the file asks; whoever advises grants. */
const asks = computed(() => student.isOwn)
const kind = ref<'substitution' | 'waiver'>('substitution')
const course = ref<string | null>(null)
const listed = ref<string | null>(null)
/** How much of the line is waived; empty for all of it. */
const amount = ref('')
const reason = ref('')
const busy = ref(false)
const problem = ref<Problem | null>(null)
watch(() => props.line.id, () => {
  course.value = null
  listed.value = null
  amount.value = ''
  reason.value = ''
  problem.value = null
})

/** The student's own courses first: what is substituted has usually been taken. */
const courses = computed(() => {
  const own = [...new Set(student.standing?.items.map(item => item.course))]
  const rest = [...catalog.courses.keys()].filter(code => !own.includes(code))
  return [...own, ...rest].map(code => ({ value: code, title: `${code} ${catalog.courses.get(code)?.title ?? 'of another college'}` }))
})
/** What the line counts, where a part of it can be waived. */
const counted = computed(() => props.line.unfilled.length > 0 || props.line.needed === 0
  ? null
  : props.line.rule.credits ? 'credits' : 'courses')
const part = computed(() => kind.value === 'waiver' && counted.value && amount.value.trim() ? Number(amount.value) : null)
const unfilled = computed(() => props.line.unfilled.length > 0 ? props.line.unfilled : null)
const lacking = computed(() => kind.value === 'substitution' && course.value === null
  ? 'Choose the course that counts'
  : part.value !== null && !(part.value > 0)
    ? 'Write a number, or leave it empty to waive the whole line'
    : reason.value.trim().length < 3 ? 'Give a reason; it is kept with the exception' : '')

async function grant() {
  busy.value = true
  const about = { kind: kind.value, program: props.program, line: props.line.id,
    course: kind.value === 'substitution' ? course.value : listed.value, instead: kind.value === 'substitution' ? listed.value : null,
    ...part.value === null ? {} : { amount: Math.round(part.value * 100) } }
  const why = reason.value.trim()
  problem.value = asks.value
    ? await student.act(askException, { asked: about as ExceptionAsked, reason: why })
    : await requirements.grant({ ...about, reason: why })
  busy.value = false
  if (problem.value) return
  const granted = kind.value === 'waiver' ? 'The waiver is granted.' : `${course.value} counts here now.`
  emit('done', asks.value ? 'It is asked for; the answer will stand under Now.' : granted)
  reason.value = ''
  amount.value = ''
  course.value = null
}
</script>

<template>
  <form class="grant" :aria-label="asks ? 'Ask for an exception' : 'Grant an exception'" @submit.prevent="grant">
    <h3>{{ asks ? 'Ask for an exception' : 'Grant an exception' }}</h3>
    <v-radio-group v-model="kind" class="kinds" inline density="compact" hide-details aria-label="Kind of exception">
      <v-radio value="substitution" label="another course counts" />
      <v-radio value="waiver" label="waive it" />
    </v-radio-group>
    <v-autocomplete
      v-if="kind === 'substitution'"
      v-model="course"
      :items="courses"
      label="Course that counts"
    />
    <v-select
      v-if="unfilled"
      v-model="listed"
      :items="unfilled"
      :label="kind === 'waiver' ? 'Only this course (or the whole line)' : 'In the place of'"
      clearable
    />
    <v-text-field
      v-if="kind === 'waiver' && counted"
      v-model="amount"
      inputmode="decimal"
      :label="`Only so many ${counted} (or the whole line)`"
      maxlength="6"
    />
    <v-text-field v-model="reason" :label="asks ? 'Why it should be granted' : 'Reason, kept with it'" maxlength="300" />
    <FailedBox v-if="problem" :problem="problem" />
    <ActButton type="submit" :busy="busy" :off="lacking">{{ asks ? 'Ask for it' : kind === 'waiver' ? 'Waive' : 'Substitute' }}</ActButton>
  </form>
</template>

<style scoped>
.grant { flex: 0 1 300px; display: grid; gap: 7px; align-content: start; }
.act { justify-self: start; }
</style>
