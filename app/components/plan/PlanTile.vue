<script setup lang="ts">
import { mdiPin } from '@mdi/js'
import { formatCredits, type CourseItem } from '@ridgeway/core'

/** A course on the board: dragged, walked to with arrows, opened with Enter. */
const props = defineProps<{ item: CourseItem, title: string, hue: string, done: number, offPath: boolean, pinned: boolean, problems: number, blocking: boolean, movable: boolean, selected: boolean }>()
const emit = defineEmits<{ drag: [], open: [] }>()
const element = useTemplateRef<HTMLElement>('element')
useDraggable(element, () => props.movable, () => emit('drag'))
</script>

<template>
  <div ref="element" class="tile" :class="{ movable, selected }" tabindex="0" role="button" :data-item="item.id" :aria-label="`${item.course} ${title}, ${item.state}`" @click="emit('open')">
    <CourseBlock :code="item.course" :title="title" :state="item.state" :hue="hue" :corner="item.grade ?? formatCredits(item.credits)" :done="done" :off-path="offPath" :problems="problems" :blocking="blocking" />
    <v-icon v-if="pinned" :icon="mdiPin" size="14" class="pin" aria-label="pinned" />
  </div>
</template>

<style scoped>
.tile { position: relative; border-radius: 6px; cursor: pointer; min-width: 0; }
.movable { cursor: grab; }
.selected { box-shadow: 0 0 0 2px var(--act); }
.pin { position: absolute; right: 4px; top: 4px; color: var(--second); }
</style>
