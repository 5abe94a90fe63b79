<script setup lang="ts">
import { describeLine } from '@ridgeway/words'
import { linesOfProgram } from '@ridgeway/core/requirements'
import type { NodePath, ProgramDraft, TreeNode } from '~/composables/program/draft'

/** One node of the tree, part by part; each change is kept at once and can be undone. */
const { draft, path } = defineProps<{ draft: ProgramDraft, path: NodePath }>()
const emit = defineEmits<{ select: [path: NodePath] }>()
const catalog = useCatalogStore()
const node = computed(() => path.reduce<unknown>((part, key) => (part as Record<string | number, unknown> | undefined)?.[key],
  draft.file.value) as TreeNode | undefined)
const isArea = computed(() => path[0] === 'areas' && path.length === 2)
const isGroup = computed(() => !isArea.value && node.value?.children !== undefined)
const problems = computed(() => draft.problemsAt(path))
const inWords = computed(() => {
  const line = draft.program.value && linesOfProgram(draft.program.value).find(one => one.id === node.value?.id)
  return line ? describeLine(line) : ''
})
const courses = computed(() => [...catalog.courses.values()].map(one => ({ value: one.code, title: `${one.code} ${one.title}` })))
const subjects = computed(() => [...new Set([...catalog.courses.values()].map(one => one.subject))].sort())
const attributes = computed(() => [...new Set([...catalog.courses.values()].flatMap(one => one.attributes))].sort())
const grades = computed(() => Object.entries(catalog.rules.scale).filter(([, one]) => one.earns).map(([grade]) => grade))
const HUES = ['moss', 'lake', 'clay', 'slate', 'plum', 'fern']
const set = (parts: Record<string, unknown>) => draft.set(path, parts)
const filter = (parts: Record<string, unknown>) => draft.set([...path, 'filter'], parts)
const number = (value: string) => value.trim() === '' ? undefined : Number(value)
const kinds = [{ value: 'all', title: 'all of these' }, { value: 'some', title: 'at least so many of these' }]
function setKind(kind: string) {
  set({ kind, n: kind === 'some' ? node.value?.n ?? 1 : undefined })
}
function takeOut() {
  draft.remove(path)
  emit('select', path.slice(0, -1).length > 1 ? path.slice(0, -2) : [])
}
</script>

<template>
  <section v-if="node" class="card node-form" :aria-label="node.title || 'Node'">
    <header>
      <h2>{{ isArea ? 'Area' : isGroup ? 'Group' : path[0] === 'overlays' ? 'Overlay' : 'Line' }}</h2>
      <WordLink @click="draft.move(path, -1); emit('select', [...path.slice(0, -1), Math.max(0, Number(path.at(-1)) - 1)])">up</WordLink>
      <WordLink @click="draft.move(path, 1); emit('select', [...path.slice(0, -1), Number(path.at(-1)) + 1])">down</WordLink>
      <WordLink @click="takeOut">take out</WordLink>
    </header>
    <p v-if="inWords" class="words">{{ inWords }}</p>
    <p v-for="(one, i) in problems" :key="i" class="blocking small">{{ one.message }}</p>
    <div class="fields">
      <v-text-field :model-value="node.title" label="Title" maxlength="80" @change="set({ title: $event.target.value })" />
      <v-select v-if="isArea" :model-value="node.hue" :items="HUES" label="Hue of its lane" @update:model-value="set({ hue: $event })" />
      <template v-else-if="isGroup">
        <v-select :model-value="node.kind" :items="kinds" label="Asks for" @update:model-value="setKind" />
        <v-text-field
          v-if="node.kind === 'some'"
          :model-value="node.n"
          type="number"
          min="1"
          label="How many"
          @change="set({ n: number($event.target.value) })"
        />
      </template>
      <template v-else>
        <v-text-field
          :model-value="node.courses"
          type="number"
          min="1"
          label="Courses needed"
          @change="set({ courses: number($event.target.value) })"
        />
        <v-text-field
          :model-value="node.credits"
          type="number"
          min="0"
          step="0.5"
          label="Credits needed"
          @change="set({ credits: number($event.target.value) })"
        />
        <v-autocomplete
          class="wide"
          :model-value="node.filter?.list ?? []"
          :items="courses"
          label="Courses by name"
          multiple
          chips
          closable-chips
          @update:model-value="filter({ list: $event })"
        />
        <v-select
          :model-value="node.filter?.subjects ?? []"
          :items="subjects"
          label="Of these subjects"
          multiple
          @update:model-value="filter({ subjects: $event })"
        />
        <v-select
          :model-value="node.filter?.attributes ?? []"
          :items="attributes"
          label="Carrying any of"
          multiple
          @update:model-value="filter({ attributes: $event })"
        />
        <v-text-field
          :model-value="node.filter?.levelMin"
          type="number"
          step="100"
          min="0"
          label="From level"
          @change="filter({ levelMin: number($event.target.value) })"
        />
        <v-text-field
          :model-value="node.filter?.levelMax"
          type="number"
          step="100"
          min="0"
          label="Up to level"
          @change="filter({ levelMax: number($event.target.value) })"
        />
        <v-autocomplete
          :model-value="node.filter?.except ?? []"
          :items="courses"
          label="Except"
          multiple
          @update:model-value="filter({ except: $event })"
        />
        <v-select
          :model-value="node.minGrade"
          :items="grades"
          label="Lowest grade"
          clearable
          @update:model-value="set({ minGrade: $event })"
        />
        <v-text-field
          :model-value="node.subjects"
          type="number"
          min="2"
          label="Subjects, at least"
          @change="set({ subjects: number($event.target.value) })"
        />
      </template>
    </div>
    <p v-if="node.children" class="acts">
      <WordLink @click="emit('select', draft.add([...path, 'children'], 'line'))">+ line</WordLink>
      <WordLink @click="emit('select', draft.add([...path, 'children'], 'group'))">+ group</WordLink>
    </p>
    <p v-else class="second small">Caps, and a spread over levels or attributes, are written in the text.</p>
  </section>
</template>

<style scoped>
.node-form { padding: 8px 16px 12px; }
header { display: flex; gap: 14px; align-items: baseline; }
h2 { margin: 0; flex: 1; }
.words { margin: 2px 0 8px; }
.fields { margin-top: 10px; display: grid; grid-template-columns: 1fr 1fr; gap: 10px; }
.fields > :first-child, .wide { grid-column: 1 / -1; }
.acts { display: flex; gap: 16px; margin: 10px 0 0; }
p { margin: 4px 0; }
</style>
