<script setup lang="ts">
import { deadlinesOf, type Section } from '@ridgeway/core/catalog'
import { moneyBack } from '@ridgeway/core/money'
import { readLeaving } from '@ridgeway/core/next'
import { joinWords, sayLeaving } from '@ridgeway/words'

/**
 * Giving up registered courses, one or all: what it comes to is told before, and a course that cannot stay alone goes in the same move.
 * Leaving the term as a whole asks for one deliberate mark more.
 */
const { about } = defineProps<{ about: readonly string[] }>()
const open = defineModel<boolean>({ required: true })
const student = useStudentStore()
const week = useWeekStore()
const catalog = useCatalogStore()
const workingTerm = useWorkingTermStore()
const { today } = useNow()
const { problem, busy, drop } = useChanges()
const means = ref(false)
watch(open, () => means.value = false)
const rowsOf = (courses: readonly string[]) => student.state!.registered.filter(row => row.term === workingTerm.code
  && courses.includes(row.course))
const read = (courses: readonly string[]) => workingTerm.term && student.file && readLeaving(courses, { term: workingTerm.term,
  date: today.value, file: student.file, rules: student.rules,
  deadlines: course => deadlinesOf(workingTerm.term!, rowsOf([course])[0]?.session) })
const first = computed(() => open.value ? read(about) : null)
const courses = computed(() => [...about, ...first.value?.alone ?? []])
const leaving = computed(() => courses.value.length > about.length ? read(courses.value) : first.value)
/** How many wait for a seat in any of them; left out while the week is on its way. */
const waiting = computed(() => week.courses && Math.max(0, ...week.courses.filter(one => courses.value.includes(one.course))
  .flatMap(one => one.bundles.filter(bundle => bundle.registered).flatMap(bundle =>
    bundle.sections.map((section: Section) => section.waiting)))))
const said = computed(() => leaving.value && first.value
  ? sayLeaving({ ...leaving.value, alone: first.value.alone }, workingTerm.term!.name, {
      back: moneyBack(rowsOf(courses.value), workingTerm.term!, catalog.policy, today.value),
      ...waiting.value === null ? {} : { waiting: waiting.value } })
  : [])
const names = computed(() => joinWords(courses.value, 'and'))
const everything = computed(() => leaving.value?.everything ?? false)
const act = computed(() => everything.value
  ? `Leave ${workingTerm.term?.name}`
  : `${leaving.value?.kind === 'withdraw' ? 'Withdraw from' : 'Drop'} ${names.value}`)
const off = computed(() => leaving.value?.kind === 'closed'
  ? 'The last day is over'
  : everything.value && !means.value && 'Say first that you mean to leave the term')
async function go() {
  if (await drop(courses.value, everything.value)) open.value = false
}
</script>

<template>
  <AskDialog
    v-model="open"
    :title="everything ? `Leave ${workingTerm.term?.name}?` : `Give up ${names}?`"
    :act="act"
    :busy="busy"
    :off="off"
    @act="go"
  >
    <FailedBox v-if="problem" :problem="problem" />
    <p v-if="everything && courses.length > 1">All of it goes in one move: {{ names }}.</p>
    <ul>
      <li v-for="words in said" :key="words">{{ words }}</li>
    </ul>
    <v-checkbox v-if="everything" v-model="means" :label="`I mean to leave ${workingTerm.term?.name} as a whole`" />
  </AskDialog>
</template>

<style scoped>
ul { margin: 0; padding-left: 18px; display: grid; gap: 4px; }
p { margin: 0; }
</style>
