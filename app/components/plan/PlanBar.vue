<script setup lang="ts">
/** What can be done with the plan as a whole, and the field that places a course by its code or title. */
const student = useStudentStore()
const catalog = useCatalogStore()
const { panel, board, isPhone, termAtHand, place } = usePlan()
const adding = ref<string | null>(null)
const choices = computed(() =>
  [...catalog.courses.values()].map(course => ({ value: course.code, title: `${course.code} ${course.title}` })),
)
async function addChosen() {
  const code = adding.value
  adding.value = null
  if (code && termAtHand.value) await place(code, termAtHand.value)
}
const path = computed(() => `/student/${student.state!.id}`)
</script>

<template>
  <div class="bar">
    <ActButton v-if="student.mayEdit" weight="full" @click="panel = { kind: 'draft' }">Draft the rest</ActButton>
    <ActButton @click="panel = { kind: 'wishes' }">Wishes and pace</ActButton>
    <ActButton :to="`${path}/compare`">Compare</ActButton>
    <ActButton :to="`${path}/map`">Prerequisite map</ActButton>
    <ActButton :to="`${path}/plan-sheet`">Print</ActButton>
    <PlanFiles />
    <span class="spacer" />
    <ActButton v-if="!isPhone" @click="board.showAll.value = !board.showAll.value">
      {{ board.showAll.value ? 'Fewer terms' : 'All terms' }}
    </ActButton>
    <v-autocomplete
      v-if="student.mayEdit"
      v-model="adding"
      class="adder"
      :items="choices"
      :label="`Place a course in ${termAtHand?.name}`"
      bg-color="surface"
      @update:model-value="addChosen"
    />
  </div>
</template>

<style scoped>
.bar { display: flex; flex-wrap: wrap; gap: 8px; align-items: center; margin: 2px 0 4px; }
.spacer { flex: 1; }
.adder { width: 290px; flex: none; }
@media (max-width: 700px) {
  .bar :deep(.act) { font-size: 12.5px; padding: 3px 8px; }
  .adder { width: 100%; }
}
</style>
