<script setup lang="ts">
import { sayMoment } from '@ridgeway/words'
import { readProgramFile } from '#shared/contract/views/office'
import { type NodePath, useProgramDraft } from '~/composables/program/draft'
import { look } from '~/composables/useApi'

/** A program's rules, changed with what they come to in sight: for students, for its worked cases, for all who are in it. */
definePageMeta({ key: route => `program ${String(route.query.program)}` })
const route = useRoute()
const session = useSessionStore()
const draft = useProgramDraft(String(route.query.program ?? ''))
const path = ref<NodePath>([])
const states = shallowRef<Record<string, string>>({})
const sample = ref('')
const { value: asText, open, close } = useInAddress('text')
const text = ref('')
watch(draft.text, now => text.value = now, { immediate: true })
watch(draft.file, file => file && path.value.length === 0 && (path.value = ['areas', 0]), { immediate: true })
const title = computed(() => draft.file.value ? `${draft.file.value.title} · catalog ${draft.file.value.catalogYear}` : 'Program')
const about = computed(() => draft.data.value
  ? [count(draft.data.value.students, 'student'), draft.isChanged.value ? 'changed here, not in force' : 'as in force',
      draft.problems.value.length > 0 && count(draft.problems.value.length, 'problem')].filter(Boolean).join(' · ')
  : '')
const { problem: notRead, doing } = useDoing()
const takeBack = (version: number) => doing(async () => {
  const old = await look(readProgramFile, { program: String(route.query.program), version: String(version) })
  draft.write({ text: old.text, cases: old.cases })
  announce(`Version ${version} is here to look at; put it in force to go back to it.`)
})
useKey('undo', () => draft.undo())
useKey('redo', () => draft.redo())
</script>

<template>
  <div class="page">
    <PageHead :title="title" :about="about">
      <ActButton :off="!draft.past.value.length && 'Nothing to undo'" @click="draft.undo()">Undo</ActButton>
      <ActButton :off="!draft.coming.value.length && 'Nothing to redo'" @click="draft.redo()">Redo</ActButton>
      <WordLink v-if="draft.isChanged.value" @click="draft.throwAway()">Back to what is in force</WordLink>
      <WordLink @click="asText ? close() : open('1')">{{ asText ? 'As a tree' : 'As text' }}</WordLink>
      <WordLink to="/office/college">College</WordLink>
    </PageHead>
    <FailedBox v-if="draft.problem.value" :problem="draft.problem.value" retry @retry="draft.reload()" />
    <FailedBox v-if="notRead" :problem="notRead" />
    <GreyShapes v-if="!draft.data.value && !draft.problem.value" />
    <div v-if="draft.data.value" class="three">
      <section v-if="asText || !draft.file.value" class="card text" aria-label="The program as text">
        <v-textarea v-model="text" label="Program file" rows="26" :spellcheck="false" @change="draft.write({ text })" />
        <p v-for="(one, i) in draft.problems.value.slice(0, 12)" :key="i" class="blocking small">
          Line {{ one.line }}{{ one.path ? `, ${one.path}` : '' }}: {{ one.message }}
        </p>
        <p v-if="draft.problems.value.length > 12" class="blocking small">and {{ draft.problems.value.length - 12 }} more</p>
      </section>
      <div v-else class="column">
        <section class="card whole" aria-label="The whole program">
          <v-text-field
            :model-value="draft.file.value.title"
            label="Title of the program"
            @change="draft.set([], { title: $event.target.value })"
          />
          <v-text-field
            :model-value="draft.file.value.catalogYear"
            type="number"
            label="Catalog year"
            @change="draft.set([], { catalogYear: Number($event.target.value) })"
          />
          <v-text-field
            :model-value="draft.file.value.totalCredits"
            type="number"
            label="Credits in all"
            @change="draft.set([], { totalCredits: Number($event.target.value) })"
          />
        </section>
        <RulesTree :draft="draft" :selected="path.join('.')"
          :states="states"
          :sample="sample"
          @select="path = $event" />
        <p class="second small">Rules over the whole program, sharing and the suggested sequence are written as text. Another catalog year
          makes another program: students stay with theirs.</p>
      </div>
      <ProgramNode v-if="!asText && path.length" :key="path.join('.')" :draft="draft" :path="path" @select="path = $event" />
      <div class="column">
        <ProgramSamples :draft="draft" @states="(now, name) => { states = now; sample = name }" />
        <ProgramCases :draft="draft" />
        <ProgramPublish :draft="draft" @kept="id => id !== route.query.program && navigateTo(`/office/program?program=${id}`)" />
        <section v-if="draft.data.value.history.length" class="card history" aria-label="History">
          <h2>Before</h2>
          <p v-for="one in draft.data.value.history" :key="one.version" class="small">
            Version {{ one.version }}, replaced {{ sayMoment(one.at, session.zone) }}{{ one.by ? ` by ${one.by}` : '' }} ·
            <WordLink class="small" @click="takeBack(one.version)">look at it</WordLink>
          </p>
        </section>
      </div>
    </div>
  </div>
</template>

<style scoped>
.three { display: grid; grid-template-columns: minmax(0, 1fr) minmax(0, 1fr) minmax(0, 1.1fr); gap: 12px; align-items: start; }
.column { display: grid; gap: 12px; }
.whole { padding: 12px; display: grid; grid-template-columns: 1fr 1fr; gap: 10px; }
.whole > :first-child { grid-column: 1 / -1; }
.text { grid-column: span 2; padding: 12px; }
.text :deep(textarea) { font-family: ui-monospace, monospace; font-size: 13px; }
.history { padding: 8px 16px; }
p { margin: 2px 0; }
@media (max-width: 1100px) { .three { grid-template-columns: minmax(0, 1fr); } .text { grid-column: auto; } }
</style>
