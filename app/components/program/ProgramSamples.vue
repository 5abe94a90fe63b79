<script setup lang="ts">
import { caseOfRecord } from '@ridgeway/formats'
import { sayOpen, sayProgramEffect } from '@ridgeway/words'
import { tryProgramText, type ProgramTried } from '#shared/contract/acts/college'
import type { ProgramDraft } from '~/composables/program/draft'
import { call } from '~/composables/useApi'

/** How the rules read for students who are in the program: beside what they come to now, as the rules are being changed. */
const { draft } = defineProps<{ draft: ProgramDraft }>()
const emit = defineEmits<{ states: [states: Record<string, string>, name: string] }>()
const { today } = useNow()
const some = computed(() => draft.data.value?.some ?? [])
const chosen = ref<number[]>([])
watch(some, list => chosen.value.length === 0 && (chosen.value = list.slice(0, 2).map(one => one.id)), { immediate: true })
const tried = shallowRef<ProgramTried | null>(null)
const { busy, problem, doing } = useDoing()
let turn = 0
watchDebounced([draft.program, chosen], async () => {
  if (!draft.program.value || chosen.value.length === 0) return
  const mine = ++turn
  await doing(async () => {
    const { answer } = await call(tryProgramText, { text: draft.text.value, students: chosen.value.slice(0, 4) })
    if (mine !== turn || !answer.ok) return
    tried.value = answer
    const first = answer.samples[0]
    emit('states', Object.fromEntries((first?.lines ?? []).map(line => [line.id, line.state === 'open' && line.open > 0
      ? sayOpen(line.open)
      : line.state])), answer.rows[0]?.name ?? '')
  })
}, { debounce: 400, immediate: true })
const KINDS = { gains: 'gains', loses: 'loses', both: 'gains and loses', same: 'the same' }
function keep(id: number) {
  const sample = tried.value?.samples.find(one => one.id === id)
  if (!sample || !draft.around.value) return
  const passed = sample.items.filter(one => one.state === 'completed').length
  const all = draft.cases.value?.cases ?? []
  const name = `Case ${all.length + 1}: ${passed} courses passed, ${sample.items.length - passed} ahead`
  draft.keepCases([...all, caseOfRecord(name, sample, draft.around.value, today.value)])
  announce('The record is kept as a worked case, without a name.')
}
</script>

<template>
  <section class="card samples" aria-label="Students to look with">
    <h2>Read for {{ chosen.length === 1 ? 'one student' : `${chosen.length} students` }}</h2>
    <p v-if="!some.length" class="second">Nobody is in it yet; worked cases show what its rules come to.</p>
    <v-autocomplete
      v-else
      v-model="chosen"
      :items="some.map(one => ({ value: one.id, title: one.name }))"
      label="Students to look with"
      multiple
      :counter="4"
    />
    <FailedBox v-if="problem" :problem="problem" />
    <ul :aria-busy="busy">
      <li v-for="row in tried?.rows ?? []" :key="row.id">
        <b>{{ row.name }}</b> <span :class="{ blocking: row.effect.kind === 'loses' }">{{ KINDS[row.effect.kind] }}</span>
        <span class="second small"> · {{ sayProgramEffect(row.effect) }}</span>
        <WordLink class="small keep" :aria-label="`Keep the record of ${row.name} as a worked case`" @click="keep(row.id)"
          >keep as a case</WordLink
        >
      </li>
    </ul>
  </section>
</template>

<style scoped>
.samples { padding: 8px 16px 12px; }
h2 { margin-bottom: 10px; }
li .keep { margin-left: 7px; }
ul { list-style: none; margin: 8px 0 0; padding: 0; display: grid; gap: 6px; }
</style>
