<script setup lang="ts">
import { linesOfProgram, programId } from '@ridgeway/core/requirements'
import { writeProgramText } from '@ridgeway/formats'
import type { ProgramCheck } from '#shared/contract/acts/college'
import type { Problem } from '~/composables/useApi'

/** Programs in their catalog years: kept as files, checked line by line before one replaces another. */
const staff = useStaffStore()
const catalog = useCatalogStore()
const text = ref('')
const fileName = ref('')
const checked = ref<ProgramCheck | null>(null)
const problem = ref<Problem | null>(null)
const busy = ref(false)
const shown = ref(false)
const rows = computed(() =>
  [...catalog.programs.values()].map(program => ({ id: programId(program), title: program.title, year: program.catalogYear,
    lines: linesOfProgram(program).length }),
  )
    .sort((a, b) => a.title.localeCompare(b.title) || b.year - a.year),
)

async function open(file: File) {
  fileName.value = file.name
  text.value = await file.text()
  await send(false)
}
async function send(keep: boolean) {
  busy.value = true
  const answer = await staff.sendProgramFile(text.value, keep)
  busy.value = false
  problem.value = 'code' in answer ? answer : null
  checked.value = 'code' in answer ? null : answer
}
const save = (id: string) => saveFile(`${id.toLowerCase()}.json`, 'application/json', writeProgramText(catalog.programs.get(id)!))
</script>

<template>
  <section class="card programs" aria-label="Programs">
    <WordLink class="head" :aria-expanded="shown" @click="shown = !shown"
      ><h2>{{ shown ? '▾' : '▸' }} Programs</h2>
      <span class="second beside">{{ count(rows.length, 'program') }} · open one to change its rules, or bring a file</span></WordLink
    >
    <div v-if="shown" class="two">
      <ul>
        <li v-for="row in rows" :key="row.id">
          <WordLink :to="`/office/program?program=${row.id}`"><b>{{ row.title }}</b></WordLink> · catalog {{ row.year }}
          <span class="second small">{{ row.lines }} lines</span>
          <WordLink class="small beside" @click="save(row.id)">Save as file</WordLink>
        </li>
      </ul>
      <div>
        <FileDrop label="Check a program file" accept=".json,application/json" @file="open" />
        <p class="second small">
          A file replaces the program of its code and catalog year, or adds one. Students in other catalog years are not touched.
        </p>
        <FailedBox v-if="problem" :problem="problem" />
        <div v-if="checked" role="status">
          <template v-if="checked.ok">
            <p>
              <b>{{ checked.title }} · catalog {{ checked.catalogYear }}</b
              >, {{ checked.lines }} lines:
              {{
                checked.kept
                  ? 'it is in force now.'
                  : checked.known
                    ? 'the file is right. It would replace the one in force.'
                    : 'the file is right. It would be a new program.'
              }}
            </p>
            <ActButton v-if="!checked.kept" weight="full" :busy="busy" @click="send(true)">
              {{ checked.known ? 'Replace it' : 'Add it' }}
            </ActButton>
          </template>
          <template v-else>
            <p class="blocking strong">{{ fileName }} was not taken: {{ count(checked.problems.length, 'problem') }}.</p>
            <ol>
              <li v-for="(one, i) in checked.problems" :key="i">
                <b>Line {{ one.line }}</b
                ><template v-if="one.path"
                  >, <span class="second">{{ one.path }}</span></template
                >: {{ one.message }}
              </li>
            </ol>
          </template>
        </div>
      </div>
    </div>
  </section>
</template>

<style scoped>
.beside { margin-left: 10px; }
.programs { padding: 10px 16px; margin-bottom: 12px; }
h2 { display: inline; color: var(--ink); }
.two { margin-top: 8px; display: grid; grid-template-columns: 1fr 1fr; gap: 24px; }
ul { list-style: none; padding: 0; margin: 4px 0; }
ol { margin: 4px 0; padding-left: 20px; }
p { margin: 3px 0; }
@media (max-width: 800px) { .two { grid-template-columns: 1fr; } }
</style>
