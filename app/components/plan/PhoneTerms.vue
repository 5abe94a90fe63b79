<script setup lang="ts">
import { shortTermName } from '@ridgeway/words'

/** On a phone the board shows one term: to the one before, to the one after; a tile can be dropped on either. */
const { phoneTerms, phoneAt, columns, show } = usePlan()
const before = computed(() => phoneTerms.value[phoneAt.value - 1])
const after = computed(() => phoneTerms.value[phoneAt.value + 1])
</script>

<template>
  <nav class="phone-terms" aria-label="Terms">
    <ActButton :off="!before && 'This is the first term that can be planned'" :data-term="before?.code" @click="show(before?.code)">
      ‹ {{ before ? shortTermName(before) : '' }}
    </ActButton>
    <b aria-live="polite">{{ columns[0]?.name }}</b>
    <ActButton :off="!after && 'This is the last term that is known'" :data-term="after?.code" @click="show(after?.code)">
      {{ after ? shortTermName(after) : '' }} ›
    </ActButton>
  </nav>
</template>

<style scoped>
.phone-terms { display: flex; justify-content: space-between; align-items: center; margin: 4px 0 8px; }
.phone-terms .act { min-width: 84px; min-height: 40px; }
.phone-terms .touch-over { background: var(--act-tint); }
</style>
