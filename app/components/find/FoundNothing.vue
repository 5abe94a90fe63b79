<script setup lang="ts">
import type { Condition } from '@ridgeway/core/find'
import { sayCondition } from '@ridgeway/words'

/** Nothing is found: which condition to let go, and what that would bring. */
const find = useFindStore()
const { partOf } = useSentence()
const ways = computed(() => find.found?.counts.letGo ?? [])
function letGo(condition: Condition | 'text') {
  if (condition === 'text') find.set({ text: '' })
  else partOf(condition).clear()
}
</script>

<template>
  <EmptyState>
    <p><b>Nothing answers to that.</b></p>
    <p v-if="ways.length === 0">No single condition stands in the way. <WordLink @click="find.clear()">Begin anew</WordLink>,
      or look through the whole catalog.</p>
    <p v-for="{ condition, bundles } in ways.slice(0, 4)" :key="condition">
      <WordLink @click="letGo(condition)">Let go of {{ sayCondition(condition) }}</WordLink>: {{ count(bundles, 'bundle') }}
    </p>
  </EmptyState>
</template>

<style scoped>
p { margin: 2px 0; }
</style>
