<script setup lang="ts">
import { formatCredits } from '@ridgeway/words'

/** What is open, whether it is saved, and what the plan comes to. */
const student = useStudentStore()
const draft = useDraftStore()
const catalog = useCatalogStore()
const { commands, problems, blockers, goTo } = usePlan()
const finish = computed(() => student.shown?.finish ? catalog.term(student.shown.finish)?.name : null)
/** What decides the finish, in courses. */
const chain = computed(() =>
  (student.projection?.chain ?? []).flatMap(id => student.standing?.items.find(item => item.id === id)?.course ?? []),
)
const saving = computed(() => student.saving === 'kept here' ? 'kept on this device, will be sent' : student.saving)
</script>

<template>
  <PageHead :title="`${student.state?.plan.name} plan`">
    <template #beside>
      <PlanMenu />
      <span class="second small" role="status">{{ saving }}</span>
      <WordLink class="small" :off="!student.done.length && 'Nothing to undo'" @click="commands.undo">
        Undo <span class="kbd">Ctrl Z</span>
      </WordLink>
      <WordLink class="small" :off="!student.undone.length && 'Nothing to do again'" @click="commands.redo">Redo</WordLink>
    </template>
    <span class="outcome"
      ><b>{{ finish ? `Finish ${finish}` : 'Not all covered' }}</b> · {{ formatCredits(student.shown?.unplaced ?? 0) }} cr to place<template
        v-if="chain.length > 1 && !draft.looked"
      >
        ·
        <span class="second" title="The longest chain of prerequisites in the plan">decided by {{ chain.join(' → ') }}</span></template
      ></span
    >
    <WordLink v-if="problems.length" :class="{ blocking: blockers.length }" @click="goTo(problems[0]!)">
      {{ count(problems.length, 'problem') }} <span class="kbd">n</span>
    </WordLink>
    <span v-else class="second">no problems</span>
  </PageHead>
</template>

<style scoped>
@media (max-width: 700px) {
  .outcome { flex-basis: 100%; }
  .kbd { display: none; }
}
</style>
