<script setup lang="ts">
import type { Dragged } from '~/composables/plan/drag'

/** Something not placed yet, in the tray: dragged onto the board like a tile. */
const props = defineProps<{ code: string, title: string, hue: string, movable: boolean, what: Dragged }>()
const emit = defineEmits<{ open: [] }>()
const element = useTemplateRef<HTMLElement>('element')
useDrag(element, () => props.what, () => props.movable)
</script>

<template>
  <!-- eslint-disable-next-line vue/no-restricted-html-elements -- a tile in the tray is dragged like those on the board -->
  <button
    ref="element"
    type="button"
    class="chip mark commit open"
    :class="`hue-${hue}`"
    :title="`${title}. Drag it into a term, press p to place it, or press it to see its requirement.`"
    @click="emit('open')"
  >
    {{ code }}
  </button>
</template>

<style scoped>
.chip { padding: 3px 9px; font-weight: 650; cursor: grab; border-color: var(--hue); color: var(--ink); text-align: left; }
</style>
