<script setup lang="ts">
import type { Section, Weekday } from '@ridgeway/core/catalog'
import type { BundleView } from '#shared/contract/views/student'

/** One bundle as a row: its days as a glyph, label, hours and seats, place and teacher, and in words whether it fits. */
const { bundle } = defineProps<{ bundle: BundleView }>()
const emit = defineEmits<{ pick: [], ghost: [shows: boolean], open: [], backup: [] }>()
const student = useStudentStore()
const { free, saySeats, sayFit, sayBundle, where, sessionOf, backupPlace } = useBundleWords()
const DAYS: Weekday[] = ['M', 'T', 'W', 'R', 'F']
const days = computed(() => new Set(bundle.sections.flatMap((section: Section) => section.meetings.flatMap(meeting => meeting.days))))
const mayPick = computed(() => !bundle.registered && student.isOwn)
const fit = computed(() => sayFit(bundle))
const place = computed(() => backupPlace(bundle))
const about = computed(() => [where(bundle), sessionOf(bundle), bundle.sections[0]!.topic, bundle.sections[0]!.group
  && `group ${bundle.sections[0]!.group}`,
bundle.sections[0]!.instructors.join(', ')].filter(Boolean).join(' · '))
function onKey(event: KeyboardEvent) {
  const act = { b: () => emit('backup'), i: () => emit('open') }[event.key]
  if (!act || event.ctrlKey || event.metaKey || event.altKey) return
  event.preventDefault()
  act()
}
</script>

<template>
  <li :class="{ chosen: bundle.picked || bundle.registered }" @mouseenter="emit('ghost', true)" @mouseleave="emit('ghost', false)">
    <!-- eslint-disable-next-line vue/no-restricted-html-elements -- a row of bundles is a mark of our own, pressed as a whole -->
    <button
      type="button"
      class="mark row"
      :data-item="`bundle ${bundle.id}`"
      :aria-disabled="!mayPick || undefined"
      :aria-pressed="bundle.picked"
      :aria-label="sayBundle(bundle)"
      aria-keyshortcuts="b i"
      @click="mayPick && emit('pick')"
      @keydown="onKey"
      @focus="emit('ghost', true)"
      @blur="emit('ghost', false)"
    >
      <span class="first">
        <span class="glyph" aria-hidden="true"><i v-for="day in DAYS" :key="day" :class="{ on: days.has(day) }" /></span>
        <b>{{ bundle.sections[0]!.label }}</b>
        <span class="seats" :class="{ second: free(bundle) > 0 }">{{ saySeats(bundle) }}</span>
      </span>
      <span class="times">{{ bundle.times }}</span>
      <span class="small second">{{ about }}</span>
      <span v-if="!bundle.registered" class="small" :class="fit.blocks ? 'blocking' : 'second'">
        {{ bundle.picked ? 'picked · ' : '' }}{{ place ? `${place} · ` : '' }}{{ fit.words }}
      </span>
    </button>
    <span class="acts small">
      <WordLink class="small" tabindex="-1" @click="emit('open')">all about it</WordLink>
      <WordLink
        v-if="mayPick && !bundle.picked"
        class="small"
        tabindex="-1"
        :aria-pressed="Boolean(place)"
        @click="emit('backup')"
      >
        {{ place ? 'no backup any more' : 'as a backup' }}
      </WordLink>
    </span>
  </li>
</template>

<style scoped>
li { border-top: 1px solid var(--line-soft); position: relative; }
li.chosen { background: var(--act-tint); }
.row { display: block; width: 100%; text-align: left; background: none; border: 0; padding: 5px 10px; cursor: pointer; }
li:hover { background: color-mix(in srgb, var(--act-tint) 60%, transparent); }
.row[aria-disabled] { cursor: default; }
.row > span { display: block; }
.first { display: flex !important; align-items: center; gap: 8px; }
.seats { margin-left: auto; }
.glyph { display: inline-flex; gap: 2px; }
.glyph i { width: 6px; height: 13px; border-radius: 1px; background: var(--line); }
.glyph i.on { background: var(--ink); }
.times { font-weight: 600; font-size: 13px; }
/* They keep their place while they are not shown, so that the rows below stay where they are. */
.acts { display: flex; gap: 14px; padding: 0 10px 5px; visibility: hidden; }
li:hover .acts, li:focus-within .acts { visibility: visible; }
@media (hover: none) { .acts { visibility: visible; } }
</style>
