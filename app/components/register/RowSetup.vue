<script setup lang="ts">
import type { GradingMode, Section } from '@ridgeway/core/catalog'
import type { RowDecision } from '@ridgeway/core/registration'
import { sayCredits, sayGrading } from '@ridgeway/words'
import type { Problem } from '~/composables/useApi'

/** How a row is to be registered: its backups in order, whether it waits when all are full, how it is graded, for how many credits. */
const { row } = defineProps<{ row: RowDecision }>()
const student = useStudentStore()
const week = useWeekStore()
const catalog = useCatalogStore()
const { isSame, idsOf, sayFit, rowOf } = useBundleWords()
const open = ref(false)
const problem = ref<Problem | null>(null)
const kept = computed(() => rowOf(row.course))
const course = computed(() => catalog.courses.get(row.course))
const bundles = computed(() => week.courses?.find(one => one.course === row.course)?.bundles ?? [])
const nameOf = (ids: readonly number[]) => {
  const bundle = bundles.value.find(one => isSame(idsOf(one), ids))
  return bundle ? `${bundle.sections[0]!.label} ${bundle.times}` : 'a bundle that is not offered any more'
}
const backups = computed(() => kept.value?.backups ?? [])
const choices = computed(() => bundles.value.filter(one => !one.picked && !backups.value.some(ids => isSame(idsOf(one), ids)))
  .map(one => ({ value: one.id, title: `${one.sections[0]!.label} ${one.times}`, props: { subtitle: sayFit(one).words } })))
const modes = computed(() => {
  const sections: Section[] = bundles.value.find(one => one.picked)?.sections ?? []
  return (sections[0]?.gradingModes ?? ['letter']).filter(mode => sections.every(section => section.gradingModes.includes(mode)))
    .map(value => ({ value, title: sayGrading(value) }))
})
const amounts = computed(() => {
  const { credits, creditsMax } = course.value ?? { credits: 0, creditsMax: 0 }
  return creditsMax > credits
    ? Array.from({ length: (creditsMax - credits) / 100 + 1 }, (_, i) => credits + i * 100).map(value => ({ value,
        title: `${sayCredits(value)}` }))
    : []
})
/** What else can be chosen for this row, where there is a choice. */
const fields = computed(() => [
  { label: 'Graded with', value: kept.value?.grading, items: modes.value, isOffered: modes.value.length > 1,
    set: (grading: unknown) => set({ grading: grading as GradingMode }) },
  { label: 'Credits', value: kept.value?.credits ?? course.value?.credits, items: amounts.value, isOffered: amounts.value.length > 0,
    set: (credits: unknown) => set({ credits: credits as number }) },
].filter(field => field.isOffered))
const summary = computed(() => [
  backups.value.length ? `backups ${backups.value.map(ids => nameOf(ids).split(' ')[0]).join(', ')}` : 'no backup',
  kept.value?.waitIfFull ? 'waits if full' : '',
  kept.value && kept.value.grading !== 'letter' ? sayGrading(kept.value.grading) : '',
].filter(Boolean).join(' · '))
async function set(values: Parameters<typeof week.setUp>[1]) {
  problem.value = await week.setUp(row.course, values)
}
const add = (id: string | null) => {
  const bundle = bundles.value.find(one => one.id === id)
  if (bundle) void set({ backups: [...backups.value, idsOf(bundle)] })
}
function earlier(i: number) {
  const list = [...backups.value]
  const [one] = list.splice(i, 1)
  list.splice(i - 1, 0, one!)
  void set({ backups: list })
}
</script>

<template>
  <p class="setup small second">
    {{ summary }}
    <WordLink
      v-if="student.isOwn && kept"
      class="small"
      :aria-label="`Backups, waitlist and grading of ${row.course}`"
      @click="open = true"
    >
      change
    </WordLink>
    <AskDialog v-model="open" :title="`How ${row.course} is registered`" act="Done" @act="open = false">
      <FailedBox v-if="problem" :problem="problem" />
      <p>When the first choice is full, these are taken in order:</p>
      <ol v-if="backups.length">
        <li v-for="(ids, i) in backups" :key="ids.join()">
          {{ nameOf(ids) }}
          <WordLink v-if="i > 0" class="small" :aria-label="`Backup ${i + 1} earlier`" @click="earlier(i)">earlier</WordLink>
          <WordLink
            class="small"
            :aria-label="`Take out backup ${i + 1}`"
            @click="set({ backups: backups.filter((_, n) => n !== i) })"
          >
            take out
          </WordLink>
        </li>
      </ol>
      <v-select
        v-if="choices.length && backups.length < 5"
        :model-value="null"
        :items="choices"
        label="Another backup"
        @update:model-value="add"
      />
      <v-checkbox
        :model-value="kept?.waitIfFull ?? false"
        label="Join the waitlist when all of them are full"
        @update:model-value="set({ waitIfFull: $event === true })"
      />
      <v-select
        v-for="field in fields"
        :key="field.label"
        :model-value="field.value"
        :items="field.items"
        :label="field.label"
        @update:model-value="field.set"
      />
    </AskDialog>
  </p>
</template>

<style scoped>
.setup { margin: 2px 0 0; }
ol { margin: 0; padding-left: 20px; }
</style>
