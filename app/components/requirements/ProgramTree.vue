<script setup lang="ts">
import type { LineReport, ProgramReport } from '@ridgeway/core/requirements'
import { formatCredits, sayOpen, saySharedRule } from '@ridgeway/words'

/** One program: its areas with their lines and choices, then the overlays that look across them. */
const props = defineProps<{ report: ProgramReport, looking: boolean, main: boolean, selected: string | null, pointed: string | null }>()
const emit = defineEmits<{ select: [line: string, itemId: string | null], point: [itemId: string, on: boolean] }>()
const student = useStudentStore()
const requirements = useRequirementsStore()
const { doneOf } = useItems()

const unreachable = computed(() => requirements.unreachable[props.report.code] ?? {})
const pins = computed(() => student.standing?.asked.programs.find(input => input.program.code === props.report.code)?.pins ?? {})
/** A line lights up fully where the pointed course counts, faintly where it could. */
const light = (line: LineReport) => {
  if (!props.pointed) return ''
  if (line.uses.some(use => use.item.id === props.pointed)) return 'counts-here'
  return props.report.couldCount[props.pointed]?.includes(line.id) ? 'could-count' : ''
}
const select = (line: string, item: string | null) => emit('select', line, item)
</script>

<template>
  <section class="card tree" :aria-label="report.title">
    <h2 v-if="!main" class="program">
      {{ report.title }} · catalog {{ report.catalogYear }}
      <span class="second small">{{ formatCredits(report.met) }} of {{ formatCredits(report.totalCredits) }} cr met</span>
    </h2>
    <p v-if="report.notShared" class="note small">
      {{ report.notShared.rules.map(saySharedRule).join(' ') }}
      {{
        report.notShared.itemIds.length === 1
          ? 'One more course that fits is'
          : `${report.notShared.itemIds.length} more courses that fit are`
      }}
      kept out by it.
    </p>
    <p v-if="!report.proved" class="note small" role="status">
      {{
        looking
          ? 'This is the best use found in the time that a page may take; Ridgeway is looking further.'
          : 'This is the best use that was found; that there is none better is not proved.'
      }}
    </p>
    <template v-for="area in report.areas" :key="area.id">
      <div class="area-row">
        <component :is="main ? 'h2' : 'h3'">{{ area.title }}</component>
        <span :class="area.open ? 'strong' : 'second'">{{ area.open ? sayOpen(area.open) : area.state }}</span>
      </div>
      <RequirementNodes
        :nodes="area.nodes"
        :hue="area.hue"
        :selected="selected"
        :light="light"
        :unreachable="unreachable"
        :pins="pins"
        :done-of="doneOf"
        @select="select"
        @point="(item, on) => emit('point', item, on)"
      />
    </template>
    <RequirementLine
      v-for="line in report.overlays"
      :key="line.id"
      :line="line"
      hue="slate"
      :selected="selected === line.id"
      :light="light(line)"
      :unreachable="unreachable[line.id]"
      :done-of="doneOf"
      @select="select(line.id, $event)"
      @point="(item, on) => emit('point', item, on)"
    />
  </section>
</template>

<style scoped>
.tree { margin-bottom: 12px; overflow: hidden; }
.program { padding: 9px 14px 3px; }
.note { margin: 0; padding: 5px 14px; color: var(--second); }
.area-row { display: flex; justify-content: space-between; gap: 12px; padding: 7px 14px 5px; border-top: 1px solid var(--line); }
.area-row h2, .area-row h3 { min-width: 250px; }
.tree > .area-row:first-child { border-top: 0; }
</style>
