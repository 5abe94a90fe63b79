<script setup lang="ts">
import { expectationOf, readCases } from '@ridgeway/formats'
import type { ProgramDraft } from '~/composables/program/draft'

/** The worked cases that are kept with the program: run at every change, each with what comes out otherwise. */
const { draft } = defineProps<{ draft: ProgramDraft }>()
const MOST = 3
const wrong = ref('')
const rows = computed(() => (draft.cases.value?.cases ?? []).map((one, i) => {
  const result = draft.results.value[i]
  const differs = (result?.mismatches ?? []).map(({ about, expected, actual }) =>
    `${about}: ${JSON.stringify(expected)} was expected, ${JSON.stringify(actual)} comes out`)
  return { name: one.name, source: one.source, holds: result !== undefined && result.problem === null && differs.length === 0,
    known: result !== undefined, words: result?.problem ? [result.problem] : differs }
}))
const all = () => [...draft.cases.value?.cases ?? []]
const takeOut = (i: number) => draft.keepCases(all().filter((_, at) => at !== i))
function accept(i: number) {
  const { around } = draft
  if (!around.value) return
  draft.keepCases(all().map((one, at) => at === i ? { ...one, expect: expectationOf(one.given, around.value!) } : one))
}
async function bring(file: File) {
  const read = readCases(await file.text())
  wrong.value = read.ok ? '' : `${file.name}, line ${read.problems[0]!.line}: ${read.problems[0]!.message}`
  if (read.ok) draft.keepCases([...all(), ...read.file.cases])
}
</script>

<template>
  <section class="card cases" aria-label="Worked cases">
    <h2>Worked cases</h2>
    <p v-if="!rows.length" class="second">
      None yet. Keep a record above as a case: it stays with the program and says when a change moves what it comes to.
    </p>
    <ul>
      <li v-for="(row, i) in rows" :key="i">
        <span :class="row.known && !row.holds ? 'blocking strong' : 'strong'">{{
          row.known ? row.holds ? 'holds' : 'comes to something else' : 'not run'
        }}</span>
        · {{ row.name }} <span class="second small">{{ row.source }}</span>
        <p v-for="words in row.words.slice(0, MOST)" :key="words" class="small">{{ words }}</p>
        <p v-if="row.words.length > MOST" class="small second">and {{ row.words.length - MOST }} more</p>
        <p class="acts">
          <WordLink v-if="row.known && !row.holds" class="small" @click="accept(i)">expect what comes out now</WordLink>
          <WordLink class="small" :aria-label="`Take out ${row.name}`" @click="takeOut(i)">take out</WordLink>
        </p>
      </li>
    </ul>
    <FileDrop label="Bring a file of worked cases" accept=".json,application/json" :most="250_000" @file="bring" />
    <p v-if="wrong" class="blocking small" role="alert">{{ wrong }}</p>
    <WordLink
      v-if="draft.casesText.value"
      class="small"
      @click="saveFile('cases.json', 'application/json', draft.casesText.value!)"
      >Save them as a file</WordLink
    >
  </section>
</template>

<style scoped>
.cases { padding: 8px 16px 12px; }
ul { list-style: none; margin: 0 0 8px; padding: 0; display: grid; gap: 8px; }
p { margin: 2px 0; }
.acts { display: flex; gap: 14px; }
</style>
