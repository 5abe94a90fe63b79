<script setup lang="ts">
/** The board: lanes down, terms across, tiles where they stand, and the curves from the selected one. */
const student = useStudentStore()
const { columns, lanes, isWide, template, selectedId, links, drop } = usePlan()
const grid = defineModel<HTMLElement | null>('grid', { default: null })
function setGrid(element: unknown) {
  grid.value = element instanceof HTMLElement ? element : null
}
useRoving(grid, '[data-item]')
useDrops(grid, (what, place) => void drop(what, place))
</script>

<template>
  <div
    :ref="setGrid"
    class="card board"
    :class="{ wide: isWide }"
    :style="{ gridTemplateColumns: template }"
    role="grid"
    aria-label="Lanes by term"
  >
    <PlanCurves :selected="selectedId" :links="links" :board="grid" :redraw="[student.shown, columns]" />
    <BoardHead />
    <LaneRow v-for="lane in lanes" :key="lane.id" :lane="lane" />
    <LoadRow />
  </div>
</template>

<style scoped>
.board { position: relative; display: grid; overflow-x: auto; }
.board :deep([role=row]) { display: contents; }
.board :deep(.col-head) {
  padding: 5px 6px; font-size: 12.5px; color: var(--second); border-left: 1px solid var(--line-soft); white-space: nowrap;
}
.board :deep(.col-head.working) { color: var(--act); font-weight: 700; }
.wide :deep(.col-head) { font-size: 12px; padding: 5px 4px; }
.board :deep(.lane-head) {
  position: sticky; left: 0; z-index: 2; background: var(--surface); border-top: 1px solid var(--line);
  border-left: 5px solid var(--hue); padding: 7px 8px; display: flex; flex-direction: column; line-height: 1.25;
}
.board :deep(.cell) {
  border-top: 1px solid var(--line); border-left: 1px solid var(--line-soft); padding: 5px; min-height: 46px;
  display: grid; gap: 5px; align-content: start; min-width: 0;
}
.wide :deep(.cell) { padding: 4px; }
.board :deep(.cell.working) { background: color-mix(in srgb, var(--act-tint) 40%, transparent); }
@media (max-width: 700px) { .board :deep(.cell) { padding: 6px; } }
</style>
