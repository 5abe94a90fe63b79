<script setup lang="ts">
import { mdiCommentTextOutline, mdiNoteTextOutline, mdiPin } from '@mdi/js'
import type { CourseItem } from '@ridgeway/core/catalog'
import { formatCredits } from '@ridgeway/words'

/** A course on the board: dragged with mouse or finger, walked to with arrows, opened with Enter. */
const props = defineProps<{
  item: CourseItem
  title: string
  /** Its term and its lane, for a reader that sees no board. */
  where: string
  hue: string
  done: number
  offPath: boolean
  pinned: boolean
  problems: number
  blocking: boolean
  movable: boolean
  selected: boolean
  marked: boolean
  /** Only looked at: a draft would place it here. */
  ghost: boolean
  /** Where it stands now, when a draft would move it here. */
  from: string
  noted: boolean
  commented: boolean
  /** Its tie to the selected course, for the words of a reader that sees no curve. */
  tie: '' | 'comes first' | 'goes with it' | 'waits for it'
}>()
const emit = defineEmits<{ open: [event: MouseEvent] }>()
const element = useTemplateRef<HTMLElement>('element')
useDrag(element, () => ({ kind: 'tile', id: props.item.id }), () => props.movable)
const said = computed(() =>
  [`${props.item.course} ${props.title}`, props.ghost ? 'considering' : props.item.state, props.where,
    props.item.grade ?? `${formatCredits(props.item.credits)} cr`, props.from && `from ${props.from}`, props.pinned && 'pinned',
    props.problems && count(props.problems, props.blocking ? 'blocking problem' : 'problem'), props.offPath && 'counts for nothing yet',
    props.marked && 'chosen with others', props.tie].filter(Boolean).join(', '),
)
</script>

<template>
  <div
    ref="element"
    class="tile"
    :class="{ movable, selected, marked, tied: tie }"
    tabindex="0"
    role="button"
    :aria-pressed="selected"
    :data-item="item.id"
    :aria-label="said"
    @click="emit('open', $event)"
  >
    <CourseBlock
      :code="item.course"
      :title="from ? `from ${from}` : title"
      :state="ghost ? 'considering' : item.state"
      :hue="hue"
      :corner="item.grade ?? formatCredits(item.credits)"
      :done="done"
      :off-path="offPath"
      :problems="problems"
      :blocking="blocking"
    />
    <span class="marks" :class="{ beside: problems > 0 }">
      <v-icon v-if="noted" :icon="mdiNoteTextOutline" size="13" aria-label="has a note" />
      <v-icon v-if="commented" :icon="mdiCommentTextOutline" size="13" aria-label="has comments" />
      <v-icon v-if="pinned" :icon="mdiPin" size="14" aria-label="pinned" />
    </span>
  </div>
</template>

<style scoped>
.tile { position: relative; border-radius: 6px; cursor: pointer; min-width: 0; -webkit-touch-callout: none; user-select: none; }
.movable { cursor: grab; }
.selected { box-shadow: 0 0 0 2px var(--act); }
.marked { box-shadow: 0 0 0 2px var(--act-tint), 0 0 0 4px var(--act); }
.tied { box-shadow: 0 0 0 1.5px color-mix(in srgb, var(--act) 55%, transparent); }
.marks.beside { right: 16px; }
.marks { position: absolute; right: 4px; top: 3px; color: var(--second); display: flex; gap: 2px; }
</style>
