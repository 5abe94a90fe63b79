<script setup lang="ts">
import { isOutOfReach, type LineReport, type ProgramReport } from '@ridgeway/core/requirements'
import {
  describeLine, formatCredits, ruleTitle, sayCredits, sayGrade, sayLacking, sayOpen, sayOutOfReach, sayRule, saySharedRule,
} from '@ridgeway/words'

/** One program on paper: every line with its rule, its state and what fills it. */
const { report } = defineProps<{ report: ProgramReport }>()
const catalog = useCatalogStore()
const requirements = useRequirementsStore()
const termName = (code: string | null) => code ? catalog.term(code)?.name ?? code : 'transfer or exam'
function stateOf(line: LineReport): string {
  if (line.setAside) return 'not needed'
  if (line.needed === 0 && line.exceptions.length > 0) return 'waived'
  if (requirements.unreachable[report.code]?.[line.id]) return 'cannot be reached'
  return line.state === 'open' ? sayLacking(line.lacking) : line.state
}
const usesOf = (line: LineReport) =>
  line.uses.map(({ item, substituted }) =>
    `${item.course} ${sayGrade(item) || item.state}${substituted ? ' (substitution)' : ''}, ${termName(item.term)}`,
  ).join('; ')
</script>

<template>
  <section>
    <h2>{{ report.title }} · catalog {{ report.catalogYear }}</h2>
    <p>
      {{ sayCredits(report.met) }} met, {{ formatCredits(report.underWay) }} under way,
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
          <th colspan="4">{{ area.title }} · {{ area.open ? sayOpen(area.open) : area.state }}</th>
        </tr>
        <tr v-for="line in area.lines" :key="line.id" :class="{ aside: line.setAside }">
          <td>{{ line.title }}</td>
          <td>{{ describeLine(line.rule) }}</td>
          <td>{{ stateOf(line) }}</td>
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
        <tr v-for="line in report.overlays" :key="line.id">
          <td>{{ line.title }}</td>
          <td>{{ describeLine(line.rule) }}</td>
          <td>{{ stateOf(line) }}</td>
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
</template>

<style scoped>
section { margin-top: 14px; }
section > p { margin: 2px 0; }
:deep(table) { width: 100%; border-collapse: collapse; margin-top: 5px; font-size: 12.5px; }
th, td { text-align: left; vertical-align: top; padding: 3px 10px 3px 0; border-top: 1px solid var(--line-soft); }
td:nth-child(1) { width: 20%; } td:nth-child(2) { width: 30%; } td:nth-child(3) { width: 13%; font-weight: 650; }
.area th { border-top: 1px solid var(--line); padding-top: 7px; }
.aside td { color: var(--second); font-weight: 400; }
@media print {
  :deep(table) { font-size: 9pt; }
  tr { break-inside: avoid; }
  .area { break-after: avoid; }
}
</style>
