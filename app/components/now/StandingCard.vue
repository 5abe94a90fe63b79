<script setup lang="ts">
import { formatCredits, formatGpa } from '@ridgeway/words'

/** Program, credits, GPA and finish in a few lines. */
const student = useStudentStore()
const catalog = useCatalogStore()
const standing = computed(() => student.standing!)
const major = computed(() => standing.value.reports[0])
const isLow = computed(() => standing.value.gpa.value !== null && standing.value.gpa.value < 200)
const finish = computed(() => standing.value.finish ? catalog.term(standing.value.finish)?.name : null)
</script>

<template>
  <section class="card side">
    <h2>Standing</h2>
    <dl>
      <dt>Program</dt>
      <dd>{{ major?.title }} · {{ major?.catalogYear }}</dd>
      <dt>Credits earned</dt>
      <dd>{{ formatCredits(standing.earned) }}</dd>
      <dt>GPA</dt>
      <dd :class="{ blocking: isLow }">{{ formatGpa(standing.gpa.value) }}</dd>
      <dt>Requirements met</dt>
      <dd>{{ formatCredits(major?.met ?? 0) }} of {{ formatCredits(major?.totalCredits ?? 0) }} cr</dd>
      <dt>Finish</dt>
      <dd>{{ finish ?? 'not yet covered' }}</dd>
    </dl>
  </section>
</template>

<style scoped>
.side { padding: 12px 16px; }
h2 { margin-bottom: 6px; }
dl { display: grid; grid-template-columns: auto 1fr; gap: 3px 12px; margin: 0; }
dt { color: var(--second); }
dd { margin: 0; text-align: right; font-weight: 650; }
</style>
