<script setup lang="ts">
import { formatCredits, sayCredits, formatGpa } from '@ridgeway/words'

/** The whole standing on paper: made to be printed or kept as PDF, with the date and the catalog year it was read by. */
const student = useStudentStore()
const catalog = useCatalogStore()
const { local } = useNow()
const standing = computed(() => student.standing!)
const termName = (code: string | null) => code ? catalog.term(code)?.name ?? code : 'transfer or exam'
const print = () => window.print()
</script>

<template>
  <div class="page paper">
    <div class="page-head no-print">
      <WordLink :to="`/student/${student.state!.id}/requirements`">Back to requirements</WordLink>
      <span class="spacer" />
      <ActButton weight="full" @click="print">Print or keep as PDF</ActButton>
    </div>
    <header>
      <h1>{{ student.state!.name }} · standing</h1>
      <p>
        {{ catalog.name }} · read on {{ local.toFormat('d LLLL yyyy, HH:mm') }} · advisor {{ student.state!.advisor?.name ?? 'none' }}
      </p>
      <p>
        GPA {{ formatGpa(standing.gpa.value) }} over {{ formatCredits(standing.gpa.attempted) }} graded credits ·
        {{ sayCredits(standing.earned) }} earned ·
        {{ standing.finish ? `planned finish ${termName(standing.finish)}` : `${sayCredits(standing.unplaced)} still open` }}
      </p>
    </header>
    <StandingProgram v-for="report in standing.reports" :key="report.code" :report="report" />
    <p class="second">Planned courses are not registrations. Made by Ridgeway; the registrar's record decides.</p>
  </div>
</template>

<style scoped>
.paper { max-width: 1060px; }
header p { margin: 2px 0; }
@media print {
  .no-print { display: none; }
  .paper { padding: 0; max-width: none; }
}
</style>

<style>
@page { size: A4; margin: 14mm; }
@media print {
  .shell, .review, .skip { display: none !important; }
  body, .v-application { background: #fff !important; }
}
</style>
