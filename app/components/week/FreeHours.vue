<script setup lang="ts">
import type { Weekday } from '@ridgeway/core/catalog'
import { clockTime, DAY_NAMES } from '@ridgeway/words'
import type { FreeBlock } from '~/composables/week/ribbon'

/** Hours of a day that are kept free: moved by half hours with Alt and an arrow, or let go. */
const { block, day, mayChange } = defineProps<{ block: FreeBlock, day: Weekday, mayChange: boolean }>()
const emit = defineEmits<{ release: [], shift: [minutes: number] }>()
const words = computed(() => `${block.name || 'kept free'} ${clockTime(block.start)}–${clockTime(block.end)}`)
const STEP = 30
function onKey(event: KeyboardEvent) {
  const by = { ArrowLeft: -STEP, ArrowRight: STEP }[event.key]
  if (!by || !event.altKey || block.start + by < 0 || block.end + by > 1440) return
  event.preventDefault()
  emit('shift', by)
}
</script>

<template>
  <div class="free" :class="{ movable: mayChange }" :title="mayChange ? 'Drag it to other hours, or Alt and an arrow' : undefined">
    <span class="small">{{ words }}</span>
    <WordLink
      v-if="mayChange"
      class="small"
      :aria-label="`Let go: ${DAY_NAMES[day]} ${words}`"
      aria-keyshortcuts="Alt+ArrowLeft Alt+ArrowRight"
      @click="emit('release')"
      @keydown="onKey"
    >
      let go
    </WordLink>
  </div>
</template>

<style scoped>
.free {
  padding: 2px 6px; overflow: hidden; color: var(--second); border: 1px dashed var(--second); border-radius: 4px;
  background: repeating-linear-gradient(135deg, var(--line-soft) 0 2px, transparent 2px 8px);
}
.movable { cursor: grab; }
.free > span { background: var(--surface); border-radius: 3px; padding: 0 3px; }
.free .words-link { margin-left: 6px; background: var(--surface); padding: 0 3px; }
@media print { .free .words-link { display: none; } }
</style>
