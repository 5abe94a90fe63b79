<script setup lang="ts">
import type { Section, Weekday } from '@ridgeway/core/catalog'

/**
 * The whole week as a strip: one bundle dark, what is picked or registered pale, blocks kept free hatched; times are compared by looking.
 */
const { sections, beside = [], free = [] } = defineProps<{
  sections: readonly Section[]
  beside?: readonly Section[]
  free?: readonly { days: readonly Weekday[], start: number, end: number }[]
}>()
const DAYS: Weekday[] = ['M', 'T', 'W', 'R', 'F', 'S', 'U']
const FROM = 480
const TO = 1260
const at = (minute: number) => Math.max(0, Math.min(1, (minute - FROM) / (TO - FROM))) * 144
const blocksOf = (list: readonly Section[]) => list.flatMap(section => section.meetings.filter(one => one.first !== one.last)
  .flatMap(meeting => meeting.days.map(day => ({ day, start: meeting.start, end: meeting.end }))))
const mine = computed(() => blocksOf(sections))
const others = computed(() => blocksOf(beside))
const kept = computed(() => free.flatMap(({ days, start, end }) => days.map(day => ({ day, start, end }))))
const days = computed(() => DAYS.filter(day => 'MTWRF'.includes(day) || mine.value.some(block => block.day === day)))
const row = computed(() => 35 / days.value.length)
const layers = computed(() => [['kept', kept.value], ['pale', others.value], ['dark', mine.value]] as const)
</script>

<template>
  <svg class="strip" viewBox="0 0 146 36" width="146" height="36" aria-hidden="true">
    <rect width="146" height="36" rx="3" class="ground" />
    <template v-for="[name, blocks] in layers" :key="name">
      <rect
        v-for="(block, i) in blocks.filter(one => days.includes(one.day))"
        :key="i"
        :class="name"
        :x="at(block.start) + 1"
        :y="days.indexOf(block.day) * row + 1"
        :width="Math.max(3, at(block.end) - at(block.start))"
        :height="row - 1.5"
        rx="1"
      />
    </template>
  </svg>
</template>

<style scoped>
.strip { display: block; flex: none; }
.ground { fill: var(--paper); }
.pale { fill: var(--line); }
.dark { fill: var(--ink); }
.kept { fill: none; stroke: var(--second); stroke-dasharray: 1.5 1.5; stroke-width: .8; }
</style>
