<script setup lang="ts">
import type { Term } from '@ridgeway/core/catalog'

/** Sessions of the term along its weeks, with the days without classes marked. */
const props = defineProps<{ term: Term }>()
const at = (date: string) =>
  (Date.parse(date) - Date.parse(props.term.start)) / (Date.parse(props.term.end) - Date.parse(props.term.start)) * 100
const halves = computed(() => props.term.sessions.filter(session => session.code !== 'full'))
const said = computed(() => {
  const { name, sessions, noClass } = props.term
  const spans = sessions.map(session => `${session.name} ${session.start} to ${session.end}`)
  return `${name}: ${spans.join(', ')}. No classes: ${noClass.map(day => `${day.date} ${day.name}`).join(', ')}`
})
</script>

<template>
  <div
    class="track"
    role="img"
    :aria-label="said"
  >
    <span class="full" title="Full term" />
    <span
      v-for="session in halves"
      :key="session.code"
      class="half"
      :style="{ left: `${at(session.start)}%`, width: `${at(session.end) - at(session.start)}%` }"
      :title="`${session.name}: ${longDate(session.start)} – ${longDate(session.end)}`"
      >{{ session.name }}</span
    >
    <i
      v-for="day in term.noClass"
      :key="day.date"
      :style="{ left: `${at(day.date)}%` }"
      :title="`${longDate(day.date)}: ${day.name}, no classes`"
    />
  </div>
</template>

<style scoped>
.track { position: relative; height: 26px; font-size: 10.5px; color: var(--second); }
.full {
  position: absolute; left: 0; right: 0; top: 0; height: 6px;
  background: color-mix(in srgb, rgb(var(--v-theme-lake)) 70%, transparent); border-radius: 2px;
}
.half {
  position: absolute; top: 9px; height: 16px; border: 1px solid var(--line); border-radius: 2px;
  background: var(--surface); padding: 0 5px; line-height: 14px; overflow: hidden; white-space: nowrap;
}
i { position: absolute; top: -1px; height: 8px; width: 4px; background: var(--block); }
</style>
