<script setup lang="ts">
import type { RunResult } from '#shared/contract/acts/student'
import { sayRefusals } from '@ridgeway/words'

/** What the run did, one line a row, with its reference; it stays until the page is left. */
defineProps<{ result: RunResult }>()
const session = useSessionStore()
const student = useStudentStore()
const became = ({ outcome, backup, waits }: RunResult['rows'][number]) => outcome === 'refused'
  ? 'refused'
  : outcome === 'waitlist'
    ? `on the waitlist, ${ordinal(Math.max(...waits.map(wait => wait.place)))}`
    : backup > 0 ? `registered, with backup ${backup}` : 'registered'
</script>

<template>
  <section class="card result" role="status" aria-live="polite" aria-label="Result of the run">
    <h2>
      {{ registeredOf(result) }} of {{ result.rows.length }} registered · {{ toLocal(result.at, session.zone).toFormat('HH:mm:ss') }}
      · reference {{ result.reference }}
    </h2>
    <ul>
      <li v-for="row in result.rows" :key="row.rowId">
        <b>{{ row.course }}</b> <span
          :class="{ blocking: row.outcome === 'refused' }">{{ became(row) }}</span>
        <template v-for="({ words, way }, i) in row.outcome === 'refused' ? sayRefusals(row.findings.filter(f => !f.ok)) : []" :key="i">
          · {{ words }} {{ way }}</template
        >
      </li>
    </ul>
    <p v-if="student.isBehind" class="second small">
      This is kept. Many people register at this moment, so your week and your plan show it a little later, by themselves.
      <WordLink @click="student.catchUp()">Show it now</WordLink>
    </p>
  </section>
</template>

<style scoped>
.result { padding: 10px 16px; margin-bottom: 12px; border-color: var(--act); background: var(--act-tint); }
ul { margin: 4px 0 0; padding-left: 18px; }
</style>
