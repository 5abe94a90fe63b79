<script setup lang="ts">
import type { FoundBundle } from '#shared/contract/views/find'
import type { Problem } from '~/composables/useApi'

/** A pasted list of section numbers: what each is, what is wrong with it, and all of them into the line-up in one act. */
const emit = defineEmits<{ done: [] }>()
const find = useFindStore()
const week = useWeekStore()
const student = useStudentStore()
const workingTerm = useWorkingTermStore()
const { sayFit } = useFoundBundle()
const problem = ref<Problem | null>(null)
const numbers = computed(() => find.found?.numbers ?? [])
/** For each course the bundle that holds most of its numbers; the one that fits, where several do. */
const chosen = computed(() => (find.found?.courses ?? []).flatMap(({ bundles }): FoundBundle[] => {
  const held = (bundle: FoundBundle) => numbers.value.filter(one => one.bundles.includes(bundle.id)).length
  const [best] = [...bundles].sort((a, b) => held(b) - held(a) || Number(sayFit(a).blocks) - Number(sayFit(b).blocks))
  return best ? [best] : []
}))
const open = computed(() => chosen.value.filter(bundle => !bundle.registered))
const rows = computed(() => numbers.value.map(({ number, course, bundles }) => {
  const bundle = chosen.value.find(one => one.course === course)
  const isIn = bundle && bundles.includes(bundle.id)
  const fit = bundle && sayFit(bundle)
  return { number, what: bundle ? `${bundle.course}-${bundle.sections[0]!.label}` : course ?? '',
    problem: !course
      ? `There is no section ${number} in ${workingTerm.term?.name}. Look at the number again.`
      : bundles.length === 0
        ? 'It is cancelled, or makes no complete bundle.'
        : !isIn ? 'Another number of the list is of the same course: one bundle a course is taken.' : fit?.blocks ? fit.words : '',
    words: fit?.words ?? '' }
}))
async function take() {
  problem.value = await week.choose(...open.value.map(bundle => ({ course: bundle.course, sectionIds: bundle.sections.map(section =>
    section.id) })))
  if (problem.value) return
  announce(`${count(open.value.length, 'bundle')} put into the line-up.`)
  emit('done')
}
</script>

<template>
  <section class="numbers" aria-label="Section numbers">
    <FailedBox v-if="problem" :problem="problem" />
    <ul>
      <li v-for="row in rows" :key="row.number">
        <b>{{ row.number }}</b> {{ row.what }}
        <span :class="row.problem ? 'blocking' : 'second'">{{ row.problem || row.words }}</span>
      </li>
    </ul>
    <ActButton v-if="student.isOwn && open.length" weight="full" @click="take">Put {{ count(open.length,
      'bundle') }} into the line-up</ActButton>
  </section>
</template>

<style scoped>
.numbers { display: grid; gap: 8px; justify-items: start; }
ul { list-style: none; margin: 0; padding: 0; }
li { display: flex; gap: 10px; flex-wrap: wrap; }
</style>
