<script setup lang="ts">
import { type CourseItem, termPhase } from '@ridgeway/core/catalog'
import { type LineRef, parseLineRef } from '@ridgeway/core/record'
import { formatCredits, sayCheck } from '@ridgeway/words'

/** The whole plan on one landscape page: areas down, terms across. */
const student = useStudentStore()
const catalog = useCatalogStore()
const { today, local } = useNow()
const board = usePlanBoard()
const columns = computed(() =>
  board.columns.value.filter(term => (board.load(term.code)?.credits ?? 0) > 0 || termPhase(term, today.value) === 'under way'),
)
const lanes = computed(() =>
  board.lanes.value.filter(lane => lane.id !== 'off-path' || columns.value.some(term => board.cell(lane.id, term.code).length > 0)),
)
const corner = (item: CourseItem) => item.grade ?? formatCredits(item.credits)
const STATE_MARK: Record<string, string> = { 'under way': 'under way', 'registered': 'registered', 'picked': 'picked' }
const finishSaid = computed(() => {
  const { finish, unplaced } = student.standing!
  return finish ? `Finish ${catalog.term(finish)?.name}.` : `${formatCredits(unplaced)} credits have no place yet.`
})
const lineTitle = (ref: LineRef) => {
  const { program, line } = parseLineRef(ref)
  return student.standing?.reports.find(report => report.code === program)?.areas.flatMap(area => area.lines).find(one => one.id === line)
    ?.title ?? ref
}
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
        {{ formatCredits(student.standing!.earned) }} credits earned.
        {{ student.state!.advisor ? `Advisor: ${student.state!.advisor.name}.` : ''
        }}{{ student.state!.plan.current ? '' : ' This is not the current plan.' }}
      </p>
      <p class="no-print">
        <ActButton weight="full" @click="print">Print, or save as PDF</ActButton> <WordLink
          :to="`/student/${student.state!.id}/plan`">Back to the plan</WordLink>
      </p>
    </header>
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
            {{ lane.id === 'off-path' ? 'Counts for nothing' : lane.id === 'other-credit' ? 'Other credit' : lane.title
            }}<span class="second">{{ lane.id === 'off-path' ? '' : lane.open ? ` ${formatCredits(lane.open)} cr open` : '' }}</span>
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
              <i>to choose: {{ lineTitle(held.line) }}</i> <span class="second">{{ formatCredits(held.credits) }}</span>
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
    <p v-if="blockers.length" class="problems">
      <b>To mend:</b> {{ blockers.slice(0, 5).map(sayCheck).join(' ')
      }}{{ blockers.length > 5 ? ` And ${blockers.length - 5} more.` : '' }}
    </p>
    <p v-if="notes.length" class="second">{{ notes.slice(0, 8).join(' · ') }}</p>
    <p class="second foot">Planned courses are not registrations. Made by Ridgeway; the registrar's record decides.</p>
  </div>
</template>

<style scoped>
h1 { margin: 0; }
header p, .problems, .foot { margin: 2px 0; }
:deep(table) { width: 100%; border-collapse: collapse; table-layout: fixed; margin: 8px 0; font-size: 12.5px; background: var(--surface); }
th, td { border: 1px solid var(--line); padding: 3px 6px; vertical-align: top; text-align: left; }
thead th:first-child { width: 12%; } thead th:nth-child(2) { width: 11%; }
tbody th span { display: block; font-weight: 400; }
.one { line-height: 1.3; }
@media print {
  .no-print { display: none; }
  .sheet { padding: 0; max-width: none; }
  h1 { font-size: 13pt; }
  header p { font-size: 8.5pt; }
  :deep(table) { font-size: 8.6pt; margin: 5px 0; }
  th, td { padding: 2.5px 5px; }
  .foot, .problems { font-size: 8pt; }
  tr { break-inside: avoid; }
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
