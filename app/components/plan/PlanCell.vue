<script setup lang="ts">
import { dropTargetForElements } from '@atlaskit/pragmatic-drag-and-drop/element/adapter'

/** A place on the board where a tile can be dropped. */
const props = defineProps<{ accepts: boolean, term: string, lane: string }>()
const emit = defineEmits<{ drop: [] }>()
const element = useTemplateRef<HTMLElement>('element')
const over = ref(false)
let stop = () => {}
onMounted(() => stop = dropTargetForElements({
  element: element.value!, canDrop: () => props.accepts,
  onDragEnter: () => over.value = true, onDragLeave: () => over.value = false,
  onDrop: () => {
    over.value = false
    emit('drop')
  },
}))
onBeforeUnmount(() => stop())
</script>

<template>
  <div ref="element" :class="{ over }" :data-term="accepts ? term : undefined" :data-lane="lane"><slot /></div>
</template>

<style scoped>
.over, .touch-over { outline: 2px solid var(--act); outline-offset: -3px; border-radius: 6px; }
</style>
