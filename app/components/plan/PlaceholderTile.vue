<script setup lang="ts">
import type { Placeholder } from '@ridgeway/core/planning'
import { formatCredits, sayCredits } from '@ridgeway/words'

/** A place held for a requirement line: "one of these", to be chosen later. */
const props = defineProps<
  {
    place: Placeholder
    title: string
    hue: string
    movable: boolean
    selected: boolean
    marked: boolean
    problems: number
    blocking: boolean
  }
>()
const emit = defineEmits<{ open: [event: MouseEvent] }>()
const element = useTemplateRef<HTMLElement>('element')
useDrag(element, () => ({ kind: 'tile', id: props.place.id }), () => props.movable)
</script>

<template>
  <div
    ref="element"
    class="tile hold"
    :class="[`hue-${hue}`, { movable, selected, marked }]"
    tabindex="0"
    role="button"
    :aria-pressed="selected"
    :data-item="place.id"
    :aria-label="`To choose: ${title}, ${sayCredits(place.credits)}`"
    @click="emit('open', $event)"
  >
    <span class="what">to choose</span>
    <span class="line">{{ title }}</span>
    <span class="corner">{{ formatCredits(place.credits) }}</span>
    <span v-if="problems" class="notch" :class="{ blocking }">{{ problems }}</span>
  </div>
</template>

<style scoped>
.hold {
  position: relative; border: 1.5px dotted var(--hue, var(--second)); border-radius: 5px; min-height: 40px;
  padding: 3px 8px 4px; line-height: 1.25; background: color-mix(in srgb, var(--paper) 70%, transparent);
  cursor: pointer; min-width: 0; user-select: none;
}
.movable { cursor: grab; }
.what { font-weight: 700; font-size: 13px; font-style: italic; }
.line { display: block; font-size: 12px; white-space: nowrap; overflow: hidden; text-overflow: ellipsis; padding-right: 14px; }
.corner { position: absolute; right: 6px; bottom: 3px; font-size: 12px; font-weight: 700; }
.selected { box-shadow: 0 0 0 2px var(--act); }
.marked { box-shadow: 0 0 0 2px var(--act-tint), 0 0 0 4px var(--act); }
.notch {
  position: absolute; top: -7px; right: -7px; min-width: 17px; height: 17px; padding: 0 4px; border-radius: 3px;
  font-size: 11px; line-height: 15px; text-align: center; font-weight: 700; border: 1.5px solid var(--block);
  color: var(--block); background: var(--surface);
}
.notch.blocking { background: var(--block); color: rgb(var(--v-theme-surface)); }
</style>
