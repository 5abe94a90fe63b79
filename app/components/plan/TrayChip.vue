<script setup lang="ts">
import type { TouchPlace } from '~/composables/useTouchDrag'

const props = defineProps<{ code: string, title: string, hue: string, movable: boolean }>()
const emit = defineEmits<{ drag: [], open: [], dropped: [place: TouchPlace] }>()
const element = useTemplateRef<HTMLElement>('element')
useDraggable(element, () => props.movable, () => emit('drag'))
useTouchDrag(element, () => props.movable, place => emit('dropped', place))
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
