<script setup lang="ts">
import { clockTime } from '@ridgeway/words'
import type { WeekBar } from '~/composables/week/ribbon'

/** One class of the week, drawn by its commitment; its name leads to all about it. */
const { bar } = defineProps<{ bar: WeekBar }>()
const emit = defineEmits<{ open: [] }>()
const SESSION: Record<string, string> = { first: ', first half', second: ', second half' }
const session = computed(() => SESSION[bar.session] ?? '')
const words = computed(() => [`${bar.label} ${bar.part}`.trim(), `${clockTime(bar.meeting.start)}–${clockTime(bar.meeting.end)}`,
  `${bar.where}${session.value}`, bar.state, bar.clash].filter(Boolean).join(', '))
</script>

<template>
  <div class="bar commit" :class="[bar.state, `hue-${bar.hue}`]" :title="words">
    <WordLink class="name" :aria-label="`${words}: all about it`" @click="emit('open')">
      <span class="strong label">{{ bar.label }} {{ bar.part }}</span>
    </WordLink>
    <span v-if="bar.clash" class="where blocking strong">{{ bar.clash }}</span>
    <span v-else class="where">{{ clockTime(bar.meeting.start) }} · {{ bar.where }}{{ session }}</span>
    <span v-if="bar.clash" class="notch" aria-hidden="true">!</span>
    <span class="visually-hidden">, {{ bar.state }}</span>
  </div>
</template>

<style scoped>
.bar { padding: 3px 7px; overflow: hidden; line-height: 1.25; font-size: 13px; container: bar / inline-size; }
.bar > span { display: block; white-space: nowrap; overflow: hidden; text-overflow: ellipsis; }
.name.name {
  display: block; max-width: 100%; color: inherit; font-weight: 700; overflow: hidden; text-overflow: ellipsis;
  white-space: nowrap; line-height: 1.25;
}
.name :deep(.v-btn__content) { white-space: nowrap; overflow: hidden; text-overflow: ellipsis; }
.where { font-size: 11.5px; }
/* Where a class is short, its code is read before its place. */
@container bar (max-width: 72px) {
  .name :deep(.v-btn__content) { white-space: normal; }
  .where { display: none !important; }
}
.notch {
  position: absolute; top: 0; right: 0; width: 17px; border-radius: 0 3px; text-align: center; font-size: 11.5px; font-weight: 700;
  background: var(--block); color: var(--surface);
}
</style>
