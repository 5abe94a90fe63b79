<script setup lang="ts">
import { type CourseItem, termOrder } from '@ridgeway/core/catalog'
import type { LineReport, Lost } from '@ridgeway/core/requirements'
import { formatCredits, sayLacking, sayTerm } from '@ridgeway/words'

/** One requirement line as a bar of course blocks, width by credits, hollow for what is open. */
const props = defineProps<
  {
    line: LineReport
    hue: string
    selected: boolean
    light: string
    depth?: number
    unreachable?: Lost | undefined
    pins?: Record<string, string>
    /** How much of its term has gone by, for a course under way. */
    doneOf: (item: CourseItem) => number
  }
>()
defineEmits<{ select: [itemId: string | null], point: [itemId: string, on: boolean] }>()
const width = (credits: number) => `${Math.max(76, credits / 100 * 31)}px`
const openParts = computed(() => {
  if (props.line.unfilled.length > 0) return props.line.unfilled.map(code => ({ code, credits: 300 }))
  return props.line.open > 0 ? [{ code: `${formatCredits(props.line.open)} cr`, credits: props.line.open }] : []
})
const waived = computed(() => props.line.needed === 0 && props.line.exceptions.some(exception => exception.kind === 'waiver'))
/** By when the line is filled, while that is still to come. */
const when = computed(() => {
  if (props.line.state !== 'covered' && props.line.state !== 'under way') return ''
  const last = props.line.uses.flatMap(use => use.item.term ?? []).sort((a, b) => termOrder(b) - termOrder(a))[0]
  return last ? `by ${sayTerm(last)}` : ''
})
const said = computed(() =>
  waived.value
    ? 'waived'
    : props.unreachable
      ? 'cannot be reached'
      : props.line.state === 'open'
        ? sayLacking(props.line.lacking)
        : props.line.state,
)
</script>

<template>
  <div class="requirement" :class="[light, { selected, aside: line.setAside }]" :data-line="line.id">
    <!-- eslint-disable-next-line vue/no-restricted-html-elements -- a bar of our own: its head and its blocks are pressed -->
    <button
      class="head mark"
      type="button"
      :aria-expanded="selected"
      :style="{ paddingLeft: `${28 + (depth ?? 0) * 18}px` }"
      @click="$emit('select', null)"
    >
      <span class="line-title">{{ line.title }}<span v-if="line.overlay" class="second"> · overlay</span></span>
      <span class="line-state" :class="unreachable ? 'blocking strong' : line.state === 'open' && !line.setAside ? 'strong' : 'second'">{{
        line.setAside ? 'not needed' : said
      }}</span>
    </button>
    <div class="bar">
      <span v-if="line.overlay && line.uses.length" class="second small carried">carried by</span>
      <!-- eslint-disable-next-line vue/no-restricted-html-elements -- as above -->
      <button
        v-for="use in line.uses"
        :key="use.item.id"
        class="block mark"
        type="button"
        :style="{ width: width(use.credits) }"
        @click="$emit('select', use.item.id)"
        @mouseenter="$emit('point', use.item.id, true)"
        @mouseleave="$emit('point', use.item.id, false)"
        @focus="$emit('point', use.item.id, true)"
        @blur="$emit('point', use.item.id, false)"
      >
        <CourseBlock
          compact
          :code="use.item.course"
          :state="use.item.state"
          :hue="line.overlay ? 'slate' : hue"
          :corner="use.item.grade ?? ''"
          :done="doneOf(use.item)"
          :pinned="pins?.[use.item.id] === line.id"
        />
      </button>
      <template v-if="!line.setAside">
        <CourseBlock
          v-for="(part, i) in openParts"
          :key="`open-${i}`"
          compact
          :code="part.code"
          state="open"
          class="hollow"
          :style="{ width: width(part.credits) }"
          @click="$emit('select', null)"
        />
      </template>
    </div>
    <span class="when second small">{{ when }}</span>
  </div>
</template>

<style scoped>
.requirement {
  display: grid; grid-template-columns: 420px 1fr auto; gap: 12px; align-items: center;
  border-top: 1px solid var(--line-soft); padding-right: 14px;
}
.head {
  display: grid; grid-template-columns: 1fr 150px; gap: 12px; text-align: left; background: none; border: 0;
  cursor: pointer; padding: 6px 0; min-height: 38px; align-items: center;
}
.head:hover .line-title { color: var(--act); }
.bar { display: flex; flex-wrap: wrap; gap: 4px; padding: 4px 0; align-items: center; min-height: 36px; }
.block { background: none; border: 0; padding: 0; cursor: pointer; text-align: left; border-radius: 5px; }
.hollow { cursor: pointer; }
.selected { background: var(--act-tint); }
.aside, .aside .line-title, .aside .strong { color: var(--second); }
.counts-here { box-shadow: inset 4px 0 0 var(--act); }
.could-count { box-shadow: inset 4px 0 0 color-mix(in srgb, var(--act) 35%, transparent); }
.carried { margin-right: 4px; }
@media (max-width: 900px) {
  .requirement { grid-template-columns: 1fr; gap: 0; padding: 0 12px 4px; }
  .when { display: none; }
  .head { padding-left: 0 !important; grid-template-columns: 1fr auto; }
}
</style>
