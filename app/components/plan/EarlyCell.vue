<script setup lang="ts">
import { formatCredits } from '@ridgeway/words'
import type { Lane } from '~/composables/plan/board'

/** What a lane holds from the terms that are over, folded into one bar as long as its credits. */
const { lane } = defineProps<{ lane: Lane }>()
const { board, isWide } = usePlan()
const items = computed(() => board.early(lane.id))
const credits = computed(() => items.value.reduce((sum, item) => sum + item.credits, 0))
const width = computed(() => `${Math.min(isWide.value ? 60 : 74, credits.value / 25)}px`)
</script>

<template>
  <div role="gridcell">
    <span v-for="item in board.alsoEarly(lane.id)" :key="`also-${item.id}`" class="also small second" title="counts here too"
      >+ {{ item.course }}</span
    >
    <template v-if="items.length">
      <span class="past-bar" :class="`hue-${lane.hue}`" :style="{ width }" />
      <span class="small second" :title="items.map(item => `${item.course} ${item.grade}`).join(', ')"
        >{{ formatCredits(credits) }} cr</span
      >
    </template>
  </div>
</template>

<style scoped>
.past-bar { display: block; height: 9px; border-radius: 2px; background: var(--hue); margin-top: 6px; }
.also { border-bottom: 1px dashed var(--line); padding: 1px 3px; white-space: nowrap; }
</style>
