<script setup lang="ts">
import { formatCredits, sayFinding, sayGate } from '@ridgeway/words'
import type { RowDecision } from '@ridgeway/core/registration'
import type { OtherTerm } from '#shared/contract/views/student'

/** Run sheets of other terms, under that of the working term: what one press registers with it, and what stands in the way elsewhere. */
const others = useOtherTermsStore()
const student = useStudentStore()
const catalog = useCatalogStore()
const workingTerm = useWorkingTermStore()
watch([() => student.state?.version, () => workingTerm.code], () => void others.load(), { immediate: true })
const closed = ({ gates }: OtherTerm) => gates.filter(gate => !gate.open)
const creditsOf = (row: RowDecision) => row.credits || catalog.courses.get(row.course)?.credits || 0
const sayOutcome = (row: RowDecision) => {
  const refusal = row.findings.find(finding => !finding.ok && finding.code !== 'gate')
  if (refusal) return (row.once ?? row.outcome) === 'waitlist' ? 'joins the waitlist' : sayFinding(refusal).words
  return 'will register'
}
</script>

<template>
  <section
    v-for="sheet in others.sheets"
    :key="sheet.term"
    class="card other"
    :aria-label="`Line-up for ${catalog.term(sheet.term)?.name}`"
  >
    <h2>And {{ catalog.term(sheet.term)?.name }}</h2>
    <ResultSheet v-if="others.results[sheet.term]" :result="others.results[sheet.term]!" />
    <FailedBox v-if="others.problems[sheet.term]" :problem="others.problems[sheet.term]!" />
    <ul>
      <li v-for="row in sheet.rows" :key="row.rowId">
        <b>{{ row.course }}-{{ sheet.labels[row.course] }}</b> · {{ formatCredits(creditsOf(row)) }} cr · {{ sayOutcome(row) }}
      </li>
    </ul>
    <p v-for="gate in closed(sheet)" :key="gate.kind" class="small second">
      {{ sayGate(gate).title }}: {{ sayGate(gate).words }}. {{ sayGate(gate).way }}
      <WordLink v-if="gate.kind === 'terms' && student.isOwn" class="small" @click="others.accept(sheet.term)">
        Accept for {{ catalog.term(sheet.term)?.name }}
      </WordLink>
    </p>
    <p class="small">
      <WordLink class="small" @click="workingTerm.set(sheet.term)">Work on {{ catalog.term(sheet.term)?.name }}</WordLink>
    </p>
  </section>
</template>

<style scoped>
.other { padding: 10px 16px; margin-top: 12px; }
ul { margin: 4px 0; padding-left: 18px; }
p { margin: 2px 0; }
</style>
