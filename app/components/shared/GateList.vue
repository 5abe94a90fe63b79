<script setup lang="ts">
import type { Gate } from '@ridgeway/core/registration'
import { sayGate } from '@ridgeway/words'

defineProps<{ gates: readonly Gate[], opensIn: string }>()
</script>

<template>
  <section class="card gates" aria-label="Gates">
    <h2>Gates</h2>
    <ul>
      <li v-for="gate in gates" :key="gate.kind">
        <svg viewBox="0 0 20 18" width="20" height="18" aria-hidden="true" :class="{ closed: !gate.open }">
          <path d="M3 2v15M17 2v15" stroke="currentColor" stroke-width="2" />
          <path v-if="gate.open" d="M3 5 7 3.5M17 5l-4-1.5" stroke="currentColor" stroke-width="2" />
          <path v-else d="M3 6h14M3 12h14" stroke="currentColor" stroke-width="2" />
        </svg>
        <div>
          <span class="strong">{{ sayGate(gate).title }}</span> <span class="visually-hidden">{{ gate.open ? 'open' : 'closed' }}</span>
          <p class="second">{{ sayGate(gate).words }}<template v-if="gate.kind === 'opening' && opensIn"> · in {{ opensIn }}</template></p>
          <p v-if="!gate.open && gate.kind !== 'opening'" class="small">{{ sayGate(gate).way }}</p>
        </div>
      </li>
    </ul>
    <LiftedRules />
  </section>
</template>

<style scoped>
.gates { padding: 12px 16px 6px; }
ul { list-style: none; padding: 0; margin: 6px 0 0; }
li { display: grid; grid-template-columns: 26px 1fr; gap: 6px; padding: 6px 0; border-top: 1px solid var(--line-soft); }
svg { color: var(--act); fill: none; margin-top: 2px; }
svg.closed { color: var(--block); }
p { margin: 0; }
</style>
