<script setup lang="ts">
/** The open requirement lines as small bars, each with how many bundles would count for it. */
const find = useFindStore()
const { openLines, partOf } = useSentence()
const chosen = computed(() => find.search.lines ?? [])
const width = (credits: number) => `${Math.max(8, Math.min(70, credits / 100 * 5))}px`
</script>

<template>
  <div v-if="openLines.length" class="lines" role="group" aria-label="Open lines">
    <span class="second">Open lines:</span>
    <WordLink
      v-for="{ line, title, bundles, open, hue } in openLines"
      :key="line"
      class="line"
      :class="`hue-${hue}`"
      :aria-pressed="chosen.includes(line)"
      :aria-label="`${title}, ${count(open / 100, 'credit')} open, ${count(bundles, 'bundle')}`"
      @click="partOf('lines').choose(line)"
    >
      <i :style="{ width: width(open) }" />{{ title }} <b>{{ bundles }}</b>
    </WordLink>
  </div>
</template>

<style scoped>
.lines { display: flex; flex-wrap: wrap; gap: 2px 16px; align-items: center; font-size: 13px; max-height: 62px; overflow: auto; }
.line.line { color: var(--ink); font-weight: 400; }
i { display: inline-block; height: 9px; border-radius: 2px; background: var(--hue); margin-right: 6px; }
</style>
