<script setup lang="ts">
import type { TermAccount } from '@ridgeway/core/money'
import { sayDate, sayMoney } from '@ridgeway/words'

/** What is due when, and what of it is still open. */
defineProps<{ account: TermAccount }>()
const { today } = useNow()
</script>

<template>
  <section class="card parts" aria-label="Parts">
    <h2>What is due when</h2>
    <p v-if="account.parts.length === 0" class="second">Nothing yet.</p>
    <dl>
      <template v-for="part in account.parts" :key="`${part.due} ${part.part}`">
        <dt :class="{ blocking: part.open > 0 && part.due < today }">{{ sayDate(part.due) }}</dt>
        <dd>{{ sayMoney(part.cents) }} <span class="second small">{{
          part.open === 0 ? 'paid' : part.open < part.cents ? `${sayMoney(part.open)} open` : part.due < today ? 'overdue' : 'open'
        }}</span></dd>
      </template>
    </dl>
  </section>
</template>

<style scoped>
.parts { padding: 12px 16px; }
dl { display: grid; grid-template-columns: 1fr auto; gap: 2px 12px; margin: 4px 0; }
dd { margin: 0; text-align: right; }
</style>
