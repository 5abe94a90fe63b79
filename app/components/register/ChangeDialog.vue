<script setup lang="ts">
import type { GradingMode, Section } from '@ridgeway/core/catalog'
import { priceOf, total } from '@ridgeway/core/money'
import { sayCredits, sayFinding, sayGrading, sayMoney } from '@ridgeway/words'

/** For how many credits a registered course is, and how it is graded: what can be chosen, and what it costs more or less. */
const { course } = defineProps<{ course: string }>()
const open = defineModel<boolean>({ required: true })
const student = useStudentStore()
const week = useWeekStore()
const catalog = useCatalogStore()
const workingTerm = useWorkingTermStore()
const { problem, busy, refused, change } = useChanges()
const held = computed(() => student.state!.registered.find(row => row.term === workingTerm.code && row.course === course
  && row.credits > 0))
const credits = ref(0)
const grading = ref<GradingMode>('letter')
watch(open, () => {
  credits.value = held.value?.credits ?? 0
  grading.value = held.value?.grading ?? 'letter'
}, { immediate: true })
const sections = computed((): Section[] => week.courses?.find(one =>
  one.course === course)?.bundles.find(one => one.registered)?.sections ?? [])
const amounts = computed(() => {
  const found = catalog.courses.get(course)
  return found
    ? Array.from({ length: (found.creditsMax - found.credits) / 100 + 1 }, (_, i) => found.credits + i * 100)
        .map(value => ({ value, title: `${sayCredits(value)}` }))
    : []
})
const modes = computed(() => (sections.value[0]?.gradingModes ?? []).filter(mode =>
  sections.value.every(one => one.gradingModes.includes(mode)))
  .map(value => ({ value, title: sayGrading(value) })))
const more = computed(() => {
  const found = catalog.courses.get(course)
  const costs = (amount: number) => found ? total(priceOf(found, sections.value, amount, student.state!.residence, catalog.policy)) : 0
  return costs(credits.value) - costs(held.value?.credits ?? 0)
})
const refusals = computed(() => refused.value?.findings.filter(finding => !finding.ok).map(finding => sayFinding(finding).words) ?? [])
const isSame = computed(() => credits.value === held.value?.credits && grading.value === held.value?.grading)
async function act() {
  if (await change(course, credits.value, grading.value)) open.value = false
}
</script>

<template>
  <AskDialog
    v-model="open"
    :title="`Credits and grading of ${course}`"
    act="Change it"
    :busy="busy"
    :off="isSame && 'Nothing is different'"
    @act="act"
  >
    <FailedBox v-if="problem" :problem="problem" />
    <p v-if="refusals.length" class="blocking" role="alert">Nothing is changed: {{ refusals.join(' ') }}</p>
    <v-select v-if="amounts.length > 1" v-model="credits" :items="amounts" label="Credits" />
    <p v-else>It is given for {{ sayCredits(credits) }} only.</p>
    <v-select v-if="modes.length > 1" v-model="grading" :items="modes" label="Graded with" />
    <p v-else-if="modes.length">It is graded with a {{ modes[0]!.title }} only.</p>
    <p v-if="more !== 0" class="second">{{ sayMoney(Math.abs(more)) }} {{ more > 0 ? 'more' : 'less' }} on your account.</p>
  </AskDialog>
</template>

<style scoped>
p { margin: 0; }
</style>
