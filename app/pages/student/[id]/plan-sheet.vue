<script setup lang="ts">
import { sayCredits, sayCheck } from '@ridgeway/words'

/** The whole plan on one landscape page: areas down, terms across. */
const student = useStudentStore()
const catalog = useCatalogStore()
const { local } = useNow()
const finishSaid = computed(() => {
  const { finish, unplaced } = student.standing!
  return finish ? `Finish ${catalog.term(finish)?.name}.` : `${sayCredits(unplaced)} have no place yet.`
})
const notes = computed(() => [
  ...(student.plan.note ? [`Plan: ${student.plan.note}`] : []),
  ...Object.entries(student.plan.termNotes).map(([term, note]) => `${catalog.term(term)?.name}: ${note}`),
  ...student.entries.filter(entry => entry.note).map(entry => `${entry.course}: ${entry.note}`),
])
const blockers = computed(() => student.standing!.checks.filter(check => check.severity === 'blocker'))
const print = () => window.print()
</script>

<template>
  <div class="page sheet">
    <header>
      <h1>{{ student.state!.name }}: {{ student.state!.plan.name }} plan</h1>
      <p>{{ student.rules.programs.map(program => `${program.title}, catalog ${program.catalogYear}`).join(' · ') }}</p>
      <p class="second">
        {{ catalog.name }}, {{ local.toFormat('d LLLL yyyy') }}.
        {{ finishSaid }}
        {{ sayCredits(student.standing!.earned) }} earned.
        {{ student.state!.advisor ? `Advisor: ${student.state!.advisor.name}.` : ''
        }}{{ student.state!.plan.current ? '' : ' This is not the current plan.' }}
      </p>
      <p class="no-print">
        <ActButton weight="full" @click="print">Print, or save as PDF</ActButton> <WordLink
          :to="`/student/${student.state!.id}/plan`">Back to the plan</WordLink>
      </p>
    </header>
    <SheetTable />
    <p v-if="blockers.length" class="problems">
      <b>To mend:</b> {{ blockers.slice(0, 5).map(sayCheck).join(' ')
      }}{{ blockers.length > 5 ? ` And ${blockers.length - 5} more.` : '' }}
    </p>
    <p v-if="notes.length" class="second">{{ notes.slice(0, 8).join(' · ')
    }}{{ notes.length > 8 ? ` · and ${notes.length - 8} more` : '' }}</p>
    <p class="second foot">Planned courses are not registrations. Made by Ridgeway; the registrar's record decides.</p>
  </div>
</template>

<style scoped>
h1 { margin: 0; }
header p, .problems, .foot { margin: 2px 0; }
@media print {
  .no-print { display: none; }
  .sheet { padding: 0; max-width: none; }
  h1 { font-size: 13pt; }
  header p { font-size: 8.5pt; }
  .foot, .problems { font-size: 8pt; }
}
</style>

<style>
@page landscape-sheet { size: A4 landscape; margin: 9mm; }
@media print {
  /* The whole document takes the page, or what follows the sheet would begin another. */
  html:has(.sheet), html:has(.sheet) body { page: landscape-sheet; }
  .shell, .review, .skip { display: none !important; }
  body, .v-application { background: #fff !important; }
}
</style>
