<script setup lang="ts">
import { sayHidden } from '@ridgeway/words'

/** What is not shown and why, as a bar whose parts open. */
const find = useFindStore()
const hidden = computed(() => find.found?.counts.hidden ?? [])
const all = computed(() => hidden.value.reduce((sum, one) => sum + one.bundles, 0))
const SHADES = ['var(--block)', 'rgb(var(--v-theme-slate))', 'rgb(var(--v-theme-clay))', 'var(--second)']
function toggle(reason: string) {
  find.set({ hiddenFor: find.search.hiddenFor === reason ? undefined : reason })
}
</script>

<template>
  <div v-if="all" class="hidden">
    <span class="second">{{ all }} not shown:</span>
    <span
      class="bar"
      aria-hidden="true"
    >
      <i v-for="(one, i) in hidden" :key="one.reason" :style="{ flexGrow: one.bundles, background: SHADES[i % 4] }" />
    </span>
    <WordLink
      v-for="one in hidden.slice(0, 5)"
      :key="one.reason"
      class="small"
      :aria-pressed="find.search.hiddenFor === one.reason"
      @click="toggle(one.reason)"
    >
      {{ one.bundles }} {{ sayHidden(one.reason) }} {{ find.search.hiddenFor === one.reason ? '▾' : '▸' }}
    </WordLink>
  </div>
</template>

<style scoped>
.hidden { display: flex; flex-wrap: wrap; gap: 2px 10px; align-items: center; font-size: 13px; }
.bar { display: inline-flex; gap: 1px; width: 150px; height: 11px; opacity: .55; border-radius: 2px; overflow: hidden; }
.bar i { min-width: 3px; }
@media (max-width: 700px) { .bar { display: none; } }
</style>
