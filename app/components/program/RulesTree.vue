<script setup lang="ts">
import type { NodePath, ProgramDraft, TreeNode } from '~/composables/program/draft'

/** The requirement tree as a list of rows: areas, groups and lines, each with what is wrong in it and how a sample stands there. */
const { draft, selected, states = {}, sample = '' } = defineProps<{
  draft: ProgramDraft
  selected: string
  /** By line: how it stands for a sample. */
  states?: Readonly<Record<string, string>>
  /** Whose states they are. */
  sample?: string
}>()
const emit = defineEmits<{ select: [path: NodePath] }>()
interface Row { path: NodePath, key: string, node: TreeNode, depth: number, wrong: number, kind: string }
const kindOf = (node: TreeNode, depth: number) => depth === 0 && node.hue
  ? 'area'
  : node.children ? node.n === undefined ? 'all of' : `at least ${node.n} of` : ''
function rowsOf(nodes: readonly TreeNode[], path: NodePath, depth: number): Row[] {
  return nodes.flatMap((node, i) => {
    const mine = [...path, i]
    return [{ path: mine, key: mine.join('.'), node, depth, wrong: draft.problemsAt(mine).length, kind: kindOf(node, depth) },
      ...rowsOf(node.children ?? [], [...mine, 'children'], depth + 1)]
  })
}
const rows = computed(() => draft.file.value
  ? [...rowsOf(draft.file.value.areas, ['areas'], 0), ...rowsOf(draft.file.value.overlays, ['overlays'], 0)]
  : [])
const firstOverlay = computed(() => rows.value.findIndex(row => row.path[0] === 'overlays'))
function onKey(event: KeyboardEvent, row: Row, i: number) {
  if (event.altKey && (event.key === 'ArrowUp' || event.key === 'ArrowDown')) {
    const by = event.key === 'ArrowUp' ? -1 : 1
    const to = Number(row.path.at(-1)) + by
    draft.move(row.path, by)
    emit('select', [...row.path.slice(0, -1), Math.max(0, to)])
  }
  else if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
    const next = rows.value[i + (event.key === 'ArrowDown' ? 1 : -1)]
    if (!next) return
    emit('select', next.path)
    void nextTick(() => document.querySelector<HTMLElement>(`[data-node="${next.key}"]`)?.focus())
  }
  else return
  event.preventDefault()
}
</script>

<template>
  <section class="card tree" aria-label="Requirement tree">
    <p v-if="sample" class="second small whose">how it reads for {{ sample }}</p>
    <ul>
      <template v-for="(row, i) in rows" :key="row.key">
        <li v-if="i === firstOverlay" class="overlays second">Overlays: a course that counts above counts here again</li>
        <li :style="{ paddingLeft: `${row.depth * 18}px` }">
          <WordLink
            class="node"
            :class="{ current: row.key === selected, area: row.kind === 'area' }"
            :data-node="row.key"
            :aria-current="row.key === selected ? 'true' : undefined"
            @click="emit('select', row.path)"
            @keydown="onKey($event, row, i)"
          >
            <span class="name">{{ row.node.title || row.node.id || 'without a title' }}</span>
            <span v-if="row.kind && row.kind !== 'area'" class="second small"> {{ row.kind }}</span>
            <span v-if="row.wrong" class="blocking small"> {{ count(row.wrong, 'problem') }}</span>
          </WordLink>
          <span v-if="states[row.node.id ?? '']" class="second small state">{{ states[row.node.id!] }}</span>
        </li>
      </template>
    </ul>
    <p class="acts">
      <WordLink @click="emit('select', draft.add(['areas'], 'area'))">+ area</WordLink>
      <WordLink @click="emit('select', draft.add(['overlays'], 'line'))">+ overlay</WordLink>
    </p>
  </section>
</template>

<style scoped>
.tree { padding: 8px 12px; }
ul { list-style: none; margin: 0; padding: 0; }
li { display: flex; gap: 8px; align-items: baseline; border-bottom: 1px solid var(--line-soft); padding: 3px 0; }
.node { flex: 1; min-width: 0; text-align: left; justify-content: start; white-space: normal; font-weight: 400; color: var(--ink); }
.node.area .name { font-weight: 700; }
.node.current .name { color: var(--act); font-weight: 700; }
.state { white-space: nowrap; }
.overlays { border: none; padding-top: 10px; font-size: 13px; }
.whose { text-align: right; margin: 0; }
.acts { display: flex; gap: 16px; margin: 8px 0 2px; }
</style>
