<script setup lang="ts">
import { emptyTable, type TableName, TABLES } from '@ridgeway/formats'
import { readCounts, readFolder, readRecordsAndPlans, readRosterFiles } from '#shared/contract/views/college'
import { look, toProblem, type Problem } from '~/composables/useApi'

/** The college itself: what of it is here, how it comes in and goes out, and who may sign in. */
const catalog = useCatalogStore()
const counts = shallowRef<Record<string, number> | null>(null)
const problem = ref<Problem | null>(null)
const saving = ref(false)
async function load() {
  try {
    counts.value = await look(readCounts, {})
    problem.value = null
  }
  catch (error) {
    problem.value = toProblem(error)
  }
}
void load()
async function kept() {
  await Promise.all([load(), catalog.load(true)])
}

/** In the order in which they refer to each other; the first that is empty is the next to bring. */
const ORDER: readonly (TableName | 'programs')[] = ['sites', 'travel', 'terms', 'sessions', 'openings', 'courses', 'programs', 'sections',
  'people', 'records']
const rows = computed(() => ORDER.map(name => ({
  name,
  file: name === 'programs' ? 'programs' : TABLES[name].file,
  words: name === 'programs' ? 'Requirements of each program in its catalog year, a file each.' : TABLES[name].words,
  columns: name === 'programs' ? '' : TABLES[name].columns.map(column => column.title).join(', '),
  count: counts.value?.[name === 'programs' ? 'programs' : TABLES[name].file] ?? 0,
})))
/** What a student needs to plan: a calendar, courses, a program, and themselves. */
const NEEDED: readonly string[] = ['sites', 'terms', 'sessions', 'courses', 'programs', 'people']
const next = computed(() => counts.value === null
  ? undefined
  : rows.value.find(row => NEEDED.includes(row.name) && (row.name === 'people' ? row.count < 2 : row.count === 0)))

const WAYS = [{ title: 'Everything, as a folder', name: 'college.zip', view: readFolder },
  { title: 'Records and plans, as JSON', name: 'records-and-plans.zip', view: readRecordsAndPlans },
  { title: 'A roster of the open standard, version 1.1', name: 'roster.zip', view: readRosterFiles }]
async function save({ name, view }: typeof WAYS[number]) {
  saving.value = true
  try {
    const { files } = await look(view, {})
    saveFile(name, 'application/zip', packFolder(files))
    problem.value = null
  }
  catch (error) {
    problem.value = toProblem(error)
  }
  saving.value = false
}
const saveEmpty = (name: TableName) => saveFile(TABLES[name].file, 'text/csv', emptyTable(name))
</script>

<template>
  <div class="page">
    <PageHead title="The college's tables" :about="catalog.name">
      <WordLink to="/office/settings">Settings</WordLink>
      <v-menu>
        <template #activator="{ props }"><ActButton :busy="saving" v-bind="props">Save as a zip …</ActButton></template>
        <v-list><v-list-item v-for="way in WAYS" :key="way.name" :title="way.title" @click="save(way)" /></v-list>
      </v-menu>
    </PageHead>
    <FailedBox v-if="problem" :problem="problem" retry @retry="load" />
    <p v-if="next" class="card next" role="status">
      <b>Next: {{ next.file }}.</b> {{ next.words }}
      <template v-if="next.name !== 'programs'">Save the empty table, fill it in, and bring it in here.</template>
      <template v-else>Write one after docs/formats, or take one that you have.</template>
    </p>
    <p v-else-if="counts" class="second">
      Students can plan. Bring a table again whenever it changes; openings and sections let them register.
    </p>
    <div class="two">
      <section class="card tables" aria-label="Tables">
        <DataTable label="Tables of the college">
          <thead>
            <tr>
              <th>Table</th>
              <th class="figure">Rows here</th>
              <th><span class="visually-hidden">Empty table</span></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="row in rows" :key="row.name" :class="{ upcoming: row === next }">
              <td class="words" :title="row.columns">
                <b>{{ row.file }}</b> <span class="second small">{{ row.words }}</span>
              </td>
              <td class="figure">{{ counts ? row.count : '…' }}</td>
              <td class="figure">
                <WordLink v-if="row.name !== 'programs'" class="small save" @click="saveEmpty(row.name as TableName)">Save empty</WordLink>
              </td>
            </tr>
          </tbody>
        </DataTable>
      </section>
      <div class="right">
        <BringIn @kept="kept" />
        <InvitePerson />
      </div>
    </div>
    <CollegeRules class="beneath" />
  </div>
</template>

<style scoped>
.next { padding: 10px 16px; margin: 0 0 12px; }
.two { display: grid; grid-template-columns: minmax(0, 1fr) minmax(0, 1.1fr); gap: 12px; align-items: start; margin-top: 8px; }
.right { display: grid; gap: 12px; }
.beneath { margin-top: 12px; }
.tables { padding: 6px 12px; }
.figure :deep(.save), .figure :deep(.save *) { white-space: nowrap; }
.words { white-space: normal; padding-block: 6px; }
.figure { text-align: right; white-space: nowrap; }
.upcoming { background: var(--act-tint); }
@media (max-width: 900px) { .two { grid-template-columns: minmax(0, 1fr); } }
</style>
