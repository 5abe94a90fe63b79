<script setup lang="ts">
import type { Weekday } from '@ridgeway/core/catalog'

/** A week on its side, small: days as rows, hours across, each class a block in its lane's hue. */
const { blocks } = defineProps<{ blocks: readonly { day: Weekday, start: number, end: number, hue: string, changed: boolean }[] }>()
const DAYS: Weekday[] = ['M', 'T', 'W', 'R', 'F', 'S', 'U']
const FROM = 480
const TO = 1140
const ROW = 11
const days = computed(() => DAYS.filter(day => 'MTWRF'.includes(day) || blocks.some(block => block.day === day)))
const at = (minute: number) => Math.max(0, Math.min(1, (minute - FROM) / (TO - FROM))) * 148
</script>

<template>
  <svg class="picture" :viewBox="`0 0 150 ${days.length * ROW + 1}`" width="150" :height="days.length * ROW + 1" aria-hidden="true">
    <line v-for="(day, i) in days" :key="day" x1="0" x2="150" :y1="(i + 1) * ROW" :y2="(i + 1) * ROW" class="line" />
    <rect
      v-for="(block, i) in blocks"
      :key="i"
      :class="[`hue-${block.hue}`, { changed: block.changed }]"
      :x="at(block.start) + 1"
      :y="days.indexOf(block.day) * ROW + 1.5"
      :width="Math.max(3, at(block.end) - at(block.start) - 1)"
      :height="ROW - 3"
      rx="1.5"
    />
  </svg>
</template>

<style scoped>
.picture { display: block; }
.line { stroke: var(--line-soft); }
rect { fill: var(--hue, var(--second)); stroke: var(--hue, var(--second)); }
/* What would be exchanged is hollow, as everything that is not chosen. */
.changed { fill: var(--surface); stroke-dasharray: 2 1.5; }
@media (forced-colors: active) { rect { fill: CanvasText; } .changed { fill: Canvas; } }
</style>
