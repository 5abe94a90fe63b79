<script setup lang="ts">
import type { MoneyEntry } from '@ridgeway/core/money'
import { sayMoney, sayMoneyKind } from '@ridgeway/words'

/** Everything that happened on the account of a term, the newest first. */
const { entries } = defineProps<{ entries: readonly MoneyEntry[] | null }>()
const session = useSessionStore()
const lines = computed(() => [...entries ?? []].reverse())
const isLess = ({ kind }: MoneyEntry) => kind !== 'charge' && kind !== 'payback'
</script>

<template>
  <section class="card lines" aria-label="Lines of the account">
    <h2>What happened</h2>
    <GreyShapes v-if="!entries" label="Loading the account" :rows="3" />
    <p v-else-if="lines.length === 0" class="second">Nothing is charged yet: it is when you register.</p>
    <DataTable v-else>
      <thead>
        <tr>
          <th scope="col">When</th>
          <th scope="col">What</th>
          <th scope="col" class="amount">Amount</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="line in lines" :key="line.id">
          <td>{{ toLocal(line.at, session.zone).toFormat('d LLL yyyy, HH:mm') }}</td>
          <td>
            {{ sayMoneyKind(line.kind) }}
            <span class="second">{{ line.courses.map(one => `${one.course} ${sayMoney(one.cents)}`).join(', ') }}</span>
          </td>
          <td class="amount">{{ isLess(line) ? '−' : '' }}{{ sayMoney(line.cents) }}</td>
        </tr>
      </tbody>
    </DataTable>
  </section>
</template>

<style scoped>
.lines { padding: 12px 16px; }
.amount { text-align: right; }
</style>
