<script setup lang="ts">
const student = useStudentStore()
const draft = useDraftStore()
const grid = ref<HTMLElement | null>(null)
const { commands, panel, problems, marked, isPhone, goTo, remove } = providePlan(grid)
useKey('undo', commands.undo)
useKey('redo', commands.redo)
useKey('next problem', () => goTo(problems.value[0]!), () => panel.value?.kind !== 'problem' && problems.value.length > 0)
useCloses(() => marked.value = [], () => marked.value.length > 0)
/** What was done last, here or by somebody else. */
const said = computed(() =>
  draft.looked
    ? 'You are looking at a draft: hatched courses would be placed. Nothing is changed yet.'
    : commands.said.value || student.notice,
)
watch(() => student.notice, now => now && (commands.said.value = ''))
</script>

<template>
  <div class="page plan-page">
    <PlanHead />
    <PlanBar />
    <NoticeLine v-if="student.state && !student.state.plan.current" class="other">
      This is not {{ student.isOwn ? 'your' : 'the' }} current plan: sign-off and registration do not read it.
      <WordLink @click="student.openPlan(null)">Back to the current plan</WordLink>
    </NoticeLine>
    <SuggestBar />
    <SuggestionList />
    <p class="changed" role="status" aria-live="polite">{{ said }}</p>
    <p v-if="marked.length" class="marked-line" role="status">
      <b>{{ count(marked.length, 'tile') }} chosen.</b> Drag one of them, or Alt + arrows, and all move.
      <WordLink @click="commands.pin(marked)">Pin</WordLink> ·
      <WordLink class="blocking" @click="remove(marked)">Take out</WordLink> ·
      <WordLink @click="marked = []">Let go</WordLink>
    </p>
    <PhoneTerms v-if="isPhone" />
    <PlanBoard v-model:grid="grid" />
    <PlanTray />
    <PlanDrawers />
  </div>
</template>

<style scoped>
.other { margin: 0 0 6px; }
.changed { min-height: 20px; margin: 0 0 4px; color: var(--act); font-weight: 600; font-size: 13px; }
.marked-line { margin: 0 0 6px; font-size: 13px; }
@media (max-width: 700px) {
  .plan-page { display: flex; flex-direction: column; }
  .plan-page > :deep(.bar) { order: 1; margin-top: 14px; }
  .plan-page > :deep(.drawer) { order: 2; }
}
</style>
