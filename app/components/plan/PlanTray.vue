<script setup lang="ts">
/** Everything required that has no place yet: dragged or sent into a term. */
const student = useStudentStore()
const draft = useDraftStore()
const { titleOf } = useItems()
const { tray, termAtHand, place, hold } = usePlan()
const see = (line: string) => navigateTo({ path: `/student/${student.state!.id}/requirements`, query: { open: line } })
</script>

<template>
  <section v-if="tray.length && !draft.looked" class="tray" aria-label="Required and not placed">
    <span class="strong">Not placed</span>
    <template v-for="chip in tray" :key="chip.key">
      <TrayChip
        v-if="chip.course"
        :code="chip.course"
        :title="titleOf(chip.course)"
        :hue="chip.hue"
        :what="{ kind: 'course', code: chip.course }"
        :movable="student.mayEdit"
        @keydown.p="student.mayEdit && termAtHand && place(chip.course, termAtHand)"
        @open="see(chip.ref)"
      />
      <span v-else class="line-chip">
        <TrayChip
          :code="`${chip.line.title}: ${chip.words}`"
          :title="chip.line.title"
          :hue="chip.hue"
          :what="{ kind: 'line', program: chip.program, line: chip.line }"
          :movable="student.mayEdit"
          @open="see(chip.ref)"
        />
        <WordLink v-if="student.mayEdit && termAtHand" class="small" @click="hold(chip, termAtHand)">
          Hold a place<span class="visually-hidden"> for {{ chip.line.title }}</span>
        </WordLink>
      </span>
    </template>
  </section>
  <p v-else-if="!draft.looked" class="tray second">Everything required has a place.</p>
</template>

<style scoped>
.tray { display: flex; flex-wrap: wrap; gap: 6px 10px; align-items: center; margin: 10px 0 0; }
.line-chip { display: inline-flex; gap: 7px; align-items: center; }
</style>
