<script setup lang="ts">
import { isOutOfReach, type LineReport } from '@ridgeway/core/requirements'
import { describeLine, formatCredits, formatGpa, ruleTitle, sayLacking, sayOutOfReach, sayRule, saySharedRule } from '@ridgeway/words'

/** The whole standing on paper: made to be printed or kept as PDF, with the date and the catalog year it was read by. */
const student = useStudentStore()
const catalog = useCatalogStore()
const requirements = useRequirementsStore()
const { local } = useNow()
const standing = computed(() => student.standing!)
const termName = (code: string | null) => code ? catalog.term(code)?.name ?? code : 'transfer or exam'
const print = () => window.print()
const stateOf = (line: LineReport, program: string) => {
  if (line.setAside) return 'not needed'
  if (line.needed === 0 && line.exceptions.length > 0) return 'waived'
  if (requirements.unreachable[program]?.[line.id]) return 'cannot be reached'
  return line.state === 'open' ? sayLacking(line.lacking) : line.state
}
const linesOf = (program: string) => requirements.allLines(standing.value.reports.find(report => report.code === program)!)
const usesOf = (line: LineReport) =>
  line.uses.map(({ item, substituted }) =>
    `${item.course} ${item.grade ?? item.state}${substituted ? ' (substitution)' : ''}, ${termName(item.term)}`,
  ).join('; ')
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
        {{ formatCredits(standing.earned) }} credits earned ·
        {{ standing.finish ? `planned finish ${termName(standing.finish)}` : `${formatCredits(standing.unplaced)} credits still open` }}
      </p>
    </header>
    <section v-for="report in standing.reports" :key="report.code">
      <h2>{{ report.title }} · catalog {{ report.catalogYear }}</h2>
      <p>
        {{ formatCredits(report.met) }} credits met, {{ formatCredits(report.underWay) }} under way,
        {{ formatCredits(report.covered) }} covered by the plan, {{ formatCredits(report.open) }} open, of
        {{ formatCredits(report.totalCredits) }}.{{ report.notShared ? ` ${report.notShared.rules.map(saySharedRule).join(' ')}` : '' }}
      </p>
      <DataTable>
        <thead>
          <tr>
            <th>Requirement</th>
            <th>Rule</th>
            <th>State</th>
            <th>Courses</th>
          </tr>
        </thead>
        <tbody v-for="area in report.areas" :key="area.id">
          <tr class="area">
            <th colspan="4">{{ area.title }} · {{ area.open ? `${formatCredits(area.open)} cr open` : area.state }}</th>
          </tr>
          <tr v-for="line in area.lines" :key="line.id" :class="{ aside: line.setAside }">
            <td>{{ line.title }}</td>
            <td>{{ describeLine(line.rule) }}</td>
            <td>{{ stateOf(line, report.code) }}</td>
            <td>
              {{ usesOf(line)
              }}<span v-for="exception in line.exceptions" :key="exception.id">
                {{ exception.kind === 'waiver' ? 'Waiver' : 'Substitution' }} by {{ exception.by }}: {{ exception.reason }}</span
              >
            </td>
          </tr>
        </tbody>
        <tbody v-if="report.overlays.length || report.rules.length">
          <tr class="area">
            <th colspan="4">Across the program</th>
          </tr>
          <tr v-for="line in linesOf(report.code).filter(candidate => candidate.overlay)" :key="line.id">
            <td>{{ line.title }}</td>
            <td>{{ describeLine(line.rule) }}</td>
            <td>{{ stateOf(line, report.code) }}</td>
            <td>{{ usesOf(line) }}</td>
          </tr>
          <tr v-for="rule in report.rules" :key="rule.id">
            <td>{{ ruleTitle(rule) }}</td>
            <td>{{ sayRule(rule) }}</td>
            <td>{{ isOutOfReach(rule) ? 'cannot be reached' : rule.state }}</td>
            <td>{{ sayOutOfReach(rule) }}</td>
          </tr>
        </tbody>
      </DataTable>
    </section>
    <p class="second">Planned courses are not registrations. Made by Ridgeway; the registrar's record decides.</p>
  </div>
</template>

<style scoped>
.paper { max-width: 1060px; }
header p, section > p { margin: 2px 0; }
section { margin-top: 14px; }
:deep(table) { width: 100%; border-collapse: collapse; margin-top: 5px; font-size: 12.5px; }
th, td { text-align: left; vertical-align: top; padding: 3px 10px 3px 0; border-top: 1px solid var(--line-soft); }
td:nth-child(1) { width: 20%; } td:nth-child(2) { width: 30%; } td:nth-child(3) { width: 13%; font-weight: 650; }
.area th { border-top: 1px solid var(--line); padding-top: 7px; }
.aside td { color: var(--second); font-weight: 400; }
@media print {
  .no-print { display: none; }
  .paper { padding: 0; max-width: none; }
  :deep(table) { font-size: 9pt; }
  tr { break-inside: avoid; }
  .area { break-after: avoid; }
}
</style>

<style>
@page { size: A4; margin: 14mm; }
@media print {
  .shell, .review, .skip { display: none !important; }
  body, .v-application { background: #fff !important; }
}
</style>
