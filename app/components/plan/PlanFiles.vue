<script setup lang="ts">
import { type ReadPlan, writePlanCsv, writePlanJson } from '@ridgeway/formats'
import { sayCredits } from '@ridgeway/words'
import type { Problem } from '~/composables/useApi'

/** The plan out as a file and in again: what is read is shown first, and kept as one more plan, whole or not at all. */
const student = useStudentStore()
const catalog = useCatalogStore()
const plans = usePlansStore()
const open = ref(false)
const read = shallowRef<ReadPlan | null>(null)
const fileName = ref('')
const problem = ref<Problem | null>(null)
const saveAs = (ending: 'json' | 'csv') => {
  const name = student.state!.plan.name
  const text = ending === 'json' ? writePlanJson(name, student.plan) : writePlanCsv(student.plan, catalog.courses)
  saveFile(`${name.toLowerCase().replace(/[^a-z0-9]+/g, '-')}-plan.${ending}`, ending === 'json'
    ? 'application/json'
    : 'text/csv;charset=utf-8', text)
}
async function choose(file: File) {
  problem.value = null
  fileName.value = file.name
  read.value = file.size > 200_000
    ? { ok: false, problems: [{ row: null, message: 'The file is larger than 200 kB; no plan is.' }] }
    : plans.readFile(file.name, await file.text())
}
async function keep() {
  if (!read.value?.ok) return
  problem.value = await plans.keep(read.value.name, read.value.plan)
  if (problem.value) return
  read.value = null
  open.value = false
}
const credits = computed(() => read.value?.ok ? read.value.plan.entries.reduce((sum, entry) => sum + entry.credits, 0) : 0)
</script>

<template>
  <v-menu v-model="open" :close-on-content-click="false">
    <template #activator="{ props: menu }"><ActButton v-bind="menu">Files</ActButton></template>
    <div class="card files" role="dialog" aria-label="Plan files">
      <p class="row">
        <b>Save this plan</b> <ActButton @click="saveAs('json')">as JSON</ActButton> <ActButton @click="saveAs('csv')">as CSV</ActButton>
      </p>
      <template v-if="student.mayEdit">
        <FileDrop label="Open a plan file" accept=".json,.csv,application/json,text/csv" @file="choose" />
        <div role="status">
          <template v-if="read?.ok">
            <p>
              {{ fileName }}: <b>{{ count(read.plan.entries.length, 'course') }}</b>, {{ sayCredits(credits) }}{{
                read.plan.placeholders.length ? `, ${count(read.plan.placeholders.length, 'place')} to choose` : ''
              }}.
            </p>
            <ActButton weight="full" @click="keep">Keep as a plan of its own</ActButton>
          </template>
          <template v-else-if="read">
            <p class="blocking strong">{{ fileName }} was not taken: {{ count(read.problems.length, 'problem') }}.</p>
            <ol>
              <li v-for="(one, i) in read.problems.slice(0, 20)" :key="i">
                <template v-if="one.row">Row {{ one.row }}: </template>{{ one.message }}
              </li>
              <li v-if="read.problems.length > 20">and {{ read.problems.length - 20 }} more</li>
            </ol>
          </template>
        </div>
        <FailedBox v-if="problem" :problem="problem" />
      </template>
    </div>
  </v-menu>
</template>

<style scoped>
.files { padding: 12px 16px; width: 430px; max-width: calc(100vw - 24px); }
.row { display: flex; gap: 8px; align-items: center; margin: 0 0 10px; }
ol { margin: 4px 0; padding-left: 20px; }
p { margin: 6px 0; }
</style>
