<script setup lang="ts">
import { cancelWork, type FolderCheck, loadFolder } from '#shared/contract/acts/college'
import { readWork } from '#shared/contract/views/college'
import { call, look, toProblem, type Problem } from '~/composables/useApi'

/** Tables and programs are given, checked, shown as what they would change, and then put in force: all of it or nothing. */
const emit = defineEmits<{ kept: [] }>()
const chosen = ref<File[]>([])
const files = shallowRef<Record<string, string>>({})
const why = ref('')
const problem = ref<Problem | null>(null)
const result = shallowRef<FolderCheck | null>(null)
const busy = ref<'checking' | 'keeping' | null>(null)
const names = computed(() => Object.keys(files.value))
const changed = computed(() => result.value?.ok ? result.value.tables.reduce((sum, one) => sum + one.added + one.changed, 0) : 0)
/** The rows are shown one by one. */
const isOpen = ref(false)
let stopped: AbortController | null = null
/** What goes on is known by this name, to whichever server is asked. */
const work = ref('')
const progress = shallowRef<{ stage: string, done: number, total: number } | null>(null)
const share = computed(() => progress.value?.total ? progress.value.done / progress.value.total : null)
const stage = computed(() => busy.value === 'checking'
  ? `reading ${count(names.value.length, 'file')} against the college`
  : progress.value?.total
    ? `${progress.value.stage}: ${progress.value.done} of ${count(progress.value.total, 'row')}`
    : `${progress.value?.stage ?? 'beginning'} …`)
useIntervalFn(async () => {
  if (busy.value === 'keeping') progress.value = (await look(readWork, { id: work.value }).catch(() => null))?.work ?? progress.value
}, 700)

async function take(given: File | File[]) {
  chosen.value = []
  const read = await readGiven(Array.isArray(given) ? given : [given])
  result.value = null
  problem.value = null
  why.value = read.ok ? '' : read.why
  files.value = read.ok ? read.files : {}
  if (read.ok) await send(false)
}
async function send(keep: boolean) {
  busy.value = keep ? 'keeping' : 'checking'
  work.value = crypto.randomUUID()
  progress.value = null
  const mine = stopped = new AbortController()
  try {
    const { answer } = await call(loadFolder, { files: files.value, keep, work: work.value }, { signal: mine.signal })
    result.value = answer
    problem.value = null
    if (answer.ok && answer.kept) {
      announce('All of it is in force.')
      emit('kept')
    }
  }
  catch (error) {
    if (!mine.signal.aborted) problem.value = toProblem(error)
  }
  busy.value = null
}
/** What is only checked is let go; what is being put in force is taken back by the server, which then says so. */
function cancel() {
  if (busy.value === 'keeping') {
    progress.value = { stage: 'taking it back', done: 0, total: 0 }
    void call(cancelWork, { id: work.value }).catch(error => problem.value = toProblem(error))
    return
  }
  stopped?.abort()
  files.value = {}
}
</script>

<template>
  <section class="card bring-in" aria-label="Bring tables in">
    <h2>Bring tables in</h2>
    <p class="second">
      Give one table or several, programs, records.json, plans.json, or a whole folder or roster packed as a zip. Nothing changes before you
      have seen what would. Rows are known by their key: one that is there already is changed, a new one is added, and what is not in the
      file stays as it is.
    </p>
    <v-file-input
      :model-value="chosen"
      label="Tables (.csv), programs (.json), or a folder or roster (.zip)"
      accept=".csv,.json,.zip"
      multiple
      prepend-icon=""
      :clearable="false"
      hide-details
      @update:model-value="take"
    />
    <p v-if="why" class="blocking strong" role="alert">{{ why }}</p>
    <FailedBox v-if="problem" :problem="problem" />
    <LongWork
      v-if="busy"
      :label="busy === 'checking' ? 'Checking' : 'Putting it in force'"
      :stage="stage"
      :share="busy === 'checking' ? null : share"
      @cancel="cancel"
    />
    <p v-if="busy === 'keeping'" class="second small">It is done whole, or nothing of it is.</p>
    <div v-if="result && !busy" role="status">
      <template v-if="!result.ok">
        <p class="blocking strong">
          Nothing was taken: {{ count(result.problems.length, 'problem') }}. Mend the file and give it again.
        </p>
        <DataTable label="Problems">
          <thead>
            <tr>
              <th>File</th>
              <th class="figure">Row</th>
              <th>Column</th>
              <th>What is wrong</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(one, i) in result.problems" :key="i">
              <td>{{ one.file }}</td>
              <td class="figure">{{ one.row ?? '' }}</td>
              <td>{{ one.column ?? '' }}</td>
              <td class="message">{{ one.message }}</td>
            </tr>
          </tbody>
        </DataTable>
      </template>
      <template v-else>
        <p class="strong">
          {{
            result.kept
              ? 'All of it is in force.'
              : changed === 0
                ? 'The files are right, and say what stands here already.'
                : 'The files are right. This is what they would change:'
          }}
        </p>
        <DataTable label="What changes, by file">
          <thead>
            <tr>
              <th>File</th>
              <th class="figure">New</th>
              <th class="figure">Changed</th>
              <th class="figure">The same</th>
              <th class="figure">Not in the file, left</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="one in result.tables" :key="one.file">
              <td>{{ one.file }}</td>
              <td class="figure" :class="{ strong: one.added > 0 }">{{ one.added }}</td>
              <td class="figure" :class="{ strong: one.changed > 0 }">{{ one.changed }}</td>
              <td class="figure">{{ one.same }}</td>
              <td class="figure">{{ one.left }}</td>
            </tr>
          </tbody>
        </DataTable>
        <template v-if="result.asides.length">
          <p class="small">Left aside:</p>
          <ul class="rows small">
            <li v-for="one in result.asides" :key="one">{{ one }}</li>
          </ul>
        </template>
        <template v-if="result.changes.length">
          <WordLink class="small" :aria-expanded="isOpen" @click="isOpen = !isOpen">
            {{ isOpen ? '▾' : '▸' }} {{ count(result.changes.length, 'row') }}, one by one
          </WordLink>
          <ul v-if="isOpen" class="rows small">
            <li v-for="one in result.changes" :key="one.file + one.key">
              <b>{{ one.key }}</b> <span class="second">{{ one.file }}</span>
              <template v-if="one.columns === null"> new</template>
              <template v-for="column in one.columns ?? []" :key="column.title"
                >; {{ column.title }}: “{{ column.from || 'nothing' }}” becomes “{{ column.to || 'nothing' }}”</template
              >
            </li>
          </ul>
        </template>
        <ActButton v-if="!result.kept && changed > 0" weight="full" @click="send(true)">
          Put {{ count(changed, 'row') }} in force
        </ActButton>
      </template>
    </div>
  </section>
</template>

<style scoped>
.bring-in { padding: 12px 16px; display: grid; gap: 8px; align-content: start; }
p { margin: 2px 0; }
.figure { text-align: right; }
.message { white-space: normal; min-width: 220px; }
.rows { margin: 4px 0; padding-left: 18px; }
</style>
