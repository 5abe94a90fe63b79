<script setup lang="ts">
import { type CourseItem, termPhase } from '@ridgeway/core/catalog'
import { formatCredits, sayOpen } from '@ridgeway/words'

/** The plan as a table for paper: areas down, terms across, with what each term comes to. */
const student = useStudentStore()
const requirements = useRequirementsStore()
const { today } = useNow()
const board = usePlanBoard()
const columns = computed(() =>
  board.columns.value.filter(term => (board.load(term.code)?.credits ?? 0) > 0 || termPhase(term, today.value) === 'under way'),
)
const lanes = computed(() =>
  board.lanes.value.filter(lane => lane.id !== OFF_PATH || columns.value.some(term => board.cell(lane.id, term.code).length > 0)),
)
const corner = (item: CourseItem) => item.grade ?? formatCredits(item.credits)
const STATE_MARK: Record<string, string> = { 'under way': 'under way', 'registered': 'registered', 'picked': 'picked' }
</script>

<template>
  <DataTable>
    <thead>
      <tr>
        <th>Area</th>
        <th>Earlier</th>
        <th v-for="term in columns" :key="term.code">{{ term.name }}</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="lane in lanes" :key="lane.id">
        <th>
          {{ lane.id === OFF_PATH ? 'Counts for nothing' : lane.id === OTHER_CREDIT ? 'Other credit' : lane.title
          }}<span class="second">{{ lane.id === OFF_PATH ? '' : lane.open ? ` ${sayOpen(lane.open)}` : '' }}</span>
        </th>
        <td class="second">
          {{
            [...board.early(lane.id).map(item => item.course), ...board.alsoEarly(lane.id).map(item => `+ ${item.course}`)].join(', ')
          }}
        </td>
        <td v-for="term in columns" :key="term.code">
          <div v-for="item in board.cell(lane.id, term.code)" :key="item.id" class="one">
            <b>{{ item.course }}</b> <span
              class="second">{{ corner(item) }}{{ STATE_MARK[item.state] ? `, ${STATE_MARK[item.state]}` : '' }}</span>
          </div>
          <div v-for="item in board.also(lane.id, term.code)" :key="`also-${item.id}`" class="one second">+ {{ item.course }}</div>
          <div v-for="held in board.heldIn(lane.id, term.code)" :key="held.id" class="one">
            <i>to choose: {{ requirements.lineAt(held.line)?.title ?? held.line }}</i>
            <span class="second"> {{ formatCredits(held.credits) }}</span>
          </div>
        </td>
      </tr>
    </tbody>
    <tfoot>
      <tr>
        <th>Load</th>
        <td class="second">{{ formatCredits(student.standing!.earned) }} cr earned</td>
        <td v-for="term in columns" :key="term.code">
          <b>{{ formatCredits(board.load(term.code)?.credits ?? 0) }} cr</b> <span
            class="second">{{ board.load(term.code)?.hours }} h a week, {{ board.load(term.code)?.status }}</span>
        </td>
      </tr>
    </tfoot>
  </DataTable>
</template>

<style scoped>
:deep(table) { width: 100%; border-collapse: collapse; table-layout: fixed; margin: 8px 0; font-size: 12.5px; background: var(--surface); }
th, td { border: 1px solid var(--line); padding: 3px 6px; vertical-align: top; text-align: left; }
thead th:first-child { width: 12%; } thead th:nth-child(2) { width: 11%; }
tbody th span { display: block; font-weight: 400; }
.one { line-height: 1.3; }
@media print {
  :deep(table) { font-size: 8.6pt; margin: 5px 0; }
  th, td { padding: 2.5px 5px; }
  tr { break-inside: avoid; }
}
</style>
