<script setup lang="ts">
import type { DayPartDemand } from '@ridgeway/core/demand'

/** Seats and wishes by the part of the day in which classes begin. */
defineProps<{ parts: readonly DayPartDemand[] }>()
const WHEN = { 'morning': 'before 12', 'afternoon': '12 to 17', 'evening': 'from 17', 'no set time': '' }
const share = (part: DayPartDemand) => part.seats === 0 ? 0 : Math.min(100, Math.round(part.taken / part.seats * 100))
</script>

<template>
  <section class="card parts" aria-label="By time of day">
    <h2>By time of day</h2>
    <DataTable label="Seats by the time of day at which classes begin">
      <thead>
        <tr>
          <th>Classes begin</th>
          <th class="figure">Sections</th>
          <th class="figure">Seats</th>
          <th class="figure">Taken</th>
          <th class="figure">Picked</th>
          <th class="figure">Waiting</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="part in parts" :key="part.part">
          <td>{{ part.part }} <span class="second small">{{ WHEN[part.part] }}</span></td>
          <td class="figure">{{ part.sections }}</td>
          <td class="figure">{{ part.seats }}</td>
          <td class="figure">{{ part.taken }} <span class="second small">{{ share(part) }} %</span></td>
          <td class="figure">{{ part.picked }}</td>
          <td class="figure">{{ part.waiting }}</td>
        </tr>
      </tbody>
    </DataTable>
    <p class="second small">Taken: seats taken or held for the waitlist. Picked: chosen by students who are not registered in it yet.</p>
  </section>
</template>

<style scoped>
.parts { padding: 10px 16px; }
.figure { text-align: right; white-space: nowrap; }
p { margin: 6px 0 0; }
</style>
