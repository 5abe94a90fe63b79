<script setup lang="ts">
import type { z } from 'zod'
import type { Term } from '@ridgeway/core/catalog'
import { sayMoney } from '@ridgeway/words'
import type { readOfficePeople } from '#shared/contract/views/office'

/** Who owes for the working term, who owes most first: what is unpaid after the due date is voided. */
const { students, term } = defineProps<{ students: z.output<typeof readOfficePeople.output>['unpaid'], term: Term | undefined }>()
const sum = computed(() => students.reduce((total, one) => total + one.cents, 0))
</script>

<template>
  <section class="card owing" aria-label="Not paid">
    <h2>Not paid</h2>
    <p v-if="!students.length" class="second">Nobody owes anything for {{ term?.name ?? 'this term' }}.</p>
    <template v-else>
      <p class="second">
        <template v-if="students.length === 200">The 200 who owe most for {{ term?.name }}, </template>
        <template v-else>{{ count(students.length, 'student') }}, {{ sayMoney(sum) }} in all for {{ term?.name }}, </template>
        due by {{ longDate(term!.feesDue) }}.
      </p>
      <DataTable label="Students who owe for the term">
        <thead>
          <tr>
            <th>Student</th>
            <th class="figure">Owes</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="one in students" :key="one.id">
            <td><NuxtLink :to="`/student/${one.id}/account`">{{ one.name }}</NuxtLink></td>
            <td class="figure">{{ sayMoney(one.cents) }}</td>
          </tr>
        </tbody>
      </DataTable>
    </template>
  </section>
</template>

<style scoped>
.owing { padding: 10px 16px; max-height: 420px; overflow: auto; }
.figure { text-align: right; }
p { margin: 2px 0; }
</style>
