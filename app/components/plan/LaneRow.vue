<script setup lang="ts">
import type { Term } from '@ridgeway/core/catalog'
import type { LineRef } from '@ridgeway/core/record'
import { sayOpen } from '@ridgeway/words'
import type { Lane } from '~/composables/plan/board'

/** One lane across the terms, with the tiles that count in it. */
const { lane } = defineProps<{ lane: Lane }>()
const requirements = useRequirementsStore()
const workingTerm = useWorkingTermStore()
const { hueOf, doneOf, isOffPath, titleOf } = useItems()
const { board, commands, columns, showsEarlier, marksOf, courseMarksOf, isOnTrack, openTile, onTileKey } = usePlan()
const isOff = computed(() => lane.id === OFF_PATH)
const said = computed(() =>
  isOff.value
    ? 'counts for nothing'
    : lane.id === OTHER_CREDIT ? 'no line, and yet needed' : lane.open ? sayOpen(lane.open) : 'covered',
)
const classesOf = (term: Term) => ({ working: term.code === workingTerm.code, off: isOff.value, track: isOnTrack(lane.id, term.code) })
</script>

<template>
  <div role="row">
    <div class="lane-head" role="rowheader" :class="[`hue-${lane.hue}`, { off: isOff }]">
      <span class="strong">{{ lane.title }}</span>
      <span class="small" :class="{ second: !lane.open }">{{ said }}</span>
    </div>
    <EarlyCell v-if="showsEarlier" class="cell" :class="{ off: isOff }" :lane="lane" />
    <PlanCell
      v-for="term in columns"
      :key="term.code"
      class="cell"
      :class="classesOf(term)"
      :accepts="commands.isFuture(term)"
      :term="term.code"
      :lane="lane.id"
    >
      <PlanTile
        v-for="item in board.cell(lane.id, term.code)"
        :key="item.id"
        :item="item"
        :title="titleOf(item.course)"
        :where="`${term.name}, ${lane.title}`"
        :hue="hueOf(item)"
        :done="doneOf(item)"
        :off-path="isOffPath(item)"
        v-bind="courseMarksOf(item)"
        @open="openTile(item.id, $event)"
        @keydown="onTileKey($event, item.id)"
      />
      <span v-for="gone in board.leavingFrom(lane.id, term.code)" :key="`gone-${gone.id}`" class="gone small second">
        <s>{{ gone.course }}</s> {{ gone.to ? `to ${gone.to}` : 'taken out' }}
      </span>
      <PlaceholderTile
        v-for="held in board.heldIn(lane.id, term.code)"
        :key="held.id"
        :place="held"
        :title="requirements.lineAt(held.line as LineRef)?.title ?? held.line"
        :hue="lane.hue"
        v-bind="marksOf(held.id)"
        @open="openTile(held.id, $event)"
        @keydown="onTileKey($event, held.id)"
      />
      <span
        v-for="item in board.also(lane.id, term.code)"
        :key="`also-${item.id}`"
        class="also small second"
        :title="`${item.course} counts here too; its tile stands in the first lane that uses it`"
        >+ {{ item.course }}</span
      >
    </PlanCell>
  </div>
</template>

<style scoped>
.lane-head.off { border-left-color: var(--block); }
.cell.track { box-shadow: inset 0 -3px 0 var(--act); }
.cell.off {
  background-image: repeating-linear-gradient(90deg, color-mix(in srgb, var(--line-soft) 70%, transparent) 0 14px, transparent 14px 28px);
}
.gone { border: 1.5px dashed var(--line); border-radius: 5px; padding: 2px 6px; }
.also { border-bottom: 1px dashed var(--line); padding: 1px 3px; white-space: nowrap; }
</style>
