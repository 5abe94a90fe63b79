<script setup lang="ts">
/** A place on the board where a tile can be dropped. */
const props = defineProps<{ accepts: boolean, term: string, lane: string }>()
const element = useTemplateRef<HTMLElement>('element')
const over = useDropPlace(element, () => ({ term: props.term, lane: props.lane }), () => props.accepts)
</script>

<template>
  <div ref="element" role="gridcell" :class="{ over }" :data-term="accepts ? term : undefined" :data-lane="lane"><slot /></div>
</template>

<style scoped>
.over, .touch-over { outline: 2px solid var(--act); outline-offset: -3px; border-radius: 6px; }
</style>
