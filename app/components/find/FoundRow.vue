<script setup lang="ts">
import type { Section } from '@ridgeway/core/catalog'
import type { FoundBundle } from '#shared/contract/views/find'

/** One bundle that was found: the week it would stand in, when, where, with whom, whether it fits, how many seats, and what can be done. */
const { bundle } = defineProps<{ bundle: FoundBundle }>()
const emit = defineEmits<{ pick: [], open: [], remember: [], compare: [] }>()
const { besideOf, sayFit, saySeats, sayWhere, sayWhen, sayBundle, freeBlocks } = useFoundBundle()
const find = useFindStore()
const student = useStudentStore()
const isCompared = computed(() => find.compared.some(one => one.id === bundle.id))
const fit = computed(() => sayFit(bundle))
const teachers = computed(() => [...new Set(bundle.sections.flatMap((section: Section) => section.instructors))].join(', '))
const pickWords = computed(() => bundle.registered ? 'registered' : bundle.picked ? 'picked' : 'pick')
function onKey(event: KeyboardEvent) {
  const acts: Record<string, () => void> = { s: () => emit('remember'), c: () => emit('compare'), i: () => emit('open') }
  const act = event.ctrlKey || event.metaKey || event.altKey ? undefined : acts[event.key]
  if (!act) return
  event.preventDefault()
  act()
}
</script>

<template>
  <li :class="{ chosen: bundle.picked || bundle.registered }">
    <!-- eslint-disable-next-line vue/no-restricted-html-elements -- a row that was found is a mark of our own, pressed as a whole -->
    <button
      type="button"
      class="mark row"
      :data-item="`found ${bundle.id}`"
      :aria-label="sayBundle(bundle)"
      @click="emit('open')"
      @keydown="onKey"
      @keydown.enter.prevent="emit('pick')"
    >
      <WeekStrip :sections="bundle.sections" :beside="besideOf(bundle)" :free="freeBlocks" />
      <b class="label">{{ bundle.sections[0]!.label }}</b>
      <span class="when">{{ sayWhen(bundle) }}</span>
      <span class="where">{{ sayWhere(bundle) }}</span>
      <span class="who second">{{ teachers }}</span>
      <span class="fit" :class="fit.blocks ? 'blocking' : 'second'">{{ fit.words }}</span>
      <span class="seats">{{ saySeats(bundle) }}</span>
    </button>
    <span v-if="student.isOwn" class="acts small">
      <WordLink
        class="small"
        :off="bundle.registered && 'Registered already; exchange it under Register'"
        :aria-pressed="bundle.picked"
        @click="emit('pick')"
      >
        {{ pickWords }}
      </WordLink>
      <WordLink class="small" :aria-pressed="bundle.remembered" @click="emit('remember')">{{ bundle.remembered ? 'on the shortlist'
        : 'shortlist' }}</WordLink>
      <WordLink
        class="small"
        :aria-pressed="isCompared"
        :off="!isCompared && find.compared.length >= 4 && 'Four stand side by side already'"
        @click="emit('compare')"
      >
        compare
      </WordLink>
    </span>
  </li>
</template>

<style scoped>
li { display: flex; align-items: center; gap: 10px; border-radius: 5px; }
li:hover, li:focus-within, li.chosen { background: var(--act-tint); }
.row {
  flex: 1; min-width: 0; display: grid; grid-template-columns: 146px 30px minmax(150px, 1.35fr) minmax(110px, 1fr) minmax(70px,
    .6fr) minmax(110px, 1fr) 74px;
  gap: 12px; align-items: center; text-align: left; background: none; border: 0; padding: 4px 6px; cursor: pointer;
}
.when { font-weight: 650; }
.seats { text-align: right; }
.acts { display: grid; gap: 0; width: 92px; padding-right: 8px; opacity: 0; }
li:hover .acts, li:focus-within .acts, li.chosen .acts { opacity: 1; }
@media (hover: none) { .acts { opacity: 1; } }
@media (max-width: 1000px) {
  .row { grid-template-columns: 146px 1fr auto; gap: 0 10px; }
  .label { grid-column: 3; grid-row: 1; text-align: right; }
  .when { grid-column: 2; }
  .where { grid-column: 2; }
  .who { display: none; }
  .row :deep(.strip) { grid-row: 1 / 4; }
  .fit { grid-column: 2; }
  .seats { grid-column: 3; grid-row: 2; }
  li { flex-direction: column; align-items: stretch; gap: 0; padding-bottom: 5px; }
  .acts { display: flex; gap: 18px; width: auto; padding-left: 8px; opacity: 1; }
}
</style>
