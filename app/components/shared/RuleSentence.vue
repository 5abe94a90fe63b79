<script setup lang="ts">
import type { Reason } from '@ridgeway/core/prerequisites'
import { sayBecause } from '@ridgeway/words'

/** A course's rule, part by part: what of it holds, and how firmly; without a reading the rule as the catalog prints it. */
const { reason, text } = defineProps<{ reason: Reason | null, text: string }>()
const FIRM = { 'passed': 'yes', 'if passed': 'if passed', 'if planned': 'in the plan', 'unmet': 'no' } as const
const leavesOf = (one: Reason): Reason[] => one.parts.length ? one.parts.flatMap(leavesOf) : [one]
const leaves = computed(() => reason ? leavesOf(reason) : [])
</script>

<template>
  <div>
    <p v-for="(leaf, i) in leaves" :key="i" class="rule">
      <span class="firm" :class="{ blocking: leaf.firmness === 'unmet' }">{{ FIRM[leaf.firmness] }}</span>
      <span>{{ sayBecause(leaf) }}</span>
    </p>
    <p v-if="!reason">{{ text }}</p>
  </div>
</template>

<style scoped>
p { margin: 3px 0; }
.rule { display: grid; grid-template-columns: 76px 1fr; align-items: baseline; }
.firm { font-weight: 700; font-size: 12.5px; }
</style>
