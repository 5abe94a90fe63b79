<script setup lang="ts">
import type { CourseItem } from '@ridgeway/core/catalog'
import type { LineReport, Lost, ReportNode } from '@ridgeway/core/requirements'
import { formatCredits } from '@ridgeway/words'

/** Lines and groups of an area, as deep as the program nests them; a choice shows what each branch still needs. */
const props = defineProps<{
  nodes: ReportNode[]
  hue: string
  selected: string | null
  light: (line: LineReport) => string
  unreachable: Record<string, Lost>
  pins: Record<string, string>
  doneOf: (item: CourseItem) => number
  depth?: number
}>()
defineEmits<{ select: [line: string, itemId: string | null], point: [itemId: string, on: boolean] }>()
const level = computed(() => props.depth ?? 0)
const needs = (open: number) => open === 0 ? 'nothing more' : `${formatCredits(open)} cr`
</script>

<template>
  <template v-for="node in nodes" :key="node.kind === 'line' ? node.line.id : node.id">
    <RequirementLine
      v-if="node.kind === 'line'"
      :line="node.line"
      :hue="hue"
      :depth="level"
      :selected="selected === node.line.id"
      :light="light(node.line)"
      :unreachable="unreachable[node.line.id]"
      :pins="pins"
      :done-of="doneOf"
      @select="$emit('select', node.line.id, $event)"
      @point="(item, on) => $emit('point', item, on)"
    />
    <template v-else>
      <div class="group" :class="{ aside: node.setAside }" :style="{ paddingLeft: `${28 + level * 18}px` }">
        <span class="strong">{{ node.title }}</span>
        <template v-if="node.n < node.branches.length">
          <span class="second"> · {{ node.n }} of {{ node.branches.length }} ·</span>
          <span v-for="(branch, b) in node.branches" :key="b" class="branch" :class="{ kept: branch.kept }"
            >{{ branch.node.kind === 'line' ? branch.node.line.title : branch.node.title }} needs {{ needs(branch.open)
            }}<template v-if="b < node.branches.length - 1"> or</template></span
          >
        </template>
      </div>
      <RequirementNodes
        :nodes="node.branches.map(branch => branch.node)"
        :hue="hue"
        :depth="level + 1"
        :selected="selected"
        :light="light"
        :unreachable="unreachable"
        :pins="pins"
        :done-of="doneOf"
        @select="(line, item) => $emit('select', line, item)"
        @point="(item, on) => $emit('point', item, on)"
      />
    </template>
  </template>
</template>

<style scoped>
.group { border-top: 1px solid var(--line-soft); padding: 7px 14px 4px 28px; }
.branch { color: var(--second); margin-left: 4px; }
.branch.kept { color: var(--ink); font-weight: 650; }
.aside, .aside .line-title, .aside .strong { color: var(--second); }
@media (max-width: 900px) { .group { padding-left: 12px !important; } }
</style>
